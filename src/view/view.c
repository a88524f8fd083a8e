#include "view/view.h"

#include "edit/cells.h"
#include "text/text_line.h"
#include "view/shown.h"

#include <stdlib.h>

Text view_text(const View *v)
{
    return doc_text(v->file->doc);
}

size_t view_end(const View *v)
{
    enum { LONG = 8 * 1024, MOST = 32 * 1024 /* bytes */ };
    Text t = view_text(v);
    size_t top = v->top.at, line = text_line_of(t, top), end = text_line_start(t, line + (size_t)v->rows);
    if (!v->wrap && text_line_end(t, line) - top > LONG) /* of a very long line little is seen */
        return top + v->left + 4 * (size_t)v->cols;
    return end < top + MOST ? end : top + MOST;
}

size_t view_tab(const View *v)
{
    return v->file->rules.tab_width ? v->file->rules.tab : v->file->shown->tab;
}

size_t view_lines(const View *v)
{
    Text t = view_text(v);
    size_t n = text_newlines(t) + 1, len = text_len(t);
    return n - (len > 0 && text_byte(t, len - 1) == '\n');
}

void view_show(View *v, OpenFile *f)
{
    if (v->file)
        view_leave(v);
    v->file = f;
    size_t len = text_len(doc_text(f->doc));
    doc_add_anchor(f->doc, &v->cursor, f->shown->cursor < len ? f->shown->cursor : len, false);
    doc_add_anchor(f->doc, &v->top, f->shown->top < len ? f->shown->top : len, true);
    doc_add_anchor(f->doc, &v->mark, 0, true);
    v->marking = MARK_NONE;
    v->goal_kept = false;
    v->left = 0;
    v->away = false;
    v->looks = (Looks){0};
}

void view_leave(View *v)
{
    if (v->hiding)
        v->end_hiding(v);
    if (v->aligned)
        v->end_aligned(v);
    if (v->cursors)
        v->end_cursors(v);
    free(v->around);
    v->around = NULL;
    v->file->shown->cursor = v->cursor.at;
    v->file->shown->top = v->top.at;
    doc_remove_anchor(v->file->doc, &v->cursor);
    doc_remove_anchor(v->file->doc, &v->top);
    doc_remove_anchor(v->file->doc, &v->mark);
    v->file = NULL;
}

bool view_at_end(const View *v, size_t len)
{
    Text t = view_text(v);
    size_t end = len && text_byte(t, len - 1) == '\n' ? len - 1 : len;
    return v->cursor.at >= text_line_start(t, text_line_of(t, end));
}

void view_go(View *v, size_t at)
{
    size_t len =
        text_len(view_text(v)); /* blanks put before a cursor may be gone by the time one comes back */
    v->cursor.at = at < len ? at : len;
    v->goal_kept = v->away = false;
}

ViewPlace view_place(const View *v)
{
    return (ViewPlace){v->cursor.at, v->top.at, v->mark.at, v->left, v->marking, v->columns};
}

void view_restore(View *v, const ViewPlace *to)
{
    size_t len = text_len(view_text(v));
    view_go(v, to->cursor < len ? to->cursor : len);
    v->top.at = to->top < len ? to->top : len;
    v->mark.at = to->mark < len ? to->mark : len;
    v->marking = to->mark <= len ? to->marking : MARK_NONE;
    v->columns = v->marking != MARK_NONE && to->columns;
    v->left = to->left;
}

bool view_go_line(View *v, size_t line, size_t column)
{
    size_t last = text_newlines(view_text(v));
    bool there = line <= last;
    view_go(v, cells_place_of_char(view_text(v), there ? line : last, column));
    return there;
}

bool view_marked(const View *v, size_t *from, size_t *to)
{
    if (v->marking == MARK_NONE || v->mark.at == v->cursor.at)
        return false;
    *from = v->mark.at < v->cursor.at ? v->mark.at : v->cursor.at;
    *to = v->mark.at < v->cursor.at ? v->cursor.at : v->mark.at;
    return true;
}

void view_drop_mark(View *v)
{
    v->columns = false;
    v->marking = MARK_NONE;
}
