/* Sizes, amounts and times as people read them, written into the caller's memory. */
#ifndef WORDS_H
#define WORDS_H

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

enum { WORDS_MAX = 48 };

/* "2.1 kB": n bytes in powers of 1000. These return `out`. */
const char *words_size(uint64_t n, char out[WORDS_MAX]);
/* "3 lines", "1 character". */
const char *words_amount(size_t n, const char *unit, char out[WORDS_MAX]);
/* "14:02", or with its day when that is longer ago; `when` in seconds since 1970. */
const char *words_when(long long when, char out[WORDS_MAX]);
/* The same to the second. */
const char *words_when_exactly(long long when, char out[WORDS_MAX]);

/* Is the word among those of a list with commas or blanks between, as settings have? */
bool words_listed(const char *list, const char *word);

/* words_amount in memory of the block in which it stands, for the arguments of a message. */
#define AMOUNT(n, unit) words_amount(n, unit, (char[WORDS_MAX]){0})

#endif
