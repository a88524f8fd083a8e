/* Changing the text: what typing, pasting and the commands share. */
#include "app/columns.h"
#include "app/editor.h"
#include "edit/move.h"

#include <stdio.h>
#include <string.h>

bool edit_allowed(Editor *ed)
{
    char why[FILE_WORDS_MAX];
    if (file_unready(ed->view->file, why)) {
        warn(ed, "%s", why);
        return false;
    }
    if (!ed->view->file->look_only)
        return true;
    warn(ed, "%s is open to look only; it cannot be changed", file_name(ed->view->file));
    return false;
}

bool edit_replace(Editor *ed, size_t at, size_t removed, const void *bytes, size_t n, StepKind kind)
{
    View *v = ed->view;
    if (!edit_allowed(ed))
        return false;
    if (!doc_replace(v->file->doc, at, removed, bytes, n, kind, v->cursor.at)) {
        warn(ed, "There is not enough memory for that; nothing was changed");
        return false;
    }
    view_go(v, at + n);
    return true;
}

bool edit_delete_mark(Editor *ed)
{
    size_t from, to;
    if (ed->view->columns && ed->view->marking != MARK_NONE) {
        columns_delete(ed, true);
        return true;
    }
    if (!view_marked(ed->view, &from, &to) || !edit_allowed(ed))
        return false;
    view_drop_mark(ed->view);
    return edit_replace(ed, from, to - from, NULL, 0, STEP_WHOLE);
}

void edit_type(Editor *ed, const char *bytes, size_t n)
{
    View *v = ed->view;
    size_t at = v->cursor.at, removed = 0, from, to;
    StepKind kind = STEP_TYPE;
    if (v->columns && v->marking != MARK_NONE && bytes[0] != '\n' && bytes[0] != '\r') {
        columns_type(ed, bytes, n);
        return;
    }
    if (view_marked(v, &from, &to)) {
        at = from;
        removed = to - from;
    } else if (ed->overtype && bytes[0] != '\n' && bytes[0] != '\r') {
        Text t = view_text(v);
        if (at < move_line_end(t, at))
            removed = move_right(t, at) - at;
        kind = removed ? STEP_WHOLE : STEP_TYPE;
    }
    if (edit_replace(ed, at, removed, bytes, n, kind))
        view_drop_mark(v);
}

void edit_paste_ends(Editor *ed)
{
    if (ed->pasting)
        doc_end(ed->pasting->doc);
    ed->pasting = NULL;
}

void edit_paste(Editor *ed, const char *bytes, size_t n, bool goes_on)
{
    View *v = ed->view;
    if (!edit_allowed(ed))
        return;
    /* Terminals send the line ends of a paste as CR, LF or both. */
    const char *end = text_format_line_end(&v->file->format);
    Bytes out = {0};
    for (size_t i = 0; i < n;) {
        size_t k = i;
        while (k < n && bytes[k] != '\r' && bytes[k] != '\n')
            k++;
        bytes_add(&out, bytes + i, k - i);
        if (k < n)
            bytes_add_str(&out, end);
        i = k + 1 + (k + 1 < n && bytes[k] == '\r' && bytes[k + 1] == '\n');
    }
    size_t at = v->cursor.at, removed = 0, from, to;
    if (view_marked(v, &from, &to)) {
        at = from;
        removed = to - from;
    }
    if (ed->pasting != v->file)
        edit_paste_ends(ed);
    if (!ed->pasting) {
        doc_begin(v->file->doc);
        ed->pasting = v->file;
    }
    doc_set_verb(v->file->doc, "Paste");
    if (edit_replace(ed, at, removed, out.at, out.len, STEP_WHOLE))
        view_drop_mark(v);
    doc_set_verb(v->file->doc, NULL);
    if (!goes_on)
        edit_paste_ends(ed);
    bytes_free(&out);
}

/* ---- clips ---- */

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

