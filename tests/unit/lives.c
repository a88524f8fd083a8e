/* Random lives of the session: everything in any order, with deaths and failing calls; nothing may be lost,
 * written without agreement, or asked twice. */
#include "check.h"
#include "base/paths.h"
#include "sessions.h"
#include "files/filesystem.h"
#include "kept/recoverable.h"
#include "session/keeper.h"
#include "session/plan.h"
#include "session/reading.h"
#include "session/writing.h"
#include "session/session_run.h"
#include "session/session_files.h"

#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <sys/wait.h>
#include <unistd.h>

/* Of the library that makes system calls fail; NULL when it is not there. */
__attribute__((weak)) void fault_arm(long n, const char *what);
__attribute__((weak)) void fault_hold(int on);

/* What the test itself does is not made to fail. */
static void hold(bool on)
{
    if (fault_hold)
        fault_hold(on);
}

enum { NAMES = 4, TEXT_CAP = 400, VERSIONS = 200 };
static const char *const names[NAMES] = {"a", "b", "c", "d"};

/* What the parent must know when the child dies, in memory that both share. */
typedef struct Witness {
    char path[32], other[32];          /* its name, and the one that it was to get last */
    char versions[VERSIONS][TEXT_CAP]; /* of the text, the newest last */
    int n, safe;                       /* from which on it must be there */
    bool clean;                        /* since then it was once on disk, or given up */
    bool given_up;                     /* a person said so, and has typed nothing since */
} Witness;

typedef struct Witnesses {
    Witness files[2];
    bool outside; /* another program wrote, or a text was put in a file's place by its new name */
    long steps, saves, kills, questions, taken, others;
    char fault[40]; /* what was made to fail */
} Witnesses;

static Witnesses *shared;

/* One open file as it must be. */
typedef struct Model {
    FileId id;
    char want[TEXT_CAP];
    char known[TEXT_CAP]; /* what the session last read, wrote or was told to overwrite; "?": nothing there */
    char agreed[TEXT_CAP]; /* what it was agreed to overwrite */
    bool drop, reload;     /* it was agreed to lose `want`, or to have it replaced by what is on disk */
    bool clean;            /* it had no changes after the last step */
    size_t state;          /* of the document */
} Model;

static Model models[2];
static unsigned typed_so_far;

/* ---- a disk that answers late, out of order, or never ---- */

enum { LATE_MOST = 64 };

static struct {
    const Tasks *of; /* of the session that has it; others have a quick one */
    Errand *at[LATE_MOST];
    bool never[LATE_MOST];
    size_t n;
    long asked, late;
} disk;

static void late_begin(Errand *e, Tasks *tasks)
{
    disk.asked++;
    if (tasks != disk.of || disk.n == LATE_MOST || check_random(4) == 0) {
        filesystem_local.begin(e, tasks);
        return;
    }
    disk.late++;
    disk.never[disk.n] = check_random(6) == 0;
    disk.at[disk.n++] = e;
}

static void late_forget(size_t i)
{
    disk.at[i] = disk.at[--disk.n];
    disk.never[i] = disk.never[disk.n];
}

/* What nobody waits for any more may be done all the same. */
static void late_give_up(Errand *e)
{
    for (size_t i = 0; i < disk.n; i++)
        if (disk.at[i] == e) {
            late_forget(i);
            shared->outside = shared->outside || e->kind == ERRAND_RENAME;
            e->told = NULL;
            if (check_random(2))
                filesystem_local.begin(e, NULL);
            return;
        }
}

static void late_answer(void)
{
    size_t i = disk.n ? check_random((unsigned)disk.n) : 0;
    if (!disk.n || disk.never[i])
        return;
    Errand *e = disk.at[i];
    late_forget(i);
    filesystem_local.begin(e, NULL);
}

static FileSystem late_disk; /* this machine's, but for when it answers */

