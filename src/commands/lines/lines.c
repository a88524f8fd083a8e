#include "commands/lines/lines.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "base/words.h"
#include "commands/edits.h"
#include "commands/lines/changing.h"
#include "edit/comment.h"
#include "edit/move.h"
#include "edit/transform.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/colours.h"

#include <stdio.h>
#include <stdlib.h>
#include <ctype.h>
#include <string.h>

/* ---- moving and doubling ---- */

static void run_duplicate(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t from, to, cursor = v->cursor.at;
    changing_meant(v, &from, &to);
    Text t = view_text(v);
    char *bytes = text_string(t, from, to);
    Bytes out = {0};
    bool open_end = to == from || bytes[to - from - 1] != '\n';
    if (open_end)
        bytes_add_str(&out, text_format_line_end(&v->file->format));
    bytes_add(&out, bytes, to - from);
    if (edit_replace(ed, to, 0, out.at, out.len, STEP_WHOLE)) {
        /* The cursor goes along into the copy, so that doing it again copies that. */
        view_go(v, cursor + out.len);
        if (v->marking != MARK_NONE)
            v->mark.at += out.len;
        say(ed, "Duplicated %s",
            AMOUNT(text_line_of(view_text(v), to) - text_line_of(view_text(v), from) + open_end, "line"));
    }
    bytes_free(&out);
    free(bytes);
}

static const Command cmd_duplicate_lines = {
    .name = "duplicate-lines",
    .label = "Duplicate",
    .letter = 'd',
    .help = "Put a copy of the line, or of the marked ones, below",
    .words = "copy line clone",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_EACH_LINE,
    .run = run_duplicate,
};

/* Exchanges two neighbouring runs of lines; the last line of the text may lack its end. */
static void exchange(const char *in, size_t n, const void *ctx, Bytes *out)
{
    size_t first = *(const size_t *)ctx, second = n - first;
    bool open_end = second && in[n - 1] != '\n';
    size_t end = first >= 2 && in[first - 2] == '\r' ? 2 : 1;
    bytes_add(out, in + first, second);
    if (open_end) {
        bytes_add(out, in + first - end, end);
        bytes_add(out, in, first - end);
    } else {
        bytes_add(out, in, first);
    }
}

static void move_lines(Editor *ed, bool down)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t from, to, first;
    changing_meant(v, &from, &to);
    size_t a = down ? from : text_line_start(t, text_line_of(t, from) - (from > 0));
    size_t b = down ? text_line_start(t, text_line_of(t, to) + 1) : to;
    if (down ? to >= text_len(t) : from == 0) {
        say(ed, down ? "These are the last lines already" : "These are the first lines already");
        return;
    }
    first = (down ? to : from) - a;
    size_t cursor = v->cursor.at - from, mark = v->mark.at - from, at = down ? a + (b - to) : a;
    MarkKind marking = v->marking;
    if (down && text_byte(t, text_len(t) - 1) != '\n' && b == text_len(t)) /* the end stays where it is */
        at += text_byte(t, to - 1) == '\n' ? (to >= 2 && text_byte(t, to - 2) == '\r' ? 2u : 1u) : 0;
    if (!changing_range(ed, a, b, exchange, &first))
        return;
    size_t len = text_len(view_text(v));
    view_go(v, at + cursor < len ? at + cursor : len);
    v->mark.at = at + mark < len ? at + mark : len;
    v->marking = marking;
}

static void run_move_up(Editor *ed, const Args *args)
{
    (void)args;
    move_lines(ed, false);
}

static const Command cmd_move_lines_up = {
    .name = "move-lines-up",
    .label = "Move up",
    .letter = 'a',
    .keys = "Alt+Up",
    .help = "Move the line, or the marked lines, up",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_ADVANCES,
    .run = run_move_up,
};

static void run_move_down(Editor *ed, const Args *args)
{
    (void)args;
    move_lines(ed, true);
}

static const Command cmd_move_lines_down = {
    .name = "move-lines-down",
    .label = "Move down",
    .letter = 'b',
    .keys = "Alt+Down",
    .help = "Move the line, or the marked lines, down",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_ADVANCES,
    .run = run_move_down,
};

/* ---- whole lines ---- */

static void do_join(const char *in, size_t n, const void *ctx, Bytes *out)
{
    (void)ctx;
    transform_join(in, n, out);
}

static void run_join(Editor *ed, const Args *args)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t from, to;
    bool marked = view_marked(v, &from, &to);
    changing_meant(v, &from, &to);
    size_t line = text_line_of(t, from);
    size_t after = marked ? text_line_of(t, to) : line + 1 + args->count;
    if (after < line + 2 && marked)
        after = line + 2;
    to = text_line_start(t, after);
    if (!changing_range(ed, from, to, do_join, NULL))
        say(ed, "There is no line below to join");
}

