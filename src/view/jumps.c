#include "view/jumps.h"

#include "base/array.h"
#include "base/mem.h"
#include "view/showing.h"

#include <stdlib.h>
#include <string.h>

enum { POINTS_MAX = 60 };

/* Stands in a document and moves along with its text. */
struct JumpPoint {
    OpenFile *file;
    Anchor at;
};

static void drop_points(Jumps *j, size_t from, size_t n)
{
    for (size_t i = from; i < from + n; i++) {
        doc_remove_anchor(j->points[i]->file->doc, &j->points[i]->at);
        free(j->points[i]);
    }
    if (n)
        memmove(j->points + from, j->points + from + n, (j->n - from - n) * sizeof *j->points);
    j->n -= n;
}

static void closing(void *ctx, OpenFile *f)
{
    Jumps *j = ctx;
    for (size_t i = j->n; i-- > 0;)
        if (j->points[i]->file == f) {
            drop_points(j, i, 1);
            j->at -= j->at > i;
        }
}

void jumps_begin(Jumps *j, Panes *p)
{
    SessionEvents events = {.ctx = j, .closing = closing};
    j->panes = p;
    session_observe(p->session, &events);
}

void jumps_free(Jumps *j)
{
    drop_points(j, 0, j->n);
    free(j->points);
    *j = (Jumps){0};
}

static bool is_here(const Jumps *j, const JumpPoint *p)
{
    const View *v = j->panes->view;
    return p->file == v->file && p->at.at == v->cursor.at;
}

void jumps_note(Jumps *j)
{
    const View *v = j->panes->view;
    if (!v->file->id) /* help is no place to come back to */
        return;
    drop_points(j, j->at, j->n - j->at); /* a new way begins here */
    if (j->n && is_here(j, j->points[j->n - 1]))
        return;
    if (j->n == POINTS_MAX)
        drop_points(j, 0, 1);
    j->points = array_room(j->points, j->n, sizeof *j->points);
    JumpPoint *p = mem_get(sizeof *p);
    p->file = v->file;
    doc_add_anchor(p->file->doc, &p->at, v->cursor.at, true);
    j->points[j->n++] = p;
    j->at = j->n;
}

static void go(Jumps *j, const JumpPoint *p)
{
    size_t at = p->at.at;
    showing_show(j->panes, p->file);
    view_go(j->panes->view, at);
}

bool jumps_go(Jumps *j, bool forward)
{
    if (forward) {
        while (j->at + 1 < j->n) {
            const JumpPoint *p = j->points[++j->at];
            if (!is_here(j, p)) {
                go(j, p);
                return true;
            }
        }
        return false;
    }
    if (j->at == j->n) { /* so that "forward" comes back here */
        jumps_note(j);
        j->at = j->n ? j->n - 1 : 0;
    }
    while (j->at > 0) {
        const JumpPoint *p = j->points[--j->at];
        if (!is_here(j, p)) {
            go(j, p);
            return true;
        }
    }
    return false;
}