static void read_disk(const char *path, char out[TEXT_CAP])
{
    hold(true);
    FILE *f = fopen(path, "rb");
    size_t n = f ? fread(out, 1, TEXT_CAP - 1, f) : 0;
    out[n] = 0;
    if (f)
        fclose(f);
    else
        strcpy(out, "?");
    hold(false);
}

static bool still(const char *path, const DiskState *state)
{
    hold(true);
    bool same = disk_is(path, state);
    hold(false);
    return same;
}

static void string_of(Text t, char out[TEXT_CAP])
{
    out[text_read(t, 0, out, TEXT_CAP - 1)] = 0;
}

/* Is there nothing in it that was not saved? By its bytes: what was typed and taken away again is no work. */
static bool is_saved(const OpenFile *f)
{
    Text now = doc_text(f->doc), saved = doc_saved_text(f->doc);
    return !f->format_changed && text_len(now) == text_len(saved) &&
           text_same_bytes(now, 0, saved, 0, text_len(now));
}

static Model *model_of(FileId id)
{
    for (int i = 0; i < 2; i++)
        if (models[i].id == id && id)
            return &models[i];
    return NULL;
}

static void on_closing(void *ctx, OpenFile *f)
{
    (void)ctx;
    Model *m = model_of(f->id);
    if (!m)
        return;
    check_result(!openfile_changed(f) || m->drop, __FILE__, __LINE__, "closed with unsaved work");
    m->id = 0;
    shared->files[m - models].n = 0;
}

static void note_version(int i)
{
    Witness *w = &shared->files[i];
    if (w->n && strcmp(w->versions[w->n - 1], models[i].want) == 0)
        return;
    if (w->n == VERSIONS) {
        memmove(w->versions, w->versions + 1, sizeof w->versions - sizeof *w->versions);
        w->n--;
        w->safe -= w->safe > 0;
    }
    strcpy(w->versions[w->n++], models[i].want);
}

static void look_after(Session *s, const char *step)
{
    for (int i = 0; i < 2; i++) {
        Model *m = &models[i];
        OpenFile *f = session_file(s, m->id);
        char is[TEXT_CAP];
        if (!m->id)
            continue;
        CHECK(f != NULL);
        if (!f)
            continue;
        string_of(doc_text(f->doc), is);
        size_t state = doc_state_now(f->doc);
        const char *verb = doc_state(f->doc, state).verb;
        if (state != m->state && verb && strcmp(verb, "Reload") == 0) {
            check_result(m->clean || m->reload, __FILE__, __LINE__, "reloaded over unsaved work");
            strcpy(m->want, is);
            m->reload = false;
        }
        size_t was = strlen(m->want);
        if (state != m->state && verb && strcmp(verb, "Last line end") == 0 &&
            strncmp(is, m->want, was) == 0 && strcmp(is + was, "\n") == 0 && was && m->want[was - 1] != '\n')
            strcpy(m->want, is); /* saving keeps the line end that the file had */
        m->state = state;
        m->clean = !openfile_changed(f);
        shared->files[i].clean = shared->files[i].clean || is_saved(f);
        check_result(strcmp(is, m->want) == 0, __FILE__, __LINE__, "after %s: “%s”, wanted “%s”", step, is,
                     m->want);
        if (f->path && !f->disk.exists)
            strcpy(m->known, "?");
        else if (f->path && still(f->path, &f->disk))
            read_disk(f->path, m->known);
        snprintf(shared->files[i].path, sizeof shared->files[i].path, "%s",
                 f->path ? path_base(f->path) : "");
        note_version(i);
    }
}

