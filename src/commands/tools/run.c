#include "commands/tools/run.h"

#include "base/mem.h"
#include "base/sys.h"
#include "base/words.h"
#include "commands/differences.h"
#include "commands/edits.h"
#include "edit/diff.h"
#include "files/job.h"
#include "files/text_format.h"
#include "text/text_line.h"
#include "ui/prompt.h"
#include "ui/question.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    LOOK = 250,        /* ms between looks at the clock */
    SHOWN_FROM = 100,  /* changed lines from which a result is shown first */
    COMMAND_SHOWN = 40 /* bytes of the command in messages */
};

typedef struct Run {
    Layer layer;
    Task task;
    Editor *ed;
    Job job;
    char *command;
    bool filter;
    size_t from, to; /* what its result replaces */
    uint64_t since;  /* ms */
    bool alone;      /* without a screen, so it is no layer */
} Run;

/* The command as it stands in messages. */
static const char *short_command(const Run *r, char words[COMMAND_SHOWN + 8])
{
    size_t n = strcspn(r->command, "\n");
    bool cut = n > COMMAND_SHOWN || r->command[n];
    n = n > COMMAND_SHOWN ? COMMAND_SHOWN : n;
    while (cut && n && ((unsigned char)r->command[n] & 0xc0) == 0x80)
        n--;
    snprintf(words, COMMAND_SHOWN + 8, "%.*s%s", (int)n, r->command, cut ? "…" : "");
    return words;
}

#define SHORT(r) short_command(r, (char[COMMAND_SHOWN + 8]){0})

static void free_run(Editor *ed, Layer *l)
{
    Run *r = (Run *)l;
    tasks_remove(&ed->session->tasks, &r->task);
    job_free(&r->job);
    free(r->command);
}

/* What a command began in a session of its own goes on when it is stopped; its pipes tell. */
static const char *left_running(const Run *r)
{
    return job_leaves(&r->job) ? ", but something it began goes on" : "";
}

/* ---- what it gave ---- */

/* How it ended, with the first line of what it said. */
static void end_words(const Run *r, Bytes *out)
{
    size_t n = strcspn(bytes_str(&r->job.said), "\n");
    bytes_printf(out, "“%s” ended with status %d", SHORT(r), r->job.status);
    if (n)
        bytes_printf(out, ": %.*s", (int)(n < 120 ? n : 120), r->job.said.at);
}

static void put_result(Editor *ed, const Run *r, Text result)
{
    View *v = ed->panes.view;
    size_t n = text_len(result), lines = text_line_count(result);
    doc_seal(v->file->doc);
    doc_set_verb(v->file->doc, r->filter ? "Filter" : "Run a command");
    bool ok =
        edit_allowed(ed) && doc_replace_text(v->file->doc, r->from, r->to - r->from, result, v->cursor.at);
    doc_set_verb(v->file->doc, NULL);
    doc_seal(v->file->doc);
    if (!ok)
        return;
    view_drop_mark(v);
    view_go(v, r->filter ? r->from : r->from + n);
    say(ed, r->filter ? "“%s” made it %s; undo takes it back" : "“%s” gave %s", SHORT(r),
        AMOUNT(lines, "line"));
}

/* A run that waits for an answer; the layer is gone by then. */
static void take_answered(Editor *ed, char letter, void *ctx)
{
    Run *r = ctx;
    Text result = {0};
    if ((letter == 'r' || letter == 'i') && text_insert(&result, 0, r->job.output.at, r->job.output.len))
        put_result(ed, r, result);
    else
        say(ed, "Nothing was changed");
    text_drop(&result);
}

/* The same for one that is no layer any more. */
static void free_waiting(void *ctx)
{
    Run *r = ctx;
    free_run(r->ed, &r->layer);
    free(r);
}

static void show_result(Editor *ed, Run *r, Text old, Text result, bool failed)
{
    Bytes words = {0};
    if (failed)
        end_words(r, &words);
    else
        bytes_printf(&words, "through “%s”", SHORT(r));
    DifferenceSpec s = {
        .old = old,
        .fresh = result,
        .old_name = "as it is",
        .fresh_name = words.at,
        .answers = {{'r', "Replace the text by this"}},
        .done = take_answered,
        .ctx = r,
        .free_ctx = free_waiting,
    };
    differences_show(ed, &s);
    if (failed)
        warn(ed, "%s", words.at);
    bytes_free(&words);
}

