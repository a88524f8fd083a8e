/* What the data of checkers and of fields has in common: expressions, lists of words, truths. */
#ifndef KIND_DATA_H
#define KIND_DATA_H

#include "base/plain_data.h"
#include "kinds/kinds.h"

#include <stdint.h>

/* Compiles an expression, to be freed by pcre2_code_free; `options` are PCRE2's. NULL when there is none, or
 * it is none, which is reported. */
void *kind_expression(const PlainValue *v, uint32_t options, const PlainReport *r);
/* The texts of a table, up to NULL, to be freed; what is no text is left out. NULL when there is none. */
KindWords kind_words(const PlainValue *table);
/* The truth of that name; false when it is not there. */
bool kind_truth(const PlainValue *table, const char *name);

#endif