/* Work of a life before is taken or put away, so that none of it is offered twice. */
static void take_offer(Session *s, OpenFile *f)
{
    int64_t row = keeper_offer(f).row;
    Err e = {""};
    Text t;
    if (!row)
        return;
    bool there = check_random(3) && keeper_text(s, row, &t, &e);
    Err first = e;
    char was[TEXT_CAP] = "", is[TEXT_CAP];
    if (there && keeper_take(s, f, row, &e)) {
        string_of(t, was);
        string_of(doc_text(f->doc), is);
        check_result(strcmp(was, is) == 0, __FILE__, __LINE__, "%s: first “%s” (%s), taken “%s” (%s)%s",
                     path_base(f->path), was, first.text, is, e.text, shared->fault);
    } else { /* or it cannot be had: another program changed its base since */
        keeper_put_away(s, f, row);
    }
    if (there)
        text_drop(&t);
    shared->taken += there;
}

static void model_open(Session *s, int i)
{
    const char *name = names[check_random(NAMES)];
    for (int k = 0; k < 2; k++)
        if (models[k].id && session_file(s, models[k].id) && session_file(s, models[k].id)->path &&
            strcmp(session_file(s, models[k].id)->path, check_path(name)) == 0)
            return;
    if (models[i].id)
        return;
    Err e = {""};
    OpenFile *f = session_open(s, check_path(name), &e);
    if (!f) { /* a call failed: it was said */
        CHECK((fault_arm != NULL && e.text[0]) || strstr(e.text, "being written") ||
              strstr(e.text, "being renamed"));
        return;
    }
    session_settle(s);
    f->used = false;
    take_offer(s, f);
    models[i] = (Model){.id = f->id};
    string_of(doc_text(f->doc), models[i].want);
    strcpy(models[i].known, models[i].want);
    if (!f->disk.exists)
        strcpy(models[i].known, "?");
    else
        read_disk(f->path, models[i].known);
    models[i].state = doc_state_now(f->doc);
    shared->files[i].n = shared->files[i].safe = 0;
    shared->files[i].given_up = false;
}

static void model_type(Session *s, Model *m)
{
    OpenFile *f = session_file(s, m->id);
    char words[16];
    if (!f)
        return;
    unsigned long version = doc_version(f->doc);
    if (strlen(m->want) > TEXT_CAP - 40) {
        CHECK(doc_replace(f->doc, 0, 200, NULL, 0, STEP_WHOLE, 0));
        string_of(doc_text(f->doc), m->want);
    }
    size_t at = check_random((unsigned)strlen(m->want) + 1);
    int n = snprintf(words, sizeof words, "%u ", ++typed_so_far);
    if (check_random(6) == 0 && strlen(m->want) > 3) {
        CHECK(doc_replace(f->doc, 0, 2, NULL, 0, STEP_WHOLE, 0));
    } else if (check_random(8) == 0) {
        size_t cursor;
        doc_undo(f->doc, &cursor);
    } else {
        CHECK(doc_replace(f->doc, at, 0, words, (size_t)n, STEP_TYPE, at));
    }
    string_of(doc_text(f->doc), m->want);
    if (doc_version(f->doc) != version)
        m->drop = m->reload = shared->files[m - models].given_up = false;
    m->state = doc_state_now(f->doc);
}

/* Somebody else's program. */
static void model_outside(Session *s)
{
    const char *path = check_path(names[check_random(NAMES)]);
    char words[40];
    for (size_t i = 0; i < s->n_files; i++) /* between our last look and our rename nobody could know */
        if (s->files[i]->writing)
            return;
    shared->outside = true;
    hold(true);
    snprintf(words, sizeof words, "outside %u\n", ++typed_so_far);
    switch (check_random(4)) {
    case 0:
        unlink(path);
        break;
    case 1:
        check_write(check_path("fresh"), words, strlen(words));
        CHECK(rename(check_path("fresh"), path) == 0);
        break;
    default:
        check_write(path, words, strlen(words));
    }
    hold(false);
}

