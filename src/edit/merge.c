#include "edit/merge.h"

#include "base/bytes.h"
#include "edit/diff.h"
#include "text/builder.h"
#include "text/text_line.h"

#include <stdint.h>
#include <stdlib.h>
#include <string.h>

enum { MARKER = 7 /* signs that a marker line begins with */ };

/* Runs of lines of the three texts that belong together. */
typedef struct Group {
    size_t base_from, base_to, mine_from, mine_to, theirs_from, theirs_to;
    bool by_mine, by_theirs;
    bool aligned; /* no side added or took away lines: each stands against one of the others */
} Group;

typedef struct Merging {
    Text base, mine, theirs;
    const MergeNames *names;
    const char *line_end;
    TextBuilder out;
    Merged *result;
    bool ok;
} Merging;

static size_t at_line(Text t, size_t line)
{
    return line > text_newlines(t) ? text_len(t) : text_line_start(t, line);
}

static void put(Merging *m, Text t, size_t from, size_t to)
{
    m->ok = m->ok && builder_part(&m->out, t, from, to);
}

static void put_lines(Merging *m, Text t, size_t from, size_t to)
{
    put(m, t, at_line(t, from), at_line(t, to));
}

static bool same_lines(Text a, size_t a_from, size_t a_to, Text b, size_t b_from, size_t b_to)
{
    size_t from = at_line(a, a_from), to = at_line(b, b_from), n = at_line(a, a_to) - from;
    return n == at_line(b, b_to) - to && text_same_bytes(a, from, b, to, n);
}

static void put_marker(Merging *m, char sign, const char *name)
{
    Bytes line = {0};
    for (int i = 0; i < MARKER; i++)
        bytes_add(&line, &sign, 1);
    bytes_printf(&line, "%s%s%s", *name ? " " : "", name, m->line_end);
    m->ok = m->ok && builder_bytes(&m->out, line.at, line.len);
    bytes_free(&line);
}

/* Lines between markers; the last one gets an end if it has none. */
static void put_between(Merging *m, Text t, size_t from, size_t to)
{
    size_t end = at_line(t, to);
    put(m, t, at_line(t, from), end);
    if (to > from && text_byte(t, end - 1) != '\n')
        m->ok = m->ok && builder_bytes(&m->out, m->line_end, strlen(m->line_end));
}

static void put_conflict(Merging *m, const Group *g)
{
    put_marker(m, '<', m->names->mine);
    put_between(m, m->mine, g->mine_from, g->mine_to);
    if (m->names->base) {
        put_marker(m, '|', m->names->base);
        put_between(m, m->base, g->base_from, g->base_to);
    }
    put_marker(m, '=', "");
    put_between(m, m->theirs, g->theirs_from, g->theirs_to);
    put_marker(m, '>', m->names->theirs);
    m->result->conflicts++;
}

/* ---- what touches ---- */

/* Goes through the changes of both sides at once: each call gives one group of those that touch in the base,
 * lines or bytes, as the runs have them. */
typedef struct Weave {
    const DiffRun *mine, *theirs;
    size_t n_mine, n_theirs, i, k;
    size_t mine_at, theirs_at, base_at; /* where all three were the same last */
} Weave;

static bool next_group(Weave *w, Group *g)
{
    if (w->i == w->n_mine && w->k == w->n_theirs)
        return false;
    size_t from = w->i == w->n_mine                               ? w->theirs[w->k].a_from
                  : w->k == w->n_theirs                           ? w->mine[w->i].a_from
                  : w->mine[w->i].a_from < w->theirs[w->k].a_from ? w->mine[w->i].a_from
                                                                  : w->theirs[w->k].a_from;
    size_t to = from;
    *g = (Group){.base_from = from, .aligned = true};
    size_t skip = from - w->base_at;
    g->mine_from = w->mine_at + skip;
    g->theirs_from = w->theirs_at + skip;
    long long mine = 0, theirs = 0; /* how much longer each side is */
    for (;;) {
        if (w->i < w->n_mine && w->mine[w->i].a_from <= to) {
            const DiffRun *r = &w->mine[w->i++];
            to = r->a_to > to ? r->a_to : to;
            mine += (long long)(r->b_to - r->b_from) - (long long)(r->a_to - r->a_from);
            g->by_mine = true;
            g->aligned = g->aligned && r->b_to - r->b_from == r->a_to - r->a_from;
        } else if (w->k < w->n_theirs && w->theirs[w->k].a_from <= to) {
            const DiffRun *r = &w->theirs[w->k++];
            to = r->a_to > to ? r->a_to : to;
            theirs += (long long)(r->b_to - r->b_from) - (long long)(r->a_to - r->a_from);
            g->by_theirs = true;
            g->aligned = g->aligned && r->b_to - r->b_from == r->a_to - r->a_from;
        } else {
            break;
        }
    }
    g->base_to = to;
    g->mine_to = (size_t)((long long)(g->mine_from + (to - from)) + mine);
    g->theirs_to = (size_t)((long long)(g->theirs_from + (to - from)) + theirs);
    w->base_at = to;
    w->mine_at = g->mine_to;
    w->theirs_at = g->theirs_to;
    return true;
}

