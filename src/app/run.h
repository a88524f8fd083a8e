/* Running a command of the shell: its output goes into the text, or the mark through it. */
#ifndef RUN_H
#define RUN_H
#include "app/editor.h"
#include "files/job.h"

/* Asks for the command line unless it is given. */
void run_command(Editor *ed, const char *command);
void run_filter(Editor *ed, const char *command);
/* Goes on with the command that runs, if any; run_wait: ms until it wants to be looked at, -1: never. */
void run_go_on(Editor *ed);
int run_wait(const Editor *ed);
/* What to wait for, JOB_FDS at most; returns how many. */
size_t run_fds(const Editor *ed, struct pollfd *out);

#endif
