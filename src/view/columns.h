/* The mark as a block of columns: the same cells of several lines. Whether the text may be changed is for the
 * caller to know. */
#ifndef COLUMNS_H
#define COLUMNS_H

#include "view/view.h"

typedef struct Columns {
    size_t first, last; /* lines */
    size_t left, right; /* cells, right exclusive; may be equal */
} Columns;

/* The marked block; false when the mark is none of columns. */
bool columns_marked(const View *v, Columns *c);
/* The bytes of a line that lie in the block. */
void columns_part(const View *v, const Columns *c, size_t line, size_t *from, size_t *to);
/* The block's parts as lines of a text of its own; false when there is no block, or no memory. */
bool columns_text(const View *v, Text *out);

/* These are false when there is no block, or no memory. */
/* Replaces each line's part by the bytes and leaves a block of no width after them. */
bool columns_type(View *v, const char *bytes, size_t n);
/* Removes the block, or with no width the character left (or right) of it in each line. */
bool columns_delete(View *v, bool left);
/* Puts a text's lines below each other from the cursor's column on. */
bool columns_paste(View *v, Text lines);

#endif
