/* Narrowing a list by some letters of what is meant. */
#ifndef FUZZY_H
#define FUZZY_H

#include <stdbool.h>

/* How well the letters of `wanted` fit into `text`, in their order: higher is better, -1 not at all. */
int fuzzy_score(const char *wanted, const char *text);

/* Does every word of `wanted` begin a word of the text, whatever the case? */
bool fuzzy_words(const char *wanted, const char *text);

#endif
