#include "base/bytes.h"

#include "base/mem.h"

#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static void make_room(Bytes *b, size_t more)
{
    size_t need = b->len + more + 1;
    if (need <= b->cap)
        return;
    size_t cap = b->cap ? b->cap : 32;
    while (cap < need)
        cap *= 2;
    b->at = mem_grow(b->at, cap);
    b->cap = cap;
}

void bytes_insert(Bytes *b, size_t pos, const void *from, size_t n)
{
    if (n == 0)
        return;
    make_room(b, n);
    memmove(b->at + pos + n, b->at + pos, b->len - pos);
    memcpy(b->at + pos, from, n);
    b->len += n;
    b->at[b->len] = 0;
}

void bytes_delete(Bytes *b, size_t pos, size_t n)
{
    if (n == 0)
        return;
    memmove(b->at + pos, b->at + pos + n, b->len - pos - n);
    b->len -= n;
    b->at[b->len] = 0;
}

void bytes_add(Bytes *b, const void *from, size_t n)
{
    bytes_insert(b, b->len, from, n);
}

void bytes_add_str(Bytes *b, const char *s)
{
    bytes_add(b, s, strlen(s));
}

void bytes_printf(Bytes *b, const char *format, ...)
{
    va_list args, again;
    va_start(args, format);
    va_copy(again, args);
    int n = vsnprintf(NULL, 0, format, args);
    if (n > 0) {
        make_room(b, (size_t)n);
        vsnprintf(b->at + b->len, (size_t)n + 1, format, again);
        b->len += (size_t)n;
    }
    va_end(again);
    va_end(args);
}

const char *bytes_str(const Bytes *b)
{
    return b->len ? b->at : "";
}

void bytes_clear(Bytes *b)
{
    b->len = 0;
    if (b->at)
        b->at[0] = 0;
}

void bytes_free(Bytes *b)
{
    free(b->at);
    *b = (Bytes){0};
}
