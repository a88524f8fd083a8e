#include "kinds/table.h"

#include "base/array.h"
#include "base/mem.h"

#include <stdlib.h>
#include <string.h>

/* ---- cells ---- */

/* Past a cell that begins there; at the separator, or the end. */
static size_t past_cell(const char *row, size_t n, size_t at, char separator)
{
    if (at < n && row[at] == '"') {
        for (at++; at < n; at++)
            if (row[at] == '"' && (at + 1 == n || row[at + 1] != '"'))
                break;
            else if (row[at] == '"')
                at++;
    }
    while (at < n && row[at] != separator)
        at++;
    return at;
}

size_t table_cells(const char *row, size_t n, char separator, TableCell *cells, size_t most)
{
    size_t count = 0;
    for (size_t at = 0; at <= n; at++) {
        size_t end = past_cell(row, n, at, separator);
        if (cells && count < most)
            cells[count] = (TableCell){at, end};
        count++;
        at = end;
    }
    return count;
}

size_t table_row(const char *text, size_t n, bool *closed)
{
    bool quoted = false;
    *closed = true;
    for (size_t at = 0; at < n; at++) {
        if (text[at] == '"')
            quoted = !quoted;
        else if (text[at] == '\n' && !quoted)
            return at + 1;
    }
    *closed = !quoted;
    return n;
}

/* Without its line end. */
static size_t content(const char *row, size_t n)
{
    n -= n && row[n - 1] == '\n';
    return n - (n && row[n - 1] == '\r');
}

char table_separator(const char *text, size_t n)
{
    enum { ROWS = 5 };
    static const char signs[] = ",;\t|";
    char best = 0;
    size_t most = 1;
    for (const char *sign = signs; *sign; sign++) {
        size_t cells = 0, least = 0;
        for (size_t at = 0, row = 0; at < n && row < ROWS; row++) {
            bool closed;
            size_t len = table_row(text + at, n - at, &closed), all = content(text + at, len);
            if (!closed)
                break;
            cells = all ? table_cells(text + at, all, *sign, NULL, 0) : cells;
            least = row == 0 || cells < least ? cells : least;
            at += len;
        }
        if (least > most) {
            most = least;
            best = *sign;
        }
    }
    return best;
}

/* ---- sorting ---- */

typedef struct SortRow {
    const char *at, *cell;
    size_t n, cell_n; /* bytes without the line end */
    size_t place;
    double number;
} SortRow;

static bool is_number(const char *s, size_t n, double *value)
{
    char text[64], *end;
    if (n == 0 || n >= sizeof text)
        return false;
    memcpy(text, s, n);
    text[n] = 0;
    *value = strtod(text, &end);
    return end == text + n && strspn(text, "+-0123456789.eE") == n;
}

static int in_order(const SortRow *a, const SortRow *b)
{
    return (a->place > b->place) - (a->place < b->place);
}

static int by_number(const void *a, const void *b)
{
    const SortRow *x = a, *y = b;
    if (!x->cell_n || !y->cell_n)
        return x->cell_n || y->cell_n ? (x->cell_n ? -1 : 1) : in_order(x, y);
    return x->number != y->number ? (x->number < y->number ? -1 : 1) : in_order(x, y);
}

static int by_letters(const void *a, const void *b)
{
    const SortRow *x = a, *y = b;
    if (!x->cell_n || !y->cell_n)
        return x->cell_n || y->cell_n ? (x->cell_n ? -1 : 1) : in_order(x, y);
    int order = memcmp(x->cell, y->cell, x->cell_n < y->cell_n ? x->cell_n : y->cell_n);
    return order ? order : x->cell_n != y->cell_n ? (x->cell_n < y->cell_n ? -1 : 1) : in_order(x, y);
}

/* What a cell says: without blanks and quotes around it. */
static void take_cell(SortRow *r, TableCell cell)
{
    const char *from = r->at + cell.from, *to = r->at + cell.to;
    while (from < to && *from == ' ')
        from++;
    while (to > from && to[-1] == ' ')
        to--;
    if (to - from >= 2 && *from == '"' && to[-1] == '"')
        from++, to--;
    r->cell = from;
    r->cell_n = (size_t)(to - from);
}

bool table_sort(const char *rows, size_t n, char separator, size_t cell, Stop stop, Bytes *out)
{
    SortRow *all = NULL;
    TableCell *cells = mem_get(TABLE_CELLS * sizeof *cells);
    size_t count = 0, end_n = 1;
    bool numbers = true;
    for (size_t at = 0; at < n && !stop_wanted(stop);) {
        bool closed;
        size_t len = table_row(rows + at, n - at, &closed);
        SortRow r = {.at = rows + at, .n = content(rows + at, len), .place = count};
        if (count == 0 && len - r.n == 2)
            end_n = 2;
        if (table_cells(r.at, r.n, separator, cells, TABLE_CELLS) > cell && cell < TABLE_CELLS)
            take_cell(&r, cells[cell]);
        numbers = numbers && (!r.cell_n || is_number(r.cell, r.cell_n, &r.number));
        all = array_room(all, count, sizeof *all);
        all[count++] = r;
        at += len;
    }
    free(cells);
    bool done = !stop_wanted(stop);
    if (done && count)
        qsort(all, count, sizeof *all, numbers ? by_number : by_letters);
    for (size_t i = 0; done && i < count; i++) {
        bytes_add(out, all[i].at, all[i].n);
        if (i + 1 < count || rows[n - 1] == '\n')
            bytes_add(out, end_n == 2 ? "\r\n" : "\n", end_n);
    }
    free(all);
    return done;
}
