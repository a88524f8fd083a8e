/* What may stand at a place of a line, from the kind's fields and settings: for completion. */
#ifndef PLACE_H
#define PLACE_H

#include "kinds/fields.h"
#include "kinds/key_values.h"

typedef struct Place {
    size_t from;      /* where what is to be completed begins in the line */
    const char *sign; /* that belongs behind it, as it is a setting's name; or "" */
    const KeyValues *names;
    const ValueRule *value; /* one of the two is NULL, or both */
} Place;

/* The place behind n bytes of a line, in a text of that kind and that section ("" if none). False: nothing is
 * known of it. */
bool place_of(const Kind *k, const char *section, const char *line, size_t n, Place *p);
/* Calls `each` for what may stand there, in the order of the kind's data; with `machine` what this one has,
 * too. */
void place_each(const Place *p, const char *section, bool machine, bool (*each)(void *ctx, const char *name),
                void *ctx);

#endif
