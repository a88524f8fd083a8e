#include "ui/spots.h"

#include <stdio.h>

void spots_add(Spots *s, int row, int from, int to, const char *keys)
{
    if (s->n == SPOTS_MAX)
        return;
    Spot *spot = &s->at[s->n++];
    *spot = (Spot){.row = row, .from = from, .to = to};
    snprintf(spot->keys, sizeof spot->keys, "%.*s", (int)sizeof spot->keys - 1, keys);
}

const char *spots_find(const Spots *s, int row, int col)
{
    for (size_t i = 0; i < s->n; i++)
        if (s->at[i].row == row && col >= s->at[i].from && col < s->at[i].to)
            return s->at[i].keys;
    return NULL;
}
