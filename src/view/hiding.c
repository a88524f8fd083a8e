#include "view/hiding.h"

#include "base/array.h"
#include "base/mem.h"
#include "edit/move.h"
#include "text/text_line.h"

#include <stdlib.h>
#include <string.h>

typedef struct ShownRange Range;

struct Hiding {
    HidingWhat what;
    ShownLines lines;
    unsigned long version; /* of the document that they are for */
};

/* ---- ranges ---- */

void shown_lines_add(ShownLines *s, Text t, size_t from, size_t to)
{
    shown_lines_add_whole(s, move_line_start(t, from), move_line_end(t, to) + 1);
}

void shown_lines_add_whole(ShownLines *s, size_t from, size_t to)
{
    if (s->n && from <= s->at[s->n - 1].to) {
        Range *last = &s->at[s->n - 1];
        last->to = to > last->to ? to : last->to;
        while (s->n > 1 && from <= s->at[s->n - 2].to) { /* with lines around it, it reaches back */
            s->at[s->n - 2].to = s->at[s->n - 1].to;
            s->n--;
        }
        last = &s->at[s->n - 1];
        last->from = from < last->from ? from : last->from;
        return;
    }
    s->at = array_room(s->at, s->n, sizeof *s->at);
    s->at[s->n++] = (Range){from, to};
}

void shown_lines_free(ShownLines *s)
{
    free(s->at);
    *s = (ShownLines){0};
}

/* The first one that ends after a place; n: none does. */
static size_t range_after(const ShownLines *s, size_t at)
{
    size_t low = 0, high = s->n;
    while (low < high) {
        size_t middle = low + (high - low) / 2;
        if (s->at[middle].to > at)
            high = middle;
        else
            low = middle + 1;
    }
    return low;
}

/* ---- following ---- */

static size_t shifted(size_t x, const DocChange *d)
{
    return x <= d->at ? x : x >= d->at + d->removed ? x - d->removed + d->added : d->at;
}

/* Puts one in among them, in a text in which the others are in order; what touches becomes one. */
static void show(ShownLines *s, Text t, size_t from, size_t to)
{
    ShownLines all = {0};
    from = move_line_start(t, from);
    to = move_line_end(t, to) + 1;
    size_t i = range_after(s, from ? from - 1 : 0);
    if (i < s->n && s->at[i].from <= from && s->at[i].to >= to)
        return;
    for (size_t k = 0; k < i; k++)
        shown_lines_add(&all, t, s->at[k].from, s->at[k].to - 1);
    bool put = false;
    for (; i < s->n; i++) {
        if (!put && s->at[i].from >= from) {
            shown_lines_add(&all, t, from, to - 1);
            put = true;
        }
        shown_lines_add(&all, t, s->at[i].from, s->at[i].to - 1);
    }
    if (!put)
        shown_lines_add(&all, t, from, to - 1);
    shown_lines_free(s);
    *s = all;
}

/* A range that reached to the end of the text, where something was added: to the end of the line that was
 * begun there. */
static size_t end_before_growth(Text t, size_t at)
{
    return at && text_byte(t, at - 1) != '\n' ? move_line_end(t, at) + 1 : at;
}

void hiding_follow_growth(View *v, const ShownLines *shown)
{
    struct Hiding *h = v->hiding;
    DocChange d;
    if (!h)
        return;
    Text t = view_text(v);
    if (h->version + 1 == doc_version(v->file->doc) && doc_change_after(v->file->doc, h->version, &d) &&
        !d.removed && d.at + d.added == text_len(t)) {
        ShownLines *all = &h->lines;
        h->version++;
        if (all->n && all->at[all->n - 1].to > d.at)
            all->at[all->n - 1].to = end_before_growth(t, d.at);
        if (all->n && all->at[all->n - 1].to <= all->at[all->n - 1].from)
            all->n--;
        for (size_t i = 0; i < shown->n; i++)
            shown_lines_add_whole(all, shown->at[i].from, shown->at[i].to);
    }
    hiding_follow(v);
}

void hiding_follow(View *v)
{
    struct Hiding *h = v->hiding;
    DocChange d;
    if (!h)
        return;
    Text t = view_text(v);
    Range *changed = NULL;
    size_t n = 0;
    for (; h->version != doc_version(v->file->doc); h->version++) {
        if (!doc_change_after(v->file->doc, h->version, &d)) { /* too much has changed */
            free(changed);
            hiding_end(v);
            return;
        }
        for (size_t i = 0; i < h->lines.n; i++)
            h->lines.at[i] = (Range){shifted(h->lines.at[i].from, &d), shifted(h->lines.at[i].to, &d)};
        for (size_t i = 0; i < n; i++)
            changed[i] = (Range){shifted(changed[i].from, &d), shifted(changed[i].to, &d)};
        changed = array_room(changed, n, sizeof *changed);
        changed[n++] = (Range){d.at, d.at + d.added};
    }
    for (size_t i = 0; i < n; i++)
        show(&h->lines, t, changed[i].from, changed[i].to);
    free(changed);
    show(&h->lines, t, v->cursor.at, v->cursor.at);
}

