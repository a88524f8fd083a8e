#include "mem.h"

#include <stdlib.h>
#include <string.h>

static void (*exhausted)(void);
static size_t fail_countdown;

void *mem_try(size_t bytes)
{
    if (fail_countdown && --fail_countdown == 0)
        return NULL;
    return malloc(bytes);
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
