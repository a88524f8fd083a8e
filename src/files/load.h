/* Reading a file into a text, byte for byte. */
#ifndef LOAD_H
#define LOAD_H
#include "base/err.h"
#include "text/text.h"

#include <sys/stat.h>

/* What a file was on disk when we last read or wrote it. */
typedef struct DiskState {
    bool exists;
    bool dangling;  /* the name is a link to nothing */
    struct stat st; /* valid if it exists */
    dev_t folder_dev;
    ino_t folder_ino; /* the folder it really lies in, links followed; 0: not known */
} DiskState;

/* What is there now. */
DiskState disk_look(const char *path);
/* The very same, untouched: identity, size, times, and the folder where both are known. */
bool disk_same(const DiskState *a, const DiskState *b);
/* Is that what is there now? */
bool disk_is(const char *path, const DiskState *state);
/* Renames a file, in place of `target`, which is what was found there (or that nothing was). False with
 * errno; EEXIST when something else is there. */
bool disk_rename(const char *path, const char *to, const DiskState *target);

/* Loads a file. A name that does not exist gives an empty text and disk->exists false.
 * False with the reason in e for folders, devices, and what cannot be read; nothing is
 * left to free then. */
bool file_load(const char *path, Text *out, DiskState *disk, Err *e);
/* The same for a large file that is to be looked at before all of it is there: *out is its
 * beginning, and *rest reads what is left; NULL when nothing is. */
struct Loader;
bool file_load_begin(const char *path, Text *out, DiskState *disk, struct Loader **rest, Err *e);
/* Loads what comes from a descriptor, such as a pipe, `most` bytes and one more at most: then there was too
 * much. `name` is for the message. */
bool file_load_fd(int fd, const char *name, size_t most, Text *out, Err *e);
enum { UNMEASURED_MOST = 1 << 30 /* bytes of a source that does not say how long it is */ };
/* May this person write the file, as far as can be known beforehand? */
bool file_may_write(const char *path);

typedef enum DiskNews {
    DISK_SAME,
    DISK_CHANGED, /* other bytes than we read or wrote */
    DISK_GONE,
    DISK_APPEARED, /* there was none when we looked */
    DISK_TOUCHED,  /* only disk_glance: the bytes must be compared */
} DiskNews;

/* How the file differs now from what we last knew. Judged by identity, size and times. When only those of an
 * equally large file in the same folder differ, it is compared with `t`, the bytes we know; the new identity
 * and times are taken into *known when the bytes are the same. */
DiskNews disk_news(const char *path, DiskState *known, Text t);
/* The same without `t`: DISK_TOUCHED where that would be needed. */
DiskNews disk_glance(const char *path, const DiskState *known);

#endif
