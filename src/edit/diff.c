#include "edit/diff.h"

#include "base/array.h"
#include "base/letters.h"
#include "base/mem.h"
#include "text/shared.h"
#include "text/text_line.h"

#include <ctype.h>
#include <stdint.h>
#include <stdlib.h>
#include <string.h>
#include <xxhash.h>

enum { COST_MAX = 4096 }; /* differences looked for within one part, before it is given up */

/* A row of pieces, lines or words: piece i is bytes [starts[i], starts[i + 1]). */
typedef struct Side {
    Text text;
    uint64_t *hashes;
    size_t *starts;
    bool *changed;
    size_t n, cap;
} Side;

typedef struct Work {
    Side a, b;
    long *forward, *backward; /* how far each diagonal reaches; the middle is index `zero` */
    long zero;
} Work;

typedef struct Runs {
    DiffRun *at;
    size_t n;
} Runs;

/* ---- pieces ---- */

static const uint64_t HASH_START = 1469598103934665603u, HASH_FACTOR = 1099511628211u;

static void add_piece(Side *s, uint64_t hash, size_t end)
{
    if (s->n == s->cap) {
        s->cap = s->cap ? 2 * s->cap : 256;
        s->hashes = mem_grow(s->hashes, s->cap * sizeof *s->hashes);
        s->starts = mem_grow(s->starts, (s->cap + 1) * sizeof *s->starts);
    }
    s->hashes[s->n++] = hash;
    s->starts[s->n] = end;
}

static void begin_side(Side *s, Text t, size_t from, size_t expected)
{
    s->text = t;
    s->cap = expected;
    s->hashes = mem_get((expected + 1) * sizeof *s->hashes);
    s->starts = mem_get((expected + 1) * sizeof *s->starts);
    s->starts[0] = from;
}

static int class_of(unsigned char c)
{
    return letter_is_blank(c) ? 1 : letter_is_of_word(c) ? 2 : 0;
}

/* Words end where the class of the bytes changes, other signs are alone. */
static bool ends_word(unsigned char c, int next)
{
    return next < 0 || class_of(c) == 0 || class_of(c) != class_of((unsigned char)next);
}

static void cut_words(Side *s, Text t, size_t from, size_t to)
{
    uint64_t h = HASH_START;
    begin_side(s, t, from, 0);
    for (size_t at = from; at < to;) {
        TextRun run = text_run(t, at);
        size_t n = run.len < to - at ? run.len : to - at;
        for (size_t i = 0; i < n; i++) {
            unsigned char c = (unsigned char)run.at[i];
            h = (h ^ c) * HASH_FACTOR;
            bool more = at + i + 1 < to;
            int next = !more ? -1 : i + 1 < n ? (unsigned char)run.at[i + 1] : text_byte(t, at + n);
            if (ends_word(c, next)) {
                add_piece(s, h, at + i + 1);
                h = HASH_START;
            }
        }
        at += n;
    }
}

/* Lines end after a newline. One that lies across pieces of the text is hashed in parts, which comes to the
 * same. */
static void cut_lines(Side *s, Text t, size_t from, size_t to, size_t lines)
{
    XXH3_state_t *parts = XXH3_createState();
    bool begun = false;
    begin_side(s, t, from, lines);
    for (size_t at = from; at < to;) {
        TextRun run = text_run(t, at);
        size_t n = run.len < to - at ? run.len : to - at, done = 0;
        while (done < n) {
            const char *p = run.at + done, *newline = memchr(p, '\n', n - done);
            size_t len = newline ? (size_t)(newline + 1 - p) : n - done;
            bool whole = newline || at + n == to;
            if (!whole && !begun)
                XXH3_64bits_reset(parts);
            if (!whole || begun)
                XXH3_64bits_update(parts, p, len);
            done += len;
            if (whole)
                add_piece(s, begun ? XXH3_64bits_digest(parts) : XXH3_64bits(p, len), at + done);
            begun = !whole;
        }
        at += n;
    }
    XXH3_freeState(parts);
}

