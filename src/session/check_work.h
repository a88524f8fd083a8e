/* One checker at work on one version of a text: what takes long is done on a thread, programs run beside it.
 * It can be left at any moment. Main thread only. */
#ifndef CHECK_WORK_H
#define CHECK_WORK_H

#include "files/encoding.h"
#include "kinds/judging.h"
#include "text/text.h"

#include <poll.h>

typedef struct CheckWork CheckWork;

/* What it came to. */
typedef struct CheckResult {
    Verdict verdict;
    Problems found;
    Err why;    /* for VERDICT_UNSURE and VERDICT_NONE: "is not installed" */
    Bytes said; /* by a program, with the real folder's name in place of the copy's */
} CheckResult;

/* Begins; `path` is that of the text, or NULL; `check` must last. `there`: the file's full name, if it lies
 * on another machine, whose program is to be asked; or NULL. NULL with the reason in e. */
CheckWork *check_work_begin(const Check *check, Text t, const char *path, const char *there,
                            const Encoding *as, Err *e);
/* Goes on without waiting; true when it has ended, and *r is what came of it, which the caller frees. */
bool check_work_poll(CheckWork *w, CheckResult *r);
size_t check_work_fds(const CheckWork *w, struct pollfd *out);
/* ms since it was begun. */
unsigned check_work_age(const CheckWork *w);
/* Gives it up, or frees what has ended; never waits for it: what a thread still needs is kept until it ends.
 */
void check_work_end(CheckWork *w);
/* Waits for all that were given up, so many milliseconds at most. False: some go on, and use their Checks. */
bool check_works_settle(unsigned most);
void check_result_free(CheckResult *r);

#endif
