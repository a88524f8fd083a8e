#include "node.h"

#include "mem.h"

#include <assert.h>
#include <stdlib.h>
#include <string.h>

/* Free nodes wait here, so that a change can make sure of all it needs before it begins.
 * The link of the list stands in kids[0]. */
static Node *spare;
static size_t n_spare;
enum { KEEP_SPARE = 256 };

static void put_spare(Node *n)
{
    n->kids[0] = spare;
    spare = n;
    n_spare++;
}

bool nodes_reserve(size_t n)
{
    while (n_spare < n) {
        Node *fresh = mem_try(sizeof *fresh);
        if (!fresh)
            return false;
        put_spare(fresh);
    }
    return true;
}

Node *node_new(unsigned height)
{
    assert(spare && "nodes_reserve was too low");
    Node *n = spare;
    spare = n->kids[0];
    n_spare--;
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
    if (n_spare < KEEP_SPARE)
        put_spare(n);
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
        n->bytes += n->height ? n->kids[i]->bytes : n->slices[i].len;
        n->newlines += n->height ? n->kids[i]->newlines : n->slices[i].newlines;
    }
}
