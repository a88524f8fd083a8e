/* The nodes of the tree, private to this room. */
#ifndef NODE_H
#define NODE_H

#include "text/text.h"

/* Measured: 16 children and 32 slices read and copy fastest. */
enum { KIDS = 16, SLICES = 32, MAX_HEIGHT = 24 };

typedef struct Slice {
    Block *block;
    uint32_t from, len; /* bytes of the block; len > 0 */
    uint32_t newlines;  /* among them */
} Slice;

typedef struct Node {
    uint32_t refs;
    uint16_t height; /* 0 in a leaf */
    uint16_t n;      /* children or slices in use, > 0 */
    size_t bytes;    /* sums of all below */
    size_t newlines;
    union {
        struct {
            struct Node *kids[KIDS];
            /* Their sums once more: looking for a place need not touch every child. */
            size_t kid_bytes[KIDS], kid_newlines[KIDS];
        };
        Slice slices[SLICES]; /* only leaves have room for these */
    };
} Node;

/* Bytes of an inner node. */
enum { NODE_INNER = offsetof(Node, kid_newlines) + sizeof(size_t[KIDS]) };

/* Makes sure that the next `n` calls of node_new cannot fail, whatever heights they ask for. */
bool nodes_reserve(size_t n);
Node *node_new(unsigned height);
size_t nodes_used(void); /* of all texts together */
Node *node_keep(Node *n);
void node_drop(Node *n); /* NULL is fine */
/* Makes *n a node with one owner, copying it if it is shared. Needs one reserved node. */
Node *node_own(Node **n);
/* Takes in what the children are now. */
void node_sum(Node *n);

/* The slice that holds byte *at (0 <= *at < bytes); *at becomes the place within it. */
const Slice *node_slice_at(const Node *root, size_t *at);

static inline unsigned node_room(const Node *n)
{
    return (n->height ? KIDS : SLICES) - (unsigned)n->n;
}

/* Which entry of a node holds byte *at; *at becomes the place within it. At a border the
 * left one is taken, so that appended bytes can lengthen it. */
static inline unsigned node_entry_left(const Node *node, size_t *at)
{
    unsigned i = 0;
    for (; i + 1 < node->n; i++) {
        size_t len = node->height ? node->kid_bytes[i] : node->slices[i].len;
        if (*at <= len)
            break;
        *at -= len;
    }
    return i;
}

static inline unsigned node_entry_right(const Node *node, size_t *at)
{
    unsigned i = 0;
    for (; i + 1 < node->n; i++) {
        size_t len = node->height ? node->kid_bytes[i] : node->slices[i].len;
        if (*at < len)
            break;
        *at -= len;
    }
    return i;
}

#endif
