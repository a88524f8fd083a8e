/* Editing one line of text by the keys that do the same in the text. */
#ifndef LINEEDIT_H
#define LINEEDIT_H
#include "app/frame.h"
#include "app/key.h"
#include "base/bytes.h"

typedef struct LineEdit {
    Bytes text;
    size_t at;     /* the cursor */
    bool selected; /* all of it: typing replaces it */
    int left;      /* cells scrolled out at the left */
} LineEdit;

void line_set(LineEdit *l, const char *text);
void line_insert(LineEdit *l, const char *bytes, size_t n);
/* True when the key meant something here. */
bool line_key(LineEdit *l, Key k);
/* Paints it from column `from` to `to`, scrolled so that the cursor shows, and puts the
 * frame's cursor there. */
void line_paint(LineEdit *l, Frame *f, int row, int from, int to, Style style);
/* The column at which byte `at` was painted, for line_paint's `from`. */
int line_column(const LineEdit *l, int from, size_t at);
void line_free(LineEdit *l);

#endif
