#include "session/plan.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/words.h"
#include "session/keeper.h"
#include "session/plan_save.h"
#include "session/writing.h"
#include "session/session_files.h"
#include "session/session_memory.h"
#include "text/text_line.h"

#include <assert.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

Plan *plan_numbered(const Session *s, unsigned number)
{
    for (size_t i = 0; number && i < s->n_plans; i++)
        if (s->plans[i]->number == number)
            return s->plans[i];
    return NULL;
}

static Plan *add_plan(Session *s, PlanKind kind, FileId file, const char *path, unsigned parent)
{
    Plan *p = mem_get(sizeof *p);
    p->session = s;
    p->number = ++s->last_plan;
    p->parent = parent;
    p->kind = kind;
    p->file = file;
    p->path = path ? mem_string(path) : NULL;
    s->plans = array_room(s->plans, s->n_plans, sizeof *s->plans);
    s->plans[s->n_plans++] = p;
    return p;
}

/* Whatever a disk answers after this is an answer to nobody. */
static void drop_errands(Plan *p)
{
    OpenFile *f = session_file(p->session, p->file);
    while (p->n_errands) {
        Errand *e = p->errands[--p->n_errands];
        if (f && e->kind == ERRAND_RENAME) {
            free(f->becomes);
            f->becomes = NULL;
            p->session->woken = true;
        }
        errand_free(e);
    }
}

static void free_plan(Plan *p)
{
    drop_errands(p);
    tasks_remove(&p->session->tasks, &p->waiting);
    free(p->errands);
    free(p->folder);
    free(p->path);
    free(p);
}

/* It is over, and the plan that waits for it goes on, or is over too. */
static void end_plan(Session *s, Plan *p, bool done)
{
    Plan *parent = plan_numbered(s, p->parent);
    assert(parent != p);
    size_t at = 0;
    for (size_t i = 0; i < s->n_plans; i++) {
        if (s->plans[i]->parent == p->number)
            s->plans[i]->parent = 0;
        if (s->plans[i] == p)
            at = i;
    }
    memmove(s->plans + at, s->plans + at + 1, (--s->n_plans - at) * sizeof(Plan *));
    if (!done && (p->kind == PLAN_LEAVE || p->kind == PLAN_CLOSE))
        for (size_t i = 0; i < s->n_files; i++)
            s->files[i]->dropped = 0;
    free_plan(p);
    if (parent && done)
        parent->state = PLAN_READY;
    else if (parent)
        end_plan(s, parent, false);
}

bool plan_would_lose(const OpenFile *f)
{
    return openfile_changed(f) && f->dropped != doc_version(f->doc) + 1;
}

/* ---- other names ---- */

static bool is_renaming(const Plan *p)
{
    for (size_t i = 0; i < p->n_errands; i++)
        if (p->errands[i]->kind == ERRAND_RENAME)
            return true;
    return false;
}

static Step rename_file(Session *s, Plan *p, OpenFile *f)
{
    const Errand *done;
    Errand what = {.kind = ERRAND_RENAME, .path = f->path, .to = p->path, .target = p->replace};
    free(f->becomes);
    f->becomes = mem_string(p->path);
    if (plan_errand(p, &what, &done) == STEP_WAITS)
        return STEP_WAITS;
    if (done->ok) {
        f->disk = done->seen.disk;
        return STEP_DONE;
    }
    keeper_renamed(s, f);
    if (done->overtaken && ++p->tries < PLAN_TRIES) /* somebody made one just now */
        return STEP_AGAIN;
    notices_warn(s->notices, "%s was not renamed: %s", openfile_name(f), done->e.text);
    return STEP_ENDED;
}

static Step rename_now(Session *s, Plan *p, OpenFile *f)
{
    Step step = f->disk.exists ? rename_file(s, p, f) : STEP_DONE;
    if (step != STEP_DONE)
        return step;
    char *name = location_base(p->path);
    notices_say(s->notices, "%s is now called %s", openfile_name(f), name);
    free(name);
    session_renamed(s, f, p->path);
    return STEP_DONE;
}

