#include "commands/file/on_trial.h"

#include "base/mem.h"
#include "base/system.h"
#include "commands/asking.h"
#include "commands/file/trial_save.h"
#include "files/location.h"
#include "kept/trial_there.h"
#include "session/looking.h"
#include "ui/command.h"
#include "view/shown.h"

#include <stdio.h>
#include <stdlib.h>
#include <time.h>

static const TaskKind trial_task, running_task;

OpenFile *on_trial_file(const Editor *ed)
{
    return ed->on_trial->n ? session_file(ed->session, ed->on_trial->files[0].file) : NULL;
}

static Tried *tried(const Editor *ed, const OpenFile *f)
{
    OnTrial *o = ed->on_trial;
    for (size_t i = 0; i < o->n; i++)
        if (o->files[i].file == f->id)
            return &o->files[i];
    return NULL;
}

const char *on_trial_name(const Editor *ed, char words[WORDS_MAX])
{
    const OnTrial *o = ed->on_trial;
    const OpenFile *f = on_trial_file(ed);
    if (o->n < 2 && f)
        return openfile_name(f);
    snprintf(words, WORDS_MAX, o->n < 2 ? "The file" : "%zu files", o->n);
    return words;
}

static void show_on_trial(const Editor *ed, const char *words)
{
    const OnTrial *o = ed->on_trial;
    for (size_t i = 0; i < o->n; i++) {
        OpenFile *f = session_file(ed->session, o->files[i].file);
        if (f && f->shown)
            snprintf(f->shown->on_trial, sizeof f->shown->on_trial, "%s", o->files[i].saved ? words : "");
    }
}

bool on_trial_has(const Editor *ed, const OpenFile *f)
{
    return tried(ed, f) != NULL;
}

void on_trial_end(Editor *ed)
{
    OnTrial *o = ed->on_trial;
    tasks_remove(&ed->session->tasks, &o->task);
    if (o->saved)
        trial_free(o->trial);
    else
        trial_drop(o->trial);
    free(o->command);
    show_on_trial(ed, "");
    void (*leave)(Editor *) = o->leave;
    *o = (OnTrial){0};
    if (leave)
        leave(ed);
}

/* ---- what came of it ---- */

static void looked_again(void *ctx, OpenFile *f, const Looked *l)
{
    (void)ctx;
    if (!l->ok)
        return;
    f->disk = l->now;
    f->news = DISK_SAME;
}

/* The old version is on the disk again: what is on the screen is not saved any more. */
static void take_back_here(Editor *ed, const Tried *t)
{
    OpenFile *f = session_file(ed->session, t->file);
    if (!f)
        return;
    if (t->before < doc_states(f->doc))
        doc_mark_state_saved(f->doc, t->before);
    looking_begin(ed->session, f, looked_again, NULL);
}

static void tell(Editor *ed, TrialFate fate, const Err *words)
{
    const OnTrial *o = ed->on_trial;
    char now[WORDS_MAX], space[WORDS_MAX];
    const char *name = on_trial_name(ed, space), *was = o->n > 1 ? "were" : "was";
    words_when((long long)time(NULL), now);
    if (fate == TRIAL_KEPT)
        say(ed, "%s %s kept", name, o->n > 1 ? "are" : "is");
    else if (fate == TRIAL_TAKEN_BACK && words->text[0])
        warn(ed, "%s %s taken back at %s, but %s", name, was, now, words->text);
    else if (fate == TRIAL_TAKEN_BACK)
        warn(ed, "%s %s taken back at %s%s%s", name, was, now, o->asked ? "" : ", as nobody kept it",
             ed->session->rules.batch ? "" : ". Your version is here, not saved");
    else if (fate == TRIAL_CHANGED)
        warn(ed, "%s %s not taken back%s: somebody else changed it meanwhile", name, was,
             o->n > 1 ? ", not all of them" : "");
    else if (fate == TRIAL_FAILED)
        warn(ed, "%s could not be taken back: %s", name, words->text);
    else if (trial_is_out_of_reach(o->trial))
        warn(ed, "The guard of the trial cannot be reached: it takes %s back when the time is over", name);
    else
        warn(ed, "The guard of the trial is gone: %s stays as it is now", name);
    for (size_t i = 0; i < o->n; i++)
        if (o->files[i].guarded && trial_look_at(o->trial, o->files[i].number) == TRIAL_TAKEN_BACK)
            take_back_here(ed, &o->files[i]);
}

/* "0:43" beside the file's name. */
static void show_time(Editor *ed)
{
    char words[24];
    unsigned left = (trial_left(ed->on_trial->trial) + 999) / 1000;
    snprintf(words, sizeof words, "on trial %u:%02u", left / 60, left % 60);
    show_on_trial(ed, words);
}

