/* Moving a view over its text: up and down by what is on the screen, and so that the cursor shows. */
#ifndef SCROLL_H
#define SCROLL_H

#include "view/view.h"

/* Moves the cursor by lines, or by rows where long lines are wrapped, keeping its column. */
void scroll_cursor(View *v, long lines);
/* Scrolls; cursor and mark stay where they are, which may be out of sight until scroll_back. */
void scroll_lines(View *v, long lines);
/* The cursor is what counts again. */
void scroll_back(View *v);
/* By so many screens; the picture moves with the cursor. */
void scroll_screens(View *v, long n);
/* Scrolls so that the cursor can be seen, but for one that looks elsewhere. */
void scroll_to_cursor(View *v);
void scroll_centre(View *v);
/* The place in the text that is shown at a row and column of the screen, or next to it. */
size_t scroll_place_at(const View *v, int row, int col);
/* Counts some of the cursor's line, if that is a very long one, for some milliseconds, so that going to its
 * end later is no matter. True while there is more to count. */
bool scroll_look_ahead(View *v);

#endif
