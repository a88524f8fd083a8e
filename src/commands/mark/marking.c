#include "commands/mark/marking.h"

#include "edit/move.h"
#include "text/text_line.h"
#include "ui/editor.h"
#include "view/brackets.h"

#include <stdlib.h>

static void set_mark(View *v, size_t from, size_t to)
{
    v->mark.at = from;
    v->marking = MARK_KEY;
    view_go(v, to);
}

static void run_mark(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    if (v->marking != MARK_NONE) {
        view_drop_mark(v);
        say(ed, "The mark is dropped");
        return;
    }
    set_mark(v, v->cursor.at, v->cursor.at);
    say(ed, "Marking from here: move the cursor to the other end, then cut, copy or type");
}

static const Command cmd_mark = {
    .name = "mark",
    .label = "Start or drop a mark",
    .letter = 'm',
    .keys = "Ctrl+T",
    .help = "Mark from here by moving the cursor, or drop the mark",
    .words = "select selection highlight region",
    .more = "Shift with the arrow keys marks too, where the terminal sends it.",
    .hint = "Mark",
    .flags = CMD_EACH,
    .run = run_mark,
};

static void run_mark_word(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t start, end;
    if (!move_word_at(t, v->cursor.at, &start, &end)) {
        say(ed, "There is no word at the cursor");
        return;
    }
    set_mark(v, start, end);
}

static const Command cmd_mark_word = {
    .name = "mark-word",
    .label = "Word",
    .letter = 'w',
    .help = "Mark the word at the cursor",
    .words = "select",
    .flags = CMD_EACH,
    .run = run_mark_word,
};

/* The line; again: the next one too. */
static void run_mark_line(Editor *ed, const Args *args)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t from, to;
    bool more = view_marked(v, &from, &to) && v->cursor.at == to && move_line_start(t, from) == from;
    size_t line = text_line_of(t, more ? from : v->cursor.at);
    size_t end = more ? text_line_of(t, to) + args->count : line + args->count;
    set_mark(v, text_line_start(t, line), text_line_start(t, end));
}

static const Command cmd_mark_line = {
    .name = "mark-line",
    .label = "Line",
    .letter = 'l',
    .help = "Mark the line; again: the next one too",
    .words = "select",
    .hint = "Mark lines",
    .flags = CMD_EACH,
    .run = run_mark_line,
};

static bool blank_line(Text t, size_t line)
{
    size_t start = text_line_start(t, line);
    return move_past_blanks(t, start) == move_line_end(t, start);
}

static void run_mark_block(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t line = text_line_of(t, v->cursor.at), first = line, after = line, last = text_newlines(t);
    while (first > 0 && !blank_line(t, first - 1))
        first--;
    while (after <= last && !blank_line(t, after))
        after++;
    if (blank_line(t, line)) {
        say(ed, "This line is blank: there is no block here");
        return;
    }
    set_mark(v, text_line_start(t, first), text_line_start(t, after));
}

static const Command cmd_mark_block = {
    .name = "mark-block",
    .label = "Block (to blank lines)",
    .letter = 'b',
    .help = "Mark the lines up to the blank ones around them",
    .words = "select paragraph",
    .flags = CMD_EACH,
    .run = run_mark_block,
};

enum { OUT_MOST = 8 /* bytes of a sign that opens something */ };

static void run_mark_inside(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t from, to, a, b;
    bool again = view_marked(v, &a, &b); /* once more: one level further out */
    size_t at = again && a > 0 ? a - 1 : v->cursor.at, steps = 0;
    bool found = brackets_inside(v, at, &from, &to);
    while (found && again && from >= a && to <= b && at > 0 && steps++ < OUT_MOST) /* over what opens it */
        found = brackets_inside(v, --at, &from, &to);
    if (found)
        set_mark(v, from, to);
    else
        say(ed, "There are no brackets, quotes or comment around the cursor");
}

static const Command cmd_mark_inside = {
    .name = "mark-inside",
    .label = "Inside brackets or quotes",
    .letter = 'i',
    .help = "Mark what stands inside the nearest brackets, quotes or comment; again: further out",
    .flags = CMD_EACH,
    .run = run_mark_inside,
};

static void run_columns(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    if (v->marking == MARK_NONE)
        set_mark(v, v->cursor.at, v->cursor.at);
    v->marking = MARK_KEY;
    v->columns = !v->columns;
    say(ed, v->columns ? "Marking columns: move to the opposite corner, then cut, copy or type"
                       : "The mark goes from letter to letter again");
}

static const Command cmd_mark_columns = {
    .name = "mark-columns",
    .label = "Columns",
    .letter = 'c',
    .help = "Mark a block of columns, or make the mark one",
    .run = run_columns,
};

static void run_mark_all(Editor *ed, const Args *args)
{
    (void)args;
    set_mark(ed->panes.view, 0, text_len(view_text(ed->panes.view)));
}

static const Command cmd_mark_all = {
    .name = "mark-all",
    .label = "Everything",
    .letter = 'a',
    .help = "Mark the whole text",
    .words = "select all everything",
    .hint = "Mark everything",
    .run = run_mark_all,
};

static const char *no_mark(const Editor *ed)
{
    size_t from, to;
    return view_marked(ed->panes.view, &from, &to) ? NULL : "Nothing is marked";
}

static void run_swap(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t other = v->mark.at;
    v->mark.at = v->cursor.at;
    view_go(v, other);
}

static const Command cmd_mark_swap = {
    .name = "mark-swap",
    .label = "Swap ends",
    .letter = 'x',
    .help = "Go to the other end of the mark",
    .hint = "Other end",
    .disabled_reason = no_mark,
    .flags = CMD_EACH,
    .run = run_swap,
};

const Command *const marking_commands[] = {
    &cmd_mark,      &cmd_mark_word,    &cmd_mark_line, &cmd_mark_block, &cmd_mark_inside, &cmd_mark_all,
    &cmd_mark_swap, &cmd_mark_columns, NULL,
};