static void drop_side(Side *s)
{
    free(s->hashes);
    free(s->starts);
    free(s->changed);
}

/* Do `n` pieces of both sides, whose hashes are the same, have the same bytes? */
static bool same_bytes(const Work *w, size_t i, size_t k, size_t n)
{
    size_t a = w->a.starts[i], b = w->b.starts[k], len = w->a.starts[i + n] - a;
    return len == w->b.starts[k + n] - b && text_same_bytes(w->a.text, a, w->b.text, b, len);
}

/* How many pieces are the same from i and k on, or before them, at most `most`, by their hashes. */
static long same_after(const Work *w, long i, long k, long most)
{
    long n = 0;
    while (n < most && w->a.hashes[i + n] == w->b.hashes[k + n])
        n++;
    return n;
}

static long same_before(const Work *w, long i, long k, long most)
{
    long n = 0;
    while (n < most && w->a.hashes[i - n - 1] == w->b.hashes[k - n - 1])
        n++;
    return n;
}

/* ---- the shortest script ---- */

static long least(long a, long b)
{
    return a < b ? a : b;
}

typedef struct Box {
    long a_from, a_to, b_from, b_to;
} Box;

/* A point in the middle of a shortest way through the box; false when it costs too much. */
static bool middle(Work *w, Box x, long *at_a, long *at_b)
{
    long n = x.a_to - x.a_from, m = x.b_to - x.b_from, delta = n - m;
    long *f = w->forward + w->zero, *r = w->backward + w->zero;
    bool odd = delta & 1;
    f[1] = 0;
    r[1] = 0;
    for (long d = 0; d <= (n + m + 1) / 2 && d < COST_MAX; d++) {
        for (long k = -d; k <= d; k += 2) {
            long i = k == -d || (k != d && f[k - 1] < f[k + 1]) ? f[k + 1] : f[k - 1] + 1;
            long j = i - k;
            long more = i < n && j < m && i >= 0 && j >= 0
                            ? same_after(w, x.a_from + i, x.b_from + j, least(n - i, m - j))
                            : 0;
            i += more;
            j += more;
            f[k] = i;
            if (odd && k - delta >= -(d - 1) && k - delta <= d - 1 && f[k] + r[-(k - delta)] >= n) {
                *at_a = x.a_from + i;
                *at_b = x.b_from + j;
                return true;
            }
        }
        for (long k = -d; k <= d; k += 2) {
            long i = k == -d || (k != d && r[k - 1] < r[k + 1]) ? r[k + 1] : r[k - 1] + 1;
            long j = i - k;
            long more = i < n && j < m && i >= 0 && j >= 0
                            ? same_before(w, x.a_to - i, x.b_to - j, least(n - i, m - j))
                            : 0;
            i += more;
            j += more;
            r[k] = i;
            if (!odd && -(k - delta) >= -d && -(k - delta) <= d && r[k] + f[delta - k] >= n) {
                *at_a = x.a_to - i;
                *at_b = x.b_to - j;
                return true;
            }
        }
    }
    return false;
}

static void compare(Work *w, Box x)
{
    long head = same_after(w, x.a_from, x.b_from, least(x.a_to - x.a_from, x.b_to - x.b_from));
    x.a_from += head;
    x.b_from += head;
    long tail = same_before(w, x.a_to, x.b_to, least(x.a_to - x.a_from, x.b_to - x.b_from));
    x.a_to -= tail;
    x.b_to -= tail;
    long i, j;
    bool empty = x.a_from == x.a_to || x.b_from == x.b_to;
    if (!empty && middle(w, x, &i, &j)) {
        bool moved = (i != x.a_from || j != x.b_from) && (i != x.a_to || j != x.b_to);
        if (moved) {
            compare(w, (Box){x.a_from, i, x.b_from, j});
            compare(w, (Box){i, x.a_to, j, x.b_to});
            return;
        }
    }
    for (long k = x.a_from; k < x.a_to; k++)
        w->a.changed[k] = true;
    for (long k = x.b_from; k < x.b_to; k++)
        w->b.changed[k] = true;
}

