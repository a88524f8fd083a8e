/* Series that grow: numbers with leading zeros, letters, dates. */
#ifndef SERIES_H
#define SERIES_H

#include "base/bytes.h"

#include <stdbool.h>
#include <stddef.h>

typedef enum SeriesKind { SERIES_NUMBERS, SERIES_LETTERS, SERIES_DATES } SeriesKind;

typedef struct Series {
    SeriesKind kind;
    long long value; /* the number; of letters a is 1, z 26, aa 27; of dates the days since 1970-01-01 */
    long long step;  /* not 0; days between dates */
    unsigned width;  /* digits at least, with zeros before them */
    bool capitals;
} Series;

/* What n bytes begin: "7", "-3", "007", "c", "AB", "2026-11-27" (ISO 8601, years 1 to 9999). The step is 1.
 * False when they are none of these. */
bool series_begin(const char *text, size_t n, Series *s);
/* To the next one; false, and no change, where there is none. */
bool series_step(Series *s);
/* Adds it as text. */
void series_write(const Series *s, Bytes *out);

#endif