/* Another editor of ours, on the same files: it asks too before it writes over what it does not know. */
static void model_other(Session *s, Session *other)
{
    Err e = {""};
    char before[TEXT_CAP], after[TEXT_CAP];
    static char knows[NAMES][TEXT_CAP];
    unsigned which = check_random(NAMES);
    const char *path = check_path(names[which]);
    if (sessions_writing(s))
        return;
    bool opened = false;
    for (size_t i = 0; i < other->n_files; i++)
        opened = opened || (other->files[i]->path && strcmp(other->files[i]->path, path) == 0);
    OpenFile *f = session_open(other, path, &e);
    if (!f)
        return;
    read_disk(path, before);
    if (!opened)
        strcpy(knows[which], before);
    char words[16];
    int n = snprintf(words, sizeof words, "other %u ", ++typed_so_far);
    if (text_len(doc_text(f->doc)) < TEXT_CAP / 2)
        doc_replace(f->doc, 0, 0, words, (size_t)n, STEP_WHOLE, 0);
    shared->outside = true;
    shared->others++;
    plan_begin(other, PLAN_SAVE, f->id, NULL, NULL);
    const Plan *p = plan_asking(other);
    read_disk(path, after);
    check_result(strcmp(before, after) == 0 || strcmp(before, knows[which]) == 0, __FILE__, __LINE__,
                 "the other one overwrote “%s”, knew “%s”", before, knows[which]);
    if (p)
        plan_answer(other, p->number, check_random(2) ? ANSWER_YES : ANSWER_RELOAD, NULL);
    read_disk(path, knows[which]);
    session_close(other, f); /* whatever it still holds is not this test's */
}

/* It is to be called so: from then on it may be under either name. */
static void note_name(const Model *m, const char *name)
{
    Witness *w = &shared->files[m - models];
    snprintf(w->other, sizeof w->other, "%s", name);
}

static bool reloads(const Plan *p, Answer a)
{
    return a == ANSWER_RELOAD || (p->kind == PLAN_RELOAD && a == ANSWER_YES);
}

static void model_answer(Session *s)
{
    static const Answer answers[][6] = {
        [ASK_NAME] = {ANSWER_NAME, ANSWER_NO},
        [ASK_REPLACE] = {ANSWER_YES, ANSWER_YES, ANSWER_NO, ANSWER_NAME},
        [ASK_DISK] = {ANSWER_YES, ANSWER_YES, ANSWER_NO, ANSWER_RELOAD, ANSWER_AGAIN},
        [ASK_UNSAVED] = {ANSWER_SAVE, ANSWER_DROP, ANSWER_NO, ANSWER_SAVE_ALL, ANSWER_DROP_ALL, ANSWER_AGAIN},
        [ASK_RELOAD] = {ANSWER_YES, ANSWER_NO, ANSWER_AGAIN},
    };
    Plan *p = plan_asking(s);
    if (!p)
        return;
    Answer a = answers[p->ask][check_random(6)];
    AskFor ask = p->ask;
    unsigned number = p->number;
    OpenFile *f = session_file(s, p->file);
    Model *m = f ? model_of(f->id) : NULL;
    DiskState seen = p->seen;
    unsigned long version = f ? doc_version(f->doc) : 0;
    shared->questions++;
    shared->outside = shared->outside || a == ANSWER_NAME;
    if (m && a == ANSWER_YES && ask == ASK_DISK && still(f->path, &seen)) {
        read_disk(f->path, m->known);
        strcpy(m->agreed, m->known);
    }
    for (int i = 0; i < 2; i++)
        if (a == ANSWER_DROP_ALL || (a == ANSWER_DROP && m == &models[i]))
            models[i].drop = shared->files[i].given_up = true;
    if (m && reloads(p, a))
        m->reload = true;
    const char *name = names[check_random(NAMES)];
    if (m && a == ANSWER_NAME)
        note_name(m, name);
    plan_answer(s, number, a, check_path(name));
    p = plan_numbered(s, number);
    bool same = p && p->state == PLAN_ASKS && p->ask == ask && f && session_file(s, p->file) == f &&
                doc_version(f->doc) == version && disk_same(&p->seen, &seen);
    if (same && ask != ASK_NAME && (a == ANSWER_YES || a == ANSWER_DROP))
        check_result(false, __FILE__, __LINE__, "asked twice: %d of plan %d, %s", (int)ask, (int)p->kind,
                     sessions_notices.text);
}

