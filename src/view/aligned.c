#include "view/aligned.h"

#include "base/mem.h"
#include "edit/cells.h"
#include "kinds/table.h"

#include <stdlib.h>

enum {
    HEAD = 4096,      /* bytes that tell what stands between the cells */
    LINE_MOST = 8192, /* bytes of a line that is aligned */
    WIDEST = 40,      /* cells of a column; what is longer pushes the rest of its row aside */
};

struct Aligned {
    char separator;
    unsigned stamp;
    size_t width[ALIGNED_CELLS]; /* of each column, in cells */
};

bool aligned_begin(View *v)
{
    char head[HEAD];
    char separator = table_separator(head, text_read(view_text(v), 0, head, sizeof head));
    if (!separator)
        return false;
    aligned_end(v);
    v->aligned = mem_get(sizeof *v->aligned);
    v->aligned->separator = separator;
    v->end_aligned = aligned_end;
    return true;
}

void aligned_end(View *v)
{
    free(v->aligned);
    v->aligned = NULL;
}

unsigned aligned_stamp(const View *v)
{
    return v->aligned ? v->aligned->stamp : 0;
}

/* The cells of a line; how many there are, 0 if it is too long to be aligned. */
static size_t cells_of(const View *v, size_t from, size_t to, TableCell cells[ALIGNED_CELLS])
{
    char line[LINE_MOST];
    if (to - from > sizeof line)
        return 0;
    text_read(view_text(v), from, line, to - from);
    size_t n = table_cells(line, to - from, v->aligned->separator, cells, ALIGNED_CELLS);
    return n < ALIGNED_CELLS ? n : ALIGNED_CELLS;
}

static size_t cells_wide(const View *v, size_t line_from, const TableCell *c)
{
    return cells_between(view_text(v), line_from + c->from, line_from + c->to, view_tab(v));
}

void aligned_widen(View *v, size_t from, size_t to)
{
    TableCell cells[ALIGNED_CELLS];
    size_t n = cells_of(v, from, to, cells);
    for (size_t i = 0; i + 1 < n; i++) {
        size_t width = cells_wide(v, from, &cells[i]);
        width = width < WIDEST ? width : WIDEST;
        if (width <= v->aligned->width[i])
            continue;
        v->aligned->width[i] = width;
        v->aligned->stamp++;
    }
}

void aligned_row(const View *v, size_t from, size_t to, AlignedRow *out)
{
    TableCell cells[ALIGNED_CELLS];
    size_t n = cells_of(v, from, to, cells), begins = 0, column = 0;
    out->n = 0;
    for (size_t i = 0; i + 1 < n; i++) {
        size_t end = column + cells_wide(v, from, &cells[i]) + 1;
        begins += v->aligned->width[i] + 2;
        out->at[out->n] = from + cells[i].to;
        column = out->after[out->n++] = end < begins ? begins : end + 1;
    }
}

size_t aligned_cells(const View *v, size_t from, size_t to, size_t at)
{
    AlignedRow r;
    size_t before = 0;
    aligned_row(v, from, to, &r);
    for (size_t i = 0; i < r.n && r.at[i] < at; i++) {
        from = r.at[i] + 1;
        before = r.after[i];
    }
    return before + cells_between(view_text(v), from, at, view_tab(v));
}

size_t aligned_place(const View *v, size_t from, size_t to, size_t cells)
{
    AlignedRow r;
    size_t before = 0, i = 0;
    aligned_row(v, from, to, &r);
    for (; i < r.n && r.after[i] <= cells; i++) {
        from = r.at[i] + 1;
        before = r.after[i];
    }
    return cells_place_after(view_text(v), from, i < r.n ? r.at[i] : to, cells - before, view_tab(v));
}
