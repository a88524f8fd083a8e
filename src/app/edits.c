/* Changing the text: what typing, pasting and the commands share. */
#include "editor.h"

#include "move.h"

bool edit_allowed(Editor *ed)
{
    if (!ed->view.file->look_only)
        return true;
    warn(ed, "%s is open to look only; it cannot be changed", file_name(ed->view.file));
    return false;
}

bool edit_replace(Editor *ed, size_t at, size_t removed, const void *bytes, size_t n, StepKind kind)
{
    View *v = &ed->view;
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
    if (!view_marked(&ed->view, &from, &to) || !edit_allowed(ed))
        return false;
    view_drop_mark(&ed->view);
    return edit_replace(ed, from, to - from, NULL, 0, STEP_WHOLE);
}

void edit_type(Editor *ed, const char *bytes, size_t n)
{
    View *v = &ed->view;
    size_t at = v->cursor.at, removed = 0, from, to;
    StepKind kind = STEP_TYPE;
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

void edit_paste(Editor *ed, const char *bytes, size_t n, bool goes_on)
{
    View *v = &ed->view;
    if (!edit_allowed(ed))
        return;
    /* Terminals send the line ends of a paste as CR, LF or both. */
    const char *end = form_line_end(&v->file->form);
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
    if (!ed->pasting)
        doc_begin(v->file->doc);
    if (edit_replace(ed, at, removed, out.at, out.len, STEP_WHOLE))
        view_drop_mark(v);
    ed->pasting = goes_on;
    if (!goes_on)
        doc_end(v->file->doc);
    bytes_free(&out);
}
