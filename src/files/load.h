/* Reading a file into a text, byte for byte. */
#ifndef LOAD_H
#define LOAD_H

#include "base/err.h"
#include "files/disk.h"

/* Loads a file. A name that does not exist gives an empty text and disk->exists false.
 * False with the reason in e for folders, devices, and what cannot be read; nothing is
 * left to free then. */
bool load_file(const char *path, Text *out, DiskState *disk, Err *e);
/* The same for a large file that is to be looked at before all of it is there: *out is its
 * beginning, and *rest reads what is left; NULL when nothing is. */
struct Loader;
bool load_file_begin(const char *path, Text *out, DiskState *disk, struct Loader **rest, Err *e);
/* Loads what comes from a descriptor, such as a pipe, `most` bytes and one more at most: then there was too
 * much. `name` is for the message. */
bool load_descriptor(int fd, const char *name, size_t most, Text *out, Err *e);
/* The first bytes of a file of this machine; false with the reason in e. */
bool load_head(const char *path, char *out, size_t cap, size_t *n, Err *e);
/* So many bytes of it, and nothing after them; fewer, if it ends before. */
bool load_exactly(int fd, const char *name, size_t n, Text *out, Err *e);
enum { UNMEASURED_MOST = 1 << 30 /* bytes of a source that does not say how long it is */ };

#endif
