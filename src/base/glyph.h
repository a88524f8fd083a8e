/* What one character of a text is to a person: which bytes belong together, how
 * many cells they take, and what is sent to the terminal for them.
 *
 * Characters are the extended grapheme clusters of Unicode's UAX #29 (utf8proc).
 * Bytes that are no UTF-8, controls, and what terminals disagree on badly are
 * shown as an escape such as \xff or \u{202e}, never sent as they are. */
#ifndef GLYPH_H
#define GLYPH_H

#include "base/utf8.h"

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>
#include <stdio.h>

/* A cluster is cut after this many bytes, so that hostile input stays cheap. */
enum { GLYPH_MAX_BYTES = 128, GLYPH_MAX_CODES = 5, GLYPH_MAX_ESCAPE = 12 };

typedef struct Glyph {
    size_t bytes;                    /* length of the cluster; 0 only at the end */
    int width;                       /* cells, 0 for a tab or line end (the caller decides) */
    int n_codes;                     /* code points to send in one cell; 0: see escape */
    uint32_t codes[GLYPH_MAX_CODES]; /* a base and its combining characters */
    char escape[GLYPH_MAX_ESCAPE];   /* what is shown instead, ASCII, or "" */
} Glyph;

typedef struct GlyphSpan {
    size_t bytes, cells, chars;
} GlyphSpan;

/* Goes over characters that are as most are, letters with or without marks, and returns what they take; fast.
 * Passes none of the limits `most`. Stops at a tab, at an escape, at whatever needs a closer look, and before
 * the last of the n bytes' characters, as more of it may follow. A character must begin at `at`. */
GlyphSpan glyph_span(const char *at, size_t n, GlyphSpan most);

/* Length in bytes of the cluster that begins at `at`, looking at n bytes at most. */
size_t glyph_length(const char *at, size_t n);

/* Where the cluster that ends at byte n of `at` begins. at[0] must begin a cluster. */
size_t glyph_before(const char *at, size_t n);

/* Does a cluster begin at byte p, 0 < p < n, whatever stands before those n bytes? A few bytes after p must
 * be there too. False also where that is not sure. */
bool glyph_begins(const char *bytes, size_t p, size_t n);

/* Reads the cluster at `at`. A tab or line end has width 0 and codes[0] = '\t' or '\n'. */
void glyph_read(const char *at, size_t n, Glyph *out);
/* The same where glyph_length is known already. */
void glyph_read_known(const char *at, size_t length, Glyph *out);

/* How many cells a glyph takes that begins `cells` from the line's start. */
size_t glyph_cells(const Glyph *g, size_t cells, size_t tab);

/* Writes n bytes, such as a file's name, harmlessly if that goes to a terminal: escapes as they are shown in
 * a text. Elsewhere they are passed on as they are. */
void glyph_print(FILE *to, const char *s, size_t n);

#endif
