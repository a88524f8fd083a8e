/* Following a file as it grows, or a pipe: what is added to it comes into its text, which is look-only
 * meanwhile. */
#ifndef FOLLOWING_H
#define FOLLOWING_H

#include "session/session.h"

typedef struct FollowWish {
    bool by_name; /* another file that gets the name is followed */
    size_t keep;  /* bytes of a pipe that are kept, of those that came last */
} FollowWish;

/* Why a text cannot be followed, in words; NULL: it can. */
const char *following_hindered(const OpenFile *f);
/* Begins. A file that is not there yet is waited for. */
void following_begin(Session *s, OpenFile *f, const FollowWish *w);
/* The same with what comes from a pipe, which it takes over. */
void following_pipe(Session *s, OpenFile *f, int fd, const FollowWish *w);
/* Ends it. True: its text is not what its file holds any more, and is to be reloaded. */
bool following_end(OpenFile *f);
/* The file is closed. */
void following_forget(Session *s, OpenFile *f);

/* What came last: bytes of the text from `from` on. For those who observe `more`. */
size_t following_from(const OpenFile *f);
/* Is a file waited for that is not there? */
bool following_waits(const OpenFile *f);

#endif
