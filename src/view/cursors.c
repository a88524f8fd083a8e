#include "view/cursors.h"

#include "base/array.h"
#include "base/mem.h"
#include "view/cursors_made.h"
#include "view/hiding.h"

#include <stdlib.h>
#include <string.h>

enum { SETS_MOST = 64, KEPT_MOST = 4 * CURSORS_MOST /* cursors of all sets */ };

size_t cursor_from(const Cursor *c)
{
    return c->at < c->mark ? c->at : c->mark;
}

size_t cursor_to(const Cursor *c)
{
    return c->at > c->mark ? c->at : c->mark;
}

/* ---- order ---- */

static int by_place(const void *a, const void *b)
{
    const Cursor *x = a, *y = b;
    size_t p = cursor_from(x), q = cursor_from(y);
    return p != q ? (p > q) - (p < q) : (cursor_to(x) > cursor_to(y)) - (cursor_to(x) < cursor_to(y));
}

/* Do they touch, so that what is done at one is done at the other? */
static bool touch(const Cursor *a, const Cursor *b)
{
    bool empty = cursor_from(a) == cursor_to(a) || cursor_from(b) == cursor_to(b);
    return empty ? cursor_from(b) <= cursor_to(a) : cursor_from(b) < cursor_to(a);
}

/* Of two that touch: from the first's beginning to the last one's end, the cursor at the end where it was. */
static Cursor both(Cursor a, const Cursor *b)
{
    size_t from = cursor_from(&a), to = cursor_to(&a) > cursor_to(b) ? cursor_to(&a) : cursor_to(b);
    bool back = a.at < a.mark || b->at < b->mark;
    a.at = back ? from : to;
    a.mark = back ? to : from;
    return a;
}

void cursors_order(struct Cursors *c)
{
    size_t own = c->all[c->own].at, n = 0;
    bool in_order = true;
    for (size_t i = 1; i < c->n && in_order; i++)
        in_order = by_place(&c->all[i - 1], &c->all[i]) <= 0;
    if (!in_order)
        qsort(c->all, c->n, sizeof *c->all, by_place);
    for (size_t i = 0; i < c->n; i++) {
        if (n && touch(&c->all[n - 1], &c->all[i]))
            c->all[n - 1] = both(c->all[n - 1], &c->all[i]);
        else
            c->all[n++] = c->all[i];
    }
    c->n = n;
    for (c->own = 0; c->own + 1 < n && own > cursor_to(&c->all[c->own]);)
        c->own++;
}

/* ---- coming and going ---- */

static void free_sets(struct Cursors *c)
{
    for (size_t i = 0; i < c->n_sets; i++)
        free(c->sets[i].all);
    free(c->sets);
}

void cursors_free(struct Cursors *c)
{
    free_sets(c);
    free(c->all);
    free(c);
}

void cursors_end(View *v)
{
    if (!v->cursors)
        return;
    cursors_free(v->cursors);
    v->cursors = NULL;
}

/* The view's own cursor is where its one stands. */
void cursors_show_own(View *v)
{
    const Cursor *c = &v->cursors->all[v->cursors->own];
    view_go(v, c->at);
    v->mark.at = c->mark;
    v->goal = c->goal;
    v->goal_kept = c->goal_kept;
}

void cursors_set(View *v, Cursor *all, size_t n, size_t own, MarkKind marking)
{
    struct Cursors *c = v->cursors;
    if (!c) {
        c = v->cursors = mem_get(sizeof *c);
        v->end_cursors = cursors_end;
    }
    free(c->all);
    c->all = all;
    c->n = n;
    c->own = own;
    c->version = doc_version(v->file->doc);
    v->columns = false;
    v->marking = marking;
    cursors_order(c);
    cursors_show_own(v);
    if (c->n == 1)
        cursors_end(v);
}

void cursors_add(View *v, Cursor c)
{
    size_t n = cursors_count(v);
    Cursor *all = mem_get((n + 1) * sizeof *all);
    if (v->cursors)
        memcpy(all, v->cursors->all, n * sizeof *all);
    else
        all[0] = (Cursor){.at = v->cursor.at, .mark = v->marking == MARK_NONE ? v->cursor.at : v->mark.at};
    all[n] = c;
    cursors_set(v, all, n + 1, n, v->marking);
}

void cursors_mark_here(View *v, MarkKind marking)
{
    v->marking = marking;
    v->mark.at = v->cursor.at;
    for (size_t i = 0; v->cursors && i < v->cursors->n; i++)
        v->cursors->all[i].mark = v->cursors->all[i].at;
}

