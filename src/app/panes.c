#include "app/panes.h"

#include "app/asking.h"
#include "app/pages.h"
#include "base/mem.h"

#include <stddef.h>
#include <stdlib.h>

enum {
    ROWS_USABLE = 4, /* three of text and the status line */
    COLS_USABLE = 20,
    ROWS_LEAST = 2, /* what a pane may shrink to with the screen */
    COLS_LEAST = 8,
    WHOLE = 1000,
};

/* ---- the tree ---- */

static Pane *new_pane(Pane *whole)
{
    Pane *p = mem_get(sizeof *p);
    p->whole = whole;
    return p;
}

void panes_begin(Editor *ed)
{
    ed->panes = new_pane(NULL);
    ed->view = &ed->panes->view;
}

static void free_tree(Pane *p)
{
    if (!p)
        return;
    if (p->view.file)
        view_leave(&p->view);
    free_tree(p->parts[0]);
    free_tree(p->parts[1]);
    free(p);
}

void panes_free(Editor *ed)
{
    free_tree(ed->panes);
    ed->panes = NULL;
    ed->view = NULL;
}

static Pane *leftmost(Pane *p)
{
    while (p->parts[0])
        p = p->parts[0];
    return p;
}

Pane *panes_first(const Editor *ed)
{
    return leftmost(ed->panes);
}

Pane *panes_after(const Pane *p)
{
    while (p->whole && p == p->whole->parts[1])
        p = p->whole;
    return p->whole ? leftmost(p->whole->parts[1]) : NULL;
}

Pane *pane_of(const View *v)
{
    return (Pane *)(void *)((char *)v - offsetof(Pane, view));
}

bool panes_many(const Editor *ed)
{
    return ed->panes->parts[0] != NULL;
}

/* ---- places on the screen ---- */

/* How many of `all` cells the first part gets; one column between parts is the border. */
static int first_size(const Pane *p, int all)
{
    int room = p->beside ? all - 1 : all, least = p->beside ? COLS_LEAST : ROWS_LEAST;
    int n = (room * (int)p->share + WHOLE / 2) / WHOLE;
    if (n > room - least)
        n = room - least;
    return n < least ? least : n;
}

static bool place(Pane *p, int row, int col, int rows, int cols)
{
    p->row = row;
    p->col = col;
    p->rows = rows;
    p->cols = cols;
    if (!p->parts[0])
        return rows >= ROWS_LEAST && cols >= COLS_LEAST;
    if (p->beside) {
        int first = first_size(p, cols);
        bool left = place(p->parts[0], row, col, rows, first);
        return place(p->parts[1], row, col + first + 1, rows, cols - first - 1) && left;
    }
    int first = first_size(p, rows);
    bool upper = place(p->parts[0], row, col, first, cols);
    return place(p->parts[1], row + first, col, rows - first, cols) && upper;
}

void panes_place(Editor *ed, int row, int col, int rows, int cols)
{
    if (place(ed->panes, row, col, rows, cols) || !panes_many(ed))
        return;
    for (Pane *p = panes_first(ed); p; p = panes_after(p))
        p->rows = 0;
    Pane *now = pane_of(ed->view);
    now->row = row;
    now->col = col;
    now->rows = rows;
    now->cols = cols;
}

Pane *panes_at(const Editor *ed, int row, int col)
{
    for (Pane *p = panes_first(ed); p; p = panes_after(p))
        if (row >= p->row && row < p->row + p->rows && col >= p->col && col < p->col + p->cols)
            return p;
    return NULL;
}

static Pane *border_in(Pane *p, int row, int col)
{
    const Pane *first = p->parts[0];
    if (!first)
        return NULL;
    bool within = row >= p->row && row < p->row + p->rows && col >= p->col && col < p->col + p->cols;
    if (within && (p->beside ? col == first->col + first->cols : row == first->row + first->rows - 1))
        return p;
    Pane *found = border_in(p->parts[0], row, col);
    return found ? found : border_in(p->parts[1], row, col);
}

Pane *panes_border_at(const Editor *ed, int row, int col)
{
    for (Pane *p = panes_first(ed); p; p = panes_after(p))
        if (p->rows == 0) /* not all are shown */
            return NULL;
    return border_in(ed->panes, row, col);
}

