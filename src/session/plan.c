#include "session/plan.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/sys.h"
#include "base/words.h"
#include "files/privileged.h"
#include "session/checking.h"
#include "session/keeper.h"
#include "session/reading.h"
#include "session/writing.h"
#include "text/text_line.h"

#include <assert.h>
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

typedef enum Step {
    STEP_DONE,
    STEP_ENDED, /* it cannot be done, or nobody wants it any more */
    STEP_WAITS, /* for what goes on in the background, or for a plan of its own */
    STEP_ASKS,
    STEP_ROOT,
    STEP_AGAIN, /* things are not as they were: from the beginning */
} Step;

enum { TRIES = 10 };

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
    p->number = ++s->last_plan;
    p->parent = parent;
    p->kind = kind;
    p->file = file;
    p->path = path ? mem_string(path) : NULL;
    s->plans = array_room(s->plans, s->n_plans, sizeof *s->plans);
    s->plans[s->n_plans++] = p;
    return p;
}

static void free_plan(Plan *p)
{
    free(p->path);
    free(p);
}

/* It is over, and whoever waits for it goes on, or is over too. */
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

static Step ask(Plan *p, AskFor what)
{
    p->ask = what;
    p->asked = false;
    return STEP_ASKS;
}

bool plan_would_lose(const OpenFile *f)
{
    return openfile_changed(f) && f->dropped != doc_version(f->doc) + 1;
}

/* ---- saving ---- */

/* What is in the way of that name. STEP_DONE: nothing is. */
static Step check_name(Session *s, Plan *p, const OpenFile *f, bool rename)
{
    struct stat st;
    if (stat(p->path, &st) == 0 && S_ISDIR(st.st_mode)) {
        notices_warn(s->notices, "%s is a folder; give it a file name too", p->path);
        return ask(p, ASK_NAME);
    }
    if (session_other_with(s, f, p->path)) {
        notices_warn(s->notices, "%s is open here as another text; close that first", p->path);
        return STEP_ENDED;
    }
    DiskState now = disk_look(p->path);
    if (!now.exists && !rename && lstat(p->path, &st) == 0)
        now.dangling = true;
    if (now.exists && !(p->may_replace && disk_same(&p->replace, &now))) {
        p->seen = now;
        return ask(p, ASK_REPLACE);
    }
    p->replace = now;
    return STEP_DONE;
}

/* The file as it was read or agreed to. STEP_DONE: it is that. */
static Step check_disk(Session *s, Plan *p, OpenFile *f)
{
    p->news = session_news(f);
    DiskState now = disk_look(f->path);
    if (p->news == DISK_SAME) {
        p->replace = f->disk;
        return STEP_DONE;
    }
    if (p->may_replace && disk_same(&p->replace, &now))
        return STEP_DONE;
    if (s->rules.batch) {
        notices_warn(s->notices, "%s was not saved: it changed on disk meanwhile", openfile_name(f));
        return STEP_ENDED;
    }
    p->seen = now;
    return ask(p, ASK_DISK);
}

static void add_newline(Session *s, OpenFile *f)
{
    const char *end = text_format_line_end(&f->format);
    doc_set_verb(f->doc, "Last line end");
    if (!doc_append(f->doc, end, strlen(end), session_cursor(s, f)))
        notices_warn(s->notices, "There is not enough memory for that");
    doc_set_verb(f->doc, NULL);
}

static Step check_newline(Session *s, Plan *p, OpenFile *f)
{
    Text t = doc_text(f->doc);
    size_t len = text_len(t);
    Wish wish = f->rules.last_newline;
    if (len == 0 || text_byte(t, len - 1) == '\n' || s->rules.batch ||
        p->newline_settled == doc_version(f->doc) + 1)
        return STEP_DONE;
    Text saved = doc_saved_text(f->doc);
    size_t was = text_len(saved);
    bool had = was && text_byte(saved, was - 1) == '\n' && !f->ends_open;
    bool add = s->rules.last_newline == NEWLINE_ADD || (s->rules.last_newline == NEWLINE_KEEP && had);
    if (wish == WISH_YES || (wish == WISH_NONE && add)) {
        add_newline(s, f);
        return STEP_DONE;
    }
    if (wish == WISH_NO || s->rules.last_newline == NEWLINE_KEEP)
        return STEP_DONE;
    return ask(p, ASK_NEWLINE);
}

/* Files that lock people out when they are broken, or all, are checked before they are written. Somebody who
 * types on meanwhile shall not wait for ever. */
