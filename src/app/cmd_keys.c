/* What stands on a key of its own on every keyboard: typing and plain movement. */
#include "app/editor.h"
#include "app/tables.h"
#include "edit/move.h"

#include <string.h>

static void run_left(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->view, move_left(view_text(ed->view), ed->view->cursor.at));
}

static void run_right(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->view, move_right(view_text(ed->view), ed->view->cursor.at));
}

static void run_word_left(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->view, move_word_left(view_text(ed->view), ed->view->cursor.at));
}

static void run_word_right(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->view, move_word_right(view_text(ed->view), ed->view->cursor.at));
}

static long bounded(const Args *args)
{
    return (long)(args->count < 10000 ? args->count : 10000);
}

static void run_up(Editor *ed, const Args *args)
{
    view_vertical(ed->view, -bounded(args));
}

static void run_down(Editor *ed, const Args *args)
{
    view_vertical(ed->view, bounded(args));
}

/* A screen less two lines, so that one keeps one's place; the picture moves with the cursor. */
static void screens(Editor *ed, long n)
{
    View *v = ed->view;
    long by = v->rows > 3 ? v->rows - 2 : 1;
    Text t = view_text(v);
    size_t top = text_line_of(t, v->top.at);
    view_vertical(v, n * by);
    size_t move = (size_t)(n < 0 ? -n * by : n * by);
    v->top.at = text_line_start(t, n > 0 ? top + move : top > move ? top - move : 0);
}

static void run_screen_up(Editor *ed, const Args *args)
{
    screens(ed, -bounded(args));
}

static void run_screen_down(Editor *ed, const Args *args)
{
    screens(ed, bounded(args));
}

/* "exit" as the first line of a text without a name: somebody wants out. */
static void help_the_lost(Editor *ed)
{
    static const char *const words[][2] = {
        {"exit", "Leaving is Ctrl+Q"}, {"quit", "Leaving is Ctrl+Q"}, {"help", "Help is F1, or Esc h h"}};
    View *v = ed->view;
    Text t = view_text(v);
    char line[8] = "";
    size_t end = move_line_end(t, 0);
    if (v->file->path || v->cursor.at != end || end >= sizeof line)
        return;
    text_read(t, 0, line, end);
    for (size_t i = 0; i < 3; i++)
        if (strcmp(line, words[i][0]) == 0)
            say(ed, "%s. “%s” went into the text; Ctrl+Z takes it back.", words[i][1], line);
}

static void run_new_line(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->view;
    help_the_lost(ed);
    Text t = view_text(v);
    Bytes b = {0};
    bytes_add_str(&b, text_format_line_end(&v->file->format));
    size_t from, to;
    if (ed->settings.auto_indent && !ed->burst &&
        !view_marked(v, &from, &to)) { /* the new line begins under the old one */
        size_t start = move_line_start(t, v->cursor.at), text = move_past_blanks(t, v->cursor.at);
        if (text > v->cursor.at)
            text = v->cursor.at;
        for (size_t p = start; p < text; p++) {
            char c = (char)text_byte(t, p);
            bytes_add(&b, &c, 1);
        }
    }
    edit_type(ed, b.at, b.len);
    bytes_free(&b);
}

static void run_tab(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->view;
    size_t from, to;
    if (view_marked(v, &from, &to) && text_line_of(view_text(v), from) != text_line_of(view_text(v), to)) {
        command_run(ed, command_named("indent", 6), 1, false, "");
        return;
    }
    if (v->file->format.tabs) {
        edit_type(ed, "\t", 1);
        return;
    }
    size_t unit = v->file->format.indent;
    size_t n = unit - cells_before(view_text(v), v->cursor.at, view_tab(v)) % unit;
    edit_type(ed, "        ", n < 8 ? n : 8);
}

static void run_backspace(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->view;
    size_t at = v->cursor.at, from = move_left(view_text(v), at);
    if (edit_delete_mark(ed))
        return;
    if (from < at)
        edit_replace(ed, from, at - from, NULL, 0, STEP_DELETE_LEFT);
}

const Command key_commands[N_KEY_COMMANDS] = {
    {
        .name = "go-left",
        .label = "One character left",
        .letter = 'a',
        .keys = "Left",
        .shell = "Left Ctrl+B",
        .help = "Go one character to the left",
        .flags = CMD_MOVES | CMD_REPEATS,
        .run = run_left,
    },
    {
        .name = "go-right",
        .label = "One character right",
        .letter = 'd',
        .keys = "Right",
        .shell = "Right Ctrl+F",
        .help = "Go one character to the right",
        .flags = CMD_MOVES | CMD_REPEATS,
        .run = run_right,
    },
    {
        .name = "go-up",
        .label = "One line up",
        .letter = 'w',
        .keys = "Up",
        .shell = "Up Ctrl+P",
        .help = "Go one line up",
        .flags = CMD_MOVES,
        .run = run_up,
    },
    {
        .name = "go-down",
        .label = "One line down",
        .letter = 's',
        .keys = "Down",
        .shell = "Down Ctrl+N",
        .help = "Go one line down",
        .flags = CMD_MOVES,
        .run = run_down,
    },
    {
        .name = "go-screen-up",
        .label = "One screen up",
        .letter = 'r',
        .keys = "PageUp",
        .shell = "PageUp",
        .help = "Go one screen up",
        .flags = CMD_MOVES,
        .run = run_screen_up,
    },
    {
        .name = "go-screen-down",
        .label = "One screen down",
        .letter = 'f',
        .keys = "PageDown",
        .shell = "PageDown",
        .help = "Go one screen down",
        .flags = CMD_MOVES,
        .run = run_screen_down,
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
        .letter = 'e',
        .keys = "Ctrl+Right",
        .help = "Go to the end of this word or the next",
        .flags = CMD_MOVES | CMD_REPEATS,
        .run = run_word_right,
    },
    {
        .name = "new-line",
        .label = "New line",
        .keys = "Enter",
        .help = "Begin a new line, indented as this one",
        .flags = CMD_TYPING | CMD_CHANGES | CMD_REPEATS,
        .run = run_new_line,
    },
    {
        .name = "tab",
        .label = "Tab",
        .keys = "Tab",
        .help = "Go to the next tab stop, with blanks or a tab as the file has them",
        .flags = CMD_TYPING | CMD_CHANGES | CMD_REPEATS,
        .run = run_tab,
    },
    {
        .name = "delete-left",
        .label = "Delete to the left",
        .keys = "Backspace",
        .help = "Delete the mark, or the character left of the cursor",
        .flags = CMD_TYPING | CMD_CHANGES | CMD_REPEATS,
        .run = run_backspace,
    },
};