static void add_run(Runs *r, DiffRun run)
{
    DiffRun *last = r->n ? &r->at[r->n - 1] : NULL;
    if (last && last->a_to == run.a_from && last->b_to == run.b_from) {
        last->a_to = run.a_to;
        last->b_to = run.b_to;
        return;
    }
    r->at = array_room(r->at, r->n, sizeof *r->at);
    r->at[r->n++] = run;
}

/* The pieces that were taken for the same by their hashes are, with hardly any exception. Those are changed.
 */
static void check_bytes(Work *w)
{
    for (size_t i = 0, k = 0; i < w->a.n && k < w->b.n;) {
        size_t n = 0;
        while (i < w->a.n && w->a.changed[i])
            i++;
        while (k < w->b.n && w->b.changed[k])
            k++;
        while (i + n < w->a.n && k + n < w->b.n && !w->a.changed[i + n] && !w->b.changed[k + n])
            n++;
        bool same = n == 0 || same_bytes(w, i, k, n);
        for (size_t p = 0; p < n && !same; p++)
            if (!same_bytes(w, i + p, k + p, 1))
                w->a.changed[i + p] = w->b.changed[k + p] = true;
        i += n;
        k += n;
    }
}

/* ---- pieces that one side alone has ---- */

/* Which hashes there are. 0 stands for an empty place; a piece whose hash that is counts as there. */
typedef struct Known {
    uint64_t *at;
    size_t mask;
} Known;

static Known known_of(const Side *s)
{
    size_t size = 16;
    while (size < 2 * s->n)
        size *= 2;
    Known k = {mem_get(size * sizeof *k.at), size - 1};
    for (size_t i = 0; i < s->n; i++) {
        size_t p = s->hashes[i] & k.mask;
        while (k.at[p] && k.at[p] != s->hashes[i])
            p = (p + 1) & k.mask;
        k.at[p] = s->hashes[i];
    }
    return k;
}

static bool is_known(const Known *k, uint64_t hash)
{
    size_t p = hash & k->mask;
    while (k->at[p] && k->at[p] != hash)
        p = (p + 1) & k->mask;
    return k->at[p] == hash;
}

/* The pieces of a side that the other one has too; which[i] is the number of the i-th. */
static Side shared_with(const Side *s, const Side *other, size_t **which)
{
    Known k = known_of(other);
    Side out = {.hashes = mem_get((s->n + 1) * sizeof *out.hashes)};
    *which = mem_get((s->n + 1) * sizeof **which);
    for (size_t i = 0; i < s->n; i++)
        if (is_known(&k, s->hashes[i])) {
            (*which)[out.n] = i;
            out.hashes[out.n++] = s->hashes[i];
        }
    out.changed = mem_get((out.n + 1) * sizeof *out.changed);
    free(k.at);
    return out;
}

static void mark_changed(Side *s, const Side *some, const size_t *which)
{
    memset(s->changed, true, s->n * sizeof *s->changed);
    for (size_t i = 0; i < some->n; i++)
        s->changed[which[i]] = some->changed[i];
}

/* What one side alone has is changed, whatever else is: without it there is less to compare. */
static void compare_shared(Work *w)
{
    size_t *of_a, *of_b;
    Work both = *w;
    both.b = shared_with(&w->b, &w->a, &of_b);
    both.a = shared_with(&w->a, &both.b, &of_a);
    compare(&both, (Box){0, (long)both.a.n, 0, (long)both.b.n});
    mark_changed(&w->a, &both.a, of_a);
    mark_changed(&w->b, &both.b, of_b);
    drop_side(&both.a);
    drop_side(&both.b);
    free(of_a);
    free(of_b);
}

