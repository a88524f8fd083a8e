/* The Tools menu. */
#include "app/editor.h"
#include "app/properties.h"
#include "app/run.h"
#include "app/tables.h"
#include "base/data.h"
#include "base/mem.h"
#include "edit/move.h"
#include "edit/transform.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* ---- letter case ---- */

static void set_case(Editor *ed, bool upper)
{
    View *v = ed->view;
    Text t = view_text(v);
    size_t from, to, cursor = v->cursor.at;
    bool marked = view_marked(v, &from, &to);
    if (!marked) { /* the word at the cursor */
        to = move_word_right(t, cursor);
        from = move_word_left(t, to);
        if (from > cursor)
            from = cursor;
    }
    char *old = mem_get(to - from + 1);
    Bytes out = {0};
    text_read(t, from, old, to - from);
    change_case(old, to - from, upper, &out);
    if (out.len != to - from || memcmp(bytes_str(&out), old, out.len) != 0) {
        bool backwards = v->mark.at > cursor;
        MarkKind marking = v->marking;
        if (edit_replace(ed, from, to - from, out.at, out.len, STEP_WHOLE) && marked) { /* the mark stays */
            v->mark.at = backwards ? from + out.len : from;
            view_go(v, backwards ? from : from + out.len);
            v->marking = marking;
        }
    } else {
        say(ed, "That is %s case already", upper ? "upper" : "lower");
    }
    bytes_free(&out);
    free(old);
}

static void run_upper(Editor *ed, const Args *args)
{
    (void)args;
    set_case(ed, true);
}

static void run_lower(Editor *ed, const Args *args)
{
    (void)args;
    set_case(ed, false);
}

/* ---- what stands at the cursor ---- */

enum { LINE_MAX_BYTES = 4096 }; /* as much of a line as is looked at */

/* The part of the cursor's line around it; the cursor's place in it. The caller frees it. */
static char *line_around(const View *v, size_t *start, size_t *n, size_t *at)
{
    Text t = view_text(v);
    size_t from = move_line_start(t, v->cursor.at), end = move_line_end(t, v->cursor.at);
    if (v->cursor.at - from > LINE_MAX_BYTES)
        from = v->cursor.at - LINE_MAX_BYTES;
    if (end - v->cursor.at > LINE_MAX_BYTES)
        end = v->cursor.at + LINE_MAX_BYTES;
    char *line = mem_get(end - from + 1);
    *start = from;
    *at = v->cursor.at - from;
    *n = text_read(t, from, line, end - from);
    return line;
}

static void add_number(Editor *ed, long long by)
{
    View *v = ed->view;
    size_t start, n, at, from, to;
    char *line = line_around(v, &start, &n, &at);
    Bytes out = {0};
    if (!add_to_number(line, n, at, by, &from, &to, &out)) {
        say(ed, "There is no number at the cursor or behind it in this line");
    } else if (edit_replace(ed, start + from, to - from, out.at, out.len, STEP_WHOLE)) {
        view_go(v, start + from + out.len - 1); /* on its last digit, so that it can be repeated */
    }
    bytes_free(&out);
    free(line);
}

static void run_number_up(Editor *ed, const Args *args)
{
    add_number(ed, args->count);
}

static void run_number_down(Editor *ed, const Args *args)
{
    add_number(ed, -(long long)args->count);
}

static void run_flip(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->view;
    size_t start, n, at, from, to, cursor = v->cursor.at;
    char *line = line_around(v, &start, &n, &at);
    Bytes out = {0}, pairs = {0};
    /* One's own pairs come first: "open shut, hot cold". */
    for (const char *p = ed->settings.word_pairs; *p; p++)
        bytes_add(&pairs, *p == ',' ? "\n" : p, *p == ' ' && p[-1] == ',' ? 0 : 1);
    const DataFile *d = data_find("words/pairs.txt");
    bytes_printf(&pairs, "\n%s", d->bytes);
    if (!flip_word(line, n, at, pairs.at, &from, &to, &out))
        say(ed, "The word at the cursor has no counterpart; the setting word_pairs can add one");
    else if (edit_replace(ed, start + from, to - from, out.at, out.len, STEP_WHOLE))
        view_go(v, cursor < start + from + out.len ? cursor : start + from + out.len);
    bytes_free(&out);
    bytes_free(&pairs);
    free(line);
}

/* ---- commands of the shell ---- */

static void run_run_command(Editor *ed, const Args *args)
{
    run_command(ed, args->text);
}

