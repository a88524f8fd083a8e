#include "commands/file/trial_save.h"

#include "base/arguments.h"
#include "base/glyph.h"
#include "base/mem.h"
#include "base/system.h"
#include "base/words.h"
#include "commands/asking.h"
#include "files/location.h"
#include "files/privileged.h"
#include "kept/trial.h"
#include "kept/trial_there.h"
#include "session/looking.h"
#include "session/session_run.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "ui/prompt.h"
#include "ui/question.h"
#include "view/shown.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <time.h>
#include <unistd.h>

enum { SECONDS_MOST = 3600, OLD_MOST = 64 << 20 /* bytes of a file on trial */ };

/* One of the files on trial. */
typedef struct Tried {
    FileId file;
    size_t number; /* that it has in the trial, */
    bool guarded;  /* if it has one */
    bool saved;
    size_t before; /* the state of the document that was saved before */
    DiskState disk;
} Tried;

typedef struct OnTrial {
    Task task;
    Trial *trial; /* NULL: none is under way */
    bool wanted;  /* the next saves of `files` are to be on trial */
    bool begun;   /* and these saves go on */
    bool saved;   /* they were, and the time runs */
    bool asked;   /* the person had it taken back */
    bool there;   /* on another host */
    Tried files[TRIAL_FILES_MOST];
    size_t n, guarded;
    char *command;
    unsigned seconds;
    uint64_t since;            /* ms, when it was begun */
    void (*leave)(Editor *ed); /* what follows once it is taken back; or NULL */
} OnTrial;

static const TaskKind trial_task, running_task;

static OpenFile *file_of(const Editor *ed)
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

/* For messages: "sshd_config", or "3 files". */
static const char *name_of(const Editor *ed, char words[WORDS_MAX])
{
    const OnTrial *o = ed->on_trial;
    const OpenFile *f = file_of(ed);
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

/* Without having kept it, whoever guards it stays. */
static void end_trial(Editor *ed)
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
    const char *name = name_of(ed, space), *was = o->n > 1 ? "were" : "was";
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
            name_of(ed, space));
        end_trial(ed);
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
        end_trial(ed);
        return;
    }
    o->saved = true;
    trial_saved(o->trial);
    show_time(ed);
    if (*o->command)
        o->task.kind = &running_task;
}

static void command_ended(Editor *ed, int status, const Bytes *output);

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
        if (fate == TRIAL_RUNS)
            command_ended(ed, status, &output);
    }
    bytes_free(&output);
    if (fate == TRIAL_RUNS) {
        show_time(ed);
        return;
    }
    tell(ed, fate, &words);
    end_trial(ed);
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

/* ---- the command by which it takes effect ---- */

typedef struct Output {
    char **lines;
    size_t n;
} Output;

static void free_output(void *ctx)
{
    Output *o = ctx;
    for (size_t i = 0; i < o->n; i++)
        free(o->lines[i]);
    free(o->lines);
    free(o);
}

static void fill_output(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)ed, (void)filter;
    const Output *o = ctx;
    for (size_t i = 0; i < o->n; i++)
        panel_add(p, (long)i, o->lines[i], NULL, NULL);
}

static void output_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)ed, (void)id, (void)typed, (void)ctx;
}

static const char *output_enter(long id)
{
    (void)id;
    return "Back";
}

static void add_lines(Output *o, const char *s)
{
    enum { LINES_MOST = 500 };
    while (*s && o->n < LINES_MOST) {
        size_t n = strcspn(s, "\n");
        o->lines = mem_grow(o->lines, (o->n + 1) * sizeof *o->lines);
        o->lines[o->n++] = mem_string_n(s, n < 1000 ? n : 1000);
        s += n + (s[n] == '\n');
    }
}

static void ask_about_it(Editor *ed, const char *what);
static void trial_batch_ran(Editor *ed, int status, const Bytes *output);

static void command_ended(Editor *ed, int status, const Bytes *output)
{
    const OnTrial *o = ed->on_trial;
    if (ed->session->rules.batch) {
        trial_batch_ran(ed, status, output);
        return;
    }
    if (status != 0) {
        char words[120];
        snprintf(words, sizeof words, "“%.60s” %s", o->command, status > 0 ? "failed" : "did not end");
        ask_about_it(ed, words);
    } else if (*o->command) {
        say(ed, "Done: %.60s. Does it work? %s keeps it", o->command, KEY_FOR(ed, "save-on-trial"));
    } else {
        say(ed, "Saved on trial. Does it work? %s keeps it", KEY_FOR(ed, "save-on-trial"));
    }
    Output *out = mem_get(sizeof *out);
    char *all = mem_string_n(bytes_str(output), output->len);
    add_lines(out, all);
    free(all);
    if (!out->n || ed->layer) {
        if (out->n && ed->layer)
            say(ed, "%s", out->lines[0]);
        free_output(out);
        return;
    }
    PanelSpec p = {.title = "What it said",
                   .fill = fill_output,
                   .chosen = output_chosen,
                   .enter = output_enter,
                   .ctx = out,
                   .free_ctx = free_output};
    panel_open(ed, &p);
}

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