static bool was_typed(const Model *m, const char *text)
{
    const Witness *w = &shared->files[m - models];
    for (int i = 0; i < w->n; i++)
        if (strcmp(w->versions[i], text) == 0)
            return true;
    return false;
}

static void model_plan(Session *s, Model *m)
{
    static const PlanKind kinds[] = {PLAN_SAVE,  PLAN_SAVE,   PLAN_SAVE,       PLAN_SAVE, PLAN_RENAME,
                                     PLAN_CLOSE, PLAN_RELOAD, PLAN_SAVE_EVERY, PLAN_LEAVE};
    PlanKind kind = kinds[check_random(sizeof kinds / sizeof *kinds)];
    const char *path = NULL;
    if (kind == PLAN_RENAME || (kind == PLAN_SAVE && check_random(5) == 0)) {
        const char *name = names[check_random(NAMES)];
        note_name(m, name);
        path = check_path(name);
    }
    shared->outside = shared->outside || path;
    OpenFile *f = session_file(s, m->id);
    if (!f && kind != PLAN_LEAVE && kind != PLAN_SAVE_EVERY)
        return;
    if (kind == PLAN_LEAVE && check_random(4))
        return;
    char before[TEXT_CAP] = "?";
    bool own = kind == PLAN_SAVE && f && f->path && !path && !f->writing;
    if (own)
        read_disk(f->path, before);
    plan_begin(s, kind, f ? f->id : 0, path, NULL);
    f = session_file(s, m->id);
    char after[TEXT_CAP] = "?";
    if (own && f)
        read_disk(f->path, after);
    if (own && f && f->writing && strcmp(before, m->known) != 0) {
        sessions_finish_writing(s); /* a first look that was made to fail: the second one must see it */
        f = session_file(s, m->id);
        if (f)
            read_disk(f->path, after);
    }
    bool wrote = own && f && (f->writing || strcmp(before, after) != 0); /* it may have failed, and said so */
    if (wrote && !plan_asking(s)) /* what a save in place that failed had written is its own */
        check_result(strcmp(before, m->known) == 0 || was_typed(m, before), __FILE__, __LINE__,
                     "overwrote “%s”, knew “%s”%s, %s", before, m->known, shared->fault,
                     sessions_notices.text);
    shared->saves += own;
}

static void settle_all(Session *s)
{
    Err e;
    sessions_tick(s);
    if (!keeper_journal(s) || journal_trouble(keeper_journal(s), &e) || journal_waits(keeper_journal(s)))
        return;
    for (int i = 0; i < 2; i++) {
        const OpenFile *f = session_file(s, models[i].id);
        shared->files[i].safe = shared->files[i].n ? shared->files[i].n - 1 : 0;
        shared->files[i].clean = !f || is_saved(f);
    }
}

/* An answer of the late disk. What it lets be written over must be known. */
static void model_late(Session *s)
{
    char before[2][TEXT_CAP], after[TEXT_CAP];
    bool other_names = false;
    for (size_t i = 0; i < s->n_plans; i++)
        other_names = other_names || s->plans[i]->path;
    for (int i = 0; i < 2; i++) {
        const OpenFile *f = session_file(s, models[i].id);
        read_disk(f && f->path && !f->writing ? f->path : "/dev/null/none", before[i]);
    }
    late_answer();
    session_poll(s);
    for (int i = 0; i < 2; i++) {
        const OpenFile *f = session_file(s, models[i].id);
        if (!f || !f->path || other_names || strcmp(before[i], "?") == 0)
            continue;
        read_disk(f->path, after);
        check_result(strcmp(before[i], after) == 0 || strcmp(before[i], models[i].known) == 0 ||
                         strcmp(before[i], models[i].agreed) == 0,
                     __FILE__, __LINE__, "overwrote “%s” late, knew “%s”%s", before[i], models[i].known,
                     shared->fault);
    }
}

