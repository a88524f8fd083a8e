/* The shelf: the clips that were cut or copied, the newest first. */
#ifndef SHELF_H
#define SHELF_H

#include "text/text.h"

enum { SHELF_CLIPS = 50 };

typedef struct Clip {
    Text text;
    bool lines; /* whole lines: pasted above the current line */
    bool block; /* columns: its lines are pasted below each other */
    /* taken at many places at once: where each piece lies in the text; NULL: it is all one piece */
    struct ClipPiece {
        size_t from, to;
    } * pieces;
    size_t n_pieces;
} Clip;

typedef struct Shelf {
    Clip clips[SHELF_CLIPS]; /* [0] is the newest */
    size_t n;
} Shelf;

/* Puts a clip on top and takes over its text. The oldest go when there are too many, or
 * when all together hold more than some hundred MB. */
void shelf_put(Shelf *s, Text t, bool lines);
/* Adds to the end of the newest clip, or to its beginning, taking over `t`; false without memory. */
bool shelf_gather(Shelf *s, Text t, bool in_front);
/* Adds to the newest clip what was taken at the next of many places, on a line of its own; takes over `t`.
 * False without memory. */
bool shelf_add_piece(Shelf *s, Text t, const char *line_end);
/* The piece for the i-th of n places: its own where there are as many, else everything. False without memory;
 * the caller drops *out. */
bool shelf_piece(const Clip *c, size_t i, size_t n, Text *out);
void shelf_free(Shelf *s);

#endif
