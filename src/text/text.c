#include "base/mem.h"
#include "text/node.h"

#include <assert.h>
#include <stdlib.h>
#include <string.h>

/* ---- changing slices and children in an owned node ---- */

static void put_slices(Node *leaf, unsigned i, const Slice *s, unsigned n)
{
    memmove(leaf->slices + i + n, leaf->slices + i, (leaf->n - i) * sizeof *s);
    memcpy(leaf->slices + i, s, n * sizeof *s);
    leaf->n = (uint16_t)(leaf->n + n);
}

static void put_kid(Node *node, unsigned i, Node *kid)
{
    memmove(node->kids + i + 1, node->kids + i, (node->n - i) * sizeof(Node *));
    node->kids[i] = kid;
    node->n++;
}

/* Forgets entries [from, to) without dropping what they refer to. */
static void close_gap(Node *node, unsigned from, unsigned to)
{
    if (node->height)
        memmove(node->kids + from, node->kids + to, (node->n - to) * sizeof(Node *));
    else
        memmove(node->slices + from, node->slices + to, (node->n - to) * sizeof(Slice));
    node->n = (uint16_t)(node->n - (to - from));
}

/* Moves the entries from `i` on to a new node of the same height. */
static Node *split_off(Node *node, unsigned i)
{
    Node *right = node_new(node->height);
    right->n = (uint16_t)(node->n - i);
    if (node->height)
        memcpy(right->kids, node->kids + i, right->n * sizeof(Node *));
    else
        memcpy(right->slices, node->slices + i, right->n * sizeof(Slice));
    node->n = (uint16_t)i;
    node_sum(node);
    node_sum(right);
    return right;
}

static Slice part_of(Slice s, uint32_t from, uint32_t len)
{
    Slice part = {.block = s.block, .from = s.from + from, .len = len};
    if (s.newlines)
        part.newlines = block_newlines(s.block, part.from, part.from + len);
    return part;
}

/* What stands after byte `at` of a slice, 0 < at < len; the shorter side is counted. */
static Slice tail_of(Slice s, uint32_t at)
{
    Slice right = {.block = s.block, .from = s.from + at, .len = s.len - at};
    if (s.newlines)
        right.newlines = at < right.len ? s.newlines - block_newlines(s.block, s.from, right.from)
                                        : block_newlines(s.block, right.from, right.from + right.len);
    return right;
}

/* ---- inserting one slice ---- */

/* Waiting for memory is most of what a small edit in a large text takes: what will be read is asked for
 * early, and all of a node at once. */
static void fetch(const void *at, size_t n)
{
#ifdef __GNUC__
    for (size_t i = 0; i < n; i += 64)
        __builtin_prefetch((const char *)at + i);
#else
    (void)at, (void)n;
#endif
}

/* Puts `s` into an owned leaf; returns a new right neighbour if it had to split. */
static Node *leaf_insert(Node *leaf, size_t at, const Slice *s)
{
    unsigned i = node_entry_left(leaf, &at);
    Slice *here = &leaf->slices[i];
    bool at_end = at == here->len;
    fetch(here->block->bytes + here->from + at, 1); /* will be counted */
    if (at_end && here->block == s->block && here->from + here->len == s->from) {
        here->len += s->len;
        here->newlines += s->newlines;
        leaf->bytes += s->len;
        leaf->newlines += s->newlines;
        return NULL;
    }
    Node *right = NULL, *into = leaf;
    if (node_room(leaf) < 2) {
        /* Appending leaves a full leaf rather than a half empty one. */
        right = split_off(leaf, at_end && i + 1 == leaf->n ? SLICES - 2u : SLICES / 2);
        if (i >= leaf->n) {
            i -= leaf->n;
            into = right;
        }
    }
    block_keep(s->block);
    if (at == 0) {
        put_slices(into, i, s, 1);
    } else if (at_end) {
        put_slices(into, i + 1, s, 1);
    } else {
        Slice old = into->slices[i];
        Slice two[2] = {*s, tail_of(old, (uint32_t)at)};
        block_keep(old.block);
        into->slices[i].len = (uint32_t)at;
        into->slices[i].newlines = old.newlines - two[1].newlines;
        put_slices(into, i + 1, two, 2);
    }
    into->bytes += s->len;
    into->newlines += s->newlines;
    return right;
}

