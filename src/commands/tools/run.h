/* Running a command of the shell: its output goes into the text, or the mark through it. */
#ifndef RUN_H
#define RUN_H

#include "config/registry.h"

extern const Command *const run_commands[];

#endif
