#include "view/panes.h"

#include "base/mem.h"

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

void panes_begin(Panes *all)
{
    all->root = new_pane(NULL);
    all->view = &all->root->view;
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

void panes_free(Panes *all)
{
    free_tree(all->root);
    all->root = NULL;
    all->view = NULL;
}

static Pane *leftmost(Pane *p)
{
    while (p->parts[0])
        p = p->parts[0];
    return p;
}

Pane *panes_first(const Panes *all)
{
    return leftmost(all->root);
}

Pane *panes_after(const Pane *p)
{
    while (p->whole && p == p->whole->parts[1])
        p = p->whole;
    return p->whole ? leftmost(p->whole->parts[1]) : NULL;
}

View *panes_shown(Pane *pane)
{
    return pane->over ? pane->over : &pane->view;
}

Pane *panes_now(const Panes *all)
{
    Pane *p = panes_first(all), *next;
    while (panes_shown(p) != all->view && (next = panes_after(p)))
        p = next;
    return p;
}

View *panes_view_of(const Panes *all, const OpenFile *f)
{
    if (all->view && all->view->file == f)
        return all->view;
    for (Pane *p = all->root ? panes_first(all) : NULL; p; p = panes_after(p))
        if (p->view.file == f)
            return &p->view;
    return NULL;
}

bool panes_many(const Panes *all)
{
    return all->root->parts[0] != NULL;
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

void panes_place(Panes *all, int row, int col, int rows, int cols)
{
    if (place(all->root, row, col, rows, cols) || !panes_many(all))
        return;
    for (Pane *p = panes_first(all); p; p = panes_after(p))
        p->rows = 0;
    Pane *now = panes_now(all);
    now->row = row;
    now->col = col;
    now->rows = rows;
    now->cols = cols;
}

Pane *panes_at(const Panes *all, int row, int col)
{
    for (Pane *p = panes_first(all); p; p = panes_after(p))
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

Pane *panes_border_at(const Panes *all, int row, int col)
{
    for (Pane *p = panes_first(all); p; p = panes_after(p))
        if (p->rows == 0) /* not all are shown */
            return NULL;
    return border_in(all->root, row, col);
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

void panes_go(Panes *all, Pane *p)
{
    if (panes_shown(p) == all->view)
        return;
    doc_seal(all->view->file->doc);
    all->view = panes_shown(p);
}

void panes_step(Panes *all, int by)
{
    Pane *now = panes_now(all), *to = panes_after(now);
    if (by < 0)
        for (Pane *p = panes_first(all); p && (p != now || p == panes_first(all)); p = panes_after(p))
            to = p;
    if (by < 0 && now == panes_first(all)) /* around to the last */
        for (Pane *p = now; p; p = panes_after(p))
            to = p;
    panes_go(all, to ? to : panes_first(all));
}

bool panes_can_split(const Panes *all, bool beside)
{
    const Pane *p = panes_now(all);
    return beside ? p->cols - 1 >= 2 * COLS_USABLE : p->rows >= 2 * ROWS_USABLE;
}

void panes_split(Panes *all, bool beside)
{
    Pane *p = panes_now(all), *cut = new_pane(p->whole), *fresh = new_pane(cut);
    if (!p->whole)
        all->root = cut;
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
    panes_go(all, fresh);
}

/* The other part of what it is a part of takes its room. */
static void take_out(Panes *all, Pane *p)
{
    Pane *cut = p->whole, *other = cut->parts[cut->parts[0] == p];
    other->whole = cut->whole;
    if (!cut->whole)
        all->root = other;
    else
        cut->whole->parts[cut->whole->parts[1] == cut] = other;
    if (all->view == &p->view)
        all->view = panes_shown(leftmost(other));
    view_leave(&p->view);
    free(p);
    free(cut);
}

void panes_close(Panes *all)
{
    doc_seal(all->view->file->doc);
    take_out(all, panes_now(all));
}

void panes_alone(Panes *all)
{
    for (Pane *p = panes_first(all), *next; p; p = next) {
        next = panes_after(p);
        if (&p->view != all->view)
            take_out(all, p);
    }
}

bool panes_grow(Panes *all, int by)
{
    Pane *p = panes_now(all), *cut = p->whole;
    const Pane *first = cut->parts[0];
    int sign = first == p ? by : -by;
    unsigned before = cut->share;
    if (cut->beside)
        panes_move_border(cut, 0, first->col + first->cols + 2 * sign);
    else
        panes_move_border(cut, first->row + first->rows - 1 + sign, 0);
    return cut->share != before;
}

void panes_cover(Panes *all, View *over)
{
    panes_now(all)->over = over;
    all->view = over;
}

void panes_uncover(Panes *all, const View *over)
{
    for (Pane *p = panes_first(all); p; p = panes_after(p))
        if (p->over == over) {
            p->over = NULL;
            if (all->view == over)
                all->view = &p->view;
        }
}

bool panes_show(const Panes *all, const OpenFile *f)
{
    for (Pane *p = panes_first(all); p; p = panes_after(p))
        if (p->view.file == f)
            return true;
    return false;
}

void panes_replace(Panes *all, const OpenFile *f, OpenFile *instead)
{
    for (Pane *p = panes_first(all); p; p = panes_after(p))
        if (p->view.file == f)
            view_show(&p->view, instead);
}