void clip_copy(Editor *ed, bool cut)
{
    View *v = ed->view;
    size_t from, to;
    bool marked = view_marked(v, &from, &to);
    if (marked && v->columns) {
        columns_copy(ed, cut);
        return;
    }
    if (!marked)
        line_range(v, &from, &to);
    if (from == to) {
        say(ed, "There is nothing in this line to %s. Leaving is Ctrl+Q.", cut ? "cut" : "copy");
        return;
    }
    Text piece;
    if ((cut && !edit_allowed(ed)) || !text_slice(view_text(v), from, to - from, &piece))
        return;
    if (!marked && text_byte(piece, text_len(piece) - 1) != '\n')
        text_insert(&piece, text_len(piece), text_format_line_end(&v->file->format),
                    strlen(text_format_line_end(&v->file->format)));
    /* Lines taken one after the other become one clip. */
    bool gather = !marked && ed->before == ed->running && ed->gathering && ed->shelf.n;
    char how_much[WORDS_MAX];
    amount_of(piece, how_much);
    if (gather) {
        if (!shelf_gather(&ed->shelf, piece))
            warn(ed, "There is not enough memory for that");
        amount_of(ed->shelf.clips[0].text, how_much);
    } else {
        shelf_put(&ed->shelf, piece, !marked);
    }
    ed->gathering = !marked;
    ed->send_clip = true;
    if (cut && edit_replace(ed, from, to - from, NULL, 0, STEP_WHOLE)) {
        view_drop_mark(v);
        say(ed, "Cut %s; %s brings it back.%s", how_much, "Ctrl+Z", marked ? "" : " Leaving is Ctrl+Q.");
    } else if (!cut) {
        if (!marked) /* on to the next line, so that copying again gathers it */
            view_go(v, to);
        view_drop_mark(v);
        say(ed, "Copied %s.%s", how_much, marked ? "" : " Leaving is Ctrl+Q.");
    }
}

/* The text as it is now has that clip in it: only as long as it is this text, the clip can be exchanged. */
static void note_paste(Editor *ed, size_t number)
{
    text_drop(&ed->pasted_text);
    ed->pasted_text = text_keep(view_text(ed->view));
    ed->pasted_in = ed->view->file->id;
    ed->pasted_clip = number;
}

void clip_forget(Editor *ed)
{
    text_drop(&ed->pasted_text);
    ed->pasted_in = 0;
}

static void paste_clip(Editor *ed, size_t number, unsigned count)
{
    View *v = ed->view;
    const Clip *c = &ed->shelf.clips[number];
    size_t from, to, cursor = v->cursor.at;
    bool marked = view_marked(v, &from, &to), ok = true;
    if (c->block && !marked) {
        columns_paste(ed, c->text);
        note_paste(ed, number);
        return;
    }
    if (!marked)
        from = to = c->lines ? move_line_start(view_text(v), cursor) : cursor;
    doc_begin(v->file->doc);
    size_t removed = to - from, at = from;
    for (unsigned i = 0; ok && i < count; i++) {
        ok = doc_replace_text(v->file->doc, at, removed, c->text, cursor);
        removed = 0;
        at += text_len(c->text);
    }
    doc_end(v->file->doc);
    if (!ok) {
        warn(ed, "There is not enough memory for that");
        return;
    }
    view_drop_mark(v);
    view_go(v, at);
    note_paste(ed, number);
    if (c->lines || text_newlines(c->text))
        say(ed, "Pasted %s", amount_of(c->text, (char[WORDS_MAX]){0}));
}

void clip_paste(Editor *ed, unsigned count)
{
    if (ed->shelf.n == 0)
        say(ed, "Nothing was cut or copied yet");
    else if (edit_allowed(ed))
        paste_clip(ed, 0, count);
}

void clip_earlier(Editor *ed)
{
    View *v = ed->view;
    size_t cursor, next = ed->pasted_clip + 1;
    if (ed->shelf.n == 0 || ed->pasted_in != v->file->id || !text_same(ed->pasted_text, view_text(v))) {
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

void editor_fetched(Editor *ed, const char *bytes, size_t n, const char *why)
{
    if (why)
        warn(ed, "%s", why);
    else if (n == 0)
        say(ed, "The system's clipboard is empty");
    else
        edit_paste(ed, bytes, n, false);
}