/* After kid i of an owned node changed: puts its new right neighbour, if any, after it;
 * returns the node's own new right neighbour if it had to split. */
static Node *add_kid(Node *node, unsigned i, Node *kid)
{
    Node *right = NULL;
    if (!kid) {
        node_sum(node);
        return NULL;
    }
    if (node_room(node) == 0) {
        bool appending = i + 1 == node->n;
        right = split_off(node, appending ? KIDS - 1u : KIDS / 2);
        if (i >= node->n) {
            put_kid(right, i - node->n + 1, kid);
            node_sum(right);
            return right;
        }
    }
    put_kid(node, i + 1, kid);
    node_sum(node);
    return right;
}

static Node *node_insert(Node **place, size_t at, const Slice *s)
{
    Node *node = node_own(place);
    if (node->height == 0)
        return leaf_insert(node, at, s);
    unsigned i = node_entry_left(node, &at);
    fetch(node->kids[i], node->height > 1 ? NODE_INNER : sizeof(Node));
    Node *more = node_insert(&node->kids[i], at, s);
    if (more)
        return add_kid(node, i, more);
    node->kid_bytes[i] += s->len;
    node->kid_newlines[i] += s->newlines;
    node->bytes += s->len;
    node->newlines += s->newlines;
    return NULL;
}

static void grow_root(Text *t, Node *right)
{
    if (!right)
        return;
    Node *root = node_new(t->root->height + 1u);
    root->n = 2;
    root->kids[0] = t->root;
    root->kids[1] = right;
    node_sum(root);
    t->root = root;
}

/* A copy and a split on each level, and a new root. */
static bool reserve_for(Text t)
{
    return nodes_reserve(t.root ? 4u * (t.root->height + 2u) : 4u);
}

static bool insert_slice(Text *t, size_t at, const Slice *s)
{
    if (!reserve_for(*t))
        return false;
    if (!t->root) {
        t->root = node_new(0);
        block_keep(s->block);
        put_slices(t->root, 0, s, 1);
        node_sum(t->root);
        return true;
    }
    grow_root(t, node_insert(&t->root, at, s));
    return true;
}

/* ---- inserting bytes ---- */

enum { TAIL_BYTES = 64 * 1024 };

/* Typed bytes of all texts go one after the other into this block. */
static Block *tail;

/* Copies up to a block's worth of bytes to where they can stay. The slice holds no reference
 * of its own: *own_block, if not NULL, is to be dropped after use. */
static size_t store(const char *bytes, size_t n, Slice *out, Block **own_block)
{
    Block *b = tail;
    *own_block = NULL;
    if (n > TAIL_BYTES / 4) {
        n = n < BLOCK_MAX ? n : BLOCK_MAX;
        b = *own_block = block_new(n);
    } else if (!tail || tail->cap - tail->len < n) {
        b = block_new(TAIL_BYTES);
        if (b) {
            if (tail)
                block_drop(tail);
            tail = b;
        }
    }
    if (!b)
        return 0;
    *out = (Slice){.block = b, .from = b->len, .len = (uint32_t)n};
    block_append(b, bytes, n);
    out->newlines = block_newlines(b, out->from, out->from + out->len);
    return n;
}

bool text_insert(Text *t, size_t at, const void *bytes, size_t n)
{
    assert(at <= text_len(*t));
    Text before = n > TAIL_BYTES / 4 ? text_keep(*t) : (Text){0};
    const char *from = bytes;
    size_t done = 0;
    while (done < n) {
        Slice s;
        Block *own;
        size_t stored = store(from + done, n - done, &s, &own);
        bool ok = stored && insert_slice(t, at + done, &s);
        if (own)
            block_drop(own);
        if (!ok) {
            /* A small piece is the only one, and has left nothing. */
            if (n > TAIL_BYTES / 4) {
                text_drop(t);
                *t = before;
            }
            return false;
        }
        done += stored;
    }
    text_drop(&before);
    return true;
}

