#include "commands/edit/putting.h"

#include "base/arguments.h"
#include "commands/edits.h"
#include "edit/move.h"
#include "ui/command.h"
#include "ui/prompt.h"

typedef void (*PutText)(Editor *ed, const char *bytes, size_t n);

/* Line ends among what was given become those of the file. */
static void put(Editor *ed, const char *given, PutText how)
{
    const char *surplus;
    Bytes text = {0};
    arguments_text(given, &text, &surplus);
    if (*surplus)
        warn(ed, "“%s” stands after the text; put all of it in quotation marks", surplus);
    else if (text.len && edit_allowed(ed))
        how(ed, text.at, text.len);
    bytes_free(&text);
}

static void insert(Editor *ed, const char *bytes, size_t n)
{
    view_drop_mark(ed->panes.view);
    edit_paste(ed, bytes, n, false);
}

/* As from the keyboard: a mark gives way, new lines are indented. */
static void type(Editor *ed, const char *bytes, size_t n)
{
    const Command *line = command_named(ed, "new-line");
    doc_begin(ed->panes.view->file->doc);
    for (size_t i = 0; i < n;) {
        size_t k = i;
        while (k < n && bytes[k] != '\n')
            k++;
        if (k > i)
            edit_type(ed, bytes + i, k - i);
        if (k < n)
            command_run(ed, line, 1, false, "");
        i = k + 1;
    }
    doc_end(ed->panes.view->file->doc);
}

static void append(Editor *ed, const char *bytes, size_t n)
{
    View *v = ed->panes.view;
    Bytes line = {0};
    view_drop_mark(v);
    view_go(v, move_line_end(view_text(v), v->cursor.at));
    bytes_add_str(&line, "\n");
    bytes_add(&line, bytes, n);
    edit_paste(ed, line.at, line.len, false);
    bytes_free(&line);
}

static void inserted(Editor *ed, const char *answer, void *ctx)
{
    (void)ctx;
    put(ed, answer, insert);
}

static void typed(Editor *ed, const char *answer, void *ctx)
{
    (void)ctx;
    put(ed, answer, type);
}

static void appended(Editor *ed, const char *answer, void *ctx)
{
    (void)ctx;
    put(ed, answer, append);
}

/* What was given after the name, or what is asked for. */
static void give(Editor *ed, const Args *args, const char *label,
                 void (*done)(Editor *, const char *, void *))
{
    PromptSpec p = {.label = label, .history = "insert", .done = done};
    if (*args->text)
        done(ed, args->text, NULL);
    else
        prompt_ask(ed, &p);
}

static void run_insert(Editor *ed, const Args *args)
{
    give(ed, args, "Insert text", inserted);
}

#define TEXT_HELP                                                                                                \
    "Within \"…\" \\n is a line's end, \\t a tab, \\\" a quotation mark; within '…' everything is literal, " \
    "and so it is without any."

static const Command cmd_insert = {
    .name = "insert",
    .label = "Insert text…",
    .letter = 'i',
    .help = "Put text in at the cursor as it is",
    .words = "put add",
    .more = TEXT_HELP,
    .args = "TEXT",
    .flags = CMD_CHANGES | CMD_ALL,
    .run = run_insert,
};

static void run_type(Editor *ed, const Args *args)
{
    give(ed, args, "Type text", typed);
}

static const Command cmd_type = {
    .name = "type",
    .label = "Type text…",
    .letter = 't',
    .help = "Put text in as from the keyboard: it replaces a mark, and new lines are indented",
    .more = TEXT_HELP,
    .args = "TEXT",
    .flags = CMD_CHANGES | CMD_ALL,
    .run = run_type,
};

static void run_append_line(Editor *ed, const Args *args)
{
    give(ed, args, "New line below", appended);
}

static const Command cmd_append_line = {
    .name = "append-line",
    .label = "New line below…",
    .letter = 'p',
    .help = "Put a line of that text below the cursor's",
    .words = "add insert",
    .more = TEXT_HELP,
    .args = "TEXT",
    .flags = CMD_CHANGES,
    .run = run_append_line,
};

const Command *const putting_commands[] = {
    &cmd_insert,
    &cmd_type,
    &cmd_append_line,
    NULL,
};
