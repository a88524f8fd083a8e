/* What two texts have in common as memory: versions of a text share all that an edit did not touch. */
#ifndef SHARED_H
#define SHARED_H

#include "text/text.h"

/* A piece of n bytes that two texts share as memory: at `a` in one, at `b` in the other. */
typedef struct Shared {
    size_t a, b, n;
} Shared;

/* The shared pieces, in the order they have in both texts; found without reading bytes, in time that
 * goes with the nodes of the tree. *out is the caller's to free. Returns how many. */
size_t shared_pieces(Text a, Text b, Shared **out);

#endif