bool text_add_block(Text *t, Block *b)
{
    Slice s = {.block = b, .len = b->len, .newlines = block_newlines(b, 0, b->len)};
    bool ok = b->len == 0 || insert_slice(t, text_len(*t), &s);
    block_drop(b);
    return ok;
}

/* ---- deleting ---- */

static void leaf_delete(Node *leaf, size_t from, size_t to)
{
    size_t start = 0; /* of slice i within the leaf */
    for (unsigned i = 0; i < leaf->n && start < to;) {
        Slice s = leaf->slices[i];
        size_t end = start + s.len;
        if (end <= from) {
            start = end;
            i++;
            continue;
        }
        uint32_t left = from > start ? (uint32_t)(from - start) : 0;
        uint32_t right = end > to ? (uint32_t)(end - to) : 0;
        start = end;
        if (left == 0 && right == 0) {
            block_drop(s.block);
            close_gap(leaf, i, i + 1);
        } else if (left && right) {
            Slice rest = part_of(s, s.len - right, right);
            block_keep(s.block);
            leaf->slices[i] = part_of(s, 0, left);
            put_slices(leaf, i + 1, &rest, 1);
            break;
        } else {
            leaf->slices[i++] = left ? part_of(s, 0, left) : part_of(s, s.len - right, right);
        }
    }
    node_sum(leaf);
}

/* Joins kids i and i + 1 of an owned node when they fit well into one. */
static void merge_kids(Node *node, unsigned i)
{
    if (i + 1 >= node->n)
        return;
    Node *a = node->kids[i], *b = node->kids[i + 1];
    unsigned max = a->height ? KIDS : SLICES;
    if ((unsigned)a->n + b->n > max * 3 / 4)
        return;
    a = node_own(&node->kids[i]);
    for (unsigned k = 0; k < b->n; k++)
        if (a->height) {
            put_kid(a, a->n, node_keep(b->kids[k]));
        } else {
            block_keep(b->slices[k].block);
            put_slices(a, a->n, &b->slices[k], 1);
        }
    node_sum(a);
    node_drop(b);
    close_gap(node, i + 1, i + 2);
}

static void node_delete(Node **place, size_t from, size_t to)
{
    Node *node = node_own(place);
    if (node->height == 0) {
        leaf_delete(node, from, to);
        return;
    }
    size_t start = 0;
    unsigned seam = 0;
    for (unsigned i = 0; i < node->n && start < to;) {
        size_t end = start + node->kids[i]->bytes;
        if (end > from) {
            size_t a = from > start ? from - start : 0;
            size_t b = to < end ? to - start : end - start;
            seam = i;
            if (a == 0 && b == end - start) {
                node_drop(node->kids[i]);
                close_gap(node, i, i + 1);
                start = end;
                continue;
            }
            node_delete(&node->kids[i], a, b);
        }
        start = end;
        i++;
    }
    merge_kids(node, seam);
    if (seam > 0)
        merge_kids(node, seam - 1);
    node_sum(node);
}

/* A delete in the middle of a slice adds one; a full leaf must make room for it first. */
static bool needs_split(const Node *node, size_t from, size_t to)
{
    while (node->height) {
        size_t at = from;
        unsigned i = node_entry_right(node, &at);
        if (at + (to - from) > node->kids[i]->bytes)
            return false;
        to = at + (to - from);
        from = at;
        node = node->kids[i];
    }
    if (node->n < SLICES)
        return false;
    size_t at = from;
    unsigned i = node_entry_right(node, &at);
    return at > 0 && at + (to - from) < node->slices[i].len;
}

/* Splits the leaf that holds byte `at`. */
static Node *split_leaf_at(Node **place, size_t at)
{
    Node *node = node_own(place);
    if (node->height == 0)
        return split_off(node, node->n / 2);
    unsigned i = node_entry_right(node, &at);
    return add_kid(node, i, split_leaf_at(&node->kids[i], at));
}

