/* What divides a text: sections, functions, headings, from the kind's data file (docs/kinds.md). */
#ifndef OUTLINE_H
#define OUTLINE_H

#include "kinds/kind.h"

enum { OUTLINE_MOST = 16 /* expressions of a kind */, OUTLINE_LEVELS = 12 };

typedef struct OutlineRule {
    void *like; /* compiled, with a group `name`; private */
    long level; /* from 1; 0: by its indentation */
} OutlineRule;

typedef struct Outline {
    OutlineRule at[OUTLINE_MOST];
    size_t n;
    void *ends;     /* a line that fits ends what the last one began, or NULL; private */
    bool by_indent; /* a level is ended by what is indented no more than it */
    unsigned step;  /* blanks of a level, for those by indentation */
} Outline;

/* A line that begins something. */
typedef struct OutlineLine {
    size_t from, to; /* its name, in the line */
    int level;       /* from 1 */
} OutlineLine;

/* That of a kind, or NULL. Made at the first call, with a report of what is wrong in the data; main thread
 * only, but what it returns may be used by any. */
const Outline *outline_of(const Kind *k, const PlainReport *r);
/* Does the line of n bytes begin something? */
bool outline_line(const Outline *o, const char *line, size_t n, OutlineLine *l);
/* Does it end what was begun before it? `indent`: how far that is indented, in bytes. */
bool outline_ends(const Outline *o, const char *line, size_t n, size_t indent);

#endif