void panes_move_border(Pane *p, int row, int col)
{
    int room = p->beside ? p->cols - 1 : p->rows, least = p->beside ? COLS_LEAST : ROWS_LEAST;
    int want = p->beside ? col - p->col : row - p->row + 1;
    want = want > room - least ? room - least : want;
    want = want < least ? least : want;
    if (room > 0)
        p->share = (unsigned)((want * WHOLE + room / 2) / room);
}

/* ---- what people do with them ---- */

void panes_go(Editor *ed, Pane *p)
{
    if (&p->view == ed->view)
        return;
    page_leave(ed); /* help is shown in the pane it was called from */
    doc_seal(ed->view->file->doc);
    ed->view = &p->view;
    ed->before = NULL;
    asking_focus(ed);
}

void panes_step(Editor *ed, int by)
{
    if (!panes_many(ed)) {
        say(ed, "There is only one pane; Esc v s and Esc v e split it");
        return;
    }
    Pane *now = pane_of(ed->view), *to = panes_after(now);
    if (by < 0)
        for (Pane *p = panes_first(ed); p && (p != now || p == panes_first(ed)); p = panes_after(p))
            to = p;
    if (by < 0 && now == panes_first(ed)) /* around to the last */
        for (Pane *p = now; p; p = panes_after(p))
            to = p;
    panes_go(ed, to ? to : panes_first(ed));
}

void panes_split(Editor *ed, bool beside)
{
    Pane *p = pane_of(ed->view);
    if (beside ? p->cols - 1 < 2 * COLS_USABLE : p->rows < 2 * ROWS_USABLE) {
        say(ed, "There is no room here for another pane %s this one", beside ? "beside" : "below");
        return;
    }
    page_leave(ed);
    Pane *cut = new_pane(p->whole), *fresh = new_pane(cut);
    if (!p->whole)
        ed->panes = cut;
    else
        p->whole->parts[p->whole->parts[1] == p] = cut;
    p->whole = cut;
    cut->parts[0] = p;
    cut->parts[1] = fresh;
    cut->beside = beside;
    cut->share = WHOLE / 2;
    fresh->view.wrap = p->view.wrap;
    view_show(&fresh->view, p->view.file);
    fresh->view.cursor.at = p->view.cursor.at;
    fresh->view.top.at = p->view.top.at;
    panes_go(ed, fresh);
}

/* The other part of what it is a part of takes its room. */
static void take_out(Editor *ed, Pane *p)
{
    Pane *cut = p->whole, *other = cut->parts[cut->parts[0] == p];
    other->whole = cut->whole;
    if (!cut->whole)
        ed->panes = other;
    else
        cut->whole->parts[cut->whole->parts[1] == cut] = other;
    if (ed->view == &p->view)
        ed->view = &leftmost(other)->view;
    view_leave(&p->view);
    free(p);
    free(cut);
}

void panes_close(Editor *ed)
{
    page_leave(ed);
    if (!panes_many(ed)) {
        say(ed, "This is the only pane; Esc f c closes the file");
        return;
    }
    doc_seal(ed->view->file->doc);
    take_out(ed, pane_of(ed->view));
}

void panes_alone(Editor *ed)
{
    page_leave(ed);
    for (Pane *p = panes_first(ed), *next; p; p = next) {
        next = panes_after(p);
        if (&p->view != ed->view)
            take_out(ed, p);
    }
}

void panes_grow(Editor *ed, int by)
{
    Pane *p = pane_of(ed->view), *cut = p->whole;
    if (!cut) {
        say(ed, "There is only one pane");
        return;
    }
    const Pane *first = cut->parts[0];
    int sign = first == p ? by : -by;
    unsigned before = cut->share;
    if (cut->beside)
        panes_move_border(cut, 0, first->col + first->cols + 2 * sign);
    else
        panes_move_border(cut, first->row + first->rows - 1 + sign, 0);
    if (cut->share == before)
        say(ed, "It does not get %s", by > 0 ? "larger" : "smaller");
}

bool panes_show(const Editor *ed, const OpenFile *f)
{
    for (Pane *p = panes_first(ed); p; p = panes_after(p))
        if (p->view.file == f)
            return true;
    return false;
}

void panes_replace(Editor *ed, const OpenFile *f, OpenFile *instead)
{
    for (Pane *p = panes_first(ed); p; p = panes_after(p))
        if (p->view.file == f)
            view_show(&p->view, instead);
}
