/* Rows of the screen: a line is one row, or with wrapping as many as it needs. */
#ifndef ROWS_H
#define ROWS_H

#include "view/view.h"

typedef struct Row {
    size_t from, to;           /* the bytes that are shown in it */
    size_t line;               /* its line, which holds bytes [line_from, line_to) */
    size_t line_from, line_to; /* without the line end */
    size_t origin;             /* cells before it from where tab stops are counted */
    /* private: the part of the line that is wrapped by itself; where the next line begins; cells at `to` */
    size_t part_from, part_to, next_line, end_cells;
} Row;

/* The row that holds a place of the text. */
Row row_at(const View *v, size_t at);
/* To the next row. False, and no change, at the last one. */
bool row_forward(const View *v, Row *r);
/* Where the row begins that lies n rows above the one that begins at `start`; 0 if there are fewer. */
size_t rows_up(const View *v, size_t start, size_t n);

/* Is the cursor shown in this row when it stands at `at`? */
bool row_holds(const Row *r, size_t at);
/* Cells from the row's start to a place in it, and back: the place at, or next before, so many cells. */
size_t row_cells(const View *v, const Row *r, size_t at);
size_t row_place(const View *v, const Row *r, size_t cells);

#endif