static bool is_there(const OpenFile *f)
{
    return !filesystem_can(f->path, FILES_ARE_HERE);
}

static bool may_write(const OpenFile *f)
{
    return is_there(f) || disk_may_write(f->inside);
}

static bool root_can(const Editor *ed)
{
    char word[PRIVILEGED_WORD];
    return privileged_program(ed->config.settings.root_program, word) != NULL;
}

static const char *hindered(const Editor *ed, const OpenFile *f)
{
    if (!f->path)
        return "This text has no name yet; save it first";
    if (!filesystem_can(f->path, FILES_ARE_HERE) && !filesystem_of(f->path)->shell)
        return "It cannot be tried where it is";
    if (f->look_only)
        return "This text is open to look only";
    if (!openfile_changed(f))
        return "It has no changes; there is nothing to try";
    if (text_len(doc_text(f->doc)) > OLD_MOST)
        return "It is too large to be tried";
    if (!may_write(f) && (ed->session->rules.batch || !root_can(ed)))
        return "You have no permission to write it";
    if (ed->session->rules.plain && !ed->session->rules.batch)
        return "With --plain nothing is stored, so nobody could take it back";
    return NULL;
}

/* The first lines of a guard of another host take a while, and a person may stop waiting by leaving. */
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

static void begin(Editor *ed, const char *command)
{
    OnTrial *o = ed->on_trial;
    const OpenFile *f = file_of(ed);
    free(o->command);
    o->command = mem_string(command);
    o->there = is_there(f);
    o->since = system_now_ms();
    if (o->there && !begin_there(ed, f)) {
        end_trial(ed);
        return;
    }
    o->wanted = true;
    tasks_add(&ed->session->tasks, &o->task, &trial_task, ed);
    if (!o->there)
        begin_saves(ed);
}

/* Can it be tried together with others? */
static bool goes_along(const Editor *ed, const OpenFile *f)
{
    return !hindered(ed, f) && !is_there(f) && may_write(f);
}

static size_t count_along(const Editor *ed)
{
    size_t n = 0;
    for (size_t i = 0; i < ed->session->n_files; i++)
        n += goes_along(ed, ed->session->files[i]);
    return n;
}

static void take_all_along(Editor *ed)
{
    OnTrial *o = ed->on_trial;
    for (size_t i = 0; i < ed->session->n_files && o->n < TRIAL_FILES_MOST; i++) {
        const OpenFile *f = ed->session->files[i];
        if (goes_along(ed, f) && !tried(ed, f))
            o->files[o->n++] = (Tried){.file = f->id};
    }
}

static void agreed(Editor *ed, char letter, void *ctx)
{
    if (!letter || !file_of(ed) || ed->on_trial->trial)
        return;
    if (letter == 'e')
        take_all_along(ed);
    begin(ed, ctx);
}

static void ask_whether(Editor *ed, const char *command)
{
    const OnTrial *o = ed->on_trial;
    const OpenFile *f = file_of(ed);
    static char every[40]; /* the question shows it as long as it stands */
    size_t along = goes_along(ed, f) ? count_along(ed) : 0;
    QuestionSpec q = {.answers = {{'s', "Save on trial"}},
                      .yes = 's',
                      .stay = "Do not save",
                      .can_lose = true,
                      .done = agreed,
                      .ctx = mem_string(command),
                      .free_ctx = free};
    snprintf(every, sizeof every, "Every changed file (%zu)", along);
    if (along > 1)
        q.answers[1] = (AnswerLetter){'e', every};
    if (*command)
        question_ask(ed, &q, "Save %s, run “%.60s”, and take both back in %u s unless you keep it?",
                     openfile_name(f), command, o->seconds);
    else
        question_ask(ed, &q, "Save %s, and take it back in %u s unless you keep it?", openfile_name(f),
                     o->seconds);
}

static void command_given(Editor *ed, const char *command, void *ctx)
{
    (void)ctx;
    if (file_of(ed))
        ask_whether(ed, command);
}

