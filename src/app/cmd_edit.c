/* The Edit menu. */
#include "app/columns.h"
#include "app/editor.h"
#include "app/history.h"
#include "app/tables.h"
#include "edit/move.h"

static void step(Editor *ed, const Args *args, bool (*go)(Doc *, size_t *), const char *none,
                 const char *done)
{
    View *v = ed->view;
    size_t at = v->cursor.at;
    unsigned n = 0;
    while (n < args->count && go(v->file->doc, &at))
        n++;
    view_drop_mark(v);
    view_go(v, at);
    if (n == 0)
        say(ed, "%s", none);
    else if (args->counted)
        say(ed, "%s %u step%s", done, n, n == 1 ? "" : "s");
}

static void run_undo(Editor *ed, const Args *args)
{
    step(ed, args, doc_undo, "This is the text as it was at first; there is nothing to undo", "Undid");
}

static void run_redo(Editor *ed, const Args *args)
{
    step(ed, args, doc_redo, "There is nothing to redo", "Did again");
}

static void cut(Editor *ed, size_t from, size_t to)
{
    if (from < to)
        edit_replace(ed, from, to - from, NULL, 0, STEP_WHOLE);
}

static void run_delete_right(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->view;
    size_t at = v->cursor.at, end = move_right(view_text(v), at);
    if (v->columns && v->marking != MARK_NONE) {
        columns_delete(ed, false);
        return;
    }
    if (edit_delete_mark(ed))
        return;
    if (at < end && edit_replace(ed, at, end - at, NULL, 0, STEP_DELETE_RIGHT))
        view_go(v, at);
}

static void run_delete_word_right(Editor *ed, const Args *args)
{
    (void)args;
    size_t at = ed->view->cursor.at;
    cut(ed, at, move_word_right(view_text(ed->view), at));
}

static void run_delete_word_left(Editor *ed, const Args *args)
{
    (void)args;
    size_t at = ed->view->cursor.at;
    cut(ed, move_word_left(view_text(ed->view), at), at);
}

/* At the end of the line it takes the line's end, so that it can be repeated. */
static void run_cut_to_end(Editor *ed, const Args *args)
{
    (void)args;
    Text t = view_text(ed->view);
    size_t at = ed->view->cursor.at, end = move_line_end(t, at);
    cut(ed, at, at < end ? end : move_right(t, at));
}

static void run_cut_to_start(Editor *ed, const Args *args)
{
    (void)args;
    Text t = view_text(ed->view);
    size_t at = ed->view->cursor.at, start = move_line_start(t, at);
    cut(ed, start < at ? start : move_left(t, at), at);
}

static const char *nothing_to_paste(const Editor *ed)
{
    return ed->shelf.n ? NULL : "Nothing was cut or copied yet";
}

static void run_cut(Editor *ed, const Args *args)
{
    (void)args;
    clip_copy(ed, true);
}

static void run_copy(Editor *ed, const Args *args)
{
    (void)args;
    clip_copy(ed, false);
}

static void run_paste(Editor *ed, const Args *args)
{
    clip_paste(ed, args->count);
}

static void run_paste_system(Editor *ed, const Args *args)
{
    (void)args;
    ed->fetch_clip = true;
}

static void run_earlier_clip(Editor *ed, const Args *args)
{
    (void)args;
    clip_earlier(ed);
}

static void run_shelf(Editor *ed, const Args *args)
{
    (void)args;
    shelf_open(ed);
}

static void run_history(Editor *ed, const Args *args)
{
    (void)args;
    history_open(ed);
}

static void run_overtype(Editor *ed, const Args *args)
{
    (void)args;
    ed->overtype = !ed->overtype;
    say(ed, ed->overtype ? "Typing now replaces what is there; Insert or Esc e o ends that"
                         : "Typing pushes aside what is there");
}

