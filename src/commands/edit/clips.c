#include "commands/edit/clips.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/edits.h"
#include "commands/excerpt.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "view/columns.h"

#include <stdlib.h>
#include <string.h>

typedef struct Clips {
    bool gathering; /* the newest clip holds lines and may take in more */
    /* the last paste, which "earlier clip" exchanges */
    FileId pasted_in;
    Text pasted; /* the text as it was right after it */
    size_t number;
} Clips;

void clips_begin(Editor *ed)
{
    ed->clips = mem_get(sizeof *ed->clips);
}

void clips_free(Editor *ed)
{
    text_drop(&ed->clips->pasted);
    free(ed->clips);
}

/* Words for a piece of text: characters while it stays in a line, lines otherwise. */
static const char *amount_of(Text t, char out[WORDS_MAX])
{
    size_t lines = text_newlines(t), len = text_len(t), chars = 0;
    if (lines)
        return words_amount(lines + (text_byte(t, len - 1) != '\n'), "line", out);
    for (size_t p = 0; p < len; chars++)
        p = move_right(t, p);
    return words_amount(chars, "character", out);
}

/* The line the cursor is in, with its end; true when the text's last line lacks one. */
static void line_range(const View *v, size_t *from, size_t *to)
{
    Text t = view_text(v);
    size_t line = text_line_of(t, v->cursor.at);
    *from = text_line_start(t, line);
    *to = text_line_start(t, line + 1);
}

/* Puts the block on the shelf; with `cut` removes it. */
static void copy_columns(Editor *ed, bool cut)
{
    View *v = ed->panes.view;
    Columns c;
    Text clip;
    if (!columns_marked(v, &c) || !columns_text(v, &clip))
        return;
    shelf_put(&ed->shelf, clip, false);
    ed->shelf.clips[0].block = true;
    ed->host.send_clip = true;
    if (cut && edit_allowed(ed) && c.left < c.right)
        columns_delete(v, true);
    say(ed, "%s a block of %s and %s", cut ? "Cut" : "Copied", AMOUNT(c.last - c.first + 1, "line"),
        AMOUNT(c.right - c.left, "column"));
    view_drop_mark(v);
}

/* Takes over a piece that was cut or copied: as the next of what is taken at many cursors, as more of the
 * newest clip, or as a clip of its own. */
static void take(Editor *ed, Text piece, bool lines, bool gather, bool in_front)
{
    bool ok = true;
    if (ed->running.place)
        ok = shelf_add_piece(&ed->shelf, piece, text_format_line_end(&ed->panes.view->file->format));
    else if (gather && !ed->running.places)
        ok = shelf_gather(&ed->shelf, piece, in_front);
    else
        shelf_put(&ed->shelf, piece, lines);
    if (!ok)
        warn(ed, "There is not enough memory for that");
    ed->host.send_clip = true;
}

void clips_cut(Editor *ed, size_t from, size_t to, bool in_front)
{
    Text piece;
    if (from >= to || !edit_allowed(ed) || !text_slice(view_text(ed->panes.view), from, to - from, &piece))
        return;
    bool gather = ed->running.before == ed->running.now && ed->clips->gathering && ed->shelf.n;
    take(ed, piece, false, gather, in_front);
    ed->clips->gathering = !ed->running.places;
    edit_replace(ed, from, to - from, NULL, 0, STEP_WHOLE);
}

