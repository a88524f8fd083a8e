/* Panes: the parts of the text area, each showing a view. A pane is a view or is cut
 * in two, so all of them are a tree. */
#ifndef PANES_H
#define PANES_H

#include "session/session.h"
#include "view/view.h"

typedef struct Pane Pane;
struct Pane {
    Pane *whole;    /* what this is a part of; NULL: everything */
    Pane *parts[2]; /* NULL in one that shows a view */
    bool beside;    /* the parts stand beside each other, not below */
    unsigned share; /* of the first part, in thousandths */
    View view;
    View *over;               /* a page of help that lies over it; NULL: none */
    int row, col, rows, cols; /* on the screen, the status line included; rows 0: not shown now */
};

typedef struct Panes {
    Session *session; /* whose files are shown */
    Pane *root;
    View *view;         /* of the pane with the cursor; never NULL */
    unsigned long turn; /* how often a file was shown */
    size_t tab;         /* cells from one tab stop to the next, of files to be opened */
    bool ending;        /* the program ends: nothing is shown any more */
} Panes;

/* The first pane, without a text yet. */
void panes_begin(Panes *p);
/* Frees all of them. */
void panes_free(Panes *p);

/* The panes that show views, in reading order; NULL after the last. */
Pane *panes_first(const Panes *p);
Pane *panes_after(const Pane *pane);
/* The one with the cursor. */
Pane *panes_now(const Panes *p);
bool panes_many(const Panes *p);
/* What a pane shows: its view, or what lies over that. */
View *panes_shown(Pane *pane);
/* The view that shows a file, the one with the cursor first; NULL when none does. */
View *panes_view_of(const Panes *p, const OpenFile *f);

/* Gives each its place in an area of the screen; where they do not all fit, only the one with the cursor is
 * shown. */
void panes_place(Panes *p, int row, int col, int rows, int cols);
/* The pane at a place of the screen, or NULL. */
Pane *panes_at(const Panes *p, int row, int col);
/* The cut whose border stands there, or NULL; and moves a border there. */
Pane *panes_border_at(const Panes *p, int row, int col);
void panes_move_border(Pane *cut, int row, int col);

/* Can the present pane be cut in two? Does it, and goes to the new part. */
bool panes_can_split(const Panes *p, bool beside);
void panes_split(Panes *p, bool beside);
void panes_go(Panes *all, Pane *p);
/* To the next one (1), or back (-1), around the end. */
void panes_step(Panes *p, int by);
/* Closes the present one. There must be others. */
void panes_close(Panes *p);
/* Closes all but the present one. */
void panes_alone(Panes *p);
/* Moves the border of the present one by as many rows or columns; false when it does not go further. There
 * must be others. */
bool panes_grow(Panes *p, int by);
/* Lays a view over the present one's, and takes it away again. */
void panes_cover(Panes *p, View *over);
void panes_uncover(Panes *p, const View *over);

bool panes_show(const Panes *p, const OpenFile *f);
/* No pane shows `f` any more; `instead` takes its place. */
void panes_replace(Panes *p, const OpenFile *f, OpenFile *instead);

#endif