static Step check_problems(Session *s, Plan *p, OpenFile *f)
{
    enum { CHECKS = 3 };
    bool wanted =
        s->rules.check_before == CHECK_ALL || (s->rules.check_before == CHECK_RISKY && f->kind->risky);
    size_t n;
    if (!wanted || p->problems == doc_version(f->doc) + 1)
        return STEP_DONE;
    if (!checking_is_current(f, true) && !checking_goes_on(f) && p->checks++ < CHECKS)
        checking_begin(s, f, true);
    if (s->rules.batch)
        checking_finish(s, f, s->rules.stop);
    if (checking_goes_on(f)) {
        notices_say(s->notices, "Checking %s before it is saved", openfile_name(f));
        return STEP_WAITS;
    }
    const FileProblem *all = checking_problems(f, &n);
    if (n == 0 || !checking_is_current(f, true))
        return STEP_DONE;
    if (!s->rules.batch)
        return ask(p, ASK_PROBLEMS);
    notices_warn(s->notices, "%s was not saved: line %zu: %s (%s)", openfile_name(f),
                 text_line_of(doc_text(f->doc), all[0].from) + 1, all[0].words, all[0].checker);
    return STEP_ENDED;
}

static Step check_folder(Session *s, Plan *p, const char *path)
{
    Err e = {""};
    char *folder = disk_missing_folder(path);
    if (!folder)
        return STEP_DONE;
    Step step = s->rules.batch ? STEP_DONE : ask(p, ASK_FOLDER);
    if (p->make_folder) {
        bool ok = disk_make_folder(folder, &e);
        if (!ok)
            notices_warn(s->notices, "%s", e.text);
        p->ask = ASK_NOTHING;
        p->make_folder = false;
        step = ok ? STEP_AGAIN : STEP_ENDED;
    }
    free(folder);
    return step;
}

static Step check_root(Session *s, Plan *p, const char *path)
{
    if (s->rules.batch || geteuid() == 0 || disk_may_write(path) ||
        !privileged_program(s->rules.root_program))
        return STEP_DONE;
    return p->by_root ? STEP_ROOT : ask(p, ASK_ROOT);
}

static Step write_now(Session *s, Plan *p, OpenFile *f, const char *path)
{
    switch (writing_begin(s, f, path, &p->replace)) {
    case WRITTEN:
        return STEP_DONE;
    case WRITE_GOES_ON:
        p->writes = true;
        return STEP_WAITS;
    case WRITE_OVERTAKEN: /* since we looked, a moment ago */
        if (++p->tries < TRIES)
            return STEP_AGAIN;
        notices_warn(s->notices, "%s was not saved: the file changes all the time", openfile_name(f));
        return STEP_ENDED;
    default:
        return STEP_ENDED;
    }
}

/* Without a disk to write to: what would be done. */
static Step pretend(Session *s, const Plan *p, OpenFile *f)
{
    if (p->path)
        notices_say(s->notices, "would be saved as %s", p->path);
    else
        notices_say(s->notices, openfile_changed(f) ? "would be saved" : "would stay as it is");
    doc_mark_saved(f->doc);
    f->format_changed = false;
    return STEP_DONE;
}

static Step wait_for_writing(Session *s, Plan *p, OpenFile *f, const char *then)
{
    char words[TASK_WORDS_MAX];
    writing_words(f, words);
    if (!p->waited)
        notices_say(s->notices, "%s; %s", words, then);
    p->waited = true;
    return STEP_WAITS;
}

/* By whatever name and link. */
static bool is_own_file(const OpenFile *f, const char *path)
{
    DiskState there = disk_look(path);
    return f->disk.exists && there.exists && there.st.st_dev == f->disk.st.st_dev &&
           there.st.st_ino == f->disk.st.st_ino;
}

static Step save_step(Session *s, Plan *p, OpenFile *f)
{
    char words[TASK_WORDS_MAX];
    bool other = p->path && (!f->path || strcmp(p->path, f->path) != 0);
    const char *path = p->path ? p->path : f->path;
    Step step;
    openfile_drop_fresh(f);
    if (reading_unready(f, words)) {
        notices_warn(s->notices, "Not saved: %s", words);
        return STEP_ENDED;
    }
    if (f->look_only && !p->ask_name && (!other || is_own_file(f, path))) {
        notices_warn(s->notices, "%s is open to look only and was not saved", openfile_name(f));
        return STEP_ENDED;
    }
    if (f->writing && !p->ask_name) /* a name can be given meanwhile */
        return wait_for_writing(s, p, f, "then the rest");
    if (p->waited && !p->ask_name && !other && !openfile_changed(f)) /* what was written is all there is */
        return STEP_DONE;
    if (!path || p->ask_name)
        return ask(p, ASK_NAME);
    bool told = p->told || (s->rules.batch && !other && !openfile_changed(f));
    p->told = true;
    if (!told && !session_may_save(s, f))
        return STEP_ENDED;
    if (s->rules.dry_run)
        return pretend(s, p, f);
    if (s->rules.batch && !other && !openfile_changed(f)) { /* a file that needs no change is not touched */
        notices_say(s->notices, "stays as it is");
        return STEP_DONE;
    }
    if (!other && !openfile_changed(f) && f->disk.exists && !disk_may_write(path) &&
        session_news(f) == DISK_SAME) {
        notices_say(s->notices, "%s has no changes; there is nothing to save", openfile_name(f));
        return STEP_DONE;
    }
    step = other ? check_name(s, p, f, false) : check_disk(s, p, f);
    step = step == STEP_DONE ? check_newline(s, p, f) : step;
    step = step == STEP_DONE ? check_problems(s, p, f) : step;
    step = step == STEP_DONE ? check_folder(s, p, path) : step;
    step = step == STEP_DONE ? check_root(s, p, path) : step;
    return step == STEP_DONE ? write_now(s, p, f, path) : step;
}

