#include "commands/tools/run.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/differences.h"
#include "commands/edits.h"
#include "edit/diff.h"
#include "files/text_format.h"
#include "text/text_line.h"
#include "ui/program.h"
#include "ui/prompt.h"
#include "ui/question.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    SHOWN_FROM = 100,  /* changed lines from which a result is shown first */
    COMMAND_SHOWN = 40 /* bytes of the command in messages */
};

typedef struct Run {
    Job job; /* that has ended */
    char *command;
    bool filter;
    size_t from, to; /* what its result replaces */
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

static void free_run(void *ctx)
{
    Run *r = ctx;
    job_free(&r->job);
    free(r->command);
    free(r);
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

/* A run that waits for an answer. */
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
        .free_ctx = free_run,
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
        .free_ctx = free_run,
    };
    if (r->job.output.len) {
        question_ask(ed, &q, "%s", words.at);
    } else {
        warn(ed, "%s", words.at);
        free_run(r);
    }
    bytes_free(&words);
}

/* The command has ended; takes over `r`. */
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
        free_run(r);
}

/* ---- running it ---- */

static void ended(Editor *ed, Job *job, JobEnd how, void *ctx)
{
    Run *r = ctx;
    r->job = job_take(job);
    if (how == JOB_ENDED) {
        finish(ed, r);
        return;
    }
    if (how == JOB_STOPPED && ed->session->rules.batch)
        warn(ed, "“%s” was stopped%s; nothing was changed", SHORT(r), left_running(r));
    else if (how == JOB_STOPPED)
        say(ed, "“%s” was stopped%s; nothing was changed", SHORT(r), left_running(r));
    free_run(r);
}

static void dropped(Editor *ed, void *ctx)
{
    (void)ed;
    free_run(ctx);
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
    r->filter = filter;
    r->from = r->to = v->cursor.at;
    if (filter && !view_marked(v, &r->from, &r->to)) {
        r->from = 0;
        r->to = text_len(view_text(v));
    }
    Job job = {0};
    bool ok = text_slice(view_text(v), r->from, r->to - r->from, &input) &&
              job_start(&job, command, input, v->file->path, &e);
    text_drop(&input);
    if (!ok) {
        warn(ed, "%s", e.text[0] ? e.text : "There is not enough memory for that");
        free(r);
        return;
    }
    r->command = mem_string(command);
    ProgramSpec spec = {.name = SHORT(r),
                        .what = "command",
                        .help = "commands-run",
                        .ended = ended,
                        .dropped = dropped,
                        .ctx = r};
    program_wait_for(ed, job, &spec);
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