static Step rename_step(Session *s, Plan *p, OpenFile *f)
{
    if (is_renaming(p)) /* what was begun is not looked at any more */
        return rename_now(s, p, f);
    if (!f->path) {
        notices_say(s->notices, "This text has no file yet; saving asks for its name");
        return STEP_ENDED;
    }
    if (f->look_only) {
        notices_warn(s->notices, "%s is open to look only and was not renamed", openfile_name(f));
        return STEP_ENDED;
    }
    if (f->writing)
        return plan_wait_for_writing(s, p, f, "then the rest");
    if (f->becomes)
        return STEP_WAITS;
    if (!p->path || p->ask_name)
        return plan_ask(p, ASK_NAME);
    if (strcmp(p->path, f->path) == 0) {
        notices_say(s->notices, "That is its name already");
        return STEP_ENDED;
    }
    if (!location_same_system(p->path, f->path)) {
        notices_warn(s->notices,
                     "A file is renamed on its own machine only; saving under another name copies it");
        return STEP_ENDED;
    }
    const Seen *there;
    Step step = plan_look(s, p, p->path, &there);
    step = step == STEP_DONE ? plan_check_name(s, p, f, there) : step;
    if (step != STEP_DONE)
        return step;
    if (s->rules.dry_run) {
        notices_say(s->notices, "would be renamed to %s", p->path);
        return STEP_DONE;
    }
    keeper_renaming(s, f, p->path); /* the journal knows both names before there are two */
    return rename_now(s, p, f);
}

static Step reload_step(Session *s, Plan *p, OpenFile *f)
{
    bool partial = f->reading || f->incomplete;
    if (f->writing)
        return plan_wait_for_writing(s, p, f, "reloading follows it");
    if (openfile_changed(f) && f->path && p->reload != doc_version(f->doc) + 1)
        return plan_ask(p, ASK_RELOAD);
    if (!f->path) {
        notices_warn(s->notices, "There is nothing on disk to read");
        return STEP_ENDED;
    }
    const Errand *read;
    if (plan_errand(p, &(Errand){.kind = ERRAND_LOAD, .path = f->path}, &read) == STEP_WAITS)
        return STEP_WAITS;
    if (!read->ok) {
        notices_warn(s->notices, "%s", read->e.text);
        return STEP_ENDED;
    }
    if (!session_read_again(s, f, read->bytes, &read->seen.disk, p->read_as ? &p->as : NULL))
        return STEP_ENDED;
    if (p->read_as)
        notices_say(s->notices, "%s is now read as %s", openfile_name(f),
                    ENCODING_LABEL_OF(&p->as, f->format.utf8));
    else
        notices_say(s->notices, "%s is as it is on disk: %s.%s", openfile_name(f),
                    AMOUNT(text_line_count(doc_text(f->doc)), "line"),
                    partial ? "" : " Undo brings back what was here.");
    return STEP_DONE;
}

/* ---- closing and leaving ---- */

/* Is the file still there? A disk that does not answer keeps nobody: then what was known last counts. */
static Step look_before_parting(Plan *p, OpenFile *f)
{
    const Errand *e;
    Step step = plan_errand(p, &(Errand){.kind = ERRAND_LOOK, .path = f->path}, &e);
    if (step == STEP_DONE && e->ok)
        openfile_gone_by(f, &e->seen);
    return p->impatient ? STEP_DONE : step;
}

static Step close_step(Session *s, Plan *p, OpenFile *f)
{
    if (f->writing)
        return plan_wait_for_writing(s, p, f, "closing follows it");
    if (f->path && look_before_parting(p, f) == STEP_WAITS)
        return STEP_WAITS;
    if (plan_would_lose(f))
        return plan_ask(p, ASK_UNSAVED);
    if (s->held)
        return STEP_WAITS;
    char *name = mem_string(openfile_name(f));
    session_close(s, f);
    notices_say(s->notices, "Closed %s", name);
    free(name);
    return STEP_DONE;
}

static Step leave_step(Session *s, Plan *p)
{
    for (size_t i = 0; i < s->n_files; i++)
        if (s->files[i]->writing)
            return plan_wait_for_writing(s, p, s->files[i], "leaving follows it");
    bool all = true;
    for (size_t i = 0; i < s->n_files; i++) /* all are asked before one is waited for */
        all = (!s->files[i]->path || look_before_parting(p, s->files[i]) == STEP_DONE) && all;
    if (!all)
        return STEP_WAITS;
    for (size_t i = 0; i < s->n_files; i++)
        if (plan_would_lose(s->files[i])) {
            p->file = s->files[i]->id;
            return plan_ask(p, ASK_UNSAVED);
        }
    if (s->held)
        return STEP_WAITS;
    for (size_t i = 0; i < s->n_files; i++) {
        session_keep_undo(s, s->files[i]);
        if (s->files[i]->dropped)
            keeper_dropped(s, s->files[i]);
    }
    s->left = true;
    return STEP_DONE;
}