/* ---- asking ---- */

size_t cursors_count(const View *v)
{
    return v->cursors ? v->cursors->n : 1;
}

const Cursor *cursors_all(const View *v, size_t *n)
{
    *n = v->cursors ? v->cursors->n : 0;
    return v->cursors ? v->cursors->all : NULL;
}

size_t cursors_after(const View *v, size_t at)
{
    size_t low = 0, high = v->cursors ? v->cursors->n : 0;
    while (low < high) {
        size_t middle = low + (high - low) / 2;
        if (cursor_to(&v->cursors->all[middle]) >= at)
            high = middle;
        else
            low = middle + 1;
    }
    return low;
}

void cursors_marked(const View *v, size_t i, size_t *from, size_t *to)
{
    const Cursor *c = &v->cursors->all[i];
    bool marked = v->marking != MARK_NONE;
    *from = marked ? cursor_from(c) : c->at;
    *to = marked ? cursor_to(c) : c->at;
}

bool cursors_of_words(const View *v)
{
    return v->cursors && v->cursors->words;
}

void cursors_set_of_words(View *v, bool words)
{
    if (v->cursors)
        v->cursors->words = words;
}

/* ---- following ---- */

static bool follow_one(struct Cursors *c, const DocChange *d)
{
    for (size_t i = 0; i < c->n; i++) {
        Cursor *k = &c->all[i];
        if (cursor_to(k) < d->at || (cursor_to(k) == d->at && d->removed))
            continue;
        if (cursor_from(k) < d->at + d->removed || (cursor_from(k) < d->at && cursor_to(k) > d->at))
            return false; /* in the midst of it */
        k->at = k->at - d->removed + d->added;
        k->mark = k->mark - d->removed + d->added;
    }
    return true;
}

bool cursors_follow(View *v)
{
    struct Cursors *c = v->cursors;
    DocChange d;
    bool ok = true;
    if (!c)
        return false;
    for (; ok && c->version != doc_version(v->file->doc); c->version++)
        ok = doc_change_after(v->file->doc, c->version, &d) && follow_one(c, &d);
    if (ok && c->all[c->own].at == v->cursor.at && !v->columns) {
        c->all[c->own].mark = v->marking == MARK_NONE ? v->cursor.at : v->mark.at;
        return false;
    }
    cursors_end(v);
    return true;
}

/* ---- what is remembered for undo ---- */

void cursors_remember(View *v)
{
    struct Cursors *c = v->cursors;
    size_t state = doc_state_now(v->file->doc), all = c->n;
    CursorSet *last = c->n_sets ? &c->sets[c->n_sets - 1] : NULL;
    if (last && last->state == state && last->n == c->n) {
        memcpy(last->all, c->all, c->n * sizeof *c->all);
        last->own = c->own;
        last->marking = v->marking;
        return;
    }
    while (c->n_sets && c->sets[c->n_sets - 1].state >= state)
        free(c->sets[--c->n_sets].all);
    for (size_t i = 0; i < c->n_sets; i++)
        all += c->sets[i].n;
    while (c->n_sets && (c->n_sets == SETS_MOST || all > KEPT_MOST)) {
        all -= c->sets[0].n;
        free(c->sets[0].all);
        memmove(c->sets, c->sets + 1, --c->n_sets * sizeof *c->sets);
    }
    CursorSet set = {state, mem_get(c->n * sizeof *set.all), c->n, c->own, v->marking};
    memcpy(set.all, c->all, c->n * sizeof *set.all);
    c->sets = array_room(c->sets, c->n_sets, sizeof *c->sets);
    c->sets[c->n_sets++] = set;
}

/* States that became one step have other numbers: what was kept under them may be of another text. */
static bool fits(const CursorSet *s, size_t len)
{
    for (size_t i = 0; i < s->n; i++)
        if (cursor_to(&s->all[i]) > len)
            return false;
    return true;
}

bool cursors_recall(View *v)
{
    struct Cursors *c = v->cursors;
    size_t state = doc_state_now(v->file->doc), len = text_len(view_text(v));
    for (size_t i = 0; c && i < c->n_sets; i++) {
        const CursorSet *s = &c->sets[i];
        if (s->state != state || !fits(s, len))
            continue;
        c->all = mem_grow(c->all, s->n * sizeof *c->all);
        memcpy(c->all, s->all, s->n * sizeof *c->all);
        c->n = s->n;
        c->own = s->own;
        c->version = doc_version(v->file->doc);
        v->marking = s->marking;
        cursors_show_own(v);
        return true;
    }
    return false;
}