static void ask_failed(Editor *ed, Run *r)
{
    Bytes words = {0};
    end_words(r, &words);
    QuestionSpec q = {
        .answers = {{r->job.output.len ? 'i' : 0, "Insert its output"}},
        .stay = "Nothing",
        .done = take_answered,
        .ctx = r,
        .free_ctx = free_waiting,
    };
    if (r->job.output.len) {
        question_ask(ed, &q, "%s", words.at);
    } else {
        warn(ed, "%s", words.at);
        free_waiting(r);
    }
    bytes_free(&words);
}

/* The command has ended; takes over `r`, which is no layer any more. */
static void finish(Editor *ed, Run *r)
{
    bool failed = r->job.status != 0;
    Text old = {0}, result = {0};
    if (r->job.too_much) {
        warn(ed, "“%s” gave more than %d MB and was stopped; nothing was changed", SHORT(r),
             JOB_OUTPUT_MOST / 1000000);
    } else if (ed->session->rules.batch && failed) {
        Bytes words = {0};
        end_words(r, &words);
        warn(ed, "%s", words.at);
        bytes_free(&words);
    } else if (!r->filter && failed) {
        ask_failed(ed, r);
        return;
    } else if (!r->filter && r->job.output.len == 0) {
        say(ed, "“%s” gave nothing", SHORT(r));
    } else if (!text_insert(&result, 0, r->job.output.at, r->job.output.len) ||
               !text_slice(view_text(ed->panes.view), r->from, r->to - r->from, &old)) {
        warn(ed, "There is not enough memory for that; nothing was changed");
    } else if (r->filter && !ed->session->rules.batch &&
               (failed || !text_len(result) || diff_lines_changed(old, result) > SHOWN_FROM)) {
        show_result(ed, r, old, result, failed);
        r = NULL;
    } else {
        put_result(ed, r, result);
    }
    text_drop(&old);
    text_drop(&result);
    if (r)
        free_waiting(r);
}

/* ---- while it runs ---- */

static bool key(Editor *ed, Layer *l, const Input *in)
{
    (void)l, (void)in;
    say(ed, "The command is still running; Esc stops it");
    return true;
}

static void paste(Editor *ed, Layer *l, const char *bytes, size_t n)
{
    (void)l, (void)bytes, (void)n;
    say(ed, "The command is still running; Esc stops it");
}

static void paint(Editor *ed, Layer *l, Frame *f)
{
    const Run *r = (const Run *)l;
    char size[WORDS_MAX];
    Bytes words = {0};
    words_size(r->job.output.len, size);
    bytes_printf(&words, "Running “%s”: %llu s, %s", SHORT(r),
                 (unsigned long long)(sys_now_ms() - r->since) / 1000, size);
    if (!ed->notices.text[0]) {
        frame_blank(f, f->status_row, 0, f->cols, ST_STATUS);
        frame_text(f, f->status_row, 1, f->cols, ST_MESSAGE, words.at);
    }
    bytes_free(&words);
}

static size_t hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed, (void)l;
    out[0] = (Hint){"Esc", "Stop the command", true};
    return 1;
}

static void cancel(Editor *ed, Layer *l)
{
    Run *r = (Run *)l;
    job_stop(&r->job);
    say(ed, "“%s” was stopped%s; nothing was changed", SHORT(r), left_running(r));
}

static const LayerKind kind = {
    .help = "commands-run",
    .works = true,
    .key = key,
    .paste = paste,
    .paint = paint,
    .hints = hints,
    .cancel = cancel,
    .free = free_run,
};

/* Something lies over it, such as help: then its result waits. */
static bool is_covered(const Run *r)
{
    return !r->alone && r->ed->layer != &r->layer;
}

/* Takes it off the screen; it lives on until its result is dealt with. */
static void take_off(Run *r)
{
    tasks_remove(&r->ed->session->tasks, &r->task);
    if (!r->alone)
        layers_take(r->ed, &r->layer);
}

/* False once it has ended: then it is no more. */
static bool go_on(Run *r)
{
    Editor *ed = r->ed;
    int seconds = ed->config.settings.command_seconds;
    if (is_covered(r))
        return true;
    if (job_poll(&r->job)) {
        take_off(r);
        finish(ed, r);
        return false;
    }
    if (sys_now_ms() - r->since > 1000 * (uint64_t)seconds) {
        job_stop(&r->job);
        warn(ed, "“%s” took more than %d s (setting command_seconds) and was stopped%s; nothing was changed",
             SHORT(r), seconds, left_running(r));
        take_off(r);
        free_waiting(r);
        return false;
    }
    return true;
}

