/* Reading a large file while it is looked at: threads fill blocks side by side, the main thread
 * takes them over in their order. */
#ifndef LOADER_H
#define LOADER_H

#include "files/disk.h"

typedef struct Loader Loader;

typedef enum LoadState { LOADING, LOADED, LOAD_FAILED } LoadState;

/* Prepares to read bytes [from, size) of a regular file and what may have grown after them; nothing is read
 * yet. Takes over `fd`. `name` is for messages. */
Loader *loader_new(int fd, size_t from, size_t size, const char *name);
/* The same for what does not say how long it is, such as a pipe: `most` bytes at most, which is a failure
 * when more come. */
Loader *loader_stream(int fd, size_t most, const char *name);
/* One that is fed by a thread of somebody else, who holds it until loader_feed_end. */
Loader *loader_fed(const char *name);
/* For that thread: how much is to come, if that is known; bytes that came, false when nobody wants them any
 * more (or they find no memory); and the end: what was loaded, or why (NULL: nothing failed). */
void loader_feed_size(Loader *l, size_t size);
bool loader_feed(Loader *l, const char *bytes, size_t n);
void loader_feed_end(Loader *l, const DiskState *disk, const char *failed);
/* What was loaded, once all is: of one that is fed; NULL for others. */
const DiskState *loader_disk(const Loader *l);
/* Begins, with two threads (one for a stream). Where none can be started, everything is read in loader_take.
 */
void loader_start(Loader *l);
bool loader_started(const Loader *l);
/* What can be waited for: readable when there is something to take. */
int loader_fd(const Loader *l);
/* Adds to `t` what is there, without waiting. On failure the reason is in e and `t` has what came before. */
LoadState loader_take(Loader *l, Text *t, Err *e);
/* The same, waiting until all is there. */
bool loader_finish(Loader *l, Text *t, Err *e);
/* How much has been taken, of how much (0: nobody knows). */
size_t loader_done(const Loader *l);
size_t loader_size(const Loader *l);
/* Stops the threads and frees everything. NULL is fine. */
void loader_free(Loader *l);

#endif
