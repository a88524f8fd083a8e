/* How a view's cursors are kept; for the modules of this room that make and move them. */
#ifndef CURSORS_MADE_H
#define CURSORS_MADE_H

#include "view/cursors.h"

/* Where they stood in a state of the document. */
typedef struct CursorSet {
    size_t state;
    Cursor *all;
    size_t n, own;
    MarkKind marking;
} CursorSet;

struct Cursors {
    Cursor *all; /* in order; none touches another */
    size_t n, own;
    unsigned long version; /* of the document that they are for */
    bool words;
    CursorSet *sets; /* by state */
    size_t n_sets;
};

size_t cursor_from(const Cursor *c);
size_t cursor_to(const Cursor *c);
/* Puts them in order again, and makes one of those that touch. */
void cursors_order(struct Cursors *c);
void cursors_show_own(View *v);
/* Before and after a change, so that undo and redo bring them back. */
void cursors_remember(View *v);
void cursors_free(struct Cursors *c);

#endif