static Step save_every_step(Session *s, Plan *p)
{
    for (size_t i = 0; i < s->n_files; i++) {
        OpenFile *f = s->files[i];
        if (!openfile_changed(f) || f->purpose == FOR_READING ||
            (!f->path && text_len(doc_text(f->doc)) == 0))
            continue;
        if (p->tries++ > 1000000) /* each time another one, or this one changed again */
            return STEP_ENDED;
        p->children++;
        add_plan(s, PLAN_SAVE, f->id, NULL, p->number);
        return STEP_WAITS;
    }
    if (!p->children && !p->parent)
        notices_say(s->notices, "No file has changes that are not saved");
    else if (p->children > 1 && !s->rules.dry_run)
        notices_say(s->notices, "Saved %s", AMOUNT(p->children, "file"));
    return STEP_DONE;
}

/* ---- going on ---- */

static Step take_step(Session *s, Plan *p)
{
    if (p->kind == PLAN_LEAVE)
        return leave_step(s, p);
    if (p->kind == PLAN_SAVE_EVERY)
        return save_every_step(s, p);
    OpenFile *f = session_file(s, p->file);
    if (!f) /* closed meanwhile */
        return STEP_ENDED;
    switch (p->kind) {
    case PLAN_SAVE:
        return plan_save_step(s, p, f);
    case PLAN_RENAME:
        return rename_step(s, p, f);
    case PLAN_RELOAD:
        return reload_step(s, p, f);
    default:
        return close_step(s, p, f);
    }
}

enum { PATIENCE = 3000 /* ms for a disk's answer, before a text is closed without it */ };

static void waiting_poll(void *ctx)
{
    Plan *p = ctx;
    uint64_t now = p->session->notices->now;
    bool parting = p->kind == PLAN_LEAVE || p->kind == PLAN_CLOSE;
    if (p->again && now >= p->again) {
        p->again = 0;
        p->session->woken = true;
    }
    if (parting && !p->impatient && now - p->since >= PATIENCE)
        p->impatient = p->session->woken = true;
}

static int waiting_wait(const void *ctx)
{
    const Plan *p = ctx;
    uint64_t now = p->session->notices->now, gone = now - p->since;
    if (p->again)
        return p->again > now ? (int)(p->again - now) : 0;
    bool parting = p->kind == PLAN_LEAVE || p->kind == PLAN_CLOSE;
    return !parting || p->impatient ? -1 : gone >= PATIENCE ? 0 : (int)(PATIENCE - gone);
}

static void waiting_words(const void *ctx, char out[TASK_WORDS_MAX])
{
    const Plan *p = ctx;
    const OpenFile *f = session_file(p->session, p->file);
    uint64_t now = p->session->notices->now;
    if (p->again && f) {
        snprintf(out, TASK_WORDS_MAX, "%.60s is out of reach; saving tries again in %u s",
                 f->title ? f->title : "It", p->again > now ? (unsigned)((p->again - now + 999) / 1000) : 0);
        return;
    }
    const Errand *e = p->n_errands ? p->errands[p->n_errands - 1] : NULL;
    Location l = {0};
    Err ignored;
    if (e && location_is_remote(e->path) && location_read(e->path, &l, &ignored)) {
        snprintf(out, TASK_WORDS_MAX, "Waiting for %.100s", l.host);
        location_free(&l);
    } else {
        snprintf(out, TASK_WORDS_MAX, "Waiting for the disk of %.100s", e ? path_base(e->path) : "a file");
    }
}

static void waiting_cancel(void *ctx)
{
    Plan *p = ctx;
    notices_say(p->session->notices, "%s", p->kind == PLAN_LEAVE ? "Not left" : "Nothing was done");
    end_plan(p->session, p, false);
}

static const TaskKind waiting_task = {
    .poll = waiting_poll, .wait = waiting_wait, .cancel = waiting_cancel, .words = waiting_words};

/* A disk has not answered yet: that can be seen, and called off. */
static void note_waiting(Session *s, Plan *p)
{
    bool waits = p->again != 0;
    for (size_t i = 0; i < p->n_errands; i++)
        waits = waits || !p->errands[i]->done;
    if (!waits || p->again)
        drop_errands(p);
    if (waits && !p->is_waiting) {
        tasks_add(&s->tasks, &p->waiting, &waiting_task, p);
        p->since = s->notices->now;
    } else if (!waits && p->is_waiting) {
        tasks_remove(&s->tasks, &p->waiting);
    }
    p->is_waiting = waits;
}

