/* Editing one line of text by the keys that do the same in the text. */
#ifndef LINE_ENTRY_H
#define LINE_ENTRY_H

#include "base/bytes.h"
#include "frame/frame.h"
#include "input/key.h"

typedef struct LineEntry {
    Bytes text;
    size_t at;     /* the cursor */
    bool selected; /* all of it: typing replaces it */
    int left;      /* cells scrolled out at the left */
} LineEntry;

void line_entry_set(LineEntry *l, const char *text);
void line_entry_insert(LineEntry *l, const char *bytes, size_t n);
/* True when the key meant something here. */
bool line_entry_key(LineEntry *l, Key k);
/* Paints it from column `from` to `to`, scrolled so that the cursor shows, and puts the
 * frame's cursor there. */
void line_entry_paint(LineEntry *l, Frame *f, int row, int from, int to, Style style);
/* The column at which byte `at` was painted, for line_entry_paint's `from`. */
int line_entry_column(const LineEntry *l, int from, size_t at);
/* The cursor goes to what was painted at column `col`. */
void line_entry_go(LineEntry *l, int from, int col);
void line_entry_free(LineEntry *l);

#endif
