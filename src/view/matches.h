/* The matches of the last search: which are shown in the text, and how many there are. Counting goes on in
 * steps between keys. */
#ifndef MATCHES_H
#define MATCHES_H

#include "base/bytes.h"
#include "edit/finder.h"
#include "view/panes.h"

/* How far the counting is. */
typedef struct MatchCount {
    Text text; /* the version that is counted; its root is only compared */
    unsigned long version;
    size_t at, end, begin;  /* of what is counted */
    size_t n, before;       /* before: matches in front of the cursor's */
    size_t cursor;          /* where it was */
    size_t gap_at, gap_end; /* it moved: matches that begin here are before it now, or are not any more */
    bool gap_back, going, complete;
} MatchCount;

typedef struct Matches {
    Panes *panes;
    Finder *finder;  /* of the last search; NULL: none yet */
    bool shown;      /* they are marked in the text */
    bool unseen;     /* keys are played, and nobody sees them: they are not counted */
    Match now;       /* the one that was gone to */
    bool in_mark;    /* only the part below is searched */
    size_t from, to; /* what was marked when the search began; equal: nothing */
    MatchCount count;
} Matches;

/* Searches by another finder from now on, and takes it over; NULL: by none. */
void matches_by(Matches *m, Finder *finder);
/* The part of the text that is searched. */
void matches_range(const Matches *m, size_t *from, size_t *to);
/* Goes to a match. */
void matches_go(Matches *m, Match to);
/* The matches to be shown begin here; false when there is nothing to show from `from` on. */
bool matches_from(Matches *m, size_t from, size_t end, Match *found);
/* Counts on for a moment; true while there is more to count. */
bool matches_count_step(Matches *m);
/* Is there more to count? */
bool matches_counting(const Matches *m);
/* Adds "2 of 7", "3 of 14+", or nothing. */
void matches_words(const Matches *m, Bytes *out);
void matches_free(Matches *m);

#endif