const Command edit_commands[N_EDIT_COMMANDS] = {
    {
        .name = "undo",
        .label = "Undo",
        .letter = 'u',
        .keys = "Ctrl+Z Ctrl+_",
        .help = "Take back the last step",
        .hint = "Undo",
        .flags = CMD_CHANGES,
        .run = run_undo,
    },
    {
        .name = "redo",
        .label = "Redo",
        .letter = 'r',
        .keys = "Ctrl+Y",
        .help = "Do again what was undone last",
        .hint = "Redo",
        .flags = CMD_CHANGES,
        .run = run_redo,
    },
    {
        .name = "history",
        .label = "History…",
        .letter = 'h',
        .help = "See all states of the text, those on other branches too, and go to one",
        .run = run_history,
    },
    {
        .name = "cut",
        .label = "Cut",
        .letter = 'x',
        .keys = "Ctrl+X",
        .help = "Cut the mark, or the line; lines cut one after the other become one clip",
        .hint = "Cut",
        .flags = CMD_CHANGES | CMD_REPEATS,
        .run = run_cut,
    },
    {
        .name = "copy",
        .label = "Copy",
        .letter = 'c',
        .keys = "Ctrl+C",
        .help = "Copy the mark, or the line; lines copied one after the other become one clip",
        .hint = "Copy",
        .flags = CMD_REPEATS,
        .run = run_copy,
    },
    {
        .name = "paste",
        .label = "Paste",
        .letter = 'v',
        .keys = "Ctrl+V",
        .help = "Put in what was cut or copied last; whole lines go above this one",
        .hint = "Paste",
        .flags = CMD_CHANGES,
        .disabled_reason = nothing_to_paste,
        .run = run_paste,
    },
    {
        .name = "paste-from-system",
        .label = "Paste from the desktop",
        .letter = 'g',
        .help = "Put in what the desktop's clipboard holds",
        .more =
            "Needs a helper program of the desktop (wl-paste, xclip, xsel or pbpaste). Over a network the "
            "terminal's own paste does the same.",
        .flags = CMD_CHANGES,
        .run = run_paste_system,
    },
    {
        .name = "earlier-clip",
        .label = "Earlier clip",
        .letter = 'w',
        .help = "After a paste: exchange what was pasted for the clip before it",
        .flags = CMD_CHANGES | CMD_REPEATS,
        .disabled_reason = nothing_to_paste,
        .run = run_earlier_clip,
    },
    {
        .name = "shelf",
        .label = "Shelf…",
        .letter = 's',
        .help = "Choose among the last fifty clips and paste one",
        .flags = CMD_CHANGES,
        .disabled_reason = nothing_to_paste,
        .run = run_shelf,
    },
    {
        .name = "delete-right",
        .label = "Delete character",
        .letter = 'd',
        .keys = "Delete Ctrl+D",
        .help = "Delete the mark, or the character right of the cursor",
        .hint = "Delete",
        .flags = CMD_CHANGES | CMD_REPEATS,
        .run = run_delete_right,
    },
    {
        .name = "delete-word-right",
        .label = "Delete word to the right",
        .letter = 'n',
        .keys = "Ctrl+Delete",
        .help = "Delete to the end of this or the next word",
        .flags = CMD_CHANGES | CMD_REPEATS,
        .run = run_delete_word_right,
    },
    {
        .name = "delete-word-left",
        .label = "Delete word to the left",
        .letter = 'a',
        .keys = "Ctrl+W Alt+Backspace",
        .help = "Delete to the start of this word or the one before",
        .flags = CMD_CHANGES | CMD_REPEATS,
        .run = run_delete_word_left,
    },
    {
        .name = "cut-to-line-end",
        .label = "Cut to line end",
        .letter = 'l',
        .keys = "Ctrl+K",
        .help = "Remove what is right of the cursor; at the end of a line, join it with the next",
        .flags = CMD_CHANGES | CMD_REPEATS,
        .run = run_cut_to_end,
    },
    {
        .name = "cut-to-line-start",
        .label = "Cut to line start",
        .letter = 'b',
        .keys = "Ctrl+U",
        .help = "Remove what is left of the cursor in its line",
        .flags = CMD_CHANGES | CMD_REPEATS,
        .run = run_cut_to_start,
    },
    {
        .name = "overtype",
        .label = "Overtype",
        .letter = 'o',
        .keys = "Insert",
        .help = "Typing replaces what is right of the cursor, or pushes it aside again",
        .run = run_overtype,
    },
};
