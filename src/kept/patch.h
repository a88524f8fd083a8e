/* The change from one version of a text to another, as bytes to be stored. */
#ifndef PATCH_H
#define PATCH_H

#include "base/bytes.h"
#include "text/text.h"

/* Adds the patch from one to the other to `out`; nothing when they are the same. */
void patch_make(Text from, Text to, Bytes *out);
/* The text after the patch, or false (and nothing) when it does not fit or there is no memory. */
bool patch_apply(Text from, const void *patch, size_t n, Text *out);
/* What it changes, for somebody who reads it: a line for each place, and what came there. */
void patch_words(const void *patch, size_t n, Bytes *out);

#endif
