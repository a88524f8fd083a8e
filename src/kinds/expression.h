/* The expressions of kinds: bytes and not letters, lines that end with a line feed, and a bound for the
 * steps. */
#ifndef EXPRESSION_H
#define EXPRESSION_H

#include "base/err.h"

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

/* Compiles one; `options` are PCRE2's. To be freed by expression_free; NULL with where and why in e (or
 * NULL). */
void *expression_compile(const char *like, uint32_t options, Err *e);
void expression_free(void *code);
/* Makes one quick that is used often. */
void expression_quicken(void *code);
/* Does it fit somewhere in n bytes, within so many steps? With `any_case`, letter case does not count. */
bool expression_fits(const char *like, bool any_case, const char *bytes, size_t n, unsigned steps);

/* Does a compiled one fit somewhere in n bytes; all of them? `otherwise`: the answer where it takes too long
 * to find out. Any thread. */
bool expression_finds(const void *code, const char *s, size_t n, bool otherwise);
bool expression_fits_all(const void *code, const char *s, size_t n, bool otherwise);

/* Does it fit in n bytes? Then the places of its groups of these names, 0 and 0 of those that are not there.
 */
bool expression_groups(const void *code, const char *s, size_t n, const char *const *names, size_t n_names,
                       size_t *from, size_t *to);

/* How often, up to `most` times, one after the other. */
size_t expression_times(const char *like, bool any_case, const char *bytes, size_t n, size_t most,
                        unsigned steps);

#endif
