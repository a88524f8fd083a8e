/* Where one was before a jump, to go back there and forward again. */
#ifndef JUMPS_H
#define JUMPS_H

#include "view/panes.h"

typedef struct JumpPoint JumpPoint;

typedef struct Jumps {
    Panes *panes;
    JumpPoint **points; /* the oldest first */
    size_t n, at;       /* at: the one gone back to; n: none */
} Jumps;

/* Begins; the points of a file that is closed go with it. */
void jumps_begin(Jumps *j, Panes *p);
/* Remembers the cursor's place, to which "jump back" returns. */
void jumps_note(Jumps *j);
/* To the place before, or forward again; false when there is none. */
bool jumps_go(Jumps *j, bool forward);
void jumps_free(Jumps *j);

#endif