/* Where a place goes by n edits; *k of them begin at or before it, and *by is what those up to there add. */
static size_t shifted_by_each(size_t x, const DocEdit *e, size_t n, size_t *k, ptrdiff_t *by)
{
    while (*k < n && e[*k].at < x) {
        *by += (ptrdiff_t)e[*k].n - (ptrdiff_t)e[*k].removed;
        ++*k;
    }
    if (*k && x < e[*k - 1].at + e[*k - 1].removed) /* in the midst of one: where that ends */
        x = e[*k - 1].at + e[*k - 1].removed;
    return (size_t)((ptrdiff_t)x + *by);
}

void hiding_follow_each(View *v, const DocEdit *e, size_t n)
{
    struct Hiding *h = v->hiding;
    size_t k = 0, i = 0;
    ptrdiff_t by = 0, so_far = 0;
    if (!h)
        return;
    Text t = view_text(v);
    ShownLines moved = {0}, all = {0};
    for (size_t r = 0; r < h->lines.n; r++) {
        size_t from = shifted_by_each(h->lines.at[r].from, e, n, &k, &by);
        moved.at = array_room(moved.at, moved.n, sizeof *moved.at);
        moved.at[moved.n++] = (Range){from, shifted_by_each(h->lines.at[r].to, e, n, &k, &by)};
    }
    for (size_t r = 0; r < moved.n || i < n;) { /* in order, the ranges and what was put in */
        size_t at = i < n ? (size_t)((ptrdiff_t)e[i].at + so_far) : 0;
        if (i < n && (r == moved.n || at < moved.at[r].from)) {
            shown_lines_add(&all, t, at, at + e[i].n);
            so_far += (ptrdiff_t)e[i].n - (ptrdiff_t)e[i].removed;
            i++;
        } else {
            if (moved.at[r].to > moved.at[r].from)
                shown_lines_add(&all, t, moved.at[r].from, moved.at[r].to - 1);
            r++;
        }
    }
    shown_lines_free(&moved);
    shown_lines_free(&h->lines);
    h->lines = all;
    h->version = doc_version(v->file->doc);
}

void hiding_begin(View *v, HidingWhat what, ShownLines *lines, unsigned long version)
{
    hiding_end(v);
    v->hiding = mem_get(sizeof *v->hiding);
    v->end_hiding = hiding_end;
    *v->hiding = (struct Hiding){what, *lines, version};
    *lines = (ShownLines){0};
    hiding_follow(v);
}

void hiding_end(View *v)
{
    if (!v->hiding)
        return;
    shown_lines_free(&v->hiding->lines);
    free(v->hiding);
    v->hiding = NULL;
}

HidingWhat hiding_what(const View *v)
{
    return v->hiding ? v->hiding->what : SHOW_ALL;
}

/* ---- asking ---- */

size_t hiding_on(const View *v, size_t line_from)
{
    if (!v->hiding)
        return line_from;
    const ShownLines *s = &v->hiding->lines;
    size_t i = range_after(s, line_from);
    return i == s->n                    ? HIDING_NOWHERE
           : s->at[i].from <= line_from ? line_from
                                        : move_line_start(view_text(v), s->at[i].from);
}

size_t hiding_back(const View *v, size_t at)
{
    Text t = view_text(v);
    if (!v->hiding)
        return move_line_start(t, at);
    const ShownLines *s = &v->hiding->lines;
    size_t i = range_after(s, at);
    if (i < s->n && s->at[i].from <= at)
        return move_line_start(t, at);
    return i ? move_line_start(t, s->at[i - 1].to - 1) : HIDING_NOWHERE;
}

size_t hiding_after(const View *v, size_t line_from)
{
    if (!v->hiding)
        return 0;
    Text t = view_text(v);
    const ShownLines *s = &v->hiding->lines;
    size_t end = move_line_end(t, line_from), i = range_after(s, end + 1), line = text_line_of(t, line_from);
    if (i < s->n && s->at[i].from <= end + 1)
        return 0;
    size_t next = i < s->n ? text_line_of(t, s->at[i].from) : view_lines(v);
    return next > line + 1 ? next - line - 1 : 0;
}

size_t hiding_before(const View *v, size_t line_from)
{
    if (!v->hiding || line_from == 0 || hiding_back(v, line_from - 1) != HIDING_NOWHERE)
        return 0;
    return text_line_of(view_text(v), line_from);
}

size_t hiding_within(const View *v, size_t from, size_t to)
{
    Text t = view_text(v);
    size_t hidden = 0;
    if (!v->hiding || from >= to)
        return 0;
    const ShownLines *s = &v->hiding->lines;
    size_t at = move_line_start(t, from);
    for (size_t i = range_after(s, at); at < to; i++) {
        size_t next = i < s->n ? s->at[i].from : text_len(t) + 1;
        if (next > at) {
            size_t end = next < to ? next : to;
            hidden += text_line_of(t, end > text_len(t) ? text_len(t) : end) - text_line_of(t, at);
            if (end == to && (to > text_len(t) || text_byte(t, to - 1) != '\n'))
                hidden++; /* the last one is begun */
        }
        if (i >= s->n)
            break;
        at = s->at[i].to > at ? s->at[i].to : at;
    }
    return hidden;
}