static const Command cmd_join_lines = {
    .name = "join-lines",
    .label = "Join",
    .letter = 'j',
    .help = "Make one line of this and the next, or of the marked ones",
    .flags = CMD_CHANGES,
    .run = run_join,
};

static void do_indent(const char *in, size_t n, const void *ctx, Bytes *out)
{
    transform_indent(in, n, ctx, out);
}

static void run_indent(Editor *ed, const Args *args)
{
    (void)args;
    const TextFormat *f = &ed->panes.view->file->format;
    char unit[17] = "\t";
    if (!f->tabs)
        snprintf(unit, sizeof unit, "%*s", (int)(f->indent < 16 ? f->indent : 16), "");
    changing_lines(ed, do_indent, unit, "Indented");
}

static const Command cmd_indent = {
    .name = "indent",
    .label = "Indent",
    .letter = 'i',
    .help = "Move the line, or the marked ones, one level to the right",
    .words = "shift tab right",
    .hint = "Indent",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_EACH_LINE,
    .run = run_indent,
};

static void do_unindent(const char *in, size_t n, const void *ctx, Bytes *out)
{
    transform_unindent(in, n, *(const unsigned *)ctx, out);
}

static void run_unindent(Editor *ed, const Args *args)
{
    (void)args;
    changing_lines(ed, do_unindent, &ed->panes.view->file->format.indent, "Unindented");
}

static const Command cmd_unindent = {
    .name = "unindent",
    .label = "Unindent",
    .letter = 'u',
    .keys = "Shift+Tab",
    .help = "Move the line, or the marked ones, one level to the left",
    .words = "outdent shift left",
    .hint = "Unindent",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_EACH_LINE,
    .run = run_unindent,
};

/* ---- by the kind of file ---- */

typedef struct Commenting {
    CommentSigns signs;
    Doc *doc;
    Commented done;
} Commenting;

static void do_comment(const char *in, size_t n, const void *ctx, Bytes *out)
{
    Commenting *c = (Commenting *)ctx;
    c->done = comment_lines(in, n, &c->signs, out);
    doc_set_verb(c->doc, c->done == COMMENT_REMOVED ? "Uncomment" : "Comment"); /* for the history */
    if (c->done != COMMENT_ADDED && c->done != COMMENT_REMOVED) {
        bytes_clear(out);
        bytes_add(out, in, n);
    }
}

static void run_comment(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t from, to;
    changing_meant(v, &from, &to);
    const Kind *k = colours_kind(v->file, from);
    Commenting c = {.signs = {k->comment_sign, k->comment_open, k->comment_close, k->comment_also, from == 0},
                    .doc = v->file->doc};
    if (!c.signs.sign && !c.signs.open) {
        say(ed, "Files of the kind %s have no comments", k->name);
        return;
    }
    size_t lines = text_line_of(view_text(v), to) - text_line_of(view_text(v), from);
    v->goal_kept = false;
    if (changing_range(ed, from, to, do_comment, &c))
        say(ed, c.done == COMMENT_ADDED ? "Commented %s" : "Uncommented %s",
            AMOUNT(lines ? lines : 1, "line"));
    else if (c.done == COMMENT_INSIDE)
        say(ed, "There is a comment in it already, and comments of the kind %s cannot lie in each other",
            k->name);
    else if (c.done == COMMENT_NOTHING && !v->file->look_only)
        say(ed, "There is nothing here to comment");
}

static const Command cmd_comment = {
    .name = "comment",
    .label = "Comment",
    .letter = 'c',
    .keys = "F5",
    .help = "Comment or uncomment the line, or the marked lines",
    .more = "The signs are those of the kind of file. Comments stand at the indentation that the lines "
            "share; blank lines "
            "stay. When all of them are comments already, the signs are taken away.",
    .words = "uncomment remark disable switch off",
    .flags = CMD_CHANGES | CMD_EACH_LINE,
    .run = run_comment,
};

static void do_end_sign(const char *in, size_t n, const void *ctx, Bytes *out)
{
    transform_end_sign(in, n, *(const char *)ctx, out);
}

static void run_end_sign(Editor *ed, const Args *args)
{
    const Kind *k = ed->panes.view->file->kind;
    const char *sign = *args->text ? args->text : k->line_end_character;
    if (sign)
        changing_lines(ed, do_end_sign, sign, "Changed the end of");
    else
        say(ed, "Lines of the kind %s end with no character; put the one you mean after the command's name",
            k->name);
}

