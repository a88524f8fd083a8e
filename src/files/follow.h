/* A file that grows, such as a log, or a pipe: what is added to it, as it comes. It is followed by its name:
 * when another file takes that, what the old one still gets is read to its end, and the new one from its
 * beginning. Nothing here waits. */
#ifndef FOLLOW_H
#define FOLLOW_H

#include "base/bytes.h"
#include "base/err.h"
#include "files/disk.h"

#include <poll.h>

typedef struct Follow Follow;

typedef enum FollowNews {
    FOLLOW_NOTHING,  /* for now */
    FOLLOW_MORE,     /* bytes came */
    FOLLOW_EMPTIED,  /* it was cut, or written again from its beginning: what comes next stands there */
    FOLLOW_REPLACED, /* another file has its name: what comes next is that one's */
    FOLLOW_GONE,     /* no file has the name; when one does, it is followed */
    FOLLOW_APPEARED, /* there was none, and now there is */
    FOLLOW_ENDED,    /* of a pipe: nothing more will come */
    FOLLOW_FAILED    /* it cannot be read, for the reason in e */
} FollowNews;

/* Follows the file of that name from byte `at` on, of what `known` says that was read so far. `by_name`
 * false: it stays with this file, whatever its name. There need be none. */
Follow *follow_begin(const char *path, size_t at, const DiskState *known, bool by_name);
/* The same for a pipe, which it takes over. */
Follow *follow_pipe(int fd);
void follow_end(Follow *f);
/* Adds what came to `out`, `most` bytes at most. To be called until it says FOLLOW_NOTHING. */
FollowNews follow_step(Follow *f, Bytes *out, size_t most, Err *e);
/* What can be waited for, one descriptor at most, and the ms after which to look all the same; -1: never. */
size_t follow_fds(const Follow *f, struct pollfd *out);
int follow_wait(const Follow *f);
/* What is known of the file now; NULL while there is none, and for a pipe. */
const FileState *follow_state(const Follow *f);

#endif