/* ---- within lines ---- */

/* Both changed the same line, but other words of it: true when that could be brought together. */
static bool merge_words(Merging *m, const Group *g, bool puts)
{
    size_t from[3] = {at_line(m->base, g->base_from), at_line(m->mine, g->mine_from),
                      at_line(m->theirs, g->theirs_from)};
    size_t to[3] = {at_line(m->base, g->base_to), at_line(m->mine, g->mine_to),
                    at_line(m->theirs, g->theirs_to)};
    DiffRun *mine, *theirs;
    Weave w = {.base_at = from[0], .mine_at = from[1], .theirs_at = from[2]};
    w.n_mine = diff_words(m->base, from[0], to[0], m->mine, from[1], to[1], &mine);
    w.n_theirs = diff_words(m->base, from[0], to[0], m->theirs, from[2], to[2], &theirs);
    w.mine = mine;
    w.theirs = theirs;
    Group part;
    bool apart = true;
    size_t at = from[0];
    while (apart && next_group(&w, &part)) {
        apart = !(part.by_mine && part.by_theirs);
        if (!puts)
            continue;
        put(m, m->base, at, part.base_from);
        if (part.by_mine)
            put(m, m->mine, part.mine_from, part.mine_to);
        else
            put(m, m->theirs, part.theirs_from, part.theirs_to);
        at = part.base_to;
    }
    if (puts)
        put(m, m->base, at, to[0]);
    free(mine);
    free(theirs);
    return apart;
}

static bool words_fit(Merging *m, const Group *g)
{
    return merge_words(m, g, false);
}

static void put_words(Merging *m, const Group *g)
{
    merge_words(m, g, true);
}

/* The same number of lines everywhere: each is looked at by itself, and only those are a conflict that both
 * changed in the same words. */
static void put_aligned(Merging *m, const Group *g)
{
    Group open = {0};
    size_t lines = g->base_to - g->base_from;
    for (size_t i = 0; i < lines; i++) {
        Group one = {.base_from = g->base_from + i,
                     .base_to = g->base_from + i + 1,
                     .mine_from = g->mine_from + i,
                     .mine_to = g->mine_from + i + 1,
                     .theirs_from = g->theirs_from + i,
                     .theirs_to = g->theirs_from + i + 1};
        bool mine = !same_lines(m->base, one.base_from, one.base_to, m->mine, one.mine_from, one.mine_to);
        bool theirs =
            !same_lines(m->base, one.base_from, one.base_to, m->theirs, one.theirs_from, one.theirs_to);
        bool alike =
            same_lines(m->mine, one.mine_from, one.mine_to, m->theirs, one.theirs_from, one.theirs_to);
        if (mine && theirs && !alike && !words_fit(m, &one)) {
            if (!open.base_to)
                open = one;
            open.base_to = one.base_to;
            open.mine_to = one.mine_to;
            open.theirs_to = one.theirs_to;
            continue;
        }
        if (open.base_to)
            put_conflict(m, &open);
        open = (Group){0};
        if (theirs && !alike)
            m->result->theirs++;
        if (mine && theirs && !alike)
            put_words(m, &one);
        else if (theirs)
            put_lines(m, m->theirs, one.theirs_from, one.theirs_to);
        else
            put_lines(m, m->mine, one.mine_from, one.mine_to);
    }
    if (open.base_to)
        put_conflict(m, &open);
}

static void put_group(Merging *m, const Group *g)
{
    if (!g->by_theirs) {
        put_lines(m, m->mine, g->mine_from, g->mine_to);
        return;
    }
    if (!g->by_mine) {
        put_lines(m, m->theirs, g->theirs_from, g->theirs_to);
        m->result->theirs++;
        return;
    }
    if (same_lines(m->mine, g->mine_from, g->mine_to, m->theirs, g->theirs_from, g->theirs_to)) {
        put_lines(m, m->mine, g->mine_from, g->mine_to);
        return;
    }
    if (g->aligned)
        put_aligned(m, g);
    else
        put_conflict(m, g);
}

/* Without an older text every difference of the two is a place to be decided. */
static void put_differences(Merging *m)
{
    DiffRun *runs;
    size_t n = diff_lines(m->mine, m->theirs, &runs), at = 0;
    for (size_t i = 0; i < n && m->ok; i++) {
        Group g = {.mine_from = runs[i].a_from,
                   .mine_to = runs[i].a_to,
                   .theirs_from = runs[i].b_from,
                   .theirs_to = runs[i].b_to};
        put_lines(m, m->mine, at, g.mine_from);
        put_conflict(m, &g);
        at = g.mine_to;
    }
    put(m, m->mine, at_line(m->mine, at), text_len(m->mine));
    free(runs);
}

