#include "edit/literal.h"

#include <string.h>

#ifdef __SSE2__
#include <emmintrin.h>

/* Compares first and last byte at sixteen places at once; where both fit, the rest. Unlike
 * memmem it has no bad cases with texts such as logs, whose lines begin alike. */
static const char *by_both_ends(const char **in, size_t *n, const char *what, size_t m)
{
    const __m128i first = _mm_set1_epi8(what[0]), last = _mm_set1_epi8(what[m - 1]);
    const char *p = *in, *end = *in + *n;
    for (; p + m - 1 + 16 <= end; p += 16) {
        __m128i a = _mm_loadu_si128((const __m128i *)(const void *)p);
        __m128i b = _mm_loadu_si128((const __m128i *)(const void *)(p + m - 1));
        unsigned hits =
            (unsigned)_mm_movemask_epi8(_mm_and_si128(_mm_cmpeq_epi8(a, first), _mm_cmpeq_epi8(b, last)));
        for (; hits; hits &= hits - 1) {
            const char *at = p + __builtin_ctz(hits);
            if (memcmp(at + 1, what + 1, m - 2) == 0)
                return at;
        }
    }
    *in = p;
    *n = (size_t)(end - p);
    return NULL;
}
#endif

const char *literal_find(const char *in, size_t n, const char *what, size_t m)
{
    if (m > n)
        return NULL;
    if (m == 1)
        return memchr(in, what[0], n);
#ifdef __SSE2__
    const char *found = by_both_ends(&in, &n, what, m);
    if (found)
        return found;
#endif
    return memmem(in, n, what, m);
}
