#include "base/mem.h"

#include "base/system.h"

#include <stdlib.h>
#include <string.h>

static void (*exhausted)(void);
static size_t fail_countdown;

bool mem_refused(void)
{
    return fail_countdown && --fail_countdown == 0;
}

void *mem_try(size_t bytes)
{
    return mem_refused() ? NULL : malloc(bytes);
}

void *mem_try_aligned(size_t bytes, size_t alignment, bool large_pages)
{
    if (mem_refused())
        return NULL;
    void *p = aligned_alloc(alignment, (bytes + alignment - 1) / alignment * alignment);
    if (p && large_pages)
        system_large_pages(p, bytes);
    return p;
}

static void *certain(void *p)
{
    if (!p) {
        if (exhausted)
            exhausted();
        abort();
    }
    return p;
}

void *mem_get(size_t bytes)
{
    return certain(calloc(1, bytes ? bytes : 1));
}

void *mem_grow(void *old, size_t bytes)
{
    return certain(realloc(old, bytes ? bytes : 1));
}

char *mem_string_n(const char *s, size_t n)
{
    char *copy = mem_get(n + 1);
    memcpy(copy, s, n);
    return copy;
}

char *mem_string(const char *s)
{
    return mem_string_n(s, strlen(s));
}

void mem_on_exhaustion(void (*handler)(void))
{
    exhausted = handler;
}

void mem_fail_at(size_t n)
{
    fail_countdown = n;
}
