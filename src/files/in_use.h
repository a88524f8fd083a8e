/* Who is editing what. Each program that edits files keeps one note about all of them in a folder that every
 * user of the machine can read (/run/lock), never beside the files: whatever reads or cleans those folders
 * does not meet it. The note is locked as long as its program lives; one that nobody holds means nothing. */
#ifndef IN_USE_H
#define IN_USE_H

#include <stdbool.h>
#include <stddef.h>

typedef struct InUsePlace InUsePlace;

/* This program's note. Begin with {.fd = -1}. */
typedef struct InUse {
    int fd; /* -1: nothing is in use */
    char *path;
    InUsePlace *places; /* what its lines say */
    size_t n, taken;
} InUse;

typedef struct InUseBy {
    char user[64];
    long pid;
    long long since; /* seconds since 1970 */
} InUseBy;

/* Notes that we edit the file; *line is its line in the note from 1, or 0 where no note can be written or
 * the file's folder is not there. False, with who else edits it, when somebody does; the file is noted in
 * that case too. Files are known by their folder and name: those stay when a save puts a new file there. */
bool in_use_take(InUse *u, const char *path, size_t *line, InUseBy *by);
/* Takes it back; the note goes with its last line. */
void in_use_release(InUse *u, size_t *line);
/* Where the notes lie: every program of the machine finds the same folder. NULL: there is none. */
const char *in_use_folder(void);
/* Takes all back. */
void in_use_end(InUse *u);

#endif
