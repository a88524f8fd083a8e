/* Bringing back work that stands in the journal. */
#ifndef RECOVERABLE_H
#define RECOVERABLE_H

#include "kept/journal.h"

/* What can be brought back. */
typedef struct Recoverable {
    int64_t id;
    char *path; /* or NULL */
    char *host;
    long long when; /* of the last change, seconds since 1970 */
    bool dropped;   /* given up on purpose */
    bool foreign;   /* by a program on another machine, which may still be at it */
    size_t bytes;   /* in the journal */
    size_t of;      /* which of the paths that were asked for has it */
} Recoverable;

/* All that no running editor is working on, the newest first; of one path unless that is NULL.
 * *out goes to recoverable_free. */
size_t recoverable_list(Journal *j, const char *path, Recoverable **out);
/* The same for several paths, one path after the other. When the journal cannot be read, e says why; else it
 * is empty. */
size_t recoverable_of(Journal *j, const char *const *paths, size_t n_paths, Recoverable **out, Err *e);
void recoverable_free(Recoverable *r, size_t n);
/* The text with all its patches. When a part is damaged, what was before that, and e says so. False (with e)
 * when nothing can be read. */
bool recoverable_text(Journal *j, int64_t id, Text *out, Err *e);
/* What can be shown of it without its base: where something was changed, and what was put there. False when
 * there is nothing. */
bool recoverable_remains(Journal *j, int64_t id, Text *out);

#endif
