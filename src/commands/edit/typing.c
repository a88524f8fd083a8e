#include "commands/edit/typing.h"

#include "base/bytes.h"
#include "commands/edit/clips.h"
#include "commands/edits.h"
#include "commands/lines/indenting.h"
#include "edit/cells.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/columns.h"

#include <string.h>
#include <strings.h>

static void cut(Editor *ed, size_t from, size_t to)
{
    if (from < to)
        edit_replace(ed, from, to - from, NULL, 0, STEP_WHOLE);
}

static void run_delete_right(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t at = v->cursor.at, end = move_right(view_text(v), at);
    if (edit_delete_at_all(ed, false))
        return;
    if (v->columns && v->marking != MARK_NONE) {
        if (edit_allowed(ed))
            columns_delete(v, false);
        return;
    }
    if (edit_delete_mark(ed))
        return;
    if (at == end || !edit_replace(ed, at, end - at, NULL, 0, STEP_DELETE_RIGHT))
        return;
    view_go(v, at);
    Key k = ed->running.key;
    if (k.code == K_CHAR && k.mods == MOD_CTRL && k.ch == 'd')
        edit_name_way_out(ed);
}

static const Command cmd_delete_right = {
    .name = "delete-right",
    .label = "Delete character",
    .letter = 'd',
    .keys = "Delete Ctrl+D",
    .help = "Delete the mark, or the character right of the cursor",
    .words = "erase remove",
    .hint = "Delete",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_ADVANCES | CMD_ALL,
    .run = run_delete_right,
};

static void run_delete_word_right(Editor *ed, const Args *args)
{
    (void)args;
    size_t at = ed->panes.view->cursor.at;
    cut(ed, at, move_word_right(view_text(ed->panes.view), at));
}

static const Command cmd_delete_word_right = {
    .name = "delete-word-right",
    .label = "Delete word to the right",
    .letter = 'n',
    .keys = "Ctrl+Delete",
    .help = "Delete to the end of this or the next word",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_ADVANCES | CMD_EACH,
    .run = run_delete_word_right,
};

static void run_delete_word_left(Editor *ed, const Args *args)
{
    (void)args;
    size_t at = ed->panes.view->cursor.at;
    cut(ed, move_word_left(view_text(ed->panes.view), at), at);
}

static const Command cmd_delete_word_left = {
    .name = "delete-word-left",
    .label = "Delete word to the left",
    .letter = 'a',
    .keys = "Ctrl+W Alt+Backspace",
    .help = "Delete to the start of this word or the one before",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_ADVANCES | CMD_EACH,
    .run = run_delete_word_left,
};

/* At the end of the line it takes the line's end, so that it can be repeated. */
static void run_cut_to_end(Editor *ed, const Args *args)
{
    (void)args;
    Text t = view_text(ed->panes.view);
    size_t at = ed->panes.view->cursor.at, end = move_line_end(t, at);
    clips_cut(ed, at, at < end ? end : move_right(t, at), false);
}

static const Command cmd_cut_to_line_end = {
    .name = "cut-to-line-end",
    .label = "Cut to line end",
    .letter = 'l',
    .keys = "Ctrl+K",
    .help = "Cut what is right of the cursor; at the end of a line, join it with the next",
    .more = "Paste brings it back; given several times in a row, all of it.",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_EACH,
    .run = run_cut_to_end,
};

static void run_cut_to_start(Editor *ed, const Args *args)
{
    (void)args;
    Text t = view_text(ed->panes.view);
    size_t at = ed->panes.view->cursor.at, start = move_line_start(t, at);
    if (start < at)
        clips_cut(ed, start, at, true);
    else
        decline(ed, "Nothing is left of the cursor in this line");
}

static const Command cmd_cut_to_line_start = {
    .name = "cut-to-line-start",
    .label = "Cut to line start",
    .letter = 'b',
    .keys = "Ctrl+U",
    .help = "Cut what is left of the cursor in its line",
    .more = "Paste brings it back; given several times in a row, all of it.",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_EACH,
    .run = run_cut_to_start,
};

/* A line that is nothing but a word for leaving (or for help): somebody wants out. A line of a script may be
 * that in earnest, so after twice nothing is said any more. */
static void help_the_lost(Editor *ed)
{
    static const char *const words[] = {"exit", "quit", "q", "bye", "logout", "leave", "stop", "close"};
    View *v = ed->panes.view;
    Text t = view_text(v);
    char line[8] = "";
    size_t start = move_line_start(t, v->cursor.at),
           n = v->cursor.at - start; /* a line of its own in a moment */
    if (n == 0 || n >= sizeof line)
        return;
    text_read(t, start, line, n);
    bool leaving = line[0] == ':' && n > 1, help = strcasecmp(line, "help") == 0;
    for (size_t i = 0; i < sizeof words / sizeof *words; i++)
        leaving = leaving || strcasecmp(line, words[i]) == 0;
    if (leaving || help)
        edit_name_way(ed, line, help);
}

static void run_new_line(Editor *ed, const Args *args)
{
    (void)args;
    help_the_lost(ed);
    indenting_new_line(ed);
}

static const Command cmd_new_line = {
    .name = "new-line",
    .label = "New line",
    .keys = "Enter",
    .help = "Begin a new line, indented as this one or by what it opens",
    .words = "enter return break",
    .flags = CMD_TYPING | CMD_CHANGES | CMD_REPEATS | CMD_EACH,
    .run = run_new_line,
};

static void run_tab(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t from, to;
    if (view_marked(v, &from, &to) && text_line_of(view_text(v), from) != text_line_of(view_text(v), to)) {
        command_run(ed, command_named(ed, "indent"), 1, false, "");
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

static const Command cmd_tab = {
    .name = "tab",
    .label = "Tab",
    .keys = "Tab",
    .help = "Go to the next tab stop, with blanks or a tab as the file has them",
    .flags = CMD_TYPING | CMD_CHANGES | CMD_REPEATS | CMD_EACH,
    .run = run_tab,
};

static void run_backspace(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t at = v->cursor.at, from = move_left(view_text(v), at);
    if (edit_delete_at_all(ed, true) || edit_delete_mark(ed))
        return;
    if (from < at)
        edit_replace(ed, from, at - from, NULL, 0, STEP_DELETE_LEFT);
}

static const Command cmd_delete_left = {
    .name = "delete-left",
    .label = "Delete to the left",
    .keys = "Backspace",
    .help = "Delete the mark, or the character left of the cursor",
    .words = "erase backspace",
    .flags = CMD_TYPING | CMD_CHANGES | CMD_REPEATS | CMD_ADVANCES | CMD_ALL,
    .run = run_backspace,
};

static void run_overtype(Editor *ed, const Args *args)
{
    (void)args;
    ed->overtype = !ed->overtype;
    say(ed, ed->overtype ? "Typing now replaces what is there; {overtype} ends that"
                         : "Typing pushes aside what is there");
}

static const Command cmd_overtype = {
    .name = "overtype",
    .label = "Overtype",
    .letter = 'o',
    .keys = "Insert",
    .help = "Typing replaces what is right of the cursor, or pushes it aside again",
    .words = "insert replace",
    .run = run_overtype,
};

const Command *const typing_commands[] = {
    &cmd_delete_right,      &cmd_delete_word_right,
    &cmd_delete_word_left,  &cmd_cut_to_line_end,
    &cmd_cut_to_line_start, &cmd_overtype,
    &cmd_new_line,          &cmd_tab,
    &cmd_delete_left,       NULL,
};
