/* Other programs: where they are, beginning one, whether it lives. */
#ifndef PROGRAMS_H
#define PROGRAMS_H

#include <stdbool.h>
#include <sys/types.h>

/* Where the program of that name is, by PATH or as a path; `for_root`: also where those for root lie, to
 * which PATH often does not lead. NULL: nowhere. The caller frees it. */
char *programs_find(const char *name, bool for_root);
/* Can one be run? */
bool programs_has(const char *program);
/* fork() whose child has every signal as programs expect it from the start: what is sent to it at once must
 * not reach the handlers that it shares with us. */
pid_t programs_fork(void);
/* Is there such a process, one that has not ended? (A dead one may wait for ever to be taken note of.) */
bool programs_live(pid_t pid);
/* When it began, by the system's own count, so that a number that was given again is not taken for the old
 * one; 0 when that is not known. */
long long programs_born(pid_t pid);

#endif