/* A life of the program, up to its end or its death. */
static void live(int steps, unsigned round)
{
    SessionEvents events = {.closing = on_closing};
    static const char *const kinds[] = {"eio",   "enospc",      "eintr",     "eacces",
                                        "short", "kill-before", "kill-after"};
    Session *s = sessions_start(&events), *other = sessions_start(NULL);
    other->rules.keep_recovery = false;
    other->rules.beside_from = SIZE_MAX;
    keeper_journal(s);
    disk.of = round % 4 == 2 || round % 4 == 3 ? &s->tasks : NULL;
    late_disk = filesystem_local;
    late_disk.begin = late_begin;
    late_disk.give_up = late_give_up;
    late_disk.prefix = check_folder();
    filesystem_add(&late_disk);
    if (fault_arm) {
        long n = 1 + (long)check_random(round % 2 ? 300 : 3000);
        const char *kind = kinds[check_random(7)];
        snprintf(shared->fault, sizeof shared->fault, ", call %ld %s", n, kind);
        fault_arm(n, kind);
    }
    s->rules.beside_from = round % 3 ? 0 : SIZE_MAX;
    s->rules.backup = (Backup)(round / 3 % 3);
    s->rules.backup_keep = 2;
    bool file_bases = round % 5 == 1;
    if (file_bases && keeper_journal(s))
        journal_store_bases(keeper_journal(s), 0);
    const char *step = "";
    model_open(s, 0);
    model_open(s, 1);
    look_after(s, "opening");
    for (int i = 0; i < steps && !s->left; i++) {
        Model *m = &models[check_random(2)];
        shared->steps++;
        switch (check_random(17)) {
        case 0:
            step = "opening";
            model_open(s, (int)check_random(2));
            break;
        case 1:
        case 2:
            step = "a plan";
            model_plan(s, m);
            break;
        case 3:
        case 4:
        case 5:
            step = "an answer";
            model_answer(s);
            break;
        case 6:
            step = "somebody else";
            if (!file_bases)
                model_outside(s);
            break;
        case 7:
            step = "waiting";
            sessions_finish_writing(s);
            break;
        case 8:
            step = "a pause";
            settle_all(s);
            break;
        case 16:
            step = "another editor";
            if (!file_bases)
                model_other(s, other);
            break;
        case 9:
            s->held = check_random(2) && !s->held;
            break;
        case 10:
            step = "a late answer";
            model_late(s);
            break;
        case 11:
            step = "a moment";
            sessions_notices.now += check_random(600);
            session_poll(s);
            break;
        default:
            step = "typing";
            model_type(s, m);
        }
        look_after(s, step);
    }
    for (int i = 0; i < 2; i++) {
        const OpenFile *f = session_file(s, models[i].id);
        check_result(!s->left || !f || !openfile_changed(f) || models[i].drop, __FILE__, __LINE__,
                     "left with unsaved work");
        if (s->left)
            shared->files[i].n = 0;
    }
    if (check_failed())
        _exit(1);
    if (check_random(3)) {
        shared->kills++;
        kill(getpid(), SIGKILL);
    }
    for (int i = 0; i < 2; i++)
        models[i].drop = true;
    session_free(other);
    session_free(s);
}

/* Perhaps with the last line end that a save had just put there. */
static bool is_version(const Witness *w, const char *text)
{
    size_t n = strlen(text);
    for (int i = w->safe; i < w->n; i++) {
        size_t len = strlen(w->versions[i]);
        if (strncmp(w->versions[i], text, len) == 0 && (n == len || strcmp(text + len, "\n") == 0))
            return true;
    }
    return false;
}

/* Is one of the versions in the file of that name, or among what can be brought back of it? There may be
 * older work on the same file, too. */
