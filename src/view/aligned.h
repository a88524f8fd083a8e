/* The cells of a table under each other: on the screen, what stands between two cells reaches to where the
 * next column begins. The text stays as it is. Columns become as wide as what was on the screen so far. */
#ifndef ALIGNED_H
#define ALIGNED_H

#include "view/view.h"

enum { ALIGNED_CELLS = 256 /* of a row that are aligned */ };

/* How a line lies on the screen. */
typedef struct AlignedRow {
    size_t n;                    /* separators; 0: it is as it always is */
    size_t at[ALIGNED_CELLS];    /* their bytes, */
    size_t after[ALIGNED_CELLS]; /* and the cells from the line's start at which the next column begins */
} AlignedRow;

/* False, and nothing changes, where no sign divides the first rows into cells. */
bool aligned_begin(View *v);
void aligned_end(View *v);
/* Makes columns wide enough for a line, which is about to be shown. */
void aligned_widen(View *v, size_t line_from, size_t line_to);
/* Another number whenever columns became wider. */
unsigned aligned_stamp(const View *v);

void aligned_row(const View *v, size_t line_from, size_t line_to, AlignedRow *out);
/* Cells from the line's start to a place of it, and the place at, or next before, that many cells. */
size_t aligned_cells(const View *v, size_t line_from, size_t line_to, size_t at);
size_t aligned_place(const View *v, size_t line_from, size_t line_to, size_t cells);

#endif
