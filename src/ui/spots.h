/* Where something clickable was painted, and the keys that a click there presses. */
#ifndef SPOTS_H
#define SPOTS_H

#include "input/key.h"

enum { SPOTS_MAX = 40 };

typedef struct Spot {
    int row, from, to;
    char keys[KEY_NAME_MAX]; /* in words */
} Spot;

typedef struct Spots {
    Spot at[SPOTS_MAX];
    size_t n;
} Spots;

/* Columns [from, to) of a row press those keys. */
void spots_add(Spots *s, int row, int from, int to, const char *keys);
/* The keys of the spot at a place, or NULL. */
const char *spots_find(const Spots *s, int row, int col);

#endif
