/* The mark as a block of columns: the same cells of several lines. */
#ifndef COLUMNS_H
#define COLUMNS_H
#include "app/editor.h"

typedef struct Columns {
    size_t first, last; /* lines */
    size_t left, right; /* cells, right exclusive; may be equal */
} Columns;

/* The marked block; false when the mark is none of columns. */
bool columns_marked(const View *v, Columns *c);
/* The bytes of a line that lie in the block. */
void columns_part(const View *v, const Columns *c, size_t line, size_t *from, size_t *to);
/* Puts the block on the shelf; with `cut` removes it. */
void columns_copy(Editor *ed, bool cut);
/* Replaces each line's part by the bytes and leaves a block of no width behind them. */
void columns_type(Editor *ed, const char *bytes, size_t n);
/* Removes the block, or with no width the character left (or right) of it in each line. */
void columns_delete(Editor *ed, bool left);
/* Pastes a clip's lines below each other from the cursor's column on. */
void columns_paste(Editor *ed, Text clip);

#endif
