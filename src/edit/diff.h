/* Differences of two texts by lines: the shortest edit script (Myers, in linear space). */
#ifndef DIFF_H
#define DIFF_H

#include "base/bytes.h"
#include "text/text.h"

/* Lines [a_from, a_to) of the first text gave way to [b_from, b_to) of the second. */
typedef struct DiffRun {
    size_t a_from, a_to, b_from, b_to;
} DiffRun;

/* All differing runs, in order. What both texts share as memory is not looked at, so versions of one text
 * compare at once whatever their size. *runs is the caller's to free. Texts that differ in very many places
 * are compared less finely rather than slowly. Returns how many. */
size_t diff_lines(Text a, Text b, DiffRun **runs);
/* How many lines differ: where some stand in place of others, the larger number counts. */
size_t diff_lines_changed(Text a, Text b);

/* The same within lines: of the words in bytes [a_from, a_to) and [b_from, b_to); runs are bytes of
 * the texts. */
size_t diff_words(Text a, size_t a_from, size_t a_to, Text b, size_t b_from, size_t b_to, DiffRun **runs);

/* Which line of b stands against each line of a in a run: those that are most alike by their words, in their
 * order. with[i] is for line a_from + i; SIZE_MAX: none. Large runs are paired as they come. */
void diff_pair(Text a, Text b, const DiffRun *run, size_t *with);

/* The differences in the unified format, with lines of context; nothing when there are none. */
void diff_unified(Text a, Text b, const char *name_a, const char *name_b, size_t context, Bytes *out);

#endif