/* Compares the pieces and adds the differing runs, as numbers of pieces or as their bytes. */
static void add_runs(Work *w, bool as_bytes, size_t a_first, size_t b_first, Runs *out)
{
    size_t reach = w->a.n + w->b.n + 3, i = 0, k = 0;
    if (reach > 2 * COST_MAX + 3)
        reach = 2 * COST_MAX + 3;
    w->zero = (long)reach;
    w->forward = mem_get((2 * reach + 1) * sizeof *w->forward);
    w->backward = mem_get((2 * reach + 1) * sizeof *w->backward);
    w->a.changed = mem_get((w->a.n + 1) * sizeof *w->a.changed);
    w->b.changed = mem_get((w->b.n + 1) * sizeof *w->b.changed);
    compare_shared(w);
    check_bytes(w);
    while (i < w->a.n || k < w->b.n) {
        DiffRun run = {i, i, k, k};
        while (run.a_to < w->a.n && w->a.changed[run.a_to])
            run.a_to++;
        while (run.b_to < w->b.n && w->b.changed[run.b_to])
            run.b_to++;
        i = run.a_to + (run.a_to < w->a.n);
        k = run.b_to + (run.b_to < w->b.n);
        if (run.a_to == run.a_from && run.b_to == run.b_from)
            continue;
        if (as_bytes)
            add_run(out, (DiffRun){w->a.starts[run.a_from], w->a.starts[run.a_to], w->b.starts[run.b_from],
                                   w->b.starts[run.b_to]});
        else
            add_run(out, (DiffRun){a_first + run.a_from, a_first + run.a_to, b_first + run.b_from,
                                   b_first + run.b_to});
    }
    free(w->forward);
    free(w->backward);
    drop_side(&w->a);
    drop_side(&w->b);
}

/* ---- lines ---- */

/* What stands after the last newline is a line only if it is not empty. */
static size_t count_lines(Text t)
{
    size_t n = text_newlines(t), len = text_len(t);
    return n + (len > 0 && text_byte(t, len - 1) != '\n');
}

typedef struct Gap {
    size_t a_from, a_to, b_from, b_to; /* bytes, at line starts */
} Gap;

/* Lines at both ends that are the same need not be hashed. */
static void trim_gap(Text a, Text b, Gap *g)
{
    Text x, y;
    if (!text_slice(a, g->a_from, g->a_to - g->a_from, &x))
        return;
    if (text_slice(b, g->b_from, g->b_to - g->b_from, &y)) {
        size_t head = text_common_start(x, y);
        head = text_line_start(x, text_line_of(x, head));
        size_t n = text_len(x) < text_len(y) ? text_len(x) : text_len(y);
        size_t tail = text_common_end(x, y, n - head), at = text_len(x) - tail;
        bool starts = at == 0 || text_byte(x, at - 1) == '\n';
        bool starts_y =
            at == text_len(x) || text_len(y) == tail || text_byte(y, text_len(y) - tail - 1) == '\n';
        if (!starts || !starts_y) { /* on to the next line's start */
            size_t next = text_line_start(x, text_line_of(x, at) + 1);
            tail = text_len(x) - next;
        }
        g->a_from += head;
        g->b_from += head;
        g->a_to -= tail;
        g->b_to -= tail;
        text_drop(&y);
    }
    text_drop(&x);
}

/* Lines in [from, to), which begins at a line's start and ends at another's, or the text's end. */
static size_t lines_in(Text t, size_t from, size_t to)
{
    size_t n = text_line_of(t, to) - text_line_of(t, from);
    return n + (to > from && text_byte(t, to - 1) != '\n');
}

static void compare_gap(Text a, Text b, Gap g, Runs *out)
{
    Work w = {0};
    trim_gap(a, b, &g);
    if (g.a_from == g.a_to && g.b_from == g.b_to)
        return;
    size_t i = text_line_of(a, g.a_from), k = text_line_of(b, g.b_from);
    size_t i_to = i + lines_in(a, g.a_from, g.a_to), k_to = k + lines_in(b, g.b_from, g.b_to);
    if (i_to - i <= 1 && k_to - k <= 1) { /* nothing to align, however long the line is */
        add_run(out, (DiffRun){i, i_to, k, k_to});
        return;
    }
    cut_lines(&w.a, a, g.a_from, g.a_to, i_to - i);
    cut_lines(&w.b, b, g.b_from, g.b_to, k_to - k);
    add_runs(&w, false, i, k, out);
}

