/* Commands on files without a screen: squill --do 'COMMANDS' FILE… */
#ifndef BATCH_H
#define BATCH_H

#include <stdbool.h>

/* Runs the commands (separated by ';') on each file and reports on standard output, a line for each
 * file; what went wrong goes to standard error. A file for which a command fails is left as it is.
 * dry: writes nothing and shows the differences instead. Returns the exit status: 0, or 1 when
 * anything failed. */
int batch_run(const char *commands, char **files, int n, bool dry, bool plain, bool look);

#endif