static void go_on(Session *s, Plan *p)
{
    static const PlanState states[] = {
        [STEP_WAITS] = PLAN_WAITS, [STEP_ASKS] = PLAN_ASKS, [STEP_ROOT] = PLAN_FOR_ROOT};
    Step step;
    p->ask = ASK_NOTHING;
    do {
        step = take_step(s, p);
        if (step != STEP_WAITS)
            drop_errands(p);
    } while (step == STEP_AGAIN);
    if (step == STEP_DONE || step == STEP_ENDED) {
        end_plan(s, p, step == STEP_DONE);
        return;
    }
    p->state = states[step];
    note_waiting(s, p);
}

/* The plan whose text is being written learns how that went; others only that it is over. */
static void look_at_writing(Session *s)
{
    for (size_t i = 0; i < s->n_files; i++) {
        OpenFile *f = s->files[i];
        Written w = f->writing ? writing_poll(s, f, false) : WRITE_GOES_ON;
        if (w == WRITE_GOES_ON)
            continue;
        for (size_t k = 0; k < s->n_plans; k++) {
            Plan *p = s->plans[k];
            if (!p->writes || p->file != f->id)
                continue;
            p->writes = false;
            if (w == WRITE_OVERTAKEN || (w == WRITE_DENIED && plan_denied(s, p, f))) {
                p->state = PLAN_READY;
            } else if (w == WRITE_UNREACHABLE && plan_later(s, p) == STEP_WAITS) {
                note_waiting(s, p);
            } else {
                end_plan(s, p, w == WRITTEN);
            }
            break;
        }
        s->woken = true;
    }
}

/* Work ended, or files went: those that wait look again. */
static void wake(Session *s)
{
    s->woken = false;
    for (size_t i = 0; i < s->n_plans; i++) {
        Plan *p = s->plans[i];
        bool has_child = false;
        for (size_t k = 0; k < s->n_plans; k++)
            has_child = has_child || s->plans[k]->parent == p->number;
        if (p->state == PLAN_WAITS && !p->writes && !has_child && !p->again)
            p->state = PLAN_READY;
    }
}

static Plan *ready_plan(const Session *s)
{
    for (size_t i = 0; i < s->n_plans; i++) /* in the order in which they were wanted */
        if (s->plans[i]->state == PLAN_READY)
            return s->plans[i];
    return NULL;
}

void plans_step(Session *s)
{
    look_at_writing(s);
    s->woken = s->woken || !s->held;
    for (Plan *p; !s->left;) {
        if (s->woken)
            wake(s);
        if (!(p = ready_plan(s)))
            break;
        go_on(s, p);
    }
}

/* A wish given again is the same wish; to leave or close is the last wish of that kind that counts. */
static void make_way(Session *s, PlanKind kind, FileId file)
{
    for (size_t i = s->n_plans; i-- > 0;) {
        Plan *p = s->plans[i];
        bool parting = p->kind == PLAN_LEAVE || p->kind == PLAN_CLOSE;
        bool same = p->kind == kind && p->file == file && !p->writes;
        bool by_question = p->state == PLAN_ASKS && p->asked; /* which stands on the screen no longer */
        if (!p->parent && ((parting && (kind == PLAN_LEAVE || kind == PLAN_CLOSE)) || same || by_question)) {
            end_plan(s, p, false);
            i = s->n_plans;
        }
    }
}

void plan_begin(Session *s, PlanKind kind, FileId file, const char *path, const Encoding *as)
{
    make_way(s, kind, file);
    Plan *p = add_plan(s, kind, file, path, 0);
    p->read_as = as != NULL;
    if (as)
        p->as = *as;
    plans_step(s);
}

void plan_save_as(Session *s, OpenFile *f)
{
    make_way(s, PLAN_SAVE, f->id);
    add_plan(s, PLAN_SAVE, f->id, NULL, 0)->ask_name = true;
    plans_step(s);
}

void plan_reload_now(Session *s, OpenFile *f)
{
    Plan *p = add_plan(s, PLAN_RELOAD, f->id, NULL, 0);
    p->reload = doc_version(f->doc) + 1;
    plans_step(s);
}

Plan *plan_asking(const Session *s)
{
    for (size_t i = 0; i < s->n_plans; i++)
        if (s->plans[i]->state == PLAN_ASKS && !s->plans[i]->asked)
            return s->plans[i];
    return NULL;
}

static void drop(OpenFile *f)
{
    f->dropped = doc_version(f->doc) + 1;
}

