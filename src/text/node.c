#include "text/node.h"

#include "text/pool.h"

#include <stddef.h>
#include <string.h>

/* Inner nodes are half as large as leaves. */
static Pool leaves = {.size = sizeof(Node)};
static Pool inner = {.size = NODE_INNER};

bool nodes_reserve(size_t n)
{
    return pool_reserve(&leaves, n) && pool_reserve(&inner, n);
}

size_t nodes_used(void)
{
    return pool_used(&leaves) + pool_used(&inner);
}

Node *node_new(unsigned height)
{
    Node *n = pool_take(height ? &inner : &leaves);
    n->refs = 1;
    n->height = (uint16_t)height;
    n->n = 0;
    n->bytes = n->newlines = 0;
    return n;
}

Node *node_keep(Node *n)
{
    n->refs++;
    return n;
}

void node_drop(Node *n)
{
    if (!n || --n->refs)
        return;
    for (unsigned i = 0; i < n->n; i++)
        if (n->height)
            node_drop(n->kids[i]);
        else
            block_drop(n->slices[i].block);
    pool_give(n->height ? &inner : &leaves, n);
}

Node *node_own(Node **place)
{
    Node *old = *place;
    if (old->refs == 1)
        return old;
    Node *copy = node_new(old->height);
    copy->n = old->n;
    copy->bytes = old->bytes;
    copy->newlines = old->newlines;
    if (old->height) {
        memcpy(copy->kids, old->kids, old->n * sizeof *old->kids);
        memcpy(copy->kid_bytes, old->kid_bytes, old->n * sizeof *old->kid_bytes);
        memcpy(copy->kid_newlines, old->kid_newlines, old->n * sizeof *old->kid_newlines);
        for (unsigned i = 0; i < copy->n; i++)
            node_keep(copy->kids[i]);
    } else {
        memcpy(copy->slices, old->slices, old->n * sizeof *old->slices);
        for (unsigned i = 0; i < copy->n; i++)
            block_keep(copy->slices[i].block);
    }
    old->refs--;
    *place = copy;
    return copy;
}

void node_sum(Node *n)
{
    n->bytes = n->newlines = 0;
    for (unsigned i = 0; i < n->n; i++) {
        if (n->height) {
            n->kid_bytes[i] = n->kids[i]->bytes;
            n->kid_newlines[i] = n->kids[i]->newlines;
        }
        n->bytes += n->height ? n->kid_bytes[i] : n->slices[i].len;
        n->newlines += n->height ? n->kid_newlines[i] : n->slices[i].newlines;
    }
}