bool text_delete(Text *t, size_t at, size_t n)
{
    assert(at + n <= text_len(*t));
    if (n == 0)
        return true;
    if (n == text_len(*t)) {
        text_drop(t);
        return true;
    }
    if (!nodes_reserve(8u * (t->root->height + 2u)))
        return false;
    if (needs_split(t->root, at, at + n))
        grow_root(t, split_leaf_at(&t->root, at));
    node_delete(&t->root, at, at + n);
    while (t->root->height && t->root->n == 1) {
        Node *only = node_keep(t->root->kids[0]);
        node_drop(t->root);
        t->root = only;
    }
    return true;
}

/* ---- joining ---- */

/* Puts the tree `b` (not higher) after everything in *place. */
static Node *append_tree(Node **place, Node *b)
{
    Node *node = node_own(place);
    if (node->height == b->height) {
        if (node_room(node) < b->n)
            return node_keep(b);
        for (unsigned i = 0; i < b->n; i++)
            if (node->height) {
                put_kid(node, node->n, node_keep(b->kids[i]));
            } else {
                block_keep(b->slices[i].block);
                put_slices(node, node->n, &b->slices[i], 1);
            }
        node_sum(node);
        return NULL;
    }
    unsigned last = node->n - 1u;
    return add_kid(node, last, append_tree(&node->kids[last], b));
}

static Node *prepend_tree(Node **place, Node *a)
{
    Node *node = node_own(place);
    if (node->height == a->height) { /* the older node becomes the right neighbour */
        *place = node_keep(a);
        return node;
    }
    return add_kid(node, 0, prepend_tree(&node->kids[0], a));
}

/* Puts all of `b` after `a`; `b` stays the caller's. */
static bool join(Text *a, Text b)
{
    if (!b.root)
        return true;
    if (!a->root) {
        *a = text_keep(b);
        return true;
    }
    if (!reserve_for(*a) || !nodes_reserve(4u * (b.root->height + 2u)))
        return false;
    if (a->root->height >= b.root->height) {
        grow_root(a, append_tree(&a->root, b.root));
        return true;
    }
    Text out = text_keep(b);
    Node *more = prepend_tree(&out.root, a->root);
    grow_root(&out, more);
    text_drop(a);
    *a = out;
    return true;
}

bool text_slice(Text t, size_t at, size_t n, Text *out)
{
    *out = text_keep(t);
    if (text_delete(out, at + n, text_len(t) - at - n) && text_delete(out, 0, at))
        return true;
    text_drop(out);
    return false;
}

bool text_insert_text(Text *t, size_t at, Text other)
{
    Text left, right;
    if (!text_slice(*t, 0, at, &left))
        return false;
    bool ok = text_slice(*t, at, text_len(*t) - at, &right) && join(&left, other) && join(&left, right);
    text_drop(&right);
    if (ok) {
        text_drop(t);
        *t = left;
    } else {
        text_drop(&left);
    }
    return ok;
}

/* ---- whole texts ---- */

Text text_keep(Text t)
{
    if (t.root)
        node_keep(t.root);
    return t;
}

void text_drop(Text *t)
{
    node_drop(t->root);
    t->root = NULL;
}

bool text_same(Text a, Text b)
{
    return a.root == b.root;
}

size_t text_len(Text t)
{
    return t.root ? t.root->bytes : 0;
}

size_t text_newlines(Text t)
{
    return t.root ? t.root->newlines : 0;
}

/* ---- reading ---- */

const Slice *node_slice_at(const Node *node, size_t *at)
{
    while (node->height)
        node = node->kids[node_entry_right(node, at)];
    return &node->slices[node_entry_right(node, at)];
}

TextRun text_run(Text t, size_t at)
{
    if (at >= text_len(t))
        return (TextRun){"", 0};
    const Slice *s = node_slice_at(t.root, &at);
    return (TextRun){s->block->bytes + s->from + at, s->len - at};
}

