/* What the data of checkers and of fields has in common: expressions, lists of words, truths. */
#ifndef KIND_DATA_H
#define KIND_DATA_H

#include "base/plain_data.h"
#include "kinds/kinds.h"

#include <stdint.h>

/* Compiles an expression, to be freed by expression_free; `options` are PCRE2's. NULL when there is
 * none, or it is none, which is reported. */
void *kind_expression(const PlainValue *v, uint32_t options, const PlainReport *r);
/* The list of that name in a table: texts that are not empty, `most` at most, or one text alone. To be freed;
 * NULL when there is none, or nothing in it. False when it is something else, which is reported. */
bool kind_words(const PlainValue *table, const char *name, size_t most, KindWords *to, const PlainReport *r);
/* The truth of that name; it stays as it is when it is not there. False when it is something else. */
bool kind_truth(const PlainValue *table, const char *name, bool *to, const PlainReport *r);
/* The whole number of that name. False when it is none from `least` to `most`; it stays when it is not there.
 */
bool kind_number_in(const PlainValue *table, const char *name, long least, long most, long *to,
                    const PlainReport *r);

#endif
