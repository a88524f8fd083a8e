#include "text/block.h"

#include "base/mem.h"

#include <stdlib.h>
#include <string.h>
#ifdef __SSE2__
#include <emmintrin.h>
#endif

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

/* Short runs keep the counter a byte wide, which compilers turn into vector code. */
static size_t count_by_runs(const char *at, size_t n)
{
    size_t count = 0;
    while (n) {
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

#ifdef __SSE2__
/* Sixteen bytes at once. What is left at the end is looked at together with bytes before it, whose newlines
 * are masked away: most calls are for some hundred bytes or less. */
size_t block_count_newlines(const char *at, size_t n)
{
    static const unsigned char last[32] = {[16] = 255, 255, 255, 255, 255, 255, 255, 255,
                                           255,        255, 255, 255, 255, 255, 255, 255};
    const __m128i newline = _mm_set1_epi8('\n'), zero = _mm_setzero_si128();
    if (n < 16)
        return count_by_runs(at, n);
    __m128i sums = zero;
    const char *end = at + n;
    while (end - at >= 16) {
        __m128i here = zero; /* counts of one byte, for up to 255 rounds */
        for (int i = 0; i < 255 && end - at >= 16; i++, at += 16) {
            __m128i bytes = _mm_loadu_si128((const __m128i *)(const void *)at);
            here = _mm_sub_epi8(here, _mm_cmpeq_epi8(bytes, newline));
        }
        sums = _mm_add_epi64(sums, _mm_sad_epu8(here, zero));
    }
    if (at < end) {
        __m128i bytes = _mm_loadu_si128((const __m128i *)(const void *)(end - 16));
        __m128i mask = _mm_loadu_si128((const __m128i *)(const void *)(last + (end - at)));
        __m128i here = _mm_sub_epi8(zero, _mm_and_si128(_mm_cmpeq_epi8(bytes, newline), mask));
        sums = _mm_add_epi64(sums, _mm_sad_epu8(here, zero));
    }
    return (size_t)_mm_cvtsi128_si64(_mm_add_epi64(sums, _mm_unpackhi_epi64(sums, sums)));
}
#else
size_t block_count_newlines(const char *at, size_t n)
{
    return count_by_runs(at, n);
}
#endif

void block_set_len(Block *b, size_t len)
{
    b->len = (uint32_t)len;
    while ((b->marked + 1) * (size_t)BLOCK_MARK <= len) {
        uint32_t m = b->marked++;
        b->newline_marks[m + 1] = b->newline_marks[m] + (uint32_t)block_count_newlines(
                                                            b->bytes + (size_t)m * BLOCK_MARK, BLOCK_MARK);
    }
}

void block_append(Block *b, const char *from, size_t n)
{
    memcpy(b->bytes + b->len, from, n);
    block_set_len(b, b->len + n);
}

/* From the nearer of the two marks around it. */
static uint32_t newlines_before(const Block *b, uint32_t pos)
{
    uint32_t m = pos / BLOCK_MARK, above = pos % BLOCK_MARK;
    if (above > BLOCK_MARK / 2 && m < b->marked)
        return b->newline_marks[m + 1] - (uint32_t)block_count_newlines(b->bytes + pos, BLOCK_MARK - above);
    return b->newline_marks[m] + (uint32_t)block_count_newlines(b->bytes + pos - above, above);
}

uint32_t block_newlines(const Block *b, uint32_t from, uint32_t to)
{
    if (to - from <= BLOCK_MARK)
        return (uint32_t)block_count_newlines(b->bytes + from, to - from);
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
