/* Narrowing a list by some letters of what is meant. */
#ifndef FUZZY_H
#define FUZZY_H

#include <stdbool.h>

/* How well the letters of `wanted` fit into `text`, in their order: higher is better, -1 not at all. */
int fuzzy_score(const char *wanted, const char *text);

/* Does every word of `wanted` begin a word of the text, whatever the case? */
bool fuzzy_words(const char *wanted, const char *text);

/* What is looked for by more than its name. */
typedef struct FuzzyKnown {
    const char *name, *label;
    const char *words, *help; /* everyday words for it, and a sentence; "" for none */
    bool own_name; /* what it does is not to be run by mistake: by its name, its label or one of its words
                      whole */
} FuzzyKnown;

/* The same for one of those: letters that stand somewhere inside of words do not count. */
int fuzzy_known(const char *wanted, const FuzzyKnown *k);

#endif