TextRun text_run_before(Text t, size_t at)
{
    if (at == 0)
        return (TextRun){"", 0};
    const Node *node = t.root;
    while (node->height)
        node = node->kids[node_entry_left(node, &at)];
    const Slice *s = &node->slices[node_entry_left(node, &at)];
    return (TextRun){s->block->bytes + s->from, at};
}

size_t text_read(Text t, size_t at, void *out, size_t n)
{
    char *to = out;
    size_t done = 0;
    while (done < n) {
        TextRun run = text_run(t, at + done);
        if (run.len == 0)
            break;
        size_t take = run.len < n - done ? run.len : n - done;
        memcpy(to + done, run.at, take);
        done += take;
    }
    return done;
}

void text_bytes(Text t, size_t at, size_t n, Bytes *out)
{
    while (n) {
        TextRun run = text_run(t, at);
        if (run.len == 0)
            return;
        size_t take = run.len < n ? run.len : n;
        bytes_add(out, run.at, take);
        at += take;
        n -= take;
    }
}

char *text_string(Text t, size_t from, size_t to)
{
    char *copy = mem_get(to - from + 1);
    text_read(t, from, copy, to - from);
    return copy;
}

Block *text_block(Text t, size_t at, size_t *offset, size_t *left)
{
    const Slice *s = node_slice_at(t.root, &at);
    *offset = s->from + at;
    *left = s->len - at;
    return s->block;
}

int text_byte(Text t, size_t at)
{
    TextRun run = text_run(t, at);
    return run.len ? (unsigned char)run.at[0] : -1;
}

bool text_same_bytes(Text a, size_t a_from, Text b, size_t b_from, size_t n)
{
    if (a_from + n > text_len(a) || b_from + n > text_len(b))
        return false;
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

static size_t least(size_t a, size_t b)
{
    return a < b ? a : b;
}

size_t text_common_start(Text a, Text b)
{
    for (size_t at = 0;;) {
        TextRun x = text_run(a, at), y = text_run(b, at);
        size_t n = least(x.len, y.len), i = 0;
        if (x.at == y.at || (n && memcmp(x.at, y.at, n) == 0))
            i = n;
        while (i < n && x.at[i] == y.at[i])
            i++;
        at += i;
        if (i < n || n == 0)
            return at;
    }
}

size_t text_common_end(Text a, Text b, size_t most)
{
    for (size_t done = 0;;) {
        TextRun x = text_run_before(a, text_len(a) - done), y = text_run_before(b, text_len(b) - done);
        size_t n = least(least(x.len, y.len), most - done), i = 0;
        const char *p = x.at + x.len, *q = y.at + y.len;
        if (n && (p == q || memcmp(p - n, q - n, n) == 0))
            i = n;
        while (i < n && p[-1 - (ptrdiff_t)i] == q[-1 - (ptrdiff_t)i])
            i++;
        done += i;
        if (i < n || n == 0)
            return done;
    }
}

/* ---- checking ---- */

static bool node_check(const Node *node)
{
    size_t bytes = 0, newlines = 0;
    if (node->n == 0 || node->n > (node->height ? KIDS : SLICES) || node->refs == 0)
        return false;
    for (unsigned i = 0; i < node->n; i++) {
        if (node->height) {
            const Node *kid = node->kids[i];
            if (kid->height + 1 != node->height || !node_check(kid) || node->kid_bytes[i] != kid->bytes ||
                node->kid_newlines[i] != kid->newlines)
                return false;
            bytes += kid->bytes;
            newlines += kid->newlines;
        } else {
            const Slice *s = &node->slices[i];
            if (s->len == 0 || s->from + s->len > s->block->len ||
                s->newlines != block_count_newlines(s->block->bytes + s->from, s->len))
                return false;
            bytes += s->len;
            newlines += s->newlines;
        }
    }
    return bytes == node->bytes && newlines == node->newlines;
}

bool text_check(Text t)
{
    return !t.root || (t.root->height < MAX_HEIGHT && node_check(t.root));
}
