#include "text/builder.h"

#include "text/node.h"

#include <string.h>

enum {
    SHARE_FROM = 128,        /* shorter pieces cost less when copied */
    FILL_BYTES = 256 * 1024, /* a block for copied bytes */
};

/* Puts a full or last node below its parent, which may itself be full by then. */
static void close_node(TextBuilder *b, unsigned height)
{
    Node *node = b->open[height], *parent = b->open[height + 1];
    b->open[height] = NULL;
    if (parent && node_room(parent) == 0) {
        close_node(b, height + 1);
        parent = NULL;
    }
    if (!parent)
        parent = b->open[height + 1] = node_new(height + 1);
    parent->kids[parent->n] = node;
    parent->kid_bytes[parent->n] = node->bytes;
    parent->kid_newlines[parent->n++] = node->newlines;
    parent->bytes += node->bytes;
    parent->newlines += node->newlines;
}

static bool add_slice(TextBuilder *b, Slice s)
{
    Node *leaf = b->open[0];
    Slice *last = leaf ? &leaf->slices[leaf->n - 1] : NULL;
    if (last && last->block == s.block && last->from + last->len == s.from) {
        last->len += s.len;
        last->newlines += s.newlines;
    } else {
        if (!leaf || node_room(leaf) == 0) {
            if (!nodes_reserve(MAX_HEIGHT + 2))
                return false;
            if (leaf)
                close_node(b, 0);
            leaf = b->open[0] = node_new(0);
        }
        block_keep(s.block);
        leaf->slices[leaf->n++] = s;
    }
    leaf->bytes += s.len;
    leaf->newlines += s.newlines;
    b->newlines += s.newlines;
    return true;
}

bool builder_bytes(TextBuilder *b, const void *bytes, size_t n)
{
    const char *from = bytes;
    while (n) {
        if (!b->block || b->block->len == b->block->cap) {
            if (b->block)
                block_drop(b->block);
            b->block = block_new(FILL_BYTES);
            if (!b->block)
                return false;
        }
        size_t room = b->block->cap - b->block->len, take = n < room ? n : room;
        Slice s = {.block = b->block, .from = b->block->len, .len = (uint32_t)take};
        s.newlines = (uint32_t)block_count_newlines(from, take);
        block_append(b->block, from, take);
        if (!add_slice(b, s))
            return false;
        from += take;
        n -= take;
    }
    return true;
}

/* The slice that holds byte *at, which becomes the byte's place in it. Parts mostly come one after the other.
 */
static const Slice *slice_at(TextBuilder *b, Text t, size_t *at)
{
    size_t where = *at;
    if (b->from_root == t.root && where >= b->from_at && where - b->from_at < b->from_slice->len) {
        *at = where - b->from_at;
        return b->from_slice;
    }
    b->from_root = t.root;
    b->from_slice = node_slice_at(t.root, at);
    b->from_at = where - *at;
    return b->from_slice;
}

bool builder_part(TextBuilder *b, Text t, size_t from, size_t to)
{
    while (from < to) {
        size_t at = from;
        const Slice *s = slice_at(b, t, &at);
        size_t n = s->len - at < to - from ? s->len - at : to - from;
        if (n < SHARE_FROM) {
            if (!builder_bytes(b, s->block->bytes + s->from + at, n))
                return false;
        } else {
            Slice part = {.block = s->block, .from = s->from + (uint32_t)at, .len = (uint32_t)n};
            part.newlines = block_newlines(part.block, part.from, part.from + part.len);
            if (!add_slice(b, part))
                return false;
        }
        from += n;
    }
    return true;
}

static bool open_above(const TextBuilder *b, unsigned height)
{
    for (unsigned h = height + 1; h < MAX_HEIGHT; h++)
        if (b->open[h])
            return true;
    return false;
}

bool builder_finish(TextBuilder *b, Text *out)
{
    *out = (Text){0};
    bool ok = nodes_reserve(MAX_HEIGHT + 2);
    for (unsigned h = 0; ok && h < MAX_HEIGHT && !out->root; h++)
        if (b->open[h] && open_above(b, h)) {
            close_node(b, h);
        } else if (b->open[h]) {
            out->root = b->open[h];
            b->open[h] = NULL;
        }
    builder_drop(b);
    return ok;
}

void builder_drop(TextBuilder *b)
{
    for (unsigned h = 0; h < MAX_HEIGHT; h++)
        node_drop(b->open[h]);
    if (b->block)
        block_drop(b->block);
    *b = (TextBuilder){0};
}
