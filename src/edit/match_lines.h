/* The lines of some bytes that have matches, one after the other, and what would stand there with all of
 * them replaced. A match over a line's end makes one of two lines. Any thread. */
#ifndef MATCH_LINES_H
#define MATCH_LINES_H

#include "edit/finder.h"

/* Begin with the first four set and the rest zero; end with match_lines_end. */
typedef struct MatchLines {
    Finder *finder;
    const char *bytes; /* which stay where they are */
    size_t n;
    const Replacement *by; /* NULL: nothing is to be replaced, and the first match of a line is enough */
    /* those found last: */
    size_t line;       /* their number, from 0 */
    size_t start, end; /* their bytes, without the last line end */
    Match first;
    size_t matches;
    Bytes fresh;   /* what would stand there */
    bool too_hard; /* the expression took too long: the rest is not known, nor is all of `fresh` */
    /* private */
    size_t at, counted;
    bool ended;
} MatchLines;

/* The next ones; false when there are no more. */
bool match_lines_next(MatchLines *m);
void match_lines_end(MatchLines *m);

#endif
