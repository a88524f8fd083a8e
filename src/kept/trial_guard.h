/* The guard of a save on trial (trial.h), as it plays in a process of its own. */
#ifndef TRIAL_GUARD_H
#define TRIAL_GUARD_H

#include "files/privileged.h"

/* Guards the trial of that folder, with its editor's words on standard input; the exit status of the program.
 */
int trial_guard(const char *folder);
/* Root's side: as privileged_helper, but the file is saved on trial, and the guard, which is root too, stays
 * with standard input and output when this returns. */
int trial_helper(const char *path, const char *seconds, const char *command, const RootRules *rules);

#endif
