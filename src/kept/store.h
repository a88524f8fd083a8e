/* What is remembered between runs: a small database in the person's state folder. */
#ifndef STORE_H
#define STORE_H

#include "base/bytes.h"
#include "base/err.h"
#include "text/text.h"

#include <stddef.h>
#include <stdint.h>

typedef struct Store Store;

/* Opens (and makes, mode 0700) the store in the person's state folder. NULL with the reason in e:
 * no home, a folder that belongs to somebody else, no disk. Everything works without it. */
Store *store_open(Err *e);
void store_close(Store *s);

/* What is stored between these goes to the disk at once, when many things are. */
void store_begin(Store *s);
void store_end(Store *s);

/* Remembers an answer given to one kind of prompt; the same answer again becomes the newest. */
void store_add(Store *s, const char *kind, const char *answer);
/* Calls `each` for the answers of a kind, newest first, `most` at most. */
void store_each(Store *s, const char *kind, size_t most, void (*each)(const char *answer, void *ctx),
                void *ctx);

/* Where in a file one was: line and column from 0, column in characters. */
void store_put_place(Store *s, const char *path, size_t line, size_t column);
bool store_get_place(Store *s, const char *path, size_t *line, size_t *column);

/* A file that was worked on, and when, in seconds since 1970; those of the last weeks are kept, newest first.
 */
void store_put_lately(Store *s, const char *path, long long seconds);
void store_each_lately(Store *s, long long now, void (*each)(const char *path, long long seconds, void *ctx),
                       void *ctx);
void store_forget_lately(Store *s, const char *path);

/* The kind that a person said a file is of; "" takes that back. The caller frees what the second gives, NULL:
 * none. */
void store_put_kind(Store *s, const char *path, const char *kind);
char *store_get_kind(Store *s, const char *path);

/* The history of a file as it was with that content (store_hash). Old and large ones make
 * room for new ones. */
void store_put_undo(Store *s, const char *path, uint64_t hash, const Bytes *history);
/* Adds it to `out`; false when there is none for this content. */
bool store_get_undo(Store *s, const char *path, uint64_t hash, Bytes *out);

/* A hash of a text's bytes (XXH3, 64 bits). */
uint64_t store_hash(Text t);

#endif
