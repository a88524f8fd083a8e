/* The first letters of a text, which stand for it in lists. */
#ifndef EXCERPT_H
#define EXCERPT_H

#include "base/bytes.h"
#include "text/text.h"

/* Adds those of [from, from + n), on one line. */
void excerpt_add(Text t, size_t from, size_t n, Bytes *out);

#endif