static void copy(Editor *ed, bool cut)
{
    View *v = ed->panes.view;
    size_t from, to;
    bool marked = view_marked(v, &from, &to);
    if (marked && v->columns) {
        copy_columns(ed, cut);
        return;
    }
    if (!marked)
        line_range(v, &from, &to);
    if (from == to) {
        say(ed, "There is nothing in this line to %s. Leaving is %s.", cut ? "cut" : "copy",
            KEY_FOR(ed, "leave"));
        return;
    }
    Text piece;
    if ((cut && !edit_allowed(ed)) || !text_slice(view_text(v), from, to - from, &piece))
        return;
    if (!marked && text_byte(piece, text_len(piece) - 1) != '\n')
        text_insert(&piece, text_len(piece), text_format_line_end(&v->file->format),
                    strlen(text_format_line_end(&v->file->format)));
    /* Lines taken one after the other become one clip. */
    bool gather = !marked && ed->running.before == ed->running.now && ed->clips->gathering && ed->shelf.n;
    const char *together = gather ? ", all of them one clip" : "";
    char how_much[WORDS_MAX];
    amount_of(piece, how_much);
    take(ed, piece, !marked, gather, false);
    if (gather)
        amount_of(ed->shelf.clips[0].text, how_much);
    ed->clips->gathering = !marked && !ed->running.places;
    if (cut && edit_replace(ed, from, to - from, NULL, 0, STEP_WHOLE)) {
        view_drop_mark(v);
        say(ed, "Cut %s%s; %s brings it back.%s%s%s", how_much, together, KEY_FOR(ed, "undo"),
            marked ? "" : " Leaving is ", marked ? "" : KEY_FOR(ed, "leave"), marked ? "" : ".");
    } else if (!cut) {
        if (!marked) /* on to the next line, so that copying again gathers it */
            view_go(v, to);
        view_drop_mark(v);
        say(ed, "Copied %s%s.%s%s%s", how_much, together, marked ? "" : " Leaving is ",
            marked ? "" : KEY_FOR(ed, "leave"), marked ? "" : ".");
    }
}

/* The text as it is now has that clip in it: only as long as it is this text, the clip can be replaced. */
static void note_paste(Editor *ed, size_t number)
{
    text_drop(&ed->clips->pasted);
    ed->clips->pasted = text_keep(view_text(ed->panes.view));
    ed->clips->pasted_in = ed->panes.view->file->id;
    ed->clips->number = number;
}

static void paste_clip(Editor *ed, size_t number, unsigned count)
{
    View *v = ed->panes.view;
    const Clip *c = &ed->shelf.clips[number];
    size_t from, to, cursor = v->cursor.at;
    bool marked = view_marked(v, &from, &to);
    if (c->block && !marked && !ed->running.places) {
        columns_paste(v, c->text);
        note_paste(ed, number);
        return;
    }
    if (!marked)
        from = to = c->lines ? move_line_start(view_text(v), cursor) : cursor;
    Text piece;
    bool ok = shelf_piece(c, ed->running.place, ed->running.places, &piece);
    doc_begin(v->file->doc);
    size_t removed = to - from, at = from;
    for (unsigned i = 0; ok && i < count; i++) {
        ok = doc_replace_text(v->file->doc, at, removed, piece, cursor);
        removed = 0;
        at += text_len(piece);
    }
    doc_end(v->file->doc);
    text_drop(&piece);
    if (!ok) {
        warn(ed, "There is not enough memory for that");
        return;
    }
    view_drop_mark(v);
    view_go(v, at);
    note_paste(ed, number);
    if (count > 1)
        say(ed, "Pasted %s %u times", amount_of(c->text, (char[WORDS_MAX]){0}), count);
    else if (c->lines || text_newlines(c->text))
        say(ed, "Pasted %s", amount_of(c->text, (char[WORDS_MAX]){0}));
}

static void paste_newest(Editor *ed, unsigned count)
{
    if (ed->shelf.n == 0)
        say(ed, "Nothing was cut or copied yet");
    else if (edit_allowed(ed))
        paste_clip(ed, 0, count);
}

static const char *nothing_to_paste(const Editor *ed)
{
    return ed->shelf.n ? NULL : "Nothing was cut or copied yet";
}

static void run_earlier_clip(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t cursor, next = ed->clips->number + 1;
    if (ed->shelf.n == 0 || ed->clips->pasted_in != v->file->id ||
        !text_same(ed->clips->pasted, view_text(v))) {
        say(ed, "Paste first; then this exchanges what was pasted for the clip before it");
        return;
    }
    if (next >= ed->shelf.n) {
        say(ed, ed->shelf.n > 1 ? "That was the oldest clip; on with the newest" : "There is only one clip");
        next = 0;
    }
    doc_undo(v->file->doc, &cursor);
    view_go(v, cursor);
    paste_clip(ed, next, 1);
    if (next)
        say(ed, "Clip %zu of %zu", next + 1, ed->shelf.n);
}

