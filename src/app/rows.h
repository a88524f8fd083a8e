/* Rows of the screen: a line is one row, or with wrapping as many as it needs. */
#ifndef ROWS_H
#define ROWS_H

#include "editor.h"

/* Where the row that holds `at` begins. */
size_t row_start(const View *v, size_t at);
/* Where the next row begins; `none` behind the last one. */
size_t row_next(const View *v, size_t start, bool *none);
/* Where the row before begins; the same place for the first one. */
size_t row_before(const View *v, size_t start);
/* The end of the row: what stands before it is shown in it. */
size_t row_end(const View *v, size_t start);
/* `n` rows up from a row's start. */
size_t rows_up(const View *v, size_t start, size_t n);

#endif