static bool is_saving(const Editor *ed)
{
    const Session *s = ed->session;
    for (size_t i = 0; i < s->n_plans; i++) {
        const OpenFile *f = session_file(s, s->plans[i]->file);
        if (s->plans[i]->kind == PLAN_SAVE && f && tried(ed, f))
            return true;
    }
    for (size_t i = 0; i < ed->on_trial->n; i++) {
        const OpenFile *f = session_file(s, ed->on_trial->files[i].file);
        if (f && f->writing)
            return true;
    }
    return false;
}

static void begin_saves(Editor *ed)
{
    OnTrial *o = ed->on_trial;
    FileId files[TRIAL_FILES_MOST];
    size_t n = o->n;
    for (size_t i = 0; i < n; i++)
        files[i] = o->files[i].file;
    o->begun = true;
    for (size_t i = 0; i < n && o->begun; i++)
        if (session_file(ed->session, files[i]))
            asking_begin(ed, PLAN_SAVE, session_file(ed->session, files[i]), NULL);
}

/* The guard of another host comes first. */
static void wait_for_guard(Editor *ed)
{
    enum { GUARD_MS = 20000 };
    OnTrial *o = ed->on_trial;
    Err ignored;
    char space[WORDS_MAX];
    if (trial_is_ready(o->trial)) {
        begin_saves(ed);
    } else if (trial_look(o->trial, &ignored) != TRIAL_RUNS || system_now_ms() - o->since > GUARD_MS) {
        warn(
            ed,
            "%s was not saved: no guard could be begun there. You must be allowed to write the file, and ssh "
            "must not have to ask",
            on_trial_name(ed, space));
        on_trial_end(ed);
    }
}

/* None is being saved any more: either some were, and the time runs, or none, for reasons that were said. */
static void saves_ended(Editor *ed)
{
    OnTrial *o = ed->on_trial;
    size_t left = 0;
    for (size_t i = 0; i < o->n; i++)
        if (o->files[i].saved)
            o->files[left++] = o->files[i];
    o->n = left ? left : o->n;
    if (!left) {
        on_trial_end(ed);
        return;
    }
    o->saved = true;
    trial_saved(o->trial);
    show_time(ed);
    o->runs = *o->command != 0;
    if (!o->runs)
        return;
    o->task.kind = &running_task;
    if (!ed->session->rules.batch)
        say(ed, "Saved on trial; “%.60s” is running. Esc stops it", o->command);
}

static void poll_trial(void *ctx)
{
    Editor *ed = ctx;
    OnTrial *o = ed->on_trial;
    Err words;
    Bytes output = {0};
    int status;
    if (!o->begun) {
        wait_for_guard(ed);
        return;
    }
    if (!o->saved) {
        if (!is_saving(ed))
            saves_ended(ed);
        return;
    }
    TrialFate fate = trial_look(o->trial, &words);
    if (trial_ran(o->trial, &status, &output)) {
        o->task.kind = &trial_task;
        o->runs = false;
        if (fate == TRIAL_RUNS)
            o->ran(ed, status, &output);
    }
    bytes_free(&output);
    if (fate == TRIAL_RUNS) {
        show_time(ed);
        return;
    }
    tell(ed, fate, &words);
    on_trial_end(ed);
}

static int wait_trial(const void *ctx)
{
    const OnTrial *o = ((const Editor *)ctx)->on_trial;
    if (!o->saved)
        return 100;
    unsigned left = trial_left(o->trial);
    return left ? (int)(left % 1000) + 1 : 200;
}

static size_t fds_of_trial(const void *ctx, struct pollfd *out)
{
    const OnTrial *o = ((const Editor *)ctx)->on_trial;
    if (!o->trial)
        return 0;
    *out = (struct pollfd){.fd = trial_fd(o->trial), .events = POLLIN};
    return 1;
}

static void stop_command(void *ctx)
{
    trial_stop_command(((const Editor *)ctx)->on_trial->trial);
}

static void words_of_command(const void *ctx, char out[TASK_WORDS_MAX])
{
    snprintf(out, TASK_WORDS_MAX, "Running “%.60s”", ((const Editor *)ctx)->on_trial->command);
}

static const TaskKind trial_task = {.poll = poll_trial, .wait = wait_trial, .fds = fds_of_trial};
static const TaskKind running_task = {.poll = poll_trial,
                                      .wait = wait_trial,
                                      .fds = fds_of_trial,
                                      .cancel = stop_command,
                                      .words = words_of_command};
/* ---- the save ---- */

static void find_saved_state(Tried *t, const OpenFile *f)
{
    t->before = doc_states(f->doc);
    for (size_t i = 0; i < doc_states(f->doc); i++)
        t->before = doc_state(f->doc, i).saved ? i : t->before;
}

