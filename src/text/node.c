#include "node.h"

#include "mem.h"

#include <assert.h>
#include <stddef.h>
#include <stdlib.h>
#include <string.h>

/* Free nodes wait here, so that a change can make sure of all it needs before it begins; inner ones,
 * which are half as large as leaves, in a list of their own. The link of a list stands in kids[0]. */
static struct {
    Node *first;
    size_t n;
} spare[2]; /* leaves, inner nodes */

enum { KEEP_SPARE = 256 };

static void put_spare(Node *n, bool inner)
{
    n->kids[0] = spare[inner].first;
    spare[inner].first = n;
    spare[inner].n++;
}

bool nodes_reserve(size_t n)
{
    static const size_t sizes[] = {sizeof(Node), offsetof(Node, kid_newlines) + sizeof(size_t[KIDS])};
    for (int inner = 0; inner < 2; inner++)
        while (spare[inner].n < n) {
            Node *fresh = mem_try(sizes[inner]);
            if (!fresh)
                return false;
            put_spare(fresh, inner);
        }
    return true;
}

Node *node_new(unsigned height)
{
    bool inner = height > 0;
    Node *n = spare[inner].first;
    assert(n && "nodes_reserve was too low");
    spare[inner].first = n->kids[0];
    spare[inner].n--;
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
    if (spare[n->height > 0].n < KEEP_SPARE)
        put_spare(n, n->height > 0);
    else
        free(n);
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
