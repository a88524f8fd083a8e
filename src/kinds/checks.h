/* Which checkers a kind has, from its data file, and reading what those say that are programs. */
#ifndef CHECKS_H
#define CHECKS_H

#include "kinds/checkers.h"
#include "kinds/fields.h"

/* One checker: a part of this program, or another program. */
typedef struct Check {
    const char *name; /* for messages and settings */
    CheckBytes part;  /* NULL: see `fields`, else a program */
    const Fields *fields;
    KindWords run;        /* its words; FILE stands for a copy under the file's own name, without it the text
                           * comes by standard input */
    const char *like;     /* what a problem looks like in what it says: groups line, column, words */
    void *like_code;      /* private */
    KindWords first_line; /* only for texts whose first line names one of these programs; with "none" among
                           * them also for those whose first line names none. NULL: for all */
    KindWords not_paths;  /* patterns for files that it is not meant for, or NULL */
} Check;

/* Those of a kind; *n: how many. Main thread only; what they point to lasts. What is wrong in the data is
 * reported. */
const Check *checks_of(const Kind *k, size_t *n, const PlainReport *r);
/* Is the check meant for a text that begins so, with that path (or NULL)? */
bool check_fits(const Check *c, const char *path, const char *head, size_t n);
/* Takes the problems from what a program said. */
void check_read_output(const Check *c, const char *bytes, size_t n, Problems *out);
void checks_free(struct KindChecks *all);

#endif