static const Command cmd_earlier_clip = {
    .name = "earlier-clip",
    .label = "Earlier clip",
    .letter = 'w',
    .help = "After a paste: exchange what was pasted for the clip before it",
    .words = "clipboard history",
    .flags = CMD_CHANGES | CMD_REPEATS,
    .disabled_reason = nothing_to_paste,
    .run = run_earlier_clip,
};

static void run_cut(Editor *ed, const Args *args)
{
    (void)args;
    copy(ed, true);
}

static const Command cmd_cut = {
    .name = "cut",
    .label = "Cut",
    .letter = 'x',
    .keys = "Ctrl+X",
    .help = "Cut the mark, or the line; lines cut one after the other become one clip",
    .words = "clipboard move",
    .hint = "Cut",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_EACH | CMD_EACH_LINE,
    .run = run_cut,
};

static void run_copy(Editor *ed, const Args *args)
{
    (void)args;
    copy(ed, false);
}

static const Command cmd_copy = {
    .name = "copy",
    .label = "Copy",
    .letter = 'c',
    .keys = "Ctrl+C",
    .help = "Copy the mark, or the line; lines copied one after the other become one clip",
    .words = "clipboard",
    .hint = "Copy",
    .flags = CMD_REPEATS | CMD_EACH | CMD_EACH_LINE,
    .run = run_copy,
};

static void run_paste(Editor *ed, const Args *args)
{
    paste_newest(ed, args->count);
}

static const Command cmd_paste = {
    .name = "paste",
    .label = "Paste",
    .letter = 'v',
    .keys = "Ctrl+V",
    .help = "Put in what was cut or copied last; whole lines go above this one",
    .words = "clipboard insert put",
    .hint = "Paste",
    .flags = CMD_CHANGES | CMD_EACH,
    .disabled_reason = nothing_to_paste,
    .run = run_paste,
};

static void run_paste_system(Editor *ed, const Args *args)
{
    (void)args;
    ed->host.fetch_clip = true;
}

static const Command cmd_paste_from_system = {
    .name = "paste-from-system",
    .label = "Paste from the desktop",
    .letter = 'g',
    .help = "Put in what the desktop's clipboard holds",
    .more = "Needs a helper program of the desktop (wl-paste, xclip, xsel or pbpaste). Over a network the "
            "terminal's own paste does the same.",
    .flags = CMD_CHANGES | CMD_ALL,
    .run = run_paste_system,
};

/* ---- the shelf ---- */

static void fill_shelf(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    for (size_t i = 0; i < ed->shelf.n; i++) {
        const Clip *c = &ed->shelf.clips[i];
        Bytes text = {0};
        size_t lines = text_newlines(c->text);
        excerpt_add(c->text, 0, text_len(c->text), &text);
        panel_add(p, (long)i, bytes_str(&text), c->block ? "a block of columns" : NULL,
                  lines ? AMOUNT(lines, "line") : AMOUNT(text_len(c->text), "byte"));
        bytes_free(&text);
    }
}

static void clip_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    if (id < 0)
        return;
    Clip c = ed->shelf.clips[id];
    memmove(ed->shelf.clips + 1, ed->shelf.clips, (size_t)id * sizeof c);
    ed->shelf.clips[0] = c;
    paste_newest(ed, 1);
}

static void run_shelf(Editor *ed, const Args *args)
{
    (void)args;
    PanelSpec p = {.title = "Shelf: paste", .fill = fill_shelf, .chosen = clip_chosen};
    panel_open(ed, &p);
}

static const Command cmd_shelf = {
    .name = "shelf",
    .label = "Shelf…",
    .letter = 's',
    .help = "Choose among the last fifty clips and paste one",
    .words = "clipboard history clips",
    .flags = CMD_CHANGES,
    .disabled_reason = nothing_to_paste,
    .run = run_shelf,
};

const Command *const clip_commands[] = {
    &cmd_cut, &cmd_copy, &cmd_paste, &cmd_paste_from_system, &cmd_earlier_clip, &cmd_shelf, NULL,
};