/* Some kinds say it for people: "nginx -t, then systemctl reload nginx". */
static char *as_a_line(const char *words)
{
    Bytes b = {0};
    bytes_add_str(&b, "");
    for (const char *p = words; p && *p;) {
        const char *then = strstr(p, ", then ");
        bytes_printf(&b, "%.*s%s", then ? (int)(then - p) : (int)strlen(p), p, then ? " && " : "");
        p = then ? then + strlen(", then ") : NULL;
    }
    return b.at ? b.at : mem_string("");
}

static void ask_command(Editor *ed, const OpenFile *f)
{
    char *likely = as_a_line(f->kind->after_saving);
    PromptSpec p = {.label = "It takes effect by",
                    .initial = likely,
                    .history = "takes-effect",
                    .enter = "Go on",
                    .done = command_given};
    prompt_ask(ed, &p);
    free(likely);
}

/* ---- while it runs ---- */

static void decided(Editor *ed, char letter, void *ctx)
{
    (void)ctx;
    OnTrial *o = ed->on_trial;
    if (!o->trial || !o->saved)
        return;
    if (letter == 'k')
        trial_keep(o->trial);
    o->asked = o->asked || letter == 't';
    if (letter == 't') {
        trial_take_back(o->trial);
        say(ed, "Taking it back");
    }
}

static void ask_about_it(Editor *ed, const char *what)
{
    const OnTrial *o = ed->on_trial;
    char space[WORDS_MAX];
    QuestionSpec q = {.answers = {{'k', "Keep it"}, {'t', "Take it back now"}},
                      .yes = 'k',
                      .stay = "Wait",
                      .can_lose = true,
                      .done = decided};
    question_ask(ed, &q, "%s%s%s %s taken back in %u s.", what, *what ? ". " : "", name_of(ed, space),
                 o->n > 1 ? "are" : "is", (trial_left(o->trial) + 999) / 1000);
}

static void leave_decided(Editor *ed, char letter, void *ctx)
{
    void (**leave)(Editor *) = ctx;
    OnTrial *o = ed->on_trial;
    if (!o->trial || letter == 'l') {
        (*leave)(ed);
        return;
    }
    if (letter != 'k' && letter != 't')
        return;
    o->leave = *leave; /* as soon as the guard has done it */
    decided(ed, letter, NULL);
}

bool trial_save_asks(Editor *ed, void (*leave)(Editor *ed))
{
    const OnTrial *o = ed->on_trial;
    char space[WORDS_MAX];
    if (!o->trial || !o->saved || ed->session->rules.batch)
        return false;
    void (**then)(Editor *) = mem_get(sizeof *then);
    *then = leave;
    QuestionSpec q = {.answers = {{'k', "Keep it"}, {'t', "Take it back"}, {'l', "Leave it to its time"}},
                      .stay = "Stay",
                      .can_lose = true,
                      .done = leave_decided,
                      .ctx = then,
                      .free_ctx = free};
    question_ask(ed, &q, "%s %s on trial, and taken back in %u s.", name_of(ed, space),
                 o->n > 1 ? "are" : "is", (trial_left(o->trial) + 999) / 1000);
    return true;
}

/* ---- the rest ---- */

static void tell_result(const char *path, TrialFate fate, long long when, void *ctx)
{
    Editor *ed = ctx;
    char time[WORDS_MAX] = "";
    char *name = location_base(path);
    if (when)
        words_when(when, time);
    if (fate == TRIAL_TAKEN_BACK)
        warn(ed,
             "%s was taken back at %s, as nobody kept it. The version on trial is among its earlier saves",
             name, time);
    else if (fate == TRIAL_CHANGED)
        warn(ed, "%s was on trial, but not taken back: somebody else changed it", name);
    else if (fate == TRIAL_AWAY)
        warn(ed,
             "%s was on trial on another host when the editor ended: its guard there took it back, if it "
             "could. The version on trial is among its earlier saves",
             name);
    else
        warn(ed, "%s was on trial, and could not be taken back: look at it", name);
    free(name);
}

void trial_save_tell_results(Editor *ed)
{
    if (!ed->session->rules.plain && !ed->session->rules.batch)
        trial_each_result(tell_result, ed);
}

void trial_save_begin(Editor *ed)
{
    ed->on_trial = mem_get(sizeof *ed->on_trial);
    SessionEvents events = {.ctx = ed, .writing = writing, .saved = saved};
    session_observe(ed->session, &events);
}

void trial_save_free(Editor *ed)
{
    OnTrial *o = ed->on_trial;
    tasks_remove(&ed->session->tasks, &o->task);
    trial_free(o->trial); /* the guard stays */
    free(o->command);
    free(o);
}

/* ---- without a screen ---- */

/* Where a person may sit, though the command line's input and output lead elsewhere. */
static FILE *terminal;

