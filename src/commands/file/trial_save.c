#include "commands/file/trial_save.h"

#include "base/arguments.h"
#include "base/mem.h"
#include "base/words.h"
#include "commands/asking.h"
#include "files/location.h"
#include "kept/trial.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "ui/program.h"
#include "ui/prompt.h"
#include "ui/question.h"
#include "view/shown.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

enum { SECONDS_MOST = 3600, OLD_MOST = 64 << 20 /* bytes of a file on trial */ };

typedef struct OnTrial {
    Task task;
    Trial *trial; /* NULL: none is under way */
    bool wanted;  /* the next save of `file` is to be on trial */
    bool saved;   /* it was, and the time runs */
    bool asked;   /* the person had it taken back */
    FileId file;
    size_t before; /* the state of the document that was saved before */
    DiskState disk;
    char *command;
    unsigned seconds;
    void (*leave)(Editor *ed); /* what follows once it is taken back; or NULL */
} OnTrial;

static OpenFile *file_of(const Editor *ed)
{
    return session_file(ed->session, ed->on_trial->file);
}

static void end_trial(Editor *ed)
{
    OnTrial *o = ed->on_trial;
    OpenFile *f = file_of(ed);
    tasks_remove(&ed->session->tasks, &o->task);
    trial_free(o->trial);
    free(o->command);
    if (f && f->shown)
        f->shown->on_trial[0] = 0;
    void (*leave)(Editor *) = o->leave;
    *o = (OnTrial){0};
    if (leave)
        leave(ed);
}

/* ---- what came of it ---- */

/* The old version is on the disk again: what is on the screen is not saved any more. */
static void take_back_here(Editor *ed, OpenFile *f)
{
    const OnTrial *o = ed->on_trial;
    if (o->before < doc_states(f->doc))
        doc_mark_state_saved(f->doc, o->before);
    f->disk = disk_look(f->inside);
    f->news = DISK_SAME;
}

static void tell(Editor *ed, TrialFate fate, const Err *words)
{
    const OnTrial *o = ed->on_trial;
    OpenFile *f = file_of(ed);
    const char *name = f ? openfile_name(f) : "The file";
    char now[WORDS_MAX];
    words_when((long long)time(NULL), now);
    if (fate == TRIAL_KEPT)
        say(ed, "%s is kept", name);
    else if (fate == TRIAL_TAKEN_BACK && words->text[0])
        warn(ed, "%s was taken back at %s, but %s", name, now, words->text);
    else if (fate == TRIAL_TAKEN_BACK)
        warn(ed, "%s was taken back at %s%s. Your version is here, not saved", name, now,
             o->asked ? "" : ", as nobody kept it");
    else if (fate == TRIAL_CHANGED)
        warn(ed, "%s was not taken back: somebody else changed it meanwhile", name);
    else if (fate == TRIAL_FAILED)
        warn(ed, "%s could not be taken back: %s", name, words->text);
    else if (fate == TRIAL_LOST)
        warn(ed, "The guard of the trial is gone: %s stays as it is now", name);
    if (f && fate == TRIAL_TAKEN_BACK)
        take_back_here(ed, f);
}

/* "0:43" beside the file's name. */
static void show_time(Editor *ed)
{
    OpenFile *f = file_of(ed);
    unsigned left = (trial_left(ed->on_trial->trial) + 999) / 1000;
    if (f && f->shown)
        snprintf(f->shown->on_trial, sizeof f->shown->on_trial, "on trial %u:%02u", left / 60, left % 60);
}

static bool is_saving(const Editor *ed)
{
    const Session *s = ed->session;
    const OpenFile *f = file_of(ed);
    for (size_t i = 0; i < s->n_plans; i++)
        if (s->plans[i]->file == ed->on_trial->file && s->plans[i]->kind == PLAN_SAVE)
            return true;
    return f && f->writing;
}

