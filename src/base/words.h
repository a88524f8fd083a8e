/* Sizes, amounts and times as people read them. */
#ifndef WORDS_H
#define WORDS_H
#include <stddef.h>

enum { SIZE_TEXT_MAX = 32, WHEN_TEXT_MAX = 40 };

/* "2.1 kB": in powers of 1000. */
void size_text(size_t n, char out[SIZE_TEXT_MAX]);
/* "3 lines", "1 character". Valid until the eighth call from now. */
const char *amount(size_t n, const char *unit);
/* "14:02", or with its day when that is longer ago; seconds since 1970. */
void when_text(long long when, char out[WHEN_TEXT_MAX]);

#endif
