/* Finding in a text: literal words or regular expressions (PCRE2), by windows of
 * whole lines, so that a text of any size is searched without copying it all. */
#ifndef FIND_H
#define FIND_H

#include "base/bytes.h"
#include "base/err.h"
#include "base/stop.h"
#include "text/text.h"

typedef enum FindCase { CASE_AUTO, CASE_EXACT, CASE_ANY } FindCase;

typedef struct FindWhat {
    const char *what; /* the words or the expression; any bytes */
    size_t len;
    FindCase letters; /* auto: exact as soon as there is a capital */
    bool words;       /* only whole words */
    bool expression;  /* Perl-compatible; ^ and $ are line ends */
} FindWhat;

typedef struct Match {
    size_t from, to; /* bytes of the text */
} Match;

typedef enum Found { FOUND_NONE, FOUND, FOUND_TOO_HARD } Found;

typedef struct Finder Finder;

/* NULL with the reason in e, and in *mistake the byte of `what` where it was noticed. */
Finder *finder_new(const FindWhat *w, Err *e, size_t *mistake);
void finder_free(Finder *f);
/* Is letter case looked at? (What CASE_AUTO came to.) */
bool finder_exact(const Finder *f);

/* For tests: bytes that are searched at once; 0: the usual. */
void finder_set_window(size_t bytes);

/* The text that is searched from now on; the finder holds a reference until the next call. */
void finder_text(Finder *f, Text t);

/* The same for bytes that are in no text, which must stay where they are while they are searched. It can be
 * called on any thread, as long as one at a time uses this finder; from then on no text may be given to it.
 */
void finder_bytes(Finder *f, const char *bytes, size_t n);

/* The first match that begins at or after `from` and ends at or before `end`.
 * FOUND_TOO_HARD: the expression needs more steps than allowed; the search stopped. */
Found finder_next(Finder *f, size_t from, size_t end, Match *m);
/* The last match that begins at or after `start` and before `before`. */
Found finder_before(Finder *f, size_t start, size_t before, Match *m);
/* Where to search on after a match: an empty one is stepped over. */
size_t finder_after(const Finder *f, Match m);

/* The same, but gives up when no match begins before `until`: a long search in steps. */
Found finder_step(Finder *f, size_t from, size_t until, size_t end, Match *m);

typedef struct Replacement {
    const char *with;
    size_t len;
    bool follow_case; /* capitals as in what was found */
} Replacement;

/* What stands for the match found last: in an expression $1, ${name}, $0, $$ and the escapes
 * \n \t \\ are replaced; otherwise `with` is taken as it is. Added to `out`. */
void finder_expand(Finder *f, const Replacement *by, Bytes *out);
/* Does `with` fit this expression? False with the reason in e. */
bool finder_accepts(const Finder *f, const char *with, size_t n, Err *e);

/* Replaces every match within [from, to) in one pass. *out is the whole new text, *count the
 * matches replaced, *lines the lines touched. False on memory, too hard an expression, or when it was
 * stopped. */
bool finder_replace_all(Finder *f, size_t from, size_t to, const Replacement *by, Stop stop, Text *out,
                        size_t *count, size_t *lines, Err *e);

#endif
