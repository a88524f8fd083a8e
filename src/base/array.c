#include "base/array.h"

#include "base/mem.h"

enum { FIRST = 16 /* items */ };

void *array_room(void *items, size_t n, size_t size)
{
    if (n == 0)
        return mem_grow(items, FIRST * size);
    bool full = n >= FIRST && (n & (n - 1)) == 0; /* the next power of two is always the room */
    return full ? mem_grow(items, 2 * n * size) : items;
}