static void poll_trial(void *ctx)
{
    Editor *ed = ctx;
    OnTrial *o = ed->on_trial;
    Err words;
    if (o->wanted && !o->saved && !is_saving(ed)) { /* it was not saved, for a reason that was said */
        if (o->trial)
            trial_keep(o->trial);
        end_trial(ed);
        return;
    }
    if (!o->trial || !o->saved)
        return;
    TrialFate fate = trial_look(o->trial, &words);
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

static const TaskKind trial_task = {.poll = poll_trial, .wait = wait_trial, .fds = fds_of_trial};

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

static void command_ended(Editor *ed, Job *job, JobEnd how, void *ctx)
{
    (void)ctx;
    const OnTrial *o = ed->on_trial;
    if (!o->trial || !o->saved)
        return;
    if (how != JOB_ENDED || job->status != 0) {
        char words[120];
        snprintf(words, sizeof words, "“%.60s” %s", o->command, how == JOB_ENDED ? "failed" : "did not end");
        ask_about_it(ed, words);
    } else {
        say(ed, "Done: %.60s. Does it work? %s keeps it", o->command, KEY_FOR(ed, "save-on-trial"));
    }
    Output *out = mem_get(sizeof *out);
    add_lines(out, bytes_str(&job->said));
    add_lines(out, bytes_str(&job->output));
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

static void run_command(Editor *ed)
{
    const OnTrial *o = ed->on_trial;
    char *const words[] = {(char *)"/bin/sh", (char *)"-c", o->command, NULL};
    JobSpec spec = {.words = words, .folder = "/"};
    Job job = {0};
    Err e = {""};
    if (!*o->command) {
        say(ed, "Saved on trial. Does it work? %s keeps it", KEY_FOR(ed, "save-on-trial"));
        return;
    }
    if (!job_start_program(&job, &spec, &e)) {
        warn(ed, "%s", e.text);
        return;
    }
    program_wait_for(
        ed, job,
        &(ProgramSpec){.name = o->command, .what = "command", .help = "trials", .ended = command_ended});
}

/* ---- the save ---- */

/* Just before it is written: the guard must be there first. */
static bool writing(void *ctx, OpenFile *f)
{
    Editor *ed = ctx;
    OnTrial *o = ed->on_trial;
    if (o->file != f->id || (!o->wanted && !o->trial))
        return true;
    if (o->saved) {
        warn(ed, "%s is on trial: keep it or have it taken back first, by %s", openfile_name(f),
             KEY_FOR(ed, "save-on-trial"));
        return false;
    }
    Text old = {0}, fresh = {0};
    size_t at;
    Err e = {""};
    bool ok = load_file(f->inside, &old, &o->disk, &e) &&
              encoding_write(doc_text(f->doc), &f->encoding, &fresh, &at, &e);
    TrialWish w = {.path = f->inside,
                   .old = old,
                   .existed = o->disk.exists,
                   .fresh = fresh,
                   .command = o->command,
                   .seconds = o->seconds};
    for (size_t i = 0; i < doc_states(f->doc); i++)
        o->before = doc_state(f->doc, i).saved ? i : o->before;
    if (ok && !o->trial)
        o->trial = trial_begin(&w, &e);
    text_drop(&old);
    text_drop(&fresh);
    if (!o->trial)
        warn(ed, "%s was not saved: %s", openfile_name(f), e.text);
    return o->trial != NULL;
}

static void saved(void *ctx, OpenFile *f)
{
    Editor *ed = ctx;
    OnTrial *o = ed->on_trial;
    if (o->file != f->id || !o->wanted || !o->trial || o->saved)
        return;
    o->saved = true;
    trial_saved(o->trial);
    show_time(ed);
    run_command(ed);
}

static const char *hindered(const Editor *ed, const OpenFile *f)
{
    if (!f->path)
        return "This text has no name yet; save it first";
    if (!filesystem_can(f->path, FILES_ARE_HERE))
        return "Only files of this machine can be saved on trial";
    if (f->look_only)
        return "This text is open to look only";
    if (!openfile_changed(f))
        return "It has no changes; there is nothing to try";
    if (text_len(doc_text(f->doc)) > OLD_MOST)
        return "It is too large to be tried";
    if (!disk_may_write(f->inside))
        return "You have no permission to write it: begin the editor as root to try it";
    if (ed->session->rules.plain)
        return "With --plain nothing is stored, so nobody could take it back";
    return NULL;
}

static void begin(Editor *ed, const char *command)
{
    OnTrial *o = ed->on_trial;
    OpenFile *f = file_of(ed);
    free(o->command);
    o->command = mem_string(command);
    o->wanted = true;
    tasks_add(&ed->session->tasks, &o->task, &trial_task, ed);
    asking_begin(ed, PLAN_SAVE, f, NULL);
}

static void agreed(Editor *ed, char letter, void *ctx)
{
    if (letter == 's' && file_of(ed) && !ed->on_trial->trial)
        begin(ed, ctx);
}

static void ask_whether(Editor *ed, const char *command)
{
    const OnTrial *o = ed->on_trial;
    const OpenFile *f = file_of(ed);
    QuestionSpec q = {.answers = {{'s', "Save on trial"}},
                      .yes = 's',
                      .stay = "Do not save",
                      .can_lose = true,
                      .done = agreed,
                      .ctx = mem_string(command),
                      .free_ctx = free};
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
    const OpenFile *f = file_of(ed);
    QuestionSpec q = {.answers = {{'k', "Keep it"}, {'t', "Take it back now"}},
                      .yes = 'k',
                      .stay = "Wait",
                      .can_lose = true,
                      .done = decided};
    question_ask(ed, &q, "%s%s%s is taken back in %u s.", what, *what ? ". " : "",
                 f ? openfile_name(f) : "The file", (trial_left(o->trial) + 999) / 1000);
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
    const OpenFile *f = file_of(ed);
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
    question_ask(ed, &q, "%s is on trial, and taken back in %u s.", f ? openfile_name(f) : "A file",
                 (trial_left(o->trial) + 999) / 1000);
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

static void run_trial(Editor *ed, const Args *args)
{
    OnTrial *o = ed->on_trial;
    OpenFile *f = ed->panes.view->file;
    if (o->trial && o->saved) {
        ask_about_it(ed, "");
        return;
    }
    const char *why = o->wanted ? "It is being saved" : hindered(ed, f);
    if (ed->session->rules.batch) {
        warn(ed, "save-on-trial needs somebody who keeps it; it has no use without a screen");
        return;
    }
    if (why) {
        decline(ed, "%s", why);
        return;
    }
    const char *line = args->text;
    char *end;
    unsigned long seconds = strtoul(line, &end, 10);
    bool given = end != line && (*end == ' ' || !*end);
    if (given && (seconds < 1 || seconds > SECONDS_MOST)) {
        warn(ed, "A trial takes from 1 to %d seconds", SECONDS_MOST);
        return;
    }
    *o = (OnTrial){.file = f->id,
                   .seconds = given ? (unsigned)seconds : (unsigned)ed->config.settings.trial_seconds};
    line = given ? end : line;
    line += strspn(line, " ");
    if (*line)
        ask_whether(ed, line);
    else
        ask_command(ed, f);
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
