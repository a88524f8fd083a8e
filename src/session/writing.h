/* Writing a text to its file: large ones on a thread of their own while typing goes on. */
#ifndef WRITING_H
#define WRITING_H

#include "session/session.h"

typedef enum Written {
    WRITTEN,
    WRITE_FAILED,      /* it was reported why */
    WRITE_OVERTAKEN,   /* the file is not what was agreed to any more; nothing was written */
    WRITE_UNREACHABLE, /* whether it was written is not known; it was reported why */
    WRITE_DENIED,      /* root may, there */
    WRITE_GOES_ON,     /* on a thread */
} Written;

/* Writes the present text to `path`, if what is there is still `expected`; on another machine `as_root`, if
 * that is wished. */
Written writing_begin(Session *s, OpenFile *f, const char *path, const DiskState *expected, bool as_root);
/* What became of it; WRITE_GOES_ON while it is under way (then `wait` makes it wait for the end). */
Written writing_poll(Session *s, OpenFile *f, bool wait);
/* Where it is being written to, or NULL. */
const char *writing_path(const OpenFile *f);
/* "Saving tide.log, 43%"; "" when nothing is being written. */
void writing_words(const OpenFile *f, char words[TASK_WORDS_MAX]);

/* Is this one of the files that are to be written in place? */
bool writing_in_place(const Session *s, const char *path);

/* For those who write it otherwise: the bytes to be written, and then that they were, and lie there so. */
bool writing_bytes(Session *s, OpenFile *f, Text *bytes);
void writing_done(Session *s, OpenFile *f, const char *path, const DiskState *disk);
/* What is about to be replaced is neither what this program knows nor a file of this machine: it is kept
 * among the earlier saves. */
void writing_replaces(Session *s, const OpenFile *f, const char *path, Text bytes, const DiskState *disk);
void writing_forget(Session *s, OpenFile *f);

#endif
