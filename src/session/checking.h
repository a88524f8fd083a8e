/* Checking an open file by the checkers of its kind, beside the keys. What is found moves with the text, and
 * goes when its place is changed. */
#ifndef CHECKING_H
#define CHECKING_H

#include "kinds/checks.h"
#include "session/session.h"

typedef struct FileProblem {
    size_t from, to; /* bytes of the text that it is about; both 0 where its place is not known */
    char *words;
    const char *checker;
    bool hint; /* it may well be meant so, and holds nothing up; its words say so */
} FileProblem;

/* The bytes that a problem is about: the word at its place, or what stands in its line. The caller frees its
 * words. */
FileProblem checking_place(Text t, const Problem *p);

/* Begins to check the text as it is now; what was begun before ends. `programs`: by other programs too, not
 * only by what is part of this one. False when there is no checker for it. */
bool checking_begin(Session *s, OpenFile *f, bool programs);
/* Runs only the root-only checkers, inside the privileged helper. */
bool checking_begin_as_root(Session *s, OpenFile *f);
/* Names of the checkers that were left out because they need root, "nft"; "" when there are none. */
const char *checking_for_root(const OpenFile *f);
/* Takes in what they found in the text as it is now. */
void checking_add(OpenFile *f, const Problems *found, const char *by, const char *trouble);
/* The same by a checker that is none of its kind's, and whose findings are hints; and drops them again: false
 * when there are none for the text as it is now. */
void checking_put(Session *s, OpenFile *f, const Check *by, const Problems *found);
bool checking_drop(OpenFile *f, const Check *by);
/* Is there a checker for it? */
bool checking_is_possible(const Session *s, const OpenFile *f, bool programs);
/* Is it under way? */
bool checking_goes_on(const OpenFile *f);
/* Was the text checked as it is now, by programs too? */
bool checking_is_current(const OpenFile *f, bool programs);
/* The version (from 1) of the text that was checked last, 0: none. */
unsigned long checking_version(const OpenFile *f);
/* What is known to be wrong, in the order of the text; *n: how many. Each checker's findings stay until it
 * finds something else, or their place is changed. Valid until the text changes. */
const FileProblem *checking_problems(OpenFile *f, size_t *n);
/* The first one that is more than a hint, and how many there are; NULL: none. */
const FileProblem *checking_wrong(OpenFile *f, size_t *n);
/* The first one that touches bytes from `from` to `to`, hints after others; or NULL. */
const FileProblem *checking_problem_in(OpenFile *f, size_t from, size_t to);
/* Who gave a verdict in the last round, "json, visudo"; and who gave none, and why; "" if nobody. */
const char *checking_by(const OpenFile *f);
const char *checking_trouble(const OpenFile *f);
/* Did one of them end in a way that says neither right nor wrong? "sshd was ended by signal 11"; else "". */
const char *checking_doubt(const OpenFile *f);
/* All that the programs said of the last round, for a person to read; "" if nothing. Valid until the next. */
const char *checking_said(OpenFile *f);
/* For callers without a loop. */
void checking_finish(Session *s, OpenFile *f, Stop stop);
/* Ends it, whatever goes on; the next frees all there is. */
void checking_stop(Session *s, OpenFile *f);
void checking_forget(Session *s, OpenFile *f);

/* Would programs of another machine, which has the file, be asked if they were allowed to? That machine's
 * name is written to `host` then. */
bool checking_wants_host(const Session *s, const OpenFile *f, Bytes *host);

#endif
