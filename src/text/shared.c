#include "text/shared.h"

#include "base/mem.h"
#include "text/node.h"

#include <stdlib.h>
#include <string.h>

enum { OVERLAPS_MAX = 8 /* places of one block that are looked at for one slice */ };

/* ---- a table from nodes to where they begin ---- */

typedef struct Known {
    const Node *node;
    size_t at;
    bool matched;
} Known;

typedef struct Table {
    Known *slots;
    size_t mask;
} Table;

static size_t count_nodes(const Node *n)
{
    size_t all = 1;
    for (unsigned i = 0; n->height && i < n->n; i++)
        all += count_nodes(n->kids[i]);
    return all;
}

static Known *slot_of(const Table *t, const Node *n)
{
    size_t i = ((uintptr_t)n >> 4) * 11400714819323198485u >> 16;
    while (t->slots[i & t->mask].node && t->slots[i & t->mask].node != n)
        i++;
    return &t->slots[i & t->mask];
}

static void learn(Table *t, const Node *n, size_t at)
{
    Known *k = slot_of(t, n);
    if (!k->node)
        *k = (Known){n, at, false};
    for (unsigned i = 0; n->height && i < n->n; i++) {
        learn(t, n->kids[i], at);
        at += n->kids[i]->bytes;
    }
}

/* ---- gathering what may belong together ---- */

typedef struct Loose {
    const Slice *slice;
    size_t at;
} Loose;

typedef struct Pieces {
    Shared *pairs;
    size_t n_pairs, cap_pairs;
    Loose *loose[2]; /* slices in leaves that are not shared, of either text */
    size_t n_loose[2], cap_loose[2];
} Pieces;

static void add_pair(Pieces *p, Shared s)
{
    if (p->n_pairs == p->cap_pairs) {
        p->cap_pairs = p->cap_pairs ? 2 * p->cap_pairs : 64;
        p->pairs = mem_grow(p->pairs, p->cap_pairs * sizeof *p->pairs);
    }
    p->pairs[p->n_pairs++] = s;
}

static void add_loose(Pieces *p, int side, const Node *leaf, size_t at)
{
    for (unsigned i = 0; i < leaf->n; i++) {
        if (p->n_loose[side] == p->cap_loose[side]) {
            p->cap_loose[side] = p->cap_loose[side] ? 2 * p->cap_loose[side] : 64;
            p->loose[side] = mem_grow(p->loose[side], p->cap_loose[side] * sizeof *p->loose[side]);
        }
        p->loose[side][p->n_loose[side]++] = (Loose){&leaf->slices[i], at};
        at += leaf->slices[i].len;
    }
}

static void gather_b(Pieces *p, const Table *t, const Node *n, size_t at)
{
    Known *k = slot_of(t, n);
    if (k->node) {
        k->matched = true;
        add_pair(p, (Shared){k->at, at, n->bytes});
        return;
    }
    if (!n->height)
        add_loose(p, 1, n, at);
    for (unsigned i = 0; n->height && i < n->n; i++) {
        gather_b(p, t, n->kids[i], at);
        at += n->kids[i]->bytes;
    }
}

static void gather_a(Pieces *p, const Table *t, const Node *n, size_t at)
{
    if (slot_of(t, n)->matched)
        return;
    if (!n->height)
        add_loose(p, 0, n, at);
    for (unsigned i = 0; n->height && i < n->n; i++) {
        gather_a(p, t, n->kids[i], at);
        at += n->kids[i]->bytes;
    }
}

static int by_block(const void *x, const void *y)
{
    const Loose *a = x, *b = y;
    uintptr_t p = (uintptr_t)a->slice->block, q = (uintptr_t)b->slice->block;
    if (p != q)
        return p < q ? -1 : 1;
    return a->slice->from < b->slice->from ? -1 : a->slice->from > b->slice->from;
}

/* The first of A's loose slices, sorted by block, that may overlap `s`. */
static size_t first_overlap(const Pieces *p, const Slice *s)
{
    size_t low = 0, high = p->n_loose[0];
    while (low < high) {
        size_t middle = (low + high) / 2;
        const Slice *m = p->loose[0][middle].slice;
        bool before =
            m->block != s->block ? (uintptr_t)m->block < (uintptr_t)s->block : m->from + m->len <= s->from;
        if (before)
            low = middle + 1;
        else
            high = middle;
    }
    return low;
}

