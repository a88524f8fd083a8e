/* The recovery journal: what was changed but not saved, written by a thread of its own to a
 * database in the person's state folder. Main thread only, but for what the header says.
 *
 * A text in the journal is a base, its content when it was last saved, and patches. The base
 * is stored if it is not too large, else it is the file on disk as long as that is untouched. */
#ifndef JOURNAL_H
#define JOURNAL_H

#include "load.h"

#include <stdint.h>

enum {
    JOURNAL_BASE_MOST = 16 * 1024 * 1024,       /* bytes of a stored base */
    JOURNAL_LONE_BASE_MOST = 512 * 1024 * 1024, /* the same where no file can serve instead */
    JOURNAL_PATCH_MOST = 512 * 1024 * 1024,     /* of one change */
    JOURNAL_DAYS = 7,                           /* that dropped work is kept */
    JOURNAL_BYTES = 256 * 1024 * 1024,          /* of dropped and left-over work together; the oldest goes */
};

#define JOURNAL_TOO_MUCH ((size_t)-1)

typedef struct Journal Journal;

/* NULL with the reason in e where nothing can be kept. */
Journal *journal_open(Err *e);
/* Writes what waits, then ends the thread. NULL is fine. */
void journal_close(Journal *j);
/* Waits until everything handed over is on disk, up to so many ms; may be called from a
 * signal handler. */
bool journal_settle(Journal *j, int ms);

/* Did the last try to write fail? Why is in e then; it is tried again. NULL is fine, also below. */
bool journal_trouble(Journal *j, Err *e);
/* Is there anything that is not written yet? */
bool journal_waits(const Journal *j);

/* A text begins to differ from its base: what it is called (NULL: no name yet) and what is on disk (with
 * disk->exists false where the file cannot serve as its base).
 * Returns the number under which it stands in the journal, never 0. */
int64_t journal_begin(Journal *j, const char *path, const DiskState *disk, Text base);
/* It went from one version to another. Returns the bytes that took, or JOURNAL_TOO_MUCH: then the text is no
 * longer in the journal. */
size_t journal_patch(Journal *j, int64_t id, Text from, Text to);
/* It is saved, or nobody wants it any more; or it is given up on purpose: then it is kept for some days. */
void journal_done(Journal *j, int64_t id);
void journal_drop(Journal *j, int64_t id);

/* What can be brought back. */
typedef struct Recoverable {
    int64_t id;
    char *path; /* or NULL */
    char *host;
    long long when; /* of the last change, seconds since 1970 */
    bool dropped;   /* given up on purpose */
    bool foreign;   /* by a program on another machine, which may still be at it */
    size_t bytes;   /* in the journal */
} Recoverable;

/* All that no running editor is working on, the newest first; of one path unless that is NULL.
 * *out goes to journal_free_list. */
size_t journal_list(Journal *j, const char *path, Recoverable **out);
void journal_free_list(Recoverable *r, size_t n);
/* The text with all its patches. When a part is damaged, what was before that, and e says so. False (with e)
 * when nothing can be had. */
bool journal_recover(Journal *j, int64_t id, Text *out, Err *e);

#endif