static void put_groups(Merging *m)
{
    DiffRun *runs_mine, *runs_theirs;
    Weave w = {0};
    Group g;
    w.n_mine = diff_lines(m->base, m->mine, &runs_mine);
    w.n_theirs = diff_lines(m->base, m->theirs, &runs_theirs);
    w.mine = runs_mine;
    w.theirs = runs_theirs;
    size_t at = 0; /* the line of mine up to which all is there */
    while (m->ok && next_group(&w, &g)) {
        put_lines(m, m->mine, at, g.mine_from);
        put_group(m, &g);
        at = g.mine_to;
    }
    put(m, m->mine, at_line(m->mine, at), text_len(m->mine));
    free(runs_mine);
    free(runs_theirs);
}

bool merge_texts(Text base, Text mine, Text theirs, const MergeNames *names, bool crlf, Merged *out)
{
    Merging m = {.base = base,
                 .mine = mine,
                 .theirs = theirs,
                 .names = names,
                 .line_end = crlf ? "\r\n" : "\n",
                 .result = out,
                 .ok = true};
    *out = (Merged){0};
    if (names->base)
        put_groups(&m);
    else
        put_differences(&m);
    m.ok = m.ok && builder_finish(&m.out, &out->text);
    builder_drop(&m.out);
    return m.ok;
}

/* ---- places that are marked ---- */

/* Is line `line` a marker of that sign? */
static bool is_marker(Text t, size_t line, char sign)
{
    char head[MARKER + 1];
    size_t start = text_line_start(t, line), n = text_read(t, start, head, sizeof head);
    for (size_t i = 0; i < MARKER; i++)
        if (i >= n || head[i] != sign)
            return false;
    return n == MARKER || head[MARKER] == ' ' || head[MARKER] == '\n' || head[MARKER] == '\r';
}

/* The next line that begins with those seven signs, from byte `from` on; SIZE_MAX: there is none. */
static size_t find_opening(Text t, size_t from)
{
    size_t at = from, len = text_len(t);
    while (at < len) {
        TextRun run = text_run(t, at);
        const char *hit = memchr(run.at, '<', run.len);
        if (!hit) {
            at += run.len;
            continue;
        }
        at += (size_t)(hit - run.at);
        size_t line = text_line_of(t, at);
        if (text_line_start(t, line) == at && is_marker(t, line, '<'))
            return line;
        at++;
    }
    return SIZE_MAX;
}

bool conflict_next(Text t, size_t from, Conflict *out)
{
    enum { LINES_MOST = 100000 };
    for (size_t open = find_opening(t, from); open != SIZE_MAX;
         open = find_opening(t, text_line_end(t, open))) {
        size_t base = 0, middle = 0, line = open + 1, last = text_newlines(t);
        for (; line <= last && line < open + LINES_MOST; line++) {
            if (is_marker(t, line, '<'))
                break;
            if (!middle && !base && is_marker(t, line, '|'))
                base = line;
            else if (!middle && is_marker(t, line, '='))
                middle = line;
            else if (middle && is_marker(t, line, '>'))
                break;
        }
        if (line > last || !middle || !is_marker(t, line, '>'))
            continue;
        out->all = (ConflictPart){text_line_start(t, open), at_line(t, line + 1)};
        out->mine = (ConflictPart){text_line_start(t, open + 1), text_line_start(t, base ? base : middle)};
        out->has_base = base != 0;
        out->base = (ConflictPart){text_line_start(t, base ? base + 1 : middle), text_line_start(t, middle)};
        out->theirs = (ConflictPart){text_line_start(t, middle + 1), text_line_start(t, line)};
        return true;
    }
    return false;
}

/* Seven equals signs alone also underline headings; so what is before them counts. */
static bool is_middle(Text t, size_t line)
{
    enum { LINES_NEAR = 2000 };
    if (!is_marker(t, line, '='))
        return false;
    for (size_t i = 1; i <= line && i < LINES_NEAR; i++) {
        if (is_marker(t, line - i, '<'))
            return true;
        if (is_marker(t, line - i, '>') || is_marker(t, line - i, '='))
            return false;
    }
    return false;
}

bool conflict_marks(Text t, size_t line_start)
{
    int first = text_byte(t, line_start);
    if (first != '<' && first != '|' && first != '=' && first != '>')
        return false;
    size_t line = text_line_of(t, line_start);
    return first == '=' ? is_middle(t, line) : is_marker(t, line, (char)first);
}
