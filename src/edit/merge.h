/* Bringing two versions of a text together that began from the same one, by lines, and within lines by words.
 * Changes that do not touch are both made; one that both sides made alike is made once. Where they touch,
 * both stand in the text between marker lines, as version controls write them. */
#ifndef MERGE_H
#define MERGE_H

#include "text/text.h"

typedef struct MergeNames {
    const char *mine, *base, *theirs; /* for the marker lines; no base: nothing is known to be older, so every
                                         difference is marked */
} MergeNames;

typedef struct Merged {
    Text text;        /* the caller's to drop */
    size_t conflicts; /* places that are marked */
    size_t theirs;    /* changes of the other side that were made */
} Merged;

/* `crlf`: the marker lines end as lines do in that system's files. False without memory. */
bool merge_texts(Text base, Text mine, Text theirs, const MergeNames *names, bool crlf, Merged *out);

/* ---- places that are marked ---- */

typedef struct ConflictPart {
    size_t from, to; /* bytes of the text, whole lines */
} ConflictPart;

typedef struct Conflict {
    ConflictPart all; /* with its marker lines */
    ConflictPart mine, base, theirs;
    bool has_base; /* what was there before is given too */
} Conflict;

/* The first one that begins at `from` or after it; false when there is none. Broken ones are passed over. */
bool conflict_next(Text t, size_t from, Conflict *out);
/* Is the line that begins there one of the marker lines, as far as those near it tell? */
bool conflict_marks(Text t, size_t line_start);

#endif
