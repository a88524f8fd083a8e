/* The lines that a command means, and changing them as one step. */
#ifndef CHANGING_H
#define CHANGING_H

#include "ui/editor.h"

/* Makes other bytes of n bytes of lines; added to `out`. */
typedef void (*LinesFn)(const char *in, size_t n, const void *ctx, Bytes *out);

/* The lines of the mark, or the cursor's: bytes [*from, *to), with the last line's end. */
void changing_meant(const View *v, size_t *from, size_t *to);
/* The same, but with nothing marked the block between blank lines. */
void changing_block(Editor *ed, size_t *from, size_t *to);
/* Puts what fn makes of [from, to) in its place, touching only what differs, so that the cursor and all marks
 * keep their places. False when nothing changed. */
bool changing_range(Editor *ed, size_t from, size_t to, LinesFn fn, const void *ctx);
/* The same with the lines meant; says `done` with how many there are. */
void changing_lines(Editor *ed, LinesFn fn, const void *ctx, const char *done);

#endif
