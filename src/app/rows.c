#include "rows.h"

#include "move.h"

static size_t room(const View *v)
{
    int cells = v->cols - v->gutter - 1; /* one cell shows that the line goes on */
    return cells > 4 ? (size_t)cells : 4;
}

/* Where the row that begins at `start` must be broken; `end` is the line's end. */
static size_t break_at(const View *v, size_t start, size_t end)
{
    Text t = view_text(v);
    /* Tabs reach to stops counted from the line's start, as they are painted. */
    size_t origin = cells_before(t, start, v->tab), cells = origin, last_blank = start, p = start;
    Glyph g;
    GlyphReader reader = {.text = t};
    while (p < end) {
        size_t next = move_right(t, p), width = 0;
        for (size_t q = p; q < next; q += g.bytes) {
            glyph_next(&reader, q, &g);
            width += glyph_cells(&g, cells + width, v->tab);
        }
        if (cells + width - origin > room(v) && p > start)
            return last_blank > start ? last_blank : p;
        cells += width;
        int c = text_byte(t, p);
        p = next;
        if (c == ' ' || c == '\t' || c == '-' || c == '/')
            last_blank = p;
    }
    return end;
}

size_t row_start(const View *v, size_t at)
{
    Text t = view_text(v);
    size_t start = move_line_start(t, at);
    if (!v->wrap)
        return start;
    for (size_t end = move_line_end(t, at);;) {
        size_t next = break_at(v, start, end);
        if (next >= end || next > at)
            return start;
        start = next;
    }
}

size_t row_end(const View *v, size_t start)
{
    size_t end = move_line_end(view_text(v), start);
    return v->wrap ? break_at(v, start, end) : end;
}

size_t row_next(const View *v, size_t start, bool *none)
{
    Text t = view_text(v);
    size_t end = move_line_end(t, start), next = v->wrap ? break_at(v, start, end) : end;
    *none = false;
    if (next < end)
        return next;
    size_t line = text_line_of(t, start);
    *none = line >= text_newlines(t);
    return *none ? start : text_line_start(t, line + 1);
}

size_t row_before(const View *v, size_t start)
{
    Text t = view_text(v);
    size_t line_start = move_line_start(t, start);
    if (start > line_start)
        return row_start(v, start - 1);
    return start ? row_start(v, start - 1) : 0;
}

size_t rows_up(const View *v, size_t start, size_t n)
{
    while (n-- && start > 0)
        start = row_before(v, start);
    return start;
}
