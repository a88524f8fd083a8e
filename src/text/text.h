/* A text is a value: a row of any bytes, held as a B+-tree whose leaves are slices
 * of shared blocks. text_keep makes another reference to the same version in O(1); a change
 * to one of them copies only the path it touches, and nothing when it has no other owner.
 *
 * Positions and lengths are bytes. Lines count from 0 and end with '\n', which
 * belongs to its line; a text has one line more than it has newlines.
 * References are counted without locks: one thread keeps, drops and changes. Others may
 * read a version as long as that thread holds it for them.
 *
 * Calls that change a text return false when there is no memory; it is then as it was. */
#ifndef TEXT_H
#define TEXT_H

#include "base/bytes.h"
#include "text/block.h"

#include <stdbool.h>
#include <stddef.h>

typedef struct Text {
    struct Node *root; /* private; NULL when empty */
} Text;

/* Some bytes of a text that lie in one piece. */
typedef struct TextRun {
    const char *at;
    size_t len;
} TextRun;

/* Another reference to this version. Each must be dropped once. */
Text text_keep(Text t);
void text_drop(Text *t);        /* leaves an empty text */
bool text_same(Text a, Text b); /* the very same version? (not: equal bytes) */

size_t text_len(Text t);
size_t text_newlines(Text t);

/* 0 <= at <= length. `bytes` is copied. */
bool text_insert(Text *t, size_t at, const void *bytes, size_t n);
/* Inserts another text, sharing its blocks. `other` stays the caller's. */
bool text_insert_text(Text *t, size_t at, Text other);
bool text_delete(Text *t, size_t at, size_t n);
/* Adds a filled block at the end and takes over the caller's reference, also on failure. */
bool text_add_block(Text *t, Block *b);
/* A new text of bytes [at, at + n), sharing blocks. False without memory; *out is then empty. */
bool text_slice(Text t, size_t at, size_t n, Text *out);

/* Copies up to n bytes from `at` to `out` and returns how many there were. */
size_t text_read(Text t, size_t at, void *out, size_t n);
/* Adds them to `out`. */
void text_bytes(Text t, size_t at, size_t n, Bytes *out);
/* The bytes [from, to) as a string, with a zero after them; the caller frees it. */
char *text_string(Text t, size_t from, size_t to);
/* The piece that begins at `at`, or ends there; of length 0 at the text's end (start).
 * Valid as long as this version is held. O(log n). */
TextRun text_run(Text t, size_t at);
TextRun text_run_before(Text t, size_t at);
/* The block that holds byte `at` < length, the byte's place in it, and how many bytes follow there in one
 * piece of the text. */
Block *text_block(Text t, size_t at, size_t *offset, size_t *left);
/* The byte at `at`, or -1 outside. */
int text_byte(Text t, size_t at);

/* Are n bytes the same? Shared pieces are not looked at. */
bool text_same_bytes(Text a, size_t a_from, Text b, size_t b_from, size_t n);

/* How many bytes are the same from the start, or before the end (up to `most`). */
size_t text_common_start(Text a, Text b);
size_t text_common_end(Text a, Text b, size_t most);

/* Checks every rule of the tree; for tests. */
bool text_check(Text t);

#endif
