/* Arrays that grow by one item at a time. How many there is room for follows from how many there are, so
 * that nobody keeps that. */
#ifndef ARRAY_H
#define ARRAY_H

#include <stddef.h>

/* Makes room after the `n` items of `size` bytes each that lie at `items` (NULL while n is 0 and never
 * grown). Returns where they lie now, never NULL. Free with free(). */
void *array_room(void *items, size_t n, size_t size);

#endif
