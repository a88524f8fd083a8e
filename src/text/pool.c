#include "text/pool.h"

#include "base/mem.h"

#include <assert.h>
#include <stdint.h>
#include <stdlib.h>

#ifdef __SANITIZE_ADDRESS__
#include <sanitizer/asan_interface.h>
#else
#define ASAN_POISON_MEMORY_REGION(at, n) ((void)(at), (void)(n))
#define ASAN_UNPOISON_MEMORY_REGION(at, n) ((void)(at), (void)(n))
#endif

/* A slab begins at a multiple of its size, so that it is known from each thing in it. */
enum { SLAB = 2 * 1024 * 1024, HEAD = 64 };

typedef struct Slab {
    struct Slab *next, *before; /* of those with room */
    void *given;                /* things that came back; each holds the next */
    size_t used, fresh;         /* things in use; those from `fresh` on were never touched */
} Slab;

static size_t things_in_slab(const Pool *p)
{
    return (SLAB - HEAD) / p->size;
}

static void link_slab(Pool *p, Slab *s)
{
    s->before = NULL;
    s->next = p->open;
    if (p->open)
        p->open->before = s;
    p->open = s;
}

static void unlink_slab(Pool *p, Slab *s)
{
    *(s->before ? &s->before->next : &p->open) = s->next;
    if (s->next)
        s->next->before = s->before;
}

bool pool_reserve(Pool *p, size_t n)
{
    if (mem_refused())
        return false;
    while (p->free < n) {
        /* Large pages are filled at once; the first slab is to cost no more than what is used of it. */
        Slab *s = mem_try_aligned(SLAB, SLAB, p->slabs > 0);
        if (!s)
            return false;
        *s = (Slab){0};
        link_slab(p, s);
        p->slabs++;
        p->free += things_in_slab(p);
    }
    return true;
}

size_t pool_used(const Pool *p)
{
    return p->slabs * things_in_slab(p) - p->free;
}

void *pool_take(Pool *p)
{
    Slab *s = p->open;
    assert(s && "pool_reserve was too low");
    char *thing = s->given;
    if (thing) {
        ASAN_UNPOISON_MEMORY_REGION(thing, p->size);
        s->given = *(void **)thing;
    } else {
        thing = (char *)s + HEAD + s->fresh++ * p->size;
    }
    p->free--;
    if (++s->used == things_in_slab(p))
        unlink_slab(p, s);
    return thing;
}

void pool_give(Pool *p, void *thing)
{
    Slab *s = (Slab *)((uintptr_t)thing & ~(uintptr_t)(SLAB - 1));
    *(void **)thing = s->given;
    s->given = thing;
    ASAN_POISON_MEMORY_REGION(thing, p->size);
    p->free++;
    if (s->used-- == things_in_slab(p))
        link_slab(p, s);
    if (s->used == 0 && p->free >= 2 * things_in_slab(p)) { /* one stays for what comes */
        unlink_slab(p, s);
        ASAN_UNPOISON_MEMORY_REGION(s, SLAB);
        free(s);
        p->slabs--;
        p->free -= things_in_slab(p);
    }
}
