/* Places of a line by cells and by characters, and back. */
#ifndef CELLS_H
#define CELLS_H

#include "text/text.h"

/* Cells from the line's start to `at`; tabs reach to the next multiple of `tab`. */
size_t cells_before(Text t, size_t at, size_t tab);
/* The same from another place of the line, which is taken for a tab stop. */
size_t cells_between(Text t, size_t from, size_t to, size_t tab);
/* The place in `line` that lies at, or next before, that many cells from its start. */
size_t cells_place(Text t, size_t line, size_t cells, size_t tab);
/* The same from another place, not after `end`. */
size_t cells_place_after(Text t, size_t from, size_t end, size_t cells, size_t tab);

/* The character's number within its line, from 0, and back (past the end: the line's end). */
size_t cells_chars_before(Text t, size_t at);
size_t cells_place_of_char(Text t, size_t line, size_t chars);
/* Characters from one place to another, `most` at most. Both are starts of characters. */
size_t cells_chars_between(Text t, size_t from, size_t to, size_t most);

#endif
