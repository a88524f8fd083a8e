/* What a file on disk is like, and whether it still is. */
#ifndef DISK_H
#define DISK_H

#include "base/bytes.h"
#include "base/err.h"
#include "files/state.h"
#include "text/text.h"

typedef enum InPlace {
    NOT_IN_PLACE,
    IN_PLACE_MOUNT,  /* something is mounted at its name */
    IN_PLACE_NAMES,  /* it has other names */
    IN_PLACE_WISHED, /* it was asked for */
    IN_PLACE_RIGHTS, /* no other file may be put there, or be given its rights */
} InPlace;

/* What a file was on disk when we last read or wrote it. */
typedef struct DiskState {
    bool exists;
    bool dangling;    /* the name is a link to nothing */
    FileState file;   /* valid if it exists */
    FileNode folder;  /* the folder it really lies in, with links resolved; 0: not known */
    InPlace in_place; /* why a save wrote into the old file */
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

/* Notes which folder the file really lies in; false when that cannot be known. */
bool disk_note_folder(const char *path, DiskState *disk);
/* When its contents changed last, seconds since 1970. */
long long disk_time(const DiskState *d);
/* Adds who may do what with it, in words: "rw-r--r-- (0644), mira, harbour"; of another machine, whose people
 * have other numbers, not `named`. */
void disk_add_rights(const DiskState *d, bool named, Bytes *out);
/* Is something mounted at that very name, which must exist? Then nothing can be renamed over it. */
bool disk_is_mount(int dir, const char *name);
/* The folder of a path when it is not there, which the caller frees; else NULL. */
char *disk_missing_folder(const char *path);
/* Makes it, and those above it, with the rights that new folders have. False with the reason in e. */
bool disk_make_folder(const char *folder, Err *e);
/* Does the file hold these bytes, and no others? */
bool disk_holds(const char *path, Text t);
/* Is there anything of that name, with links resolved? */
bool disk_exists(const char *path);

/* Its name with all links resolved, or as it is when there is no such file. The caller frees it. */
char *disk_real_name(const char *path);
/* Is it there, but this person may not read it? */
bool disk_is_closed(const char *path);
/* May this person write the file, as far as can be known beforehand? */
bool disk_may_write(const char *path);

typedef enum DiskNews {
    DISK_SAME,
    DISK_CHANGED, /* other bytes than we read or wrote */
    DISK_GONE,
    DISK_APPEARED, /* there was none when we looked */
    DISK_TOUCHED,  /* the bytes must be compared */
} DiskNews;

/* How the file differs now from what we last knew. Judged by identity, size and times. When only those of an
 * equally large file in the same folder differ, it is compared with `t`, the bytes we know; the new identity
 * and times are taken into *known when the bytes are the same. */
DiskNews disk_news(const char *path, DiskState *known, Text t);
/* Two states of a file that exists now: DISK_TOUCHED where the bytes must be compared. */
DiskNews disk_compare(const DiskState *now, const DiskState *known);

#endif