static bool at_line_start(Text t, size_t at)
{
    return at == 0 || text_byte(t, at - 1) == '\n';
}

/* The whole lines within a shared piece; false when there are none. */
static bool whole_lines(Text a, Text b, Shared *s)
{
    size_t from = s->a, to = s->a + s->n;
    if (!at_line_start(a, s->a) || !at_line_start(b, s->b))
        from = text_line_start(a, text_line_of(a, s->a) + 1);
    if (to != text_len(a) || s->b + s->n != text_len(b))
        to = text_line_start(a, text_line_of(a, to));
    if (from >= to || from < s->a)
        return false;
    *s = (Shared){from, s->b + from - s->a, to - from};
    return true;
}

size_t diff_lines(Text a, Text b, DiffRun **runs)
{
    Shared *shared;
    Runs out = {0};
    Gap gap = {0};
    size_t n = shared_pieces(a, b, &shared);
    for (size_t i = 0; i < n; i++) {
        if (!whole_lines(a, b, &shared[i]))
            continue;
        gap.a_to = shared[i].a;
        gap.b_to = shared[i].b;
        compare_gap(a, b, gap, &out);
        gap.a_from = shared[i].a + shared[i].n;
        gap.b_from = shared[i].b + shared[i].n;
    }
    gap.a_to = text_len(a);
    gap.b_to = text_len(b);
    compare_gap(a, b, gap, &out);
    free(shared);
    *runs = out.at;
    return out.n;
}

size_t diff_words(Text a, size_t a_from, size_t a_to, Text b, size_t b_from, size_t b_to, DiffRun **runs)
{
    Work w = {0};
    Runs out = {0};
    cut_words(&w.a, a, a_from, a_to);
    cut_words(&w.b, b, b_from, b_to);
    add_runs(&w, true, 0, 0, &out);
    *runs = out.at;
    return out.n;
}

/* ---- lines that belong together ---- */

enum { PAIRED_MOST = 10000 /* pairs of lines that are looked at */, LINE_WORDS = 48, LINE_BYTES = 600 };

/* The words of a line by their hashes, in the order of those. */
typedef struct LineWords {
    uint32_t at[LINE_WORDS];
    size_t n;
} LineWords;

static int by_number(const void *a, const void *b)
{
    uint32_t x = *(const uint32_t *)a, y = *(const uint32_t *)b;
    return x < y ? -1 : x > y;
}

static void line_words(Text t, size_t line, LineWords *out)
{
    char bytes[LINE_BYTES];
    size_t start = text_line_start(t, line),
           n = text_read(t, start, bytes,
                         text_line_end(t, line) - start < LINE_BYTES ? text_line_end(t, line) - start
                                                                     : LINE_BYTES);
    out->n = 0;
    for (size_t i = 0, end; i < n && out->n < LINE_WORDS; i = end) {
        bool letter = letter_is_plain((unsigned char)bytes[i]);
        for (end = i + 1; letter && end < n && letter_is_plain((unsigned char)bytes[end]);)
            end++;
        if (!letter_is_blank(bytes[i]))
            out->at[out->n++] = (uint32_t)XXH3_64bits(bytes + i, end - i);
    }
    qsort(out->at, out->n, sizeof *out->at, by_number);
}

/* In thousandths; at least 1, so that as many lines as can be have a partner. */
static unsigned alike(const LineWords *a, const LineWords *b)
{
    size_t same = 0;
    for (size_t i = 0, j = 0; i < a->n && j < b->n;) {
        if (a->at[i] == b->at[j]) {
            same++;
            i++;
            j++;
        } else if (a->at[i] < b->at[j]) {
            i++;
        } else {
            j++;
        }
    }
    return 1 + (a->n + b->n ? (unsigned)(2000 * same / (a->n + b->n)) : 0);
}

