#include "commands/tools/word_tools.h"

#include "base/bytes.h"
#include "base/data.h"
#include "base/mem.h"
#include "commands/edits.h"
#include "edit/move.h"
#include "edit/transform.h"

#include <stdlib.h>
#include <string.h>

/* ---- letter case ---- */

static void set_case(Editor *ed, bool upper)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t from, to, cursor = v->cursor.at;
    bool marked = view_marked(v, &from, &to);
    if (!marked && !move_word_at(t, cursor, &from, &to)) {
        say(ed, "There is no word at the cursor");
        return;
    }
    char *old = text_string(t, from, to);
    Bytes out = {0};
    transform_case(old, to - from, upper, &out);
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

static const Command cmd_upper_case = {
    .name = "upper-case",
    .label = "Upper case",
    .letter = 'u',
    .help = "Make the mark, or the word, capital letters",
    .words = "uppercase capitals big letters",
    .flags = CMD_CHANGES | CMD_EACH,
    .run = run_upper,
};

static void run_lower(Editor *ed, const Args *args)
{
    (void)args;
    set_case(ed, false);
}

static const Command cmd_lower_case = {
    .name = "lower-case",
    .label = "Lower case",
    .letter = 'l',
    .help = "Make the mark, or the word, small letters",
    .words = "lowercase small letters",
    .flags = CMD_CHANGES | CMD_EACH,
    .run = run_lower,
};

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
    *start = from;
    *at = v->cursor.at - from;
    *n = end - from;
    return text_string(t, from, end);
}

static void add_number(Editor *ed, long long by)
{
    View *v = ed->panes.view;
    size_t start, n, at, from, to;
    char *line = line_around(v, &start, &n, &at);
    Bytes out = {0};
    NumberFound found = transform_number(line, n, at, by, &from, &to, &out);
    if (found == NUMBER_NONE) {
        say(ed, "There is no number at the cursor or after it in this line");
    } else if (found == NUMBER_BELOW) {
        say(ed, "That would be below 0, which a number with 0x cannot be");
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

static const Command cmd_number_up = {
    .name = "number-up",
    .label = "Number up",
    .letter = '+',
    .help = "Add one, or the count, to the number at or after the cursor",
    .more = "Decimal with its sign and leading zeros, 0x hexadecimal, parts of addresses up to 255.",
    .flags = CMD_CHANGES | CMD_EACH,
    .run = run_number_up,
};

static void run_number_down(Editor *ed, const Args *args)
{
    add_number(ed, -(long long)args->count);
}

static const Command cmd_number_down = {
    .name = "number-down",
    .label = "Number down",
    .letter = '-',
    .help = "Take one, or the count, from the number at or after the cursor",
    .flags = CMD_CHANGES | CMD_EACH,
    .run = run_number_down,
};

static void run_flip(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t start, n, at, from, to, cursor = v->cursor.at;
    char *line = line_around(v, &start, &n, &at);
    Bytes out = {0}, pairs = {0};
    /* One's own pairs come first: "open shut, hot cold". */
    for (const char *p = ed->config.settings.word_pairs; *p; p++)
        bytes_add(&pairs, *p == ',' ? "\n" : p, *p == ' ' && p[-1] == ',' ? 0 : 1);
    const DataFile *d = data_find("words/pairs.txt");
    bytes_printf(&pairs, "\n%s", d->bytes);
    if (!transform_flip_word(line, n, at, pairs.at, &from, &to, &out))
        say(ed, "The word at the cursor has no counterpart; the setting word_pairs can add one");
    else if (edit_replace(ed, start + from, to - from, out.at, out.len, STEP_WHOLE))
        view_go(v, cursor < start + from + out.len ? cursor : start + from + out.len);
    bytes_free(&out);
    bytes_free(&pairs);
    free(line);
}

static const Command cmd_flip_word = {
    .name = "flip-word",
    .label = "Flip the word",
    .letter = 'f',
    .help = "Exchange true and false, yes and no, on and off and their like",
    .flags = CMD_CHANGES | CMD_EACH,
    .run = run_flip,
};

const Command *const word_commands[] = {
    &cmd_upper_case, &cmd_lower_case, &cmd_number_up, &cmd_number_down, &cmd_flip_word, NULL,
};
