/* What commands do to lines and words, as functions from bytes to bytes. `in` are n
 * bytes, mostly whole lines; the result is added to `out`. */
#ifndef TRANSFORM_H
#define TRANSFORM_H

#include "base/bytes.h"
#include "base/stop.h"
#include "text/text.h"

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

/* Sorts lines by their bytes; numbers: runs of digits count as numbers. Equal lines keep their order.
 * A last line without a line end stays without one. */
/* False, and `out` as it was, when that was stopped. */
bool transform_sort(const char *in, size_t n, bool numbers, Stop stop, Bytes *out);
/* Removes blanks at the ends of lines. */
void transform_trim(const char *in, size_t n, Bytes *out);
/* Puts `unit` before every line that is not blank. */
void transform_indent(const char *in, size_t n, const char *unit, Bytes *out);
/* Removes a tab, or up to `width` blanks, from the start of every line. */
void transform_unindent(const char *in, size_t n, size_t width, Bytes *out);
/* Makes one line of all: line ends and the blanks around them become one blank. */
void transform_join(const char *in, size_t n, Bytes *out);
/* Puts `sign` at the end of every line that has something in it, or takes it away from all when
 * every such line has it. */
void transform_end_sign(const char *in, size_t n, char sign, Bytes *out);
/* Upper or lower case, in any script; bytes that are no UTF-8 stay. */
void transform_case(const char *in, size_t n, bool upper, Bytes *out);

typedef enum NumberFound { NUMBER_NONE, NUMBER_ADDED, NUMBER_BELOW /* a 0x… would go below 0 */ } NumberFound;

/* The number at or after byte `at` of a line: decimal with its sign and leading zeros, 0x…, of any length, or
 * a part of an address such as 10.20.3.4 (which stays within 0..255). Adds `by` to it.
 * [*from, *to) is what `out` replaces, if it was added to. */
NumberFound transform_number(const char *line, size_t n, size_t at, long long by, size_t *from, size_t *to,
                             Bytes *out);

/* The word at byte `at` of a line and its counterpart from `pairs` ("true false\nyes no\n…"), in the
 * same letter case. False when the word has none. */
bool transform_flip_word(const char *line, size_t n, size_t at, const char *pairs, size_t *from, size_t *to,
                         Bytes *out);

/* The place of the bracket or quote that belongs to the one at byte `at`; false when `at` is none
 * or it has no partner within the n bytes. `sorts` says of each byte what sort of place it is in, 0 the code
 * itself: only signs in places of one sort belong together. NULL: all are of one. */
bool transform_matching_sign(const char *in, size_t n, size_t at, const uint8_t *sorts, size_t *partner);
/* The innermost brackets or quotes around byte `at`, or the comment that it is in: what is inside is
 * [*from, *to). */
bool transform_inside_signs(const char *in, size_t n, size_t at, const uint8_t *sorts, size_t *from,
                            size_t *to);

/* Takes the blanks before every line end and at the text's end away; *lines: of how many lines. What stays is
 * shared. False without memory. */
bool transform_trim_text(Text t, Text *out, size_t *lines);

#endif
