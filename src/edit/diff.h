/* Differences of two texts by lines: the shortest edit script (Myers, in linear space). */
#ifndef DIFF_H
#define DIFF_H

#include "bytes.h"
#include "text.h"

/* Lines [a_from, a_to) of the first text gave way to [b_from, b_to) of the second. */
typedef struct DiffRun {
    size_t a_from, a_to, b_from, b_to;
} DiffRun;

/* All differing runs, in order; *runs is the caller's to free. Texts that differ in very many places
 * are told apart less finely rather than slowly. Returns how many. */
size_t diff_lines(Text a, Text b, DiffRun **runs);

/* The differences in the unified format, with lines of context; nothing when there are none. */
void diff_unified(Text a, Text b, const char *name_a, const char *name_b, size_t context, Bytes *out);

#endif