static void pair_slices(Pieces *p)
{
    if (p->n_loose[0] > 1)
        qsort(p->loose[0], p->n_loose[0], sizeof *p->loose[0], by_block);
    for (size_t i = 0; i < p->n_loose[1]; i++) {
        const Loose *b = &p->loose[1][i];
        size_t k = first_overlap(p, b->slice), end = k + OVERLAPS_MAX;
        for (; k < p->n_loose[0] && k < end; k++) {
            const Loose *a = &p->loose[0][k];
            uint32_t a_end = a->slice->from + a->slice->len, b_end = b->slice->from + b->slice->len;
            uint32_t from = a->slice->from > b->slice->from ? a->slice->from : b->slice->from;
            uint32_t to = a_end < b_end ? a_end : b_end;
            if (a->slice->block != b->slice->block || a->slice->from >= b_end)
                break;
            if (from < to)
                add_pair(p,
                         (Shared){a->at + from - a->slice->from, b->at + from - b->slice->from, to - from});
        }
    }
}

/* ---- the heaviest chain that goes forward in both ---- */

static int by_b(const void *x, const void *y)
{
    const Shared *a = x, *b = y;
    if (a->b != b->b)
        return a->b < b->b ? -1 : 1;
    return a->a < b->a ? -1 : a->a > b->a;
}

static int by_size(const void *x, const void *y)
{
    size_t a = *(const size_t *)x, b = *(const size_t *)y;
    return a < b ? -1 : a > b;
}

typedef struct Best {
    size_t weight, last; /* last: the chain's last pair + 1; 0: none */
} Best;

static size_t rank_of(const size_t *ends, size_t n, size_t value) /* how many ends are <= value */
{
    size_t low = 0, high = n;
    while (low < high) {
        size_t middle = (low + high) / 2;
        if (ends[middle] <= value)
            low = middle + 1;
        else
            high = middle;
    }
    return low;
}

static size_t chain(const Shared *pairs, size_t n, Shared **out)
{
    size_t *ends = mem_get((n + 1) * sizeof *ends), *before = mem_get((n + 1) * sizeof *before);
    Best *tree = mem_get((n + 1) * sizeof *tree), best = {0, 0}; /* prefix maxima by rank of the end in A */
    for (size_t i = 0; i < n; i++)
        ends[i] = pairs[i].a + pairs[i].n;
    qsort(ends, n, sizeof *ends, by_size);
    for (size_t i = 0; i < n; i++) {
        Best b = {0, 0};
        for (size_t k = rank_of(ends, n, pairs[i].a); k; k -= k & (0 - k))
            if (tree[k].weight > b.weight)
                b = tree[k];
        before[i] = b.last;
        b = (Best){b.weight + pairs[i].n, i + 1};
        for (size_t k = rank_of(ends, n, pairs[i].a + pairs[i].n); k <= n; k += k & (0 - k))
            if (b.weight > tree[k].weight)
                tree[k] = b;
        if (b.weight > best.weight)
            best = b;
    }
    size_t length = 0, done = 0;
    for (size_t i = best.last; i; i = before[i - 1])
        length++;
    *out = mem_get((length + 1) * sizeof **out);
    for (size_t i = best.last, k = length; i; i = before[i - 1])
        (*out)[--k] = pairs[i - 1];
    for (size_t i = 0; i < length; i++) { /* cut off what overlaps in B, join what touches */
        Shared s = (*out)[i], *last = done ? &(*out)[done - 1] : NULL;
        size_t over = last && last->b + last->n > s.b ? last->b + last->n - s.b : 0;
        if (over >= s.n)
            continue;
        s = (Shared){s.a + over, s.b + over, s.n - over};
        if (last && last->a + last->n == s.a && last->b + last->n == s.b)
            last->n += s.n;
        else
            (*out)[done++] = s;
    }
    free(ends);
    free(before);
    free(tree);
    return done;
}

size_t shared_pieces(Text a, Text b, Shared **out)
{
    *out = NULL;
    if (!a.root || !b.root)
        return 0;
    size_t size = 16;
    while (size < 2 * count_nodes(a.root))
        size *= 2;
    Table t = {mem_get(size * sizeof *t.slots), size - 1};
    Pieces p = {0};
    learn(&t, a.root, 0);
    gather_b(&p, &t, b.root, 0);
    gather_a(&p, &t, a.root, 0);
    pair_slices(&p);
    if (p.n_pairs)
        qsort(p.pairs, p.n_pairs, sizeof *p.pairs, by_b);
    size_t n = p.n_pairs ? chain(p.pairs, p.n_pairs, out) : 0;
    free(t.slots);
    free(p.pairs);
    free(p.loose[0]);
    free(p.loose[1]);
    return n;
}
