#include "base/mem.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "view/cursors_made.h"
#include "view/hiding.h"

#include <stdlib.h>

/* ---- all at once ---- */

/* Makes one edit at each, which is for the cursor of the same number; the cursors go to where each ends. */
static bool make(View *v, const DocEdit *e, StepKind kind)
{
    struct Cursors *c = v->cursors;
    ptrdiff_t by = 0;
    cursors_remember(v);
    if (!doc_replace_each(v->file->doc, e, c->n, kind, v->cursor.at))
        return false;
    for (size_t i = 0; i < c->n; i++) {
        size_t at = (size_t)((ptrdiff_t)(e[i].at + e[i].n) + by);
        by += (ptrdiff_t)e[i].n - (ptrdiff_t)e[i].removed;
        c->all[i] = (Cursor){.at = at, .mark = at};
    }
    c->version = doc_version(v->file->doc);
    v->marking = MARK_NONE;
    hiding_follow_each(v, e, c->n);
    cursors_order(c); /* where what stood between is gone */
    cursors_show_own(v);
    cursors_remember(v);
    if (c->n == 1)
        cursors_end(v);
    return true;
}

bool cursors_type(View *v, const CursorPiece *pieces, size_t n, bool over, StepKind kind)
{
    struct Cursors *c = v->cursors;
    Text t = view_text(v);
    DocEdit *e = mem_get(c->n * sizeof *e);
    for (size_t i = 0; i < c->n; i++) {
        const CursorPiece *p = &pieces[n == 1 ? 0 : i];
        size_t from, to;
        cursors_marked(v, i, &from, &to);
        bool line_end = p->n && (p->bytes[0] == '\n' || p->bytes[0] == '\r');
        if (from == to && over && !line_end && to < move_line_end(t, to)) {
            to = move_right(t, to);
            kind = STEP_WHOLE;
        }
        if (i + 1 < c->n && to > cursor_from(&c->all[i + 1]))
            to = cursor_from(&c->all[i + 1]);
        e[i] = (DocEdit){from, to - from, p->bytes, p->n};
    }
    bool ok = make(v, e, kind);
    free(e);
    return ok;
}

bool cursors_delete(View *v, bool left)
{
    struct Cursors *c = v->cursors;
    Text t = view_text(v);
    DocEdit *e = mem_get(c->n * sizeof *e);
    StepKind kind = left ? STEP_DELETE_LEFT : STEP_DELETE_RIGHT;
    size_t before = 0;
    for (size_t i = 0; i < c->n; i++) {
        size_t from, to;
        cursors_marked(v, i, &from, &to);
        if (from < to)
            kind = STEP_WHOLE;
        else if (left)
            from = move_left(t, from);
        else
            to = move_right(t, to);
        from = from < before ? before : from;
        before = to;
        e[i] = (DocEdit){from, to - from, NULL, 0};
    }
    for (size_t i = 0; i + 1 < c->n; i++) /* nothing is deleted twice */
        if (e[i].at + e[i].removed > e[i + 1].at)
            e[i].removed = e[i + 1].at - e[i].at;
    bool ok = make(v, e, kind);
    free(e);
    return ok;
}

/* ---- one after the other ---- */

/* By how much what lies after the change has moved; what lies in it or before goes where an anchor would. */
static void follow_change(struct Cursors *c, size_t i, const DocChange *d, ptrdiff_t *shift)
{
    ptrdiff_t by = (ptrdiff_t)d->added - (ptrdiff_t)d->removed;
    for (size_t j = i; j-- > 0 && cursor_to(&c->all[j]) >= d->at;) {
        size_t *const both[] = {&c->all[j].at, &c->all[j].mark};
        for (int k = 0; k < 2; k++)
            if (*both[k] >= d->at + d->removed)
                *both[k] = (size_t)((ptrdiff_t)*both[k] + by);
            else if (*both[k] > d->at)
                *both[k] = d->at + (*both[k] - d->at < d->added ? *both[k] - d->at : d->added);
    }
    for (size_t j = i + 1; j < c->n; j++) {
        size_t *const both[] = {&c->all[j].at, &c->all[j].mark};
        bool beyond = true;
        for (int k = 0; k < 2; k++) {
            size_t at = (size_t)((ptrdiff_t)*both[k] + *shift);
            if (at >= d->at + d->removed)
                continue; /* it goes with all that follow */
            beyond = false;
            at = at < d->at + d->added ? at : d->at + d->added;
            *both[k] = (size_t)((ptrdiff_t)at - *shift - by);
        }
        if (beyond)
            break;
    }
    *shift += by;
}