/* What is there now, and what will be. */
static bool versions(const OpenFile *f, bool there, Tried *t, Text *old, Text *fresh, Err *e)
{
    size_t at;
    *old = *fresh = (Text){0};
    if (there)
        t->disk = f->disk;
    return (there ? !f->disk.exists || encoding_write(doc_saved_text(f->doc), &f->encoding, old, &at, e)
                  : load_file(f->inside, old, &t->disk, e)) &&
           encoding_write(doc_text(f->doc), &f->encoding, fresh, &at, e);
}

/* Just before it is written: the guard must have it first. */
static bool writing(void *ctx, OpenFile *f)
{
    Editor *ed = ctx;
    OnTrial *o = ed->on_trial;
    Tried *t = tried(ed, f);
    Text old = {0}, fresh = {0};
    Err e = {""};
    if (!t || !o->wanted)
        return true;
    if (t->saved) {
        warn(ed, "%s is on trial: keep it or have it taken back first, by %s", openfile_name(f),
             KEY_FOR(ed, "save-on-trial"));
        return false;
    }
    find_saved_state(t, f);
    bool ok = versions(f, o->there, t, &old, &fresh, &e);
    if (ok && !o->trial)
        o->trial = trial_begin(o->command, o->seconds, NULL, &e);
    TrialFile file = {
        .path = o->there ? f->path : f->inside, .old = old, .existed = t->disk.exists, .fresh = fresh};
    ok = ok && o->trial && (t->guarded || trial_add(o->trial, &file, &e));
    if (ok && !t->guarded) {
        t->number = o->guarded++;
        t->guarded = true;
    }
    text_drop(&old);
    text_drop(&fresh);
    if (!ok)
        warn(ed, "%s was not saved: %s", openfile_name(f), e.text);
    return ok;
}

static void saved(void *ctx, OpenFile *f)
{
    Editor *ed = ctx;
    Tried *t = tried(ed, f);
    if (t && ed->on_trial->wanted && t->guarded)
        t->saved = true;
}

bool trial_save_by_root(Editor *ed, const OpenFile *f, char seconds[16], const char **command)
{
    const OnTrial *o = ed->on_trial;
    if (!o->wanted || o->saved || o->n != 1 || !tried(ed, f))
        return false;
    snprintf(seconds, 16, "%u", o->seconds);
    *command = o->command;
    return true;
}

void trial_save_by_root_done(Editor *ed, OpenFile *f, int to, int from)
{
    OnTrial *o = ed->on_trial;
    Tried *t = tried(ed, f);
    Text old, fresh;
    Err e = {""};
    o->trial = trial_begin_by_root(to, from, o->seconds, &e);
    bool ok = o->trial != NULL;
    if (ok) {
        find_saved_state(t, f);
        bool known = versions(f, true, t, &old, &fresh, &e);
        TrialFile file = {.path = f->inside, .old = old, .existed = f->disk.exists, .fresh = fresh};
        ok = known && trial_add(o->trial, &file, &e);
        t->guarded = true;
        text_drop(&old);
        text_drop(&fresh);
    }
    if (!ok)
        warn(ed, "%s is on trial, but the next start will not tell how that ended: %s", openfile_name(f),
             e.text);
}
bool on_trial_is_there(const OpenFile *f)
{
    return !filesystem_can(f->path, FILES_ARE_HERE);
}

static bool begin_there(Editor *ed, const OpenFile *f)
{
    OnTrial *o = ed->on_trial;
    Bytes line = {0};
    Err e = {""};
    char *path = location_path(f->path);
    trial_there_line(path, o->command, o->seconds, &line);
    char **words = filesystem_of(f->path)->shell(f->path, line.at, &e);
    o->trial = words ? trial_begin_there(words, o->seconds, &e) : NULL;
    for (size_t i = 0; words && words[i]; i++)
        free(words[i]);
    free(words);
    free(path);
    bytes_free(&line);
    if (!o->trial)
        warn(ed, "%s was not saved: %s", openfile_name(f), e.text);
    return o->trial != NULL;
}

void on_trial_begin(Editor *ed, const char *command)
{
    OnTrial *o = ed->on_trial;
    const OpenFile *f = on_trial_file(ed);
    free(o->command);
    o->command = mem_string(command);
    o->there = on_trial_is_there(f);
    o->since = system_now_ms();
    if (o->there && !begin_there(ed, f)) {
        on_trial_end(ed);
        return;
    }
    o->wanted = true;
    tasks_add(&ed->session->tasks, &o->task, &trial_task, ed);
    if (!o->there)
        begin_saves(ed);
}

void on_trial_observe(Editor *ed)
{
    SessionEvents events = {.ctx = ed, .writing = writing, .saved = saved};
    session_observe(ed->session, &events);
}
