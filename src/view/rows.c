#include "view/rows.h"

#include "edit/cells.h"
#include "edit/glyph_reader.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "view/aligned.h"
#include "view/hiding.h"

/* A very long line is not read from its start for every row: it is cut into parts, each of which begins a
 * row. */
enum { LONG = 64 * 1024, PART = 4 * 1024 };

/* Where part k of a line begins; the line's end where none does. */
static size_t part_start(Text t, const Row *line, size_t k)
{
    size_t at = line->line_from + k * PART;
    if (k == 0)
        return line->line_from;
    return at < line->line_to ? move_to_sure_start(t, at, line->line_to) : line->line_to;
}

static bool whole(const View *v, const Row *line)
{
    return !v->wrap || line->line_to - line->line_from <= LONG;
}

/* Where part k ends; where no character surely begins, a part is longer. */
static size_t part_end(const View *v, const Row *line, size_t k)
{
    size_t end = line->line_to;
    while (!whole(v, line) && end == line->line_to && line->line_from + k * PART < line->line_to)
        end = part_start(view_text(v), line, ++k);
    return end;
}

/* Fits the part that holds `at` into a row whose line is known. */
static void set_part(const View *v, Row *r, size_t at)
{
    Text t = view_text(v);
    size_t k = whole(v, r) ? 0 : ((at < r->line_to ? at : r->line_to) - r->line_from) / PART;
    while ((r->part_from = part_start(t, r, k)) > at || (k && r->part_from == r->line_to))
        k--;
    r->part_to = part_end(v, r, k);
}

static size_t room(const View *v)
{
    int cells = v->cols - v->gutter - 1; /* one cell shows that the line goes on */
    return cells > 4 ? (size_t)cells : 4;
}

/* Finds the end of a row whose start and origin are known. */
static void set_end(const View *v, Row *r)
{
    GlyphReader reader = {.text = view_text(v)};
    size_t now = r->origin, blank = r->from, blank_cells = now, p = r->from, width;
    while (v->wrap && p < r->part_to) {
        size_t next = p + glyph_reader_whole(&reader, p, now, view_tab(v), &width);
        if (now + width - r->origin > room(v) && p > r->from) {
            r->to = blank > r->from ? blank : p;
            r->end_cells = blank > r->from ? blank_cells : now;
            return;
        }
        now += width;
        int c = text_byte(reader.text, p);
        p = next;
        if (c == ' ' || c == '\t' || c == '-' || c == '/') {
            blank = p;
            blank_cells = now;
        }
    }
    r->to = r->part_to;
    r->end_cells = now;
}

static void first_of_part(const View *v, Row *r)
{
    r->from = r->part_from;
    r->origin = 0;
    set_end(v, r);
}

/* To the next row of the same part. */
static bool forward_in_part(const View *v, Row *r)
{
    if (r->to >= r->part_to)
        return false;
    r->from = r->to;
    r->origin = r->end_cells;
    set_end(v, r);
    return true;
}

Row row_at(const View *v, size_t at)
{
    Text t = view_text(v);
    Row r = {.line = text_line_of(t, at)};
    r.line_from = text_line_start(t, r.line);
    r.line_to = move_end_of_line(t, r.line, &r.next_line);
    set_part(v, &r, at);
    first_of_part(v, &r);
    while (r.to <= at && forward_in_part(v, &r))
        continue;
    return r;
}

bool row_forward(const View *v, Row *r)
{
    Text t = view_text(v);
    if (forward_in_part(v, r))
        return true;
    if (r->part_to < r->line_to) {
        set_part(v, r, r->part_to);
    } else if (r->line < text_newlines(t)) {
        size_t next = hiding_on(v, r->next_line);
        if (next == HIDING_NOWHERE)
            return false;
        r->line = next == r->next_line ? r->line + 1 : text_line_of(t, next);
        r->line_from = r->part_from = next;
        r->line_to = move_end_of_line(t, r->line, &r->next_line);
        r->part_to = part_end(v, r, 0);
    } else {
        return false;
    }
    first_of_part(v, r);
    return true;
}

size_t rows_up(const View *v, size_t start, size_t n)
{
    while (n && start > 0) {
        size_t back = hiding_back(v, start - 1);
        if (back == HIDING_NOWHERE)
            break;
        Row last = row_at(v, v->hiding && start - 1 > move_line_end(view_text(v), back)
                                 ? move_line_end(view_text(v), back)
                                 : start - 1),
            r = last;
        size_t above = 0; /* in the same part */
        for (first_of_part(v, &r); r.from < last.from; forward_in_part(v, &r))
            above++;
        if (above + 1 < n) {
            n -= above + 1;
            start = last.part_from;
            continue;
        }
        for (first_of_part(v, &r); above >= n; above--)
            forward_in_part(v, &r);
        return r.from;
    }
    return start;
}

bool row_holds(const Row *r, size_t at)
{
    return at >= r->from && (at < r->to || (at == r->to && r->to == r->line_to));
}

size_t row_cells(const View *v, const Row *r, size_t at)
{
    if (v->aligned)
        return aligned_cells(v, r->line_from, r->line_to, at);
    return cells_between(view_text(v), r->part_from, at, view_tab(v)) - r->origin;
}

size_t row_place(const View *v, const Row *r, size_t cells)
{
    Text t = view_text(v);
    if (v->aligned)
        return aligned_place(v, r->line_from, r->line_to, cells);
    size_t p = cells_place_after(t, r->part_from, r->part_to, r->origin + cells, view_tab(v));
    if (p >= r->to && r->to < r->line_to) /* the end of a wrapped row is the next one's start */
        p = move_left(t, r->to);
    return p < r->from ? r->from : p;
}