static size_t line_from(Text t, const Cursor *c, MarkKind marking)
{
    return move_line_start(t, marking == MARK_NONE ? c->at : cursor_from(c));
}

/* The line in which a mark ends; one that ends at a line's start does not mean that line. */
static size_t last_line(Text t, const Cursor *c, MarkKind marking)
{
    size_t to = marking == MARK_NONE ? c->at : cursor_to(c);
    return move_line_start(t, marking != MARK_NONE && to > cursor_from(c) ? to - 1 : to);
}

/* Which are left out, as one before stands in the same line. */
static bool *in_line_before(const View *v, const struct Cursors *c)
{
    bool *out = mem_get(c->n * sizeof *out);
    Text t = view_text(v);
    size_t last = last_line(t, &c->all[0], v->marking);
    for (size_t i = 1; i < c->n; i++) {
        out[i] = line_from(t, &c->all[i], v->marking) <= last;
        size_t ends = last_line(t, &c->all[i], v->marking);
        last = ends > last ? ends : last;
    }
    return out;
}

/* The view has but this one. False when what was done cannot be followed. */
static bool run_at(View *v, struct Cursors *c, size_t i, MarkKind marking, const CursorsRun *r,
                   ptrdiff_t *shift)
{
    const OpenFile *file = v->file;
    Cursor *k = &c->all[i];
    unsigned long version = doc_version(file->doc);
    DocChange d;
    k->at = (size_t)((ptrdiff_t)k->at + *shift);
    k->mark = (size_t)((ptrdiff_t)k->mark + *shift);
    view_go(v, k->at);
    v->mark.at = k->mark;
    v->marking = marking;
    v->goal = k->goal;
    v->goal_kept = k->goal_kept;
    r->run(r->ctx, i, c->n);
    if (v->file != file || v->cursors)
        return false;
    for (; version != doc_version(file->doc); version++) {
        if (!doc_change_after(file->doc, version, &d))
            return false;
        follow_change(c, i, &d, shift);
    }
    return true;
}

enum { ASK_EACH = 1024 /* cursors between two questions whether to stop */, HIDING_MOST = 2000 };

bool cursors_run(View *v, CursorsRun *r)
{
    struct Cursors *c = v->cursors;
    Doc *doc = v->file->doc;
    MarkKind marking = v->marking, after = MARK_NONE;
    bool *skip = r->by_line ? in_line_before(v, c) : NULL, ok = true;
    ptrdiff_t shift = 0;
    cursors_remember(v);
    v->cursors = NULL;
    for (size_t i = 0; ok && i < c->n; i++) {
        Cursor *k = &c->all[i];
        if (skip && skip[i]) {
            k->at = (size_t)((ptrdiff_t)k->at + shift);
            k->mark = (size_t)((ptrdiff_t)k->mark + shift);
            continue;
        }
        unsigned long version = doc_version(doc);
        const Cursor was = {.at = (size_t)((ptrdiff_t)k->at + shift)};
        ok = (i % ASK_EACH || !stop_wanted(r->stop)) && run_at(v, c, i, marking, r, &shift);
        if (!ok)
            break;
        r->changed += v->cursor.at != was.at || version != doc_version(doc);
        *k = (Cursor){v->cursor.at, v->marking == MARK_NONE ? v->cursor.at : v->mark.at, v->goal,
                      v->goal_kept};
        after = v->marking != MARK_NONE ? v->marking : after;
        if (c->n <= HIDING_MOST)
            hiding_follow(v);
    }
    free(skip);
    if (!ok) {
        if (v->cursors)
            cursors_end(v);
        cursors_free(c);
        return false;
    }
    v->cursors = c;
    c->version = doc_version(doc);
    v->marking = after;
    cursors_order(c);
    cursors_show_own(v);
    cursors_remember(v);
    if (c->n == 1)
        cursors_end(v);
    return true;
}