static bool is_found(Session *s, const Witness *w, const char *name, char in_file[TEXT_CAP], Bytes *offered)
{
    Recoverable *r;
    OpenFile *f = sessions_open(s, name);
    string_of(doc_text(f->doc), in_file);
    bool found = is_version(w, in_file);
    size_t n = recoverable_list(keeper_journal(s), check_path(name), &r);
    for (size_t i = 0; i < n && !found; i++) {
        Err e = {""};
        Text t;
        char words[TEXT_CAP];
        if (!keeper_text(s, r[i].id, &t, &e)) {
            bytes_printf(offered, "%s: %s; ", name, e.text);
            continue;
        }
        string_of(t, words);
        text_drop(&t);
        bytes_printf(offered, "%s%s: “%s”; ", name, r[i].dropped ? " (dropped)" : "", words);
        found = (!r[i].dropped || w->given_up) && is_version(w, words);
    }
    recoverable_free(r, n);
    return found;
}

/* What the next run finds. */
static void come_back(unsigned round)
{
    Session *s = sessions_start(NULL);
    for (int i = 0; i < 2; i++) {
        const Witness *w = &shared->files[i];
        char found[TEXT_CAP] = "", other[TEXT_CAP];
        Bytes offered = {0};
        if (!w->n || !w->path[0])
            continue;
        bool ok = is_found(s, w, w->path, found, &offered) || (w->clean && shared->outside) ||
                  (w->other[0] && is_found(s, w, w->other, other, &offered));
        check_result(ok, __FILE__, __LINE__, "round %u%s, %s: the file has “%s”, last was “%s”, offered: %s",
                     round, shared->fault, w->path, found, w->versions[w->n - 1], bytes_str(&offered));
        bytes_free(&offered);
    }
    for (int i = 0; i < NAMES; i++)
        sessions_open(s, names[i]);
    char command[200];
    snprintf(command, sizeof command, "! ls -A '%s' | grep -q -e unfinished -e older", check_folder());
    CHECK(system(command) == 0);
    session_free(s);
}

TEST(random_orders_lose_nothing)
{
    int rounds = check_rounds(60);
    shared = mmap(NULL, sizeof *shared, PROT_READ | PROT_WRITE, MAP_SHARED | MAP_ANONYMOUS, -1, 0);
    char clean[200];
    snprintf(clean, sizeof clean, "rm -rf '%s'/* '%s'/.[!.]*", check_folder(), check_folder());
    const char *first = getenv("FROM"); /* a round that failed, once more */
    for (int round = 0; round < rounds && !check_failed(); round++) {
        if (first && round < atoi(first) / 3 * 3) {
            check_random(2);
            continue;
        }
        Witnesses so_far = *shared;
        *shared = (Witnesses){.steps = so_far.steps,
                              .saves = so_far.saves,
                              .kills = so_far.kills,
                              .questions = so_far.questions,
                              .taken = so_far.taken,
                              .others = so_far.others};
        if (round % 3 == 0) /* else it goes on where a life ended */
            CHECK(system(clean) == 0);
        for (int i = 0; i < NAMES && round % 3 == 0; i += 2)
            check_put(names[i], "at first\n");
        check_random(2); /* another life each time */
        pid_t child = fork();
        if (child == 0) {
            memset(models, 0, sizeof models);
            live(200, (unsigned)round);
            _exit(check_failed() ? 1 : 0);
        }
        int status;
        waitpid(child, &status, 0);
        check_result(status == 0 || (WIFSIGNALED(status) && WTERMSIG(status) == SIGKILL), __FILE__, __LINE__,
                     "round %d ended with status %x", round, (unsigned)status);
        if (WIFSIGNALED(status))
            come_back((unsigned)round);
    }
    fprintf(stderr,
            "%ld steps, %ld saves, %ld questions, %ld kills, %ld taken back, %ld saves of another editor\n",
            shared->steps, shared->saves, shared->questions, shared->kills, shared->taken, shared->others);
    munmap(shared, sizeof *shared);
}
