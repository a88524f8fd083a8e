/* Tables as texts, the cells between commas and the like (RFC 4180): where cells are, sorting by one. */
#ifndef TABLE_H
#define TABLE_H

#include "base/bytes.h"
#include "base/stop.h"

#include <stdbool.h>
#include <stddef.h>

enum { TABLE_CELLS = 4096 /* of a row that are told apart */ };

typedef struct TableCell {
    size_t from, to; /* bytes of the row, with quotes */
} TableCell;

/* What stands between the cells: , ; | or a tab, as the first rows have it; 0: nothing does. */
char table_separator(const char *text, size_t n);
/* The cells of a row of n bytes without its line end; how many there are, of which `most` are written (NULL:
 * none). */
size_t table_cells(const char *row, size_t n, char separator, TableCell *cells, size_t most);
/* Bytes of the first row with its line end: cells in quotes may go over lines. *closed: no quote is missing.
 */
size_t table_row(const char *text, size_t n, bool *closed);
/* Sorts rows by the cell of that number from 0, as numbers where all of them are; those without one come
 * last. Equal ones keep their order. False, and `out` as it was, when it was stopped. */
bool table_sort(const char *rows, size_t n, char separator, size_t cell, Stop stop, Bytes *out);

#endif