void diff_pair(Text a, Text b, const DiffRun *run, size_t *with)
{
    size_t na = run->a_to - run->a_from, nb = run->b_to - run->b_from;
    for (size_t i = 0; i < na; i++)
        with[i] = i < nb ? run->b_from + i : SIZE_MAX;
    if (na == nb && na < 2)
        return;
    if (!na || !nb || na > PAIRED_MOST / nb)
        return;
    LineWords *wa = mem_get(na * sizeof *wa), *wb = mem_get(nb * sizeof *wb);
    unsigned *best = mem_get((na + 1) * (nb + 1) * sizeof *best); /* of what is left from i and j on */
    for (size_t i = 0; i < na; i++)
        line_words(a, run->a_from + i, wa + i);
    for (size_t j = 0; j < nb; j++)
        line_words(b, run->b_from + j, wb + j);
#define BEST(i, j) best[(i) * (nb + 1) + (j)]
    for (size_t i = na; i-- > 0;)
        for (size_t j = nb; j-- > 0;) {
            unsigned pair = BEST(i + 1, j + 1) + alike(wa + i, wb + j);
            unsigned skip = BEST(i + 1, j) > BEST(i, j + 1) ? BEST(i + 1, j) : BEST(i, j + 1);
            BEST(i, j) = pair > skip ? pair : skip;
        }
    for (size_t i = 0, j = 0; i < na;) {
        if (j < nb && BEST(i, j) == BEST(i + 1, j + 1) + alike(wa + i, wb + j))
            with[i++] = run->b_from + j++;
        else if (j < nb && BEST(i, j) == BEST(i, j + 1))
            j++;
        else
            with[i++] = SIZE_MAX;
    }
#undef BEST
    free(wa);
    free(wb);
    free(best);
}

/* ---- the unified format ---- */

static void put_lines(Text t, size_t from, size_t to, char sign, Bytes *out)
{
    for (size_t line = from; line < to; line++) {
        size_t at = text_line_start(t, line), end = text_line_start(t, line + 1);
        bytes_add(out, &sign, 1);
        text_bytes(t, at, end - at, out);
        if (end == at || text_byte(t, end - 1) != '\n')
            bytes_add_str(out, "\n\\ No newline at end of file\n");
    }
}

static void put_range(size_t from, size_t to, Bytes *out)
{
    /* An empty range is named by the line before it. */
    bytes_printf(out, "%zu", to > from ? from + 1 : from);
    if (to - from != 1)
        bytes_printf(out, ",%zu", to - from);
}

void diff_unified(Text a, Text b, const char *name_a, const char *name_b, size_t context, Bytes *out)
{
    DiffRun *runs;
    size_t n = diff_lines(a, b, &runs), lines_a = count_lines(a);
    if (n)
        bytes_printf(out, "--- %s\n+++ %s\n", name_a, name_b);
    for (size_t first = 0, last; first < n; first = last + 1) {
        for (last = first; last + 1 < n && runs[last + 1].a_from - runs[last].a_to <= 2 * context;)
            last++;
        size_t before = runs[first].a_from < context ? runs[first].a_from : context;
        size_t after = lines_a - runs[last].a_to < context ? lines_a - runs[last].a_to : context;
        bytes_add_str(out, "@@ -");
        put_range(runs[first].a_from - before, runs[last].a_to + after, out);
        bytes_add_str(out, " +");
        put_range(runs[first].b_from - before, runs[last].b_to + after, out);
        bytes_add_str(out, " @@\n");
        put_lines(a, runs[first].a_from - before, runs[first].a_from, ' ', out);
        for (size_t i = first; i <= last; i++) {
            put_lines(a, runs[i].a_from, runs[i].a_to, '-', out);
            put_lines(b, runs[i].b_from, runs[i].b_to, '+', out);
            size_t next = i < last ? runs[i + 1].a_from : runs[i].a_to + after;
            put_lines(a, runs[i].a_to, next, ' ', out);
        }
    }
    free(runs);
}

size_t diff_lines_changed(Text a, Text b)
{
    DiffRun *runs;
    size_t n = diff_lines(a, b, &runs), lines = 0;
    for (size_t i = 0; i < n; i++) {
        size_t gone = runs[i].a_to - runs[i].a_from, come = runs[i].b_to - runs[i].b_from;
        lines += gone > come ? gone : come;
    }
    free(runs);
    return lines;
}
