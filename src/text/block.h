/* Blocks: rows of bytes that never change once a text refers to them, shared by
 * counting references. A block knows how many newlines lie before each of its
 * 512-byte marks, so that counting within it reads at most two marks' bytes. */
#ifndef BLOCK_H
#define BLOCK_H

#include <stddef.h>
#include <stdint.h>

enum { BLOCK_MAX = 4 * 1024 * 1024, BLOCK_MARK = 512 };

typedef struct Block {
    uint32_t refs;
    uint32_t len;            /* bytes in use; more may be appended after them up to cap */
    uint32_t cap;            /* at most BLOCK_MAX */
    uint32_t marked;         /* newline_marks[0 .. marked] are valid */
    uint32_t *newline_marks; /* [k]: newlines in the first k * BLOCK_MARK bytes */
    char *bytes;
    void *measure; /* what others keep about its bytes, from malloc; goes with the block */
} Block;

/* An empty block with one reference, or NULL without memory. cap is 1..BLOCK_MAX. */
Block *block_new(size_t cap);
void block_keep(Block *b);
void block_drop(Block *b);
/* Appends n bytes, which must fit. Slices handed out before stay as they are. */
void block_append(Block *b, const char *from, size_t n);
/* After bytes were written straight to bytes[0..len): takes them in. len is at most cap. */
void block_set_len(Block *b, size_t len);

/* Newlines in bytes [from, to). */
uint32_t block_newlines(const Block *b, uint32_t from, uint32_t to);
/* Where the n-th newline (from 0) at or after `from` stands; it must exist. */
uint32_t block_find_newline(const Block *b, uint32_t from, uint32_t n);

/* Newlines among n bytes. */
size_t block_count_newlines(const char *at, size_t n);

#endif
