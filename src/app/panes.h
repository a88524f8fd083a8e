/* Panes: the parts of the text area, each showing a view. A pane is a view or is cut
 * in two, so all of them are a tree. */
#ifndef PANES_H
#define PANES_H
#include "app/editor.h"

typedef struct Pane Pane;
struct Pane {
    Pane *whole;    /* what this is a part of; NULL: everything */
    Pane *parts[2]; /* NULL in one that shows a view */
    bool beside;    /* the parts stand beside each other, not below */
    unsigned share; /* of the first part, in thousandths */
    View view;
    int row, col, rows, cols; /* on the screen, the status line included; rows 0: not shown now */
};

/* The first pane, without a text yet. */
void panes_begin(Editor *ed);
/* Frees all of them; their views must show nothing any more. */
void panes_free(Editor *ed);
/* The panes that show views, in reading order; NULL behind the last. */
Pane *panes_first(const Editor *ed);
Pane *panes_after(const Pane *p);
Pane *pane_of(const View *v);
bool panes_many(const Editor *ed);
/* Gives each its place in an area of the screen; where they do not all fit, only the
 * one with the cursor is shown. */
void panes_place(Editor *ed, int row, int col, int rows, int cols);
/* The pane at a place of the screen, or NULL. */
Pane *panes_at(const Editor *ed, int row, int col);
/* The cut whose border stands there, or NULL; and moves a border there. */
Pane *panes_border_at(const Editor *ed, int row, int col);
void panes_move_border(Pane *cut, int row, int col);

/* Cuts the present pane in two and goes to the new part. */
void panes_split(Editor *ed, bool beside);
void panes_go(Editor *ed, Pane *p);
/* To the next one (1), or back (-1). */
void panes_step(Editor *ed, int by);
void panes_close(Editor *ed);
/* Closes all but the present one. */
void panes_alone(Editor *ed);
/* Moves the border of the present one by as many rows or columns. */
void panes_grow(Editor *ed, int by);
bool panes_show(const Editor *ed, const OpenFile *f);
/* No pane shows `f` any more; `instead` takes its place. */
void panes_replace(Editor *ed, const OpenFile *f, OpenFile *instead);

#endif
