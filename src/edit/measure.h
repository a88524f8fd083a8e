/* Distances along very long lines. How many characters and cells a piece of a block takes is
 * counted once and kept with the block, whose bytes never change; so the way along a line of
 * a hundred megabytes is a few thousand sums. */
#ifndef MEASURE_H
#define MEASURE_H

#include "text/text.h"

/* How far one has come along a line. */
typedef struct LinePos {
    size_t at;    /* bytes from the text's start */
    size_t cells; /* from the line's start */
    size_t chars;
} LinePos;

/* Goes on over whole pieces as long as none of the three passes its limit. `*again` is where it is worth
 * trying again. Both ends are starts of characters. Where only characters count `tab` is 0. */
void measure_skip(Text t, LinePos *w, LinePos limit, size_t tab, size_t *again);

#endif
