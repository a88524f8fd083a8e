/* Where files are: a table of calls for each system that has some, found by the beginning of a place's name
 * (location.h). What is asked of one is an errand, which is done at once or after a while, or never; those
 * who wait for it give way meanwhile. */
#ifndef FILESYSTEM_H
#define FILESYSTEM_H

#include "base/task.h"
#include "files/loader.h"
#include "files/save.h"

/* What there is at a path, asked for all at once. */
typedef struct Seen {
    DiskState disk;
    bool missing;         /* nothing is there, and that is certain */
    bool may_write;       /* as far as can be known beforehand */
    char *missing_folder; /* the folder of the path, when it is not there; else NULL */
} Seen;

/* One of the names in a folder. */
typedef struct FolderEntry {
    char *name;
    bool folder; /* or a link to one */
} FolderEntry;

typedef struct FolderEntries {
    FolderEntry *at;
    size_t n;
    bool more; /* than FOLDER_MOST: the others are left out */
} FolderEntries;

enum { FOLDER_MOST = 20000 };

typedef enum ErrandKind {
    ERRAND_LOOK,
    ERRAND_MAKE_FOLDER, /* and those above it */
    ERRAND_RENAME,      /* to `to`, which is still as `target` says; `seen` is what is there then */
    ERRAND_LOAD,        /* all of it, into `bytes`; `seen.disk` says what was loaded */
    ERRAND_COMPARE,     /* does it hold `bytes`? */
    ERRAND_LIST,        /* a folder */
} ErrandKind;

typedef struct Errand {
    ErrandKind kind;
    char *path, *to;
    DiskState target;
    Text bytes;
    /* what came of it */
    bool done, ok;
    bool overtaken;   /* `to` is not what was agreed to any more */
    bool unreachable; /* nobody knows: the system could not be asked; later it may be */
    bool same;
    Err e;
    Seen seen;
    FolderEntries entries;
    /* the system's own */
    const struct FileSystem *system;
    void *state;
    void (*told)(void *ctx); /* called when it is done, if it was not done at once */
    void *ctx;
} Errand;

/* What a system can do beyond its calls. */
enum {
    FILES_ARE_HERE = 1,   /* it answers at once: nobody need be shown that they wait */
    FILES_HAVE_RULES = 2, /* .editorconfig files beside */
    FILES_TELL_USE = 4,   /* who else has one open */
    FILES_AS_ROOT = 8,    /* root's helper can save them */
    FILES_ARE_BASES = 16, /* the journal can rely on an untouched one */
    FILES_LEAVE = 32,     /* a save that was cut can leave a whole version beside */
    FILES_ARE_WATCHED = 64,
    FILES_ARE_CHECKED = 128, /* programs of this machine can check them in a copy of their folder */
};

typedef struct FileSystem {
    const char *prefix; /* of its names */
    unsigned can;
    /* Begins an errand, and does it if that takes no time. What takes time is a task among `tasks`. */
    void (*begin)(Errand *e, Tasks *tasks);
    /* Nobody waits for it any more; it may be done all the same. */
    void (*give_up)(Errand *e);
    /* As load_file_begin (load.h). Where that takes time, *rest brings all of it, and what was loaded. */
    bool (*load)(const char *path, Text *out, DiskState *disk, Loader **rest, Err *e);
    /* The words of a program that runs a line of a shell where that file is, on a heap of their own up to
     * NULL, which the caller frees one by one; NULL with the reason in e. No such call: there is no way. */
    char **(*shell)(const char *path, const char *line, Err *e);
    /* As save_file (save.h). Where that takes time it is called on a thread. */
    bool (*save)(const char *path, Text t, const SaveWish *wish, DiskState *disk, Err *e);
} FileSystem;

/* This machine's files. It does everything at once. */
extern const FileSystem filesystem_local;

/* Adds a system; of those whose prefix a path has, the one with the longest counts. It must last. */
void filesystem_add(const FileSystem *f);
const FileSystem *filesystem_of(const char *path);
/* Can the system of that path do this? No path: nothing can be done with it. */
bool filesystem_can(const char *path, unsigned what);

/* Begins an errand for a path; `to` and `target` may be NULL, and `bytes` (kept until the end) empty. It
 * belongs to the caller, until errand_free. */
Errand *errand_begin(const Errand *what, Tasks *tasks, void (*told)(void *ctx), void *ctx);
/* For systems: it is done. */
void errand_done(Errand *e);
/* Gives it up if it is not done. NULL is fine. */
void errand_free(Errand *e);

void entries_add(FolderEntries *l, const char *name, bool folder);
void entries_free(FolderEntries *l);

/* How a file differs from what was known of it, as far as that can tell: DISK_TOUCHED, when its bytes must
 * be compared. */
DiskNews seen_news(const Seen *l, const DiskState *known);

#endif
