/* What a word means that is short for something: a mode in octal, an address with its network, a time in
 * seconds. */
#ifndef MEANING_H
#define MEANING_H

#include "base/bytes.h"

/* Adds it in a few words; nothing for a word of n bytes that is none of these. */
void meaning_of(const char *word, size_t n, Bytes *out);

#endif
