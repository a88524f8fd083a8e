/* Reading a file into a text, byte for byte. */
#ifndef LOAD_H
#define LOAD_H

#include "err.h"
#include "text.h"

#include <sys/stat.h>

/* What a file was on disk when we last read or wrote it. */
typedef struct DiskState {
    bool exists;
    struct stat st; /* valid if it exists */
} DiskState;

/* Loads a file. A name that does not exist gives an empty text and disk->exists false.
 * False with the reason in e for folders, devices, and what cannot be read; nothing is
 * left to free then. */
bool file_load(const char *path, Text *out, DiskState *disk, Err *e);
/* The same for a large file that is to be looked at before all of it is there: *out is its
 * beginning, and *rest reads what is left; NULL when nothing is. */
struct Loader;
bool file_load_begin(const char *path, Text *out, DiskState *disk, struct Loader **rest, Err *e);
/* Loads all that comes from a descriptor, such as a pipe. `name` is for the message. */
bool file_load_fd(int fd, const char *name, Text *out, Err *e);
/* May this person write the file, as far as can be known beforehand? */
bool file_may_write(const char *path);

typedef enum DiskNews {
    DISK_SAME,
    DISK_CHANGED, /* other bytes than we read or wrote */
    DISK_GONE,
    DISK_APPEARED, /* there was none when we looked */
} DiskNews;

/* How the file differs now from what we last knew. Judged by identity, size and time, and when
 * only those of an equally large file differ, by comparing it with `t`, the bytes we know. Takes the
 * new identity and time into *known when the bytes are the same. */
DiskNews disk_news(const char *path, DiskState *known, Text t);

#endif
