#include "commands/putting.h"

#include "base/arguments.h"
#include "base/words.h"
#include "commands/clips.h"
#include "commands/edits.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/prompt.h"

#include <stdlib.h>
#include <string.h>

typedef void (*PutText)(Editor *ed, const char *bytes, size_t n);

/* Line ends among what was given become those of the file. */
static void put(Editor *ed, const char *given, PutText how)
{
    const char *surplus;
    Bytes text = {0};
    arguments_text(given, &text, &surplus);
    if (*surplus)
        warn(ed, "“%s” stands behind the text; put all of it in quotation marks", surplus);
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
            line->run(ed, &(Args){.count = 1, .text = ""});
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
    .flags = CMD_CHANGES,
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
    .flags = CMD_CHANGES,
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

static void run_delete_lines(Editor *ed, const Args *args)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t from = v->cursor.at, to = from;
    char *end = NULL;
    unsigned long count = *args->text ? strtoul(args->text, &end, 10) : args->count;
    if (count < 1 || (end && *end)) {
        warn(ed, "How many lines is a number from 1, not “%s”", args->text);
        return;
    }
    bool marked = view_marked(v, &from, &to);
    size_t first = text_line_of(t, from), last = text_line_of(t, to), lines = text_line_count(t);
    if (marked && to > from && text_line_start(t, last) == to)
        last--; /* a mark that ends at a line's start does not mean that line */
    last = marked ? last : count > lines - first ? lines : first + count - 1;
    size_t start = text_line_start(t, first), stop = text_line_start(t, last + 1);
    if (start == stop) {
        say(ed, "There is no line to delete here");
        return;
    }
    view_drop_mark(v);
    size_t before = text_line_count(t);
    if (edit_replace(ed, start, stop - start, NULL, 0, STEP_WHOLE))
        say(ed, "Deleted %s%s", AMOUNT(before - text_line_count(view_text(v)), "line"),
            ed->session->rules.batch ? "" : "; undo brings it back");
}

static const Command cmd_delete_lines = {
    .name = "delete-lines",
    .label = "Delete lines",
    .letter = 'k',
    .help = "Delete the cursor's line, so many from it on, or those that are marked",
    .words = "erase remove kill",
    .args = "[COUNT]",
    .flags = CMD_CHANGES,
    .run = run_delete_lines,
};

const Command *const putting_commands[] = {
    &cmd_insert, &cmd_type, &cmd_append_line, &cmd_delete_lines, NULL,
};
