/* What files are, and what is wrong in them, without a screen: squill --kind-of FILE…, squill --check FILE…
 * Nothing is changed. */
#ifndef LOOK_OVER_H
#define LOOK_OVER_H

#include "kinds/kinds.h"

typedef struct LookOver {
    bool check;       /* else the kinds are printed */
    bool why;         /* with what tells them */
    const Kind *kind; /* that they are said to be of; NULL: as they are */
    size_t jobs;      /* how many at the same time; 0: as many as there are processors */
    bool plain;       /* without what is a machine's and a person's */
} LookOver;

enum { LOOK_RIGHT, LOOK_WRONG, LOOK_UNKNOWN };

/* Prints a line for each file, or one for each problem ("FILE:LINE:COLUMN: WORDS"), and to standard error
 * what could not be looked at. Returns the exit status: LOOK_WRONG where something is wrong, LOOK_UNKNOWN
 * where a file could not be read, or nobody could tell whether it is right. */
int look_over(char **files, int n, const LookOver *w);

#endif