static const Command cmd_line_end_character = {
    .name = "line-end-character",
    .label = "Line-end character",
    .letter = 'e',
    .help = "Put the kind's line-end character, such as ; after the lines, or remove it",
    .args = "CHARACTER",
    .flags = CMD_CHANGES | CMD_EACH_LINE,
    .run = run_end_sign,
};

typedef struct Sorting {
    bool numbers;
    Stop stop;
    bool *stopped;
} Sorting;

static void do_sort(const char *in, size_t n, const void *ctx, Bytes *out)
{
    const Sorting *s = ctx;
    *s->stopped = !transform_sort(in, n, s->numbers, s->stop, out);
    if (*s->stopped)
        bytes_add(out, in, n);
}

/* With nothing marked the block between blank lines is meant: one line alone is sorted already. */
static void sort_meant(Editor *ed, bool numbers)
{
    size_t from, to;
    View *v = ed->panes.view;
    size_t cursor = v->cursor.at;
    bool marked = view_marked(v, &from, &to);
    if (!marked)
        command_run(ed, command_named(ed, "mark-block"), 1, false, "");
    if (!view_marked(v, &from, &to))
        return;
    bool stopped = false;
    Sorting s = {numbers, ed->stop, &stopped};
    changing_lines(ed, do_sort, &s, "Sorted");
    if (stopped)
        say(ed, "Sorting was stopped; nothing was changed");
    if (!marked) {
        view_drop_mark(v);
        view_go(v, cursor);
    }
}

static void run_sort(Editor *ed, const Args *args)
{
    (void)args;
    sort_meant(ed, false);
}

static const Command cmd_sort_lines = {
    .name = "sort-lines",
    .label = "Sort",
    .letter = 's',
    .help = "Sort the marked lines, or the block between blank ones",
    .words = "order alphabetically",
    .flags = CMD_CHANGES,
    .run = run_sort,
};

static void run_sort_numbers(Editor *ed, const Args *args)
{
    (void)args;
    sort_meant(ed, true);
}

static const Command cmd_sort_by_numbers = {
    .name = "sort-by-numbers",
    .label = "Sort by numbers",
    .letter = 'n',
    .help = "Sort by number: 9 comes before 10",
    .flags = CMD_CHANGES,
    .run = run_sort_numbers,
};

static void do_trim(const char *in, size_t n, const void *ctx, Bytes *out)
{
    (void)ctx;
    transform_trim(in, n, out);
}

/* Nothing marked: the whole text. */
static void run_trim(Editor *ed, const Args *args)
{
    (void)args;
    size_t from, to;
    if (view_marked(ed->panes.view, &from, &to)) {
        changing_lines(ed, do_trim, NULL, "Trimmed");
    } else if (changing_range(ed, 0, text_len(view_text(ed->panes.view)), do_trim, NULL)) {
        say(ed, "Trimmed the blanks at the ends of lines");
    } else {
        say(ed, "No line ends with blanks");
    }
}

static const Command cmd_trim_blanks = {
    .name = "trim-blanks",
    .label = "Trim blanks",
    .letter = 't',
    .help = "Remove blanks at the ends of the marked lines, or of all",
    .words = "trailing whitespace strip",
    .flags = CMD_CHANGES,
    .run = run_trim,
};

static void run_delete_lines(Editor *ed, const Args *args)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t from, to;
    char *end = NULL;
    unsigned long count = *args->text ? strtoul(args->text, &end, 10) : args->count;
    if (count < 1 || (end && *end) || (*args->text && !isdigit((unsigned char)*args->text))) {
        warn(ed, "How many lines is a number from 1, not “%s”", args->text);
        return;
    }
    bool marked = view_marked(v, &from, &to);
    changing_meant(v, &from, &to);
    size_t first = text_line_of(t, from), lines = text_line_count(t);
    if (!marked)
        to = text_line_start(t, count < lines - first ? first + count : lines);
    if (from == to) {
        say(ed, "There is no line to delete here");
        return;
    }
    view_drop_mark(v);
    if (edit_replace(ed, from, to - from, NULL, 0, STEP_WHOLE))
        say(ed, "Deleted %s%s", AMOUNT(lines - text_line_count(view_text(v)), "line"),
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

const Command *const lines_commands[] = {
    &cmd_duplicate_lines,
    &cmd_move_lines_up,
    &cmd_move_lines_down,
    &cmd_join_lines,
    &cmd_indent,
    &cmd_unindent,
    &cmd_line_end_character,
    &cmd_sort_lines,
    &cmd_comment,
    &cmd_sort_by_numbers,
    &cmd_trim_blanks,
    &cmd_delete_lines,
    NULL,
};
