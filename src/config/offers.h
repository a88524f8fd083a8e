/* What may stand at a place of a line that is being typed: what Tab offers there. */
#ifndef OFFERS_H
#define OFFERS_H

#include <stddef.h>

/* Begin with {0}. */
typedef struct Offers {
    size_t from; /* the byte of the line where the part begins that they would replace */
    char **items;
    size_t n;
} Offers;

void offers_add(Offers *o, const char *item); /* copied */
/* Adds those of "|"-separated words (or NULL) that begin with `start`. */
void offers_add_words(Offers *o, const char *words, const char *start);
/* Adds the files whose paths go on from `start`, folders with a slash; hidden ones only when asked for. */
void offers_add_files(Offers *o, const char *start);
void offers_sort(Offers *o);
/* How many bytes all of them begin with, in whole characters; 0 when there are none. */
size_t offers_common(const Offers *o);
void offers_free(Offers *o);

/* For a Command or a prompt that offers nothing but files. */
void offers_files(const char *start, Offers *o);

#endif
