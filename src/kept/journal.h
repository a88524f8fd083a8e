/* The recovery journal: what was changed but not saved, written by a thread of its own to a
 * database in the person's state folder. Main thread only, but for what the header says.
 *
 * A text in the journal is a base, its content when it was last saved, and patches. The base
 * is stored if it is not too large, else it is the file on disk as long as that is untouched. */
#ifndef JOURNAL_H
#define JOURNAL_H

#include "files/load.h"

#include <stdint.h>

enum {
    JOURNAL_BASE_MOST = 16 * 1024 * 1024,       /* bytes of a stored base */
    JOURNAL_LONE_BASE_MOST = 512 * 1024 * 1024, /* the same where no file can serve instead */
    JOURNAL_PATCH_MOST = 512 * 1024 * 1024,     /* of one change */
    JOURNAL_DAYS = 7,                           /* that dropped work is kept */
    JOURNAL_BYTES = 256 * 1024 * 1024,          /* of dropped and left-over work together; the oldest goes */
};

typedef struct Journal Journal;

/* NULL with the reason in e where nothing can be kept. */
Journal *journal_open(Err *e);
/* Writes what waits, then ends the thread; false when that could not be written. NULL is fine. */
bool journal_close(Journal *j);
/* Waits until everything handed over is on disk, up to so many ms; may be called from a
 * signal handler. */
bool journal_settle(Journal *j, int ms);

/* Did the last try to write fail? Why is in e then; it is tried again. NULL is fine, also below. */
bool journal_trouble(Journal *j, Err *e);
/* Is there anything that is not written yet? */
bool journal_waits(const Journal *j);

/* Grows whenever another database had to be begun, which knows nothing of what was handed over before. */
unsigned journal_life(Journal *j);

/* Would it store such a base itself, not relying on the file? */
bool journal_holds_base(const Journal *j, const DiskState *disk, Text base);
/* For tests: bytes of a base that is stored. */
void journal_store_bases(Journal *j, size_t most);
/* A text that differs from its base: what it is called (NULL: no name yet), by which other name it can be
 * found as its file is just getting that one (NULL: none), and what is on disk (with disk->exists false where
 * the file cannot serve as its base). It takes the place of `old` (0: none), which
 * is done with or, with `drop_old`, dropped, in one transaction. Returns the number under which it stands in
 * the journal, and in *bytes how much that took; 0 (and nothing is changed) when that is too much. */
int64_t journal_replace(Journal *j, int64_t old, bool drop_old, const char *path, const char *also,
                        const DiskState *disk, Text base, Text now, size_t *bytes);
/* The same without anything before it, and without a difference yet. */
int64_t journal_begin(Journal *j, const char *path, const DiskState *disk, Text base);
/* It went from one version to another, which took *bytes. False (and nothing is changed) when that is too
 * much. */
bool journal_patch(Journal *j, int64_t id, Text from, Text to, size_t *bytes);
/* What the journal has of it now is about to be written to its file; and, from any thread: it lies whole at
 * that path, and the old version is about to go. Waits until that is known for good. From then on either can
 * be the base. */
void journal_mark(Journal *j, int64_t id);
void journal_second_base(Journal *j, int64_t id, const char *path, const FileState *st);
/* Its file is about to be renamed: waits until the text can be found by either name; and: it was. */
void journal_renaming(Journal *j, int64_t id, const char *path);
void journal_rename(Journal *j, int64_t id, const char *path);
/* It is saved, or nobody wants it any more; or it is given up on purpose: then it is kept for some days. */
void journal_done(Journal *j, int64_t id);
void journal_drop(Journal *j, int64_t id);

/* For recoverable.h: the database, with all that was handed over; NULL with the reason in e. And this
 * machine. */
struct sqlite3 *journal_look_into(Journal *j, Err *e);
const char *journal_host(const Journal *j);

#endif