static const char *nothing_done(const Plan *p)
{
    switch (p->kind) {
    case PLAN_RENAME:
        return "Nothing was renamed";
    case PLAN_RELOAD:
        return "Nothing was reloaded";
    case PLAN_SAVE:
        return p->ask == ASK_REPLACE ? "Nothing was written" : "Nothing was saved";
    default:
        return NULL;
    }
}

bool plan_is_cut_off(const Session *s, const OpenFile *f)
{
    for (size_t i = 0; i < s->n_plans; i++)
        if (s->plans[i]->file == f->id && s->plans[i]->lost)
            return true;
    return false;
}

/* What it asked about is agreed to, as it was then. */
static void agree(Session *s, Plan *p, OpenFile *f)
{
    if (p->ask == ASK_REPLACE || p->ask == ASK_DISK) {
        p->may_replace = true;
        p->replace = p->seen;
    } else if (p->ask == ASK_RELOAD && f) {
        p->reload = doc_version(f->doc) + 1;
    } else if (p->ask == ASK_FOLDER) {
        p->make_folder = true;
    } else if (p->ask == ASK_ROOT) {
        p->by_root = true;
    } else if (p->ask == ASK_MARKED && f) {
        f->marks_are_text = true;
    } else if (p->ask == ASK_NEWLINE && f) {
        plan_add_newline(s, f);
    } else if (p->ask == ASK_PROBLEMS && f) {
        p->problems = doc_version(f->doc) + 1;
    }
}

void plan_answer(Session *s, unsigned number, Answer a, const char *text)
{
    Plan *p = plan_numbered(s, number);
    OpenFile *f = p ? session_file(s, p->file) : NULL;
    if (!p || p->state != PLAN_ASKS)
        return;
    p->state = PLAN_READY;
    switch (a) {
    case ANSWER_YES:
        agree(s, p, f);
        break;
    case ANSWER_DROP:
        if (p->ask == ASK_NEWLINE && f) /* as it is */
            p->newline_settled = doc_version(f->doc) + 1;
        else if (f)
            drop(f);
        break;
    case ANSWER_NAME:
        p->ask_name = !text;
        p->may_replace = p->by_root = p->denied = false;
        if (text) {
            free(p->path);
            p->path = mem_string(text);
        }
        break;
    case ANSWER_SAVE:
        add_plan(s, PLAN_SAVE, p->file, NULL, p->number);
        p->state = PLAN_WAITS;
        break;
    case ANSWER_SAVE_ALL:
        add_plan(s, PLAN_SAVE_EVERY, 0, NULL, p->number);
        p->state = PLAN_WAITS;
        break;
    case ANSWER_DROP_ALL:
        for (size_t i = 0; i < s->n_files; i++)
            if (openfile_changed(s->files[i]))
                drop(s->files[i]);
        break;
    case ANSWER_RELOAD: { /* instead of saving; what was to follow that does not */
        FileId id = p->file;
        end_plan(s, p, false);
        if (f) {
            Plan *r = add_plan(s, PLAN_RELOAD, id, NULL, 0);
            r->reload = doc_version(f->doc) + 1;
        }
        break;
    }
    case ANSWER_NO:
        if (nothing_done(p))
            notices_say(s->notices, "%s", nothing_done(p));
        end_plan(s, p, false);
        break;
    case ANSWER_AGAIN:
        break;
    }
    plans_step(s);
}

void plans_ask_no_more(Session *s)
{
    for (Plan *p; (p = plan_asking(s)) != NULL;)
        plan_answer(s, p->number, ANSWER_NO, NULL);
}

/* ---- root ---- */

Plan *plan_for_root(const Session *s)
{
    for (size_t i = 0; i < s->n_plans; i++)
        if (s->plans[i]->state == PLAN_FOR_ROOT)
            return s->plans[i];
    return NULL;
}

void plan_root_done(Session *s, unsigned number, bool ok, const char *why)
{
    Plan *p = plan_numbered(s, number);
    OpenFile *f = p ? session_file(s, p->file) : NULL;
    if (!p)
        return;
    if (f && ok) {
        const char *path = p->path ? p->path : f->path;
        DiskState disk = disk_look(path);
        writing_done(s, f, path, &disk);
    } else if (why)
        notices_warn(s->notices, "%s", why);
    end_plan(s, p, f && ok);
    plans_step(s);
}

void plans_free(Session *s)
{
    for (size_t i = 0; i < s->n_plans; i++)
        free_plan(s->plans[i]);
    free(s->plans);
    s->plans = NULL;
    s->n_plans = 0;
}