static void poll_run(void *ctx)
{
    go_on(ctx);
}

static int wait_run(const void *ctx)
{
    (void)ctx;
    return LOOK;
}

static size_t fds_of_run(const void *ctx, struct pollfd *out)
{
    const Run *r = ctx;
    return is_covered(r) ? 0 : job_fds(&r->job, out);
}

static const TaskKind run_task = {.poll = poll_run, .wait = wait_run, .fds = fds_of_run};

/* Without a screen nothing else goes on meanwhile. */
static void wait_for(Editor *ed, Run *r)
{
    struct pollfd fds[JOB_FDS];
    r->alone = true;
    do {
        poll(fds, job_fds(&r->job, fds), LOOK);
        if (stop_wanted(ed->stop)) {
            job_stop(&r->job);
            warn(ed, "“%s” was stopped%s; nothing was changed", SHORT(r), left_running(r));
            free_waiting(r);
            return;
        }
    } while (go_on(r));
}

static void start(Editor *ed, const char *command, bool filter)
{
    Err e = {""};
    View *v = ed->panes.view;
    Text input = {0};
    if (ed->session->rules.dry_run) {
        warn(ed, "“%s” was not run, as a dry run changes nothing", command);
        return;
    }
    Run *r = mem_get(sizeof *r);
    r->layer.kind = &kind;
    r->ed = ed;
    r->filter = filter;
    r->from = r->to = v->cursor.at;
    if (filter && !view_marked(v, &r->from, &r->to)) {
        r->from = 0;
        r->to = text_len(view_text(v));
    }
    bool ok = text_slice(view_text(v), r->from, r->to - r->from, &input) &&
              job_start(&r->job, command, input, v->file->path, &e);
    text_drop(&input);
    if (!ok) {
        warn(ed, "%s", e.text[0] ? e.text : "There is not enough memory for that");
        free(r);
        return;
    }
    r->command = mem_string(command);
    r->since = sys_now_ms();
    if (ed->session->rules.batch) {
        wait_for(ed, r);
        return;
    }
    layers_push(ed, &r->layer);
    tasks_add(&ed->session->tasks, &r->task, &run_task, r);
}

/* ---- asking ---- */

static void command_given(Editor *ed, const char *answer, void *ctx)
{
    const bool *filter = ctx;
    if (*answer)
        start(ed, answer, *filter);
    else
        say(ed, "Without a command nothing was run");
}

/* Files, for the last word. */
static void offer_word(const char *before, Offers *out)
{
    size_t from = strlen(before);
    while (from && before[from - 1] != ' ')
        from--;
    offers_add_files(out, before + from);
    out->from = from;
}

static void ask(Editor *ed, bool filter, const char *command)
{
    static const bool choices[] = {false, true};
    if (*command) {
        start(ed, command, filter);
        return;
    }
    size_t from, to;
    PromptSpec p = {
        .label = !filter                                   ? "Run"
                 : view_marked(ed->panes.view, &from, &to) ? "The mark through"
                                                           : "The whole text through",
        .history = filter ? "filters" : "shell commands",
        .offer = offer_word,
        .done = command_given,
        .ctx = (void *)&choices[filter],
    };
    prompt_ask(ed, &p);
}

static void run_run_command(Editor *ed, const Args *args)
{
    ask(ed, false, args->text);
}

static const Command cmd_run_command = {
    .name = "run-command",
    .label = "Run a command…",
    .letter = 'r',
    .help = "Run a command of the shell and put what it prints at the cursor",
    .words = "shell execute output",
    .more = "It runs by your own shell, with the path of this text in SQUILL_FILE. Esc stops it.",
    .args = "COMMAND",
    .flags = CMD_CHANGES,
    .run = run_run_command,
};

static void run_filter(Editor *ed, const Args *args)
{
    ask(ed, true, args->text);
}

static const Command cmd_filter = {
    .name = "filter",
    .label = "Send through…",
    .letter = 'x',
    .help = "Send the mark, or the whole text, through a command and take the result in its place",
    .words = "pipe shell",
    .more = "When the command fails or changes much, the difference is shown first. Esc stops it.",
    .args = "COMMAND",
    .flags = CMD_CHANGES,
    .run = run_filter,
};

const Command *const run_commands[] = {
    &cmd_run_command,
    &cmd_filter,
    NULL,
};
