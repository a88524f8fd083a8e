/* Room for many things of one size, the nodes of trees: side by side in large pages, where the processor
 * finds them faster than all over the heap. */
#ifndef POOL_H
#define POOL_H

#include <stdbool.h>
#include <stddef.h>

typedef struct Pool {
    size_t size;        /* of a thing, bytes, a multiple of 8; set this, and leave the rest zero */
    struct Slab *open;  /* those with room */
    size_t free, slabs; /* things there is room for; slabs there are */
} Pool;

/* Makes sure that the next n calls of pool_take cannot fail. False without memory. */
bool pool_reserve(Pool *p, size_t n);
/* Room for one thing, not zeroed; it was reserved. */
void *pool_take(Pool *p);
void pool_give(Pool *p, void *thing);
/* Things in use. */
size_t pool_used(const Pool *p);

#endif
