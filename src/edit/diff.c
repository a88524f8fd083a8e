#include "diff.h"

#include "mem.h"

#include <stdlib.h>
#include <string.h>

enum { COST_MAX = 4096 }; /* differences looked for within one part, before it is given up */

typedef struct Side {
    Text text;
    uint64_t *hashes; /* of the lines */
    bool *changed;
    size_t n;
} Side;

typedef struct Work {
    Side a, b;
    long *forward, *backward; /* how far each diagonal reaches; the middle is index `zero` */
    long zero;
} Work;

/* ---- lines ---- */

/* What stands behind the last newline is a line only if it is not empty. */
static size_t count_lines(Text t)
{
    size_t n = text_newlines(t), len = text_len(t);
    return n + (len > 0 && text_byte(t, len - 1) != '\n');
}

static void hash_lines(Side *s, Text t)
{
    s->text = t;
    s->n = count_lines(t);
    s->hashes = mem_get((s->n + 1) * sizeof *s->hashes);
    s->changed = mem_get((s->n + 1) * sizeof *s->changed);
    uint64_t h = 1469598103934665603u;
    size_t line = 0;
    for (size_t at = 0; at < text_len(t);) {
        TextRun run = text_run(t, at);
        for (size_t i = 0; i < run.len; i++) {
            h = (h ^ (unsigned char)run.at[i]) * 1099511628211u;
            if (run.at[i] == '\n') {
                s->hashes[line++] = h;
                h = 1469598103934665603u;
            }
        }
        at += run.len;
    }
    if (line < s->n)
        s->hashes[line] = h;
}

static bool same_bytes(Text a, size_t a_from, Text b, size_t b_from, size_t n)
{
    while (n) {
        TextRun x = text_run(a, a_from), y = text_run(b, b_from);
        size_t take = x.len < y.len ? x.len : y.len;
        take = take < n ? take : n;
        if (x.at != y.at && memcmp(x.at, y.at, take) != 0)
            return false;
        a_from += take;
        b_from += take;
        n -= take;
    }
    return true;
}

static bool same(const Work *w, size_t i, size_t k)
{
    if (w->a.hashes[i] != w->b.hashes[k])
        return false;
    size_t a = text_line_start(w->a.text, i), b = text_line_start(w->b.text, k);
    size_t n = text_line_start(w->a.text, i + 1) - a;
    return n == text_line_start(w->b.text, k + 1) - b && same_bytes(w->a.text, a, w->b.text, b, n);
}

/* ---- the shortest script ---- */

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
            while (i < n && j < m && i >= 0 && j >= 0 &&
                   same(w, (size_t)(x.a_from + i), (size_t)(x.b_from + j)))
                i++, j++;
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
            while (i < n && j < m && i >= 0 && j >= 0 &&
                   same(w, (size_t)(x.a_to - i - 1), (size_t)(x.b_to - j - 1)))
                i++, j++;
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
    while (x.a_from < x.a_to && x.b_from < x.b_to && same(w, (size_t)x.a_from, (size_t)x.b_from))
        x.a_from++, x.b_from++;
    while (x.a_from < x.a_to && x.b_from < x.b_to && same(w, (size_t)x.a_to - 1, (size_t)x.b_to - 1))
        x.a_to--, x.b_to--;
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

size_t diff_lines(Text a, Text b, DiffRun **runs)
{
    Work w = {0};
    hash_lines(&w.a, a);
    hash_lines(&w.b, b);
    size_t reach = w.a.n + w.b.n + 3;
    if (reach > 2 * COST_MAX + 3)
        reach = 2 * COST_MAX + 3;
    w.zero = (long)reach;
    w.forward = mem_get((2 * reach + 1) * sizeof *w.forward);
    w.backward = mem_get((2 * reach + 1) * sizeof *w.backward);
    compare(&w, (Box){0, (long)w.a.n, 0, (long)w.b.n});
    size_t n = 0, cap = 0, i = 0, k = 0;
    *runs = NULL;
    while (i < w.a.n || k < w.b.n) {
        DiffRun run = {i, i, k, k};
        while (run.a_to < w.a.n && w.a.changed[run.a_to])
            run.a_to++;
        while (run.b_to < w.b.n && w.b.changed[run.b_to])
            run.b_to++;
        if (run.a_to > i || run.b_to > k) {
            if (n == cap) {
                cap = cap ? 2 * cap : 16;
                *runs = mem_grow(*runs, cap * sizeof **runs);
            }
            (*runs)[n++] = run;
        }
        i = run.a_to + (run.a_to < w.a.n);
        k = run.b_to + (run.b_to < w.b.n);
    }
    free(w.a.hashes);
    free(w.a.changed);
    free(w.b.hashes);
    free(w.b.changed);
    free(w.forward);
    free(w.backward);
    return n;
}

/* ---- the unified format ---- */

static void put_lines(Text t, size_t from, size_t to, char sign, Bytes *out)
{
    for (size_t line = from; line < to; line++) {
        size_t at = text_line_start(t, line), end = text_line_start(t, line + 1);
        bytes_add(out, &sign, 1);
        bool closed = false;
        while (at < end) {
            TextRun run = text_run(t, at);
            size_t n = run.len < end - at ? run.len : end - at;
            bytes_add(out, run.at, n);
            closed = run.at[n - 1] == '\n';
            at += n;
        }
        if (!closed)
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
        size_t behind = lines_a - runs[last].a_to < context ? lines_a - runs[last].a_to : context;
        bytes_add_str(out, "@@ -");
        put_range(runs[first].a_from - before, runs[last].a_to + behind, out);
        bytes_add_str(out, " +");
        put_range(runs[first].b_from - before, runs[last].b_to + behind, out);
        bytes_add_str(out, " @@\n");
        put_lines(a, runs[first].a_from - before, runs[first].a_from, ' ', out);
        for (size_t i = first; i <= last; i++) {
            put_lines(a, runs[i].a_from, runs[i].a_to, '-', out);
            put_lines(b, runs[i].b_from, runs[i].b_to, '+', out);
            size_t next = i < last ? runs[i + 1].a_from : runs[i].a_to + behind;
            put_lines(a, runs[i].a_to, next, ' ', out);
        }
    }
    free(runs);
}