static void trial_batch_ran(Editor *ed, int status, const Bytes *output)
{
    OnTrial *o = ed->on_trial;
    if (!terminal) { /* there is nobody to say that it works */
        trial_take_back(o->trial);
        return;
    }
    if (*o->command) {
        glyph_print(terminal, o->command, strlen(o->command));
        if (status < 0)
            fprintf(terminal, " did not end:\n");
        else
            fprintf(terminal, " ended with status %d:\n", status);
        glyph_print(terminal, bytes_str(output), output->len);
    }
    fprintf(terminal, "\nType y and Enter to keep it; it is taken back in %u s: ", o->seconds);
    fflush(terminal);
}

static void take_answer(Editor *ed)
{
    OnTrial *o = ed->on_trial;
    char line[80];
    ssize_t n = read(fileno(terminal), line, sizeof line - 1);
    if (n > 0 && (line[0] == 'y' || line[0] == 'Y')) {
        trial_keep(o->trial);
    } else {
        o->asked = true;
        trial_take_back(o->trial);
    }
}

/* Returns when it is kept or taken back. */
static void try_in_batch(Editor *ed, const char *command)
{
    enum { LOOK = 200 /* ms */ };
    const OnTrial *o = ed->on_trial;
    bool asked = false;
    terminal = fopen("/dev/tty", "r+e");
    if (terminal)
        flock(fileno(terminal), LOCK_EX); /* others that try a file at the same time ask after this one */
    begin(ed, command);
    while (o->n) {
        bool waits = o->saved && o->task.kind == &trial_task && terminal && !asked;
        struct pollfd fds[1 + TASK_FDS] = {{.fd = waits ? fileno(terminal) : -1, .events = POLLIN}};
        size_t n = 1 + (o->task.kind ? fds_of_trial(ed, fds + 1) : 0);
        poll(fds, n, LOOK);
        if ((fds[0].revents || stop_wanted(ed->stop)) && o->trial && !asked) {
            asked = true;
            if (fds[0].revents)
                take_answer(ed);
            else
                trial_take_back(o->trial);
        }
        session_pass(ed->session, 0);
    }
    if (terminal && !asked)
        fputc('\n', terminal);
    if (terminal)
        fclose(terminal);
    terminal = NULL;
}

static void run_trial(Editor *ed, const Args *args)
{
    OnTrial *o = ed->on_trial;
    OpenFile *f = ed->panes.view->file;
    if (o->trial && o->saved) {
        ask_about_it(ed, "");
        return;
    }
    const char *why = o->wanted ? "It is being saved" : hindered(ed, f);
    const char *line = args->text;
    char *end;
    unsigned long seconds = strtoul(line, &end, 10);
    bool given = end != line && (*end == ' ' || !*end);
    if (why) {
        decline(ed, "%s", why);
        return;
    }
    if (given && (seconds < 1 || seconds > SECONDS_MOST)) {
        warn(ed, "A trial takes from 1 to %d seconds", SECONDS_MOST);
        return;
    }
    *o = (OnTrial){.files = {{.file = f->id}},
                   .n = 1,
                   .seconds = given ? (unsigned)seconds : (unsigned)ed->config.settings.trial_seconds};
    line = given ? end : line;
    Bytes command = {0};
    const char *surplus = "";
    arguments_text(line + strspn(line, " "), &command, &surplus);
    if (*surplus)
        warn(ed, "After the command there is still “%.60s”", surplus);
    else if (ed->session->rules.dry_run)
        asking_begin(ed, PLAN_SAVE, f, NULL);
    else if (ed->session->rules.batch)
        try_in_batch(ed, bytes_str(&command));
    else if (command.len)
        ask_whether(ed, command.at);
    else
        ask_command(ed, f);
    bytes_free(&command);
}

static const Command cmd_save_on_trial = {
    .name = "save-on-trial",
    .label = "Save on trial…",
    .letter = 'w',
    .help = "Save, make it take effect, and take both back unless you keep it in time",
    .words = "try safe lock out revert confirm",
    .more = "For what can lock you out, such as sshd_config or a firewall. It asks for the command by which "
            "the file "
            "takes effect, saves, runs it, and counts down. The same key again keeps it, or takes it back at "
            "once. "
            "If nobody keeps it, a guard puts the old version back and runs the command again, also when the "
            "editor, its terminal or the connection is gone. The time is the setting trial_seconds, or given "
            "before the command.",
    .args = "SECONDS COMMAND",
    .hint = "Keep or take back",
    .flags = CMD_FILE,
    .run = run_trial,
};

const Command *const trial_commands[] = {&cmd_save_on_trial, NULL};
