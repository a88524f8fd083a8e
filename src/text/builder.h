/* Building a text from left to right, in one pass. */
#ifndef BUILDER_H
#define BUILDER_H

#include "text/text.h"

typedef struct TextBuilder {
    struct Node *open[24]; /* private: the last node of each height, not full yet */
    Block *block;
    size_t newlines; /* of all that was added so far */
    /* private: the piece that the last part came from */
    const struct Node *from_root;
    const struct Slice *from_slice;
    size_t from_at;
} TextBuilder; /* begin with {0}; end with builder_finish or builder_drop */

/* Adds bytes, which are copied. The calls that add return false without memory. */
bool builder_bytes(TextBuilder *b, const void *bytes, size_t n);
/* Adds bytes [from, to) of a text, sharing its blocks where the pieces are worth it. A text of which parts
 * are added must be held, unchanged, until the last of them is. */
bool builder_part(TextBuilder *b, Text t, size_t from, size_t to);
/* Hands out what was built; the builder is empty then. */
bool builder_finish(TextBuilder *b, Text *out);
void builder_drop(TextBuilder *b);

#endif
