#include "commands/file/trial_save.h"

#include "base/arguments.h"
#include "base/glyph.h"
#include "base/mem.h"
#include "commands/asking.h"
#include "commands/file/on_trial.h"
#include "files/location.h"
#include "files/privileged.h"
#include "session/session_memory.h"
#include "session/session_run.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "ui/prompt.h"
#include "ui/question.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <unistd.h>

enum { SECONDS_MOST = 3600, OLD_MOST = 64 << 20 /* bytes of a file on trial */ };

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
/* ---- whether ---- */

static bool may_write(const OpenFile *f)
{
    return on_trial_is_there(f) || disk_may_write(f->inside);
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

/* The first lines of a guard of another host take a while, and a person may stop waiting by leaving. */ /* Can
                                                                                                            it
                                                                                                            be
                                                                                                            tried
                                                                                                            together
                                                                                                            with
                                                                                                            others?
                                                                                                          */
static bool goes_along(const Editor *ed, const OpenFile *f)
{
    return !hindered(ed, f) && !on_trial_is_there(f) && may_write(f);
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
        if (goes_along(ed, f) && !on_trial_has(ed, f))
            o->files[o->n++] = (Tried){.file = f->id};
    }
}

/* What this very file took effect by the last time is remembered as an answer of its own. */
static void name_memory(const OpenFile *f, Bytes *out)
{
    bytes_printf(out, "takes-effect %s", f->path);
}

static void remember_command(Editor *ed, const OpenFile *f, const char *command)
{
    Store *s = session_store(ed->session);
    Bytes name = {0};
    name_memory(f, &name);
    if (s)
        store_add(s, name.at, command);
    bytes_free(&name);
}

static void begin(Editor *ed, const char *command)
{
    remember_command(ed, on_trial_file(ed), command);
    ed->on_trial->ran = command_ended;
    on_trial_begin(ed, command);
}

static void agreed(Editor *ed, char letter, void *ctx)
{
    if (!letter || !on_trial_file(ed) || ed->on_trial->trial)
        return;
    if (letter == 'e')
        take_all_along(ed);
    begin(ed, ctx);
}

static void ask_whether(Editor *ed, const char *command)
{
    const OnTrial *o = ed->on_trial;
    const OpenFile *f = on_trial_file(ed);
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
    if (on_trial_file(ed))
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

static void take_command(const char *answer, void *ctx)
{
    char **likely = ctx;
    free(*likely);
    *likely = mem_string(answer);
}

static void ask_command(Editor *ed, const OpenFile *f)
{
    char *likely = as_a_line(f->kind->after_saving);
    Store *s = session_store(ed->session);
    Bytes name = {0};
    name_memory(f, &name);
    if (s)
        store_each(s, name.at, 1, take_command, &likely);
    bytes_free(&name);
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
    question_ask(ed, &q, "%s%s%s %s taken back in %u s.", what, *what ? ". " : "", on_trial_name(ed, space),
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
    question_ask(ed, &q, "%s %s on trial, and taken back in %u s.", on_trial_name(ed, space),
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
    on_trial_observe(ed);
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
        bool waits = o->saved && !o->runs && terminal && !asked;
        struct pollfd fds[2] = {{.fd = waits ? fileno(terminal) : -1, .events = POLLIN}};
        if (o->trial)
            fds[1] = (struct pollfd){.fd = trial_fd(o->trial), .events = POLLIN};
        poll(fds, o->trial ? 2 : 1, LOOK);
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