static void run_run_filter(Editor *ed, const Args *args)
{
    run_filter(ed, args->text);
}

/* ---- the form of the text ---- */

static void run_encoding(Editor *ed, const Args *args)
{
    if (*args->text)
        properties_set_encoding(ed, args->text);
    else
        properties_open(ed);
}

static void run_read_as(Editor *ed, const Args *args)
{
    if (*args->text)
        properties_read_as(ed, args->text);
    else
        properties_open(ed);
}

static void run_line_ends(Editor *ed, const Args *args)
{
    if (*args->text)
        properties_set_line_ends(ed, args->text);
    else
        properties_open(ed);
}

static void run_indentation(Editor *ed, const Args *args)
{
    if (*args->text)
        properties_set_indent(ed, args->text);
    else
        properties_open(ed);
}

/* ---- what may follow a command's name ---- */

static void offer_encodings(Editor *ed, const char *args, Offers *out)
{
    (void)ed;
    for (size_t i = 0; encoding_names[i]; i++)
        if (strncmp(encoding_names[i], args, strlen(args)) == 0)
            offers_add(out, encoding_names[i]);
}

static void offer_ends(Editor *ed, const char *args, Offers *out)
{
    (void)ed;
    offer_words("lf|crlf", args, out);
}

static void offer_indentation(Editor *ed, const char *args, Offers *out)
{
    (void)ed;
    offer_words("spaces 2|spaces 4|spaces 8|tabs 4|tabs 8", args, out);
}

const Command tools_commands[N_TOOLS_COMMANDS] = {
    {
        .name = "upper-case",
        .label = "Upper case",
        .letter = 'u',
        .help = "Make the mark, or the word, capital letters",
        .flags = CMD_CHANGES,
        .run = run_upper,
    },
    {
        .name = "lower-case",
        .label = "Lower case",
        .letter = 'l',
        .help = "Make the mark, or the word, small letters",
        .flags = CMD_CHANGES,
        .run = run_lower,
    },
    {
        .name = "number-up",
        .label = "Number up",
        .letter = '+',
        .help = "Add one, or the count, to the number at or behind the cursor",
        .more = "Decimal with its sign and leading zeros, 0x hexadecimal, parts of addresses up to 255.",
        .flags = CMD_CHANGES,
        .run = run_number_up,
    },
    {
        .name = "number-down",
        .label = "Number down",
        .letter = '-',
        .help = "Take one, or the count, from the number at or behind the cursor",
        .flags = CMD_CHANGES,
        .run = run_number_down,
    },
    {
        .name = "flip-word",
        .label = "Flip the word",
        .letter = 'f',
        .help = "Exchange true and false, yes and no, on and off and their like",
        .flags = CMD_CHANGES,
        .run = run_flip,
    },
    {
        .name = "run-command",
        .label = "Run a command…",
        .letter = 'r',
        .help = "Run a command of the shell and put what it prints at the cursor",
        .more = "It runs by your own shell, with the path of this text in SQUILL_FILE. Esc stops it.",
        .args = "COMMAND",
        .flags = CMD_CHANGES,
        .run = run_run_command,
    },
    {
        .name = "filter",
        .label = "Filter through…",
        .letter = 'x',
        .help = "Send the mark, or the whole text, through a command and take the result in its place",
        .more = "When the command fails or changes much, the difference is shown first. Esc stops it.",
        .args = "COMMAND",
        .flags = CMD_CHANGES,
        .run = run_run_filter,
    },
    {
        .name = "encoding",
        .label = "Encoding…",
        .letter = 'e',
        .help = "Choose the encoding in which the next save writes this text",
        .args = "NAME",
        .offer = offer_encodings,
        .run = run_encoding,
    },
    {
        .name = "read-as",
        .label = "Read again as…",
        .letter = 'a',
        .help = "Read the file again, taking its bytes to be in another encoding",
        .args = "NAME",
        .offer = offer_encodings,
        .run = run_read_as,
    },
    {
        .name = "line-ends",
        .label = "Line ends…",
        .letter = 'd',
        .help = "Make all line ends lf or crlf",
        .args = "lf|crlf",
        .offer = offer_ends,
        .flags = CMD_CHANGES,
        .run = run_line_ends,
    },
    {
        .name = "indentation",
        .label = "Indentation…",
        .letter = 'i',
        .help = "Say how Tab and indenting work in this text: tabs or spaces, and how many",
        .args = "spaces|tabs NUMBER",
        .offer = offer_indentation,
        .run = run_indentation,
    },
};