/* ---- other names ---- */

static Step rename_step(Session *s, Plan *p, OpenFile *f)
{
    if (!f->path) {
        notices_say(s->notices, "This text has no file yet; saving asks for its name");
        return STEP_ENDED;
    }
    if (f->look_only) {
        notices_warn(s->notices, "%s is open to look only and was not renamed", openfile_name(f));
        return STEP_ENDED;
    }
    if (f->writing)
        return wait_for_writing(s, p, f, "then the rest");
    if (!p->path || p->ask_name)
        return ask(p, ASK_NAME);
    if (strcmp(p->path, f->path) == 0) {
        notices_say(s->notices, "That is its name already");
        return STEP_ENDED;
    }
    Step step = check_name(s, p, f, true);
    if (step != STEP_DONE)
        return step;
    if (s->rules.dry_run) {
        notices_say(s->notices, "would be renamed to %s", p->path);
        return STEP_DONE;
    }
    keeper_renaming(s, f, p->path);
    if (f->disk.exists && !disk_rename(f->path, p->path, &p->replace)) {
        int code = errno;
        keeper_renamed(s, f);
        if (code == EEXIST && ++p->tries < TRIES) /* somebody made one just now */
            return STEP_AGAIN;
        notices_warn(s->notices, "%s was not renamed: %s", openfile_name(f), err_os(code));
        return STEP_ENDED;
    }
    notices_say(s->notices, "%s is now called %s", openfile_name(f), sys_base_name(p->path));
    session_renamed(s, f, p->path);
    return STEP_DONE;
}

static Step reload_step(Session *s, Plan *p, OpenFile *f)
{
    bool partial = f->reading || f->incomplete;
    if (f->writing)
        return wait_for_writing(s, p, f, "reloading follows it");
    if (openfile_changed(f) && f->path && p->reload != doc_version(f->doc) + 1)
        return ask(p, ASK_RELOAD);
    if (!session_read_again(s, f, p->read_as ? &p->as : NULL))
        return STEP_ENDED;
    if (p->read_as)
        notices_say(s->notices, "%s is now read as %s", openfile_name(f),
                    encoding_label(&p->as, f->format.utf8));
    else
        notices_say(s->notices, "%s is as it is on disk: %s.%s", openfile_name(f),
                    AMOUNT(text_line_count(doc_text(f->doc)), "line"),
                    partial ? "" : " Undo brings back what was here.");
    return STEP_DONE;
}

/* ---- closing and leaving ---- */

static Step close_step(Session *s, Plan *p, OpenFile *f)
{
    if (f->writing)
        return wait_for_writing(s, p, f, "closing follows it");
    if (plan_would_lose(f))
        return ask(p, ASK_UNSAVED);
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
            return wait_for_writing(s, p, s->files[i], "leaving follows it");
    for (size_t i = 0; i < s->n_files; i++)
        if (plan_would_lose(s->files[i])) {
            p->file = s->files[i]->id;
            return ask(p, ASK_UNSAVED);
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
        return save_step(s, p, f);
    case PLAN_RENAME:
        return rename_step(s, p, f);
    case PLAN_RELOAD:
        return reload_step(s, p, f);
    default:
        return close_step(s, p, f);
    }
}

static void go_on(Session *s, Plan *p)
{
    static const PlanState states[] = {
        [STEP_WAITS] = PLAN_WAITS, [STEP_ASKS] = PLAN_ASKS, [STEP_ROOT] = PLAN_FOR_ROOT};
    Step step;
    p->ask = ASK_NOTHING;
    do
        step = take_step(s, p);
    while (step == STEP_AGAIN);
    if (step == STEP_DONE || step == STEP_ENDED)
        end_plan(s, p, step == STEP_DONE);
    else
        p->state = states[step];
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
            if (w == WRITE_OVERTAKEN) {
                p->state = PLAN_READY;
            } else {
                end_plan(s, p, w == WRITTEN);
            }
            break;
        }
        plans_wake(s);
    }
}

void plans_wake(Session *s)
{
    for (size_t i = 0; i < s->n_plans; i++) {
        Plan *p = s->plans[i];
        bool has_child = false;
        for (size_t k = 0; k < s->n_plans; k++)
            has_child = has_child || s->plans[k]->parent == p->number;
        if (p->state == PLAN_WAITS && !p->writes && !has_child)
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
    if (!s->held)
        plans_wake(s);
    for (Plan *p; !s->left && (p = ready_plan(s)) != NULL;)
        go_on(s, p);
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
    } else if (p->ask == ASK_NEWLINE && f) {
        add_newline(s, f);
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
        p->may_replace = p->by_root = false;
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
    if (f && ok)
        writing_by_root(s, f, p->path ? p->path : f->path);
    else if (why)
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
