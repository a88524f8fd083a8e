#include "block.h"

#include "mem.h"

#include <stdlib.h>
#include <string.h>

enum { HUGE_PAGE = 2 * 1024 * 1024 };

/* Large blocks ask for large pages, which halves the time to fill them. */
static char *get_bytes(size_t cap)
{
    if (cap < HUGE_PAGE)
        return mem_try(cap);
    return mem_try_aligned(cap, HUGE_PAGE, true);
}

Block *block_new(size_t cap)
{
    Block *b = mem_try(sizeof *b);
    if (!b)
        return NULL;
    *b = (Block){.refs = 1, .cap = (uint32_t)cap};
    b->newline_marks = mem_try((cap / BLOCK_MARK + 1) * sizeof *b->newline_marks);
    b->bytes = get_bytes(cap);
    if (!b->newline_marks || !b->bytes) {
        free(b->newline_marks);
        free(b->bytes);
        free(b);
        return NULL;
    }
    b->newline_marks[0] = 0;
    return b;
}

void block_keep(Block *b)
{
    b->refs++;
}

void block_drop(Block *b)
{
    if (--b->refs)
        return;
    free(b->newline_marks);
    free(b->bytes);
    free(b->measure);
    free(b);
}

size_t count_newlines(const char *at, size_t n)
{
    size_t count = 0;
    while (n) {
        /* Short runs keep the counter a byte wide, which compilers turn into vector code. */
        size_t run = n < 255 ? n : 255;
        uint8_t here = 0;
        for (size_t i = 0; i < run; i++)
            here = (uint8_t)(here + (at[i] == '\n'));
        count += here;
        at += run;
        n -= run;
    }
    return count;
}

void block_set_len(Block *b, size_t len)
{
    b->len = (uint32_t)len;
    while ((b->marked + 1) * (size_t)BLOCK_MARK <= len) {
        uint32_t m = b->marked++;
        b->newline_marks[m + 1] =
            b->newline_marks[m] + (uint32_t)count_newlines(b->bytes + (size_t)m * BLOCK_MARK, BLOCK_MARK);
    }
}

void block_append(Block *b, const char *from, size_t n)
{
    memcpy(b->bytes + b->len, from, n);
    block_set_len(b, b->len + n);
}

static uint32_t newlines_before(const Block *b, uint32_t pos)
{
    uint32_t m = pos / BLOCK_MARK;
    return b->newline_marks[m] +
           (uint32_t)count_newlines(b->bytes + (size_t)m * BLOCK_MARK, pos % BLOCK_MARK);
}

uint32_t block_newlines(const Block *b, uint32_t from, uint32_t to)
{
    if (to - from <= BLOCK_MARK)
        return (uint32_t)count_newlines(b->bytes + from, to - from);
    return newlines_before(b, to) - newlines_before(b, from);
}

uint32_t block_find_newline(const Block *b, uint32_t from, uint32_t n)
{
    uint32_t rank = newlines_before(b, from) + n; /* newlines before the wanted one */
    uint32_t low = from / BLOCK_MARK, high = b->marked;
    while (low < high) { /* the last mark with at most `rank` newlines before it */
        uint32_t middle = low + (high - low + 1) / 2;
        if (b->newline_marks[middle] <= rank)
            low = middle;
        else
            high = middle - 1;
    }
    uint32_t left = rank - b->newline_marks[low];
    const char *p = b->bytes + (size_t)low * BLOCK_MARK;
    for (;; p++) {
        p = memchr(p, '\n', (size_t)(b->bytes + b->len - p));
        if (left-- == 0)
            return (uint32_t)(p - b->bytes);
    }
}
