/* Where files are: a table of calls for each system that has some. What is asked of one is an errand, which
 * is done at once or after a while, or never; those who wait for it give way meanwhile. */
#ifndef FILESYSTEM_H
#define FILESYSTEM_H

#include "base/task.h"
#include "files/disk.h"

/* What there is at a path, asked for all at once. */
typedef struct Seen {
    DiskState disk;
    bool missing;         /* nothing is there, and that is certain */
    bool may_write;       /* as far as can be known beforehand */
    char *missing_folder; /* the folder of the path, when it is not there; else NULL */
} Seen;

typedef enum ErrandKind {
    ERRAND_LOOK,
    ERRAND_MAKE_FOLDER, /* and those above it */
    ERRAND_RENAME,      /* to `to`, which is still as `target` says */
} ErrandKind;

typedef struct Errand {
    ErrandKind kind;
    char *path, *to;
    DiskState target;
    /* what came of it */
    bool done, ok;
    bool overtaken; /* `to` is not what was agreed to any more */
    Err e;
    Seen seen;
    /* the system's own */
    const struct FileSystem *system;
    void *state;
    void (*told)(void *ctx); /* called when it is done, if it was not done at once */
    void *ctx;
} Errand;

typedef struct FileSystem {
    const char *prefix; /* of its paths */
    /* Begins an errand, and does it if that takes no time. What takes time is a task among `tasks`. */
    void (*begin)(Errand *e, Tasks *tasks);
    /* Nobody waits for it any more; it may be done all the same. */
    void (*give_up)(Errand *e);
} FileSystem;

/* This machine's files. It does everything at once. */
extern const FileSystem filesystem_local;

/* Adds a system; of those whose prefix a path has, the one with the longest counts. It must last. */
void filesystem_add(const FileSystem *f);
const FileSystem *filesystem_of(const char *path);

/* Begins an errand for a path; `to` and `target` may be NULL. It belongs to the caller, until errand_free. */
Errand *errand_begin(ErrandKind kind, const char *path, const char *to, const DiskState *target, Tasks *tasks,
                     void (*told)(void *ctx), void *ctx);
/* For systems: it is done. */
void errand_done(Errand *e);
/* Gives it up if it is not done. NULL is fine. */
void errand_free(Errand *e);

/* How a file differs from what was known of it, as far as that can tell: DISK_TOUCHED, when its bytes must
 * be compared. */
DiskNews seen_news(const Seen *l, const DiskState *known);

#endif
