/* The Go menu. */
#include "editor.h"
#include "move.h"
#include "tables.h"

#include <stdlib.h>

static void run_top(Editor *ed, const Args *args)
{
    (void)args;
    view_go(&ed->view, 0);
}

static void run_bottom(Editor *ed, const Args *args)
{
    (void)args;
    view_go(&ed->view, text_len(view_text(&ed->view)));
}

/* To the first letter of the line, and from there (or from within the blanks) to its very start. */
static void run_line_start(Editor *ed, const Args *args)
{
    (void)args;
    View *v = &ed->view;
    size_t first = move_past_blanks(view_text(v), v->cursor.at);
    view_go(v, v->cursor.at > first ? first : move_line_start(view_text(v), v->cursor.at));
}

static void run_line_end(Editor *ed, const Args *args)
{
    (void)args;
    view_go(&ed->view, move_line_end(view_text(&ed->view), ed->view.cursor.at));
}

static void run_word_left(Editor *ed, const Args *args)
{
    (void)args;
    view_go(&ed->view, move_word_left(view_text(&ed->view), ed->view.cursor.at));
}

static void run_word_right(Editor *ed, const Args *args)
{
    (void)args;
    view_go(&ed->view, move_word_right(view_text(&ed->view), ed->view.cursor.at));
}

static void run_centre(Editor *ed, const Args *args)
{
    (void)args;
    view_centre(&ed->view);
    ed->redraw = true;
}

const Command go_commands[N_GO_COMMANDS] = {
    {
        .name = "go-top",
        .label = "Top of the text",
        .letter = 't',
        .keys = "Ctrl+Home",
        .help = "Go to the start of the text",
        .flags = CMD_MOVES,
        .run = run_top,
    },
    {
        .name = "go-bottom",
        .label = "Bottom of the text",
        .letter = 'b',
        .keys = "Ctrl+End",
        .help = "Go to the end of the text",
        .flags = CMD_MOVES,
        .run = run_bottom,
    },
    {
        .name = "go-line-start",
        .label = "Line start",
        .letter = 'a',
        .keys = "Home Ctrl+A",
        .help = "Go to the first letter of the line; again: to its very start",
        .flags = CMD_MOVES,
        .run = run_line_start,
    },
    {
        .name = "go-line-end",
        .label = "Line end",
        .letter = 'e',
        .keys = "End Ctrl+E",
        .help = "Go to the end of the line",
        .flags = CMD_MOVES,
        .run = run_line_end,
    },
    {
        .name = "go-word-left",
        .label = "Word to the left",
        .letter = 'q',
        .keys = "Ctrl+Left",
        .help = "Go to the start of this word or the one before",
        .flags = CMD_MOVES | CMD_REPEATS,
        .run = run_word_left,
    },
    {
        .name = "go-word-right",
        .label = "Word to the right",
        .letter = 'r',
        .keys = "Ctrl+Right",
        .help = "Go to the end of this word or the next",
        .flags = CMD_MOVES | CMD_REPEATS,
        .run = run_word_right,
    },
    {
        .name = "centre",
        .label = "Centre and redraw",
        .letter = 'v',
        .keys = "Ctrl+L",
        .help = "Bring the cursor's line to the middle and paint the screen anew",
        .run = run_centre,
    },
};
