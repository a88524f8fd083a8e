#include "view/matches.h"

#include "base/system.h"

enum { COUNT_SLICE = 10 /* ms */ };

void matches_by(Matches *m, Finder *finder)
{
    finder_free(m->finder);
    m->finder = finder;
    m->count.going = m->count.complete = false;
    m->count.version = 0;
}

void matches_free(Matches *m)
{
    finder_free(m->finder);
    text_drop(&m->count.text);
    *m = (Matches){0};
}

void matches_range(const Matches *m, size_t *from, size_t *to)
{
    *from = 0;
    *to = text_len(view_text(m->panes->view));
    if (m->in_mark && m->to > m->from) {
        *from = m->from;
        *to = m->to < *to ? m->to : *to;
    }
}

void matches_go(Matches *m, Match to)
{
    view_go(m->panes->view, to.from);
    m->now = to;
    m->shown = true;
}

/* ---- counting ---- */

/* The cursor moved: only the matches between both places tell, unless it is not all counted yet. */
static void count_from_cursor(MatchCount *c, size_t cursor)
{
    bool back = cursor < c->cursor;
    if (c->going || !c->complete) {
        c->at = c->begin;
        c->n = c->before = 0;
        c->going = true;
    } else {
        c->gap_at = back ? cursor : c->cursor;
        c->gap_end = back ? c->cursor : cursor;
        c->gap_back = back;
    }
    c->cursor = cursor;
}

/* Goes over the gap for a moment; true while there is more of it. */
static bool count_gap(Matches *m, uint64_t until)
{
    MatchCount *c = &m->count;
    Match found;
    for (unsigned i = 0; c->gap_at < c->gap_end; i++) {
        if (i % 64 == 63 && system_now_ms() >= until)
            return true;
        Found how = finder_step(m->finder, c->gap_at, c->gap_end, c->end, &found);
        if (how != FOUND || found.from >= c->gap_end)
            break;
        c->before += c->gap_back ? (size_t)-1 : 1;
        c->gap_at = finder_after(m->finder, found);
    }
    c->gap_at = c->gap_end = 0;
    return false;
}

/* Begins again; small texts are done at once. */
static void begin_count(Matches *m)
{
    MatchCount *c = &m->count;
    const View *v = m->panes->view;
    text_drop(&c->text);
    *c = (MatchCount){.text = text_keep(view_text(v)),
                      .version = doc_version(v->file->doc) + 1,
                      .cursor = v->cursor.at,
                      .going = true};
    matches_range(m, &c->begin, &c->end);
    c->at = c->begin;
}

/* Goes over the rest for a moment; true while there is more of it. */
static bool count_rest(Matches *m, uint64_t until)
{
    MatchCount *c = &m->count;
    Match found;
    for (unsigned i = 0; c->going; i++) {
        if (i % 64 == 63 && system_now_ms() >= until)
            return true;
        Found how = finder_next(m->finder, c->at, c->end, &found);
        if (how != FOUND) {
            c->complete = how == FOUND_NONE;
            c->going = false;
            return false;
        }
        c->n++;
        c->before += found.from < c->cursor;
        c->at = finder_after(m->finder, found);
    }
    return false;
}

bool matches_count_step(Matches *m)
{
    MatchCount *c = &m->count;
    const View *v = m->panes->view;
    if (!m->finder || !m->shown || m->unseen || !v->file)
        return false;
    if (c->version != doc_version(v->file->doc) + 1 || !text_same(c->text, view_text(v)))
        begin_count(m);
    else if (c->cursor != v->cursor.at && c->gap_at == c->gap_end)
        count_from_cursor(c, v->cursor.at);
    finder_text(m->finder, c->text);
    uint64_t until = system_now_ms() + COUNT_SLICE;
    if (c->gap_at < c->gap_end && count_gap(m, until))
        return true;
    if (c->cursor != v->cursor.at) /* it went on meanwhile */
        return matches_count_step(m);
    return count_rest(m, until);
}

bool matches_counting(const Matches *m)
{
    return m->count.going || m->count.gap_at < m->count.gap_end;
}

void matches_words(const Matches *m, Bytes *out)
{
    const MatchCount *c = &m->count;
    if (m->shown && c->n)
        bytes_printf(out, "%zu of %zu%s", c->before + 1 <= c->n ? c->before + 1 : c->n, c->n,
                     c->complete ? "" : "+");
}

bool matches_from(Matches *m, size_t from, size_t end, Match *found)
{
    size_t a, b;
    if (!m->shown || !m->finder)
        return false;
    matches_range(m, &a, &b);
    finder_text(m->finder, view_text(m->panes->view));
    from = from < a ? a : from;
    end = end < b ? end : b;
    return from <= end && finder_next(m->finder, from, end, found) == FOUND;
}
