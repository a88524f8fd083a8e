/* What a checker that is a program says of a text, and what follows from that. Pure functions; any thread. */
#ifndef JUDGING_H
#define JUDGING_H

#include "base/bytes.h"
#include "kinds/checks.h"

/* What came of a check. */
typedef enum Verdict {
    VERDICT_RIGHT,
    VERDICT_WRONG,
    VERDICT_UNSURE, /* it ended in a way that says neither: nobody may take that for right */
    VERDICT_NONE,   /* there is none: it is not installed, was stopped, does not read this file… */
} Verdict;

/* What a program said, and how it ended. */
typedef struct CheckSaid {
    const char *bytes;
    size_t n;
    int status, signal; /* signal: that ended it, or 0 */
    bool too_much;      /* there was more */
} CheckSaid;

/* Judges a text by what a program said of it. `file`: the path that it knows the text by, or NULL. `text` are
 * the bytes that it read. Adds the problems, at least one when it is wrong (line 0 when its place is not
 * known), and for UNSURE and NONE writes why. Any thread. */
Verdict check_judge(const Check *c, const CheckSaid *said, const char *text, size_t len, const char *file,
                    Problems *out, Err *why);
/* What stands for VALUE with that text; the caller frees it. */
char *check_value(const Check *c, const char *bytes, size_t n);
/* The bytes with /dev/null for what it would write, but where there is no folder for that: what says so is
 * right. False: as they are. */
bool check_without_writes(const Check *c, const char *bytes, size_t n, Bytes *out);
#endif
