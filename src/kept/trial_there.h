/* The guard of a save on trial on another host: lines for a POSIX shell there, which talk as trial_folder.h
 * says.
 */
#ifndef TRIAL_THERE_H
#define TRIAL_THERE_H

#include "text/text.h"

enum { TRIAL_SUM_MAX = 48 };

/* What cksum(1) prints for those bytes; NULL: "none", for no file. */
void trial_there_sum(const Text *t, char out[TRIAL_SUM_MAX]);
/* The line that begins it for a path of that host. */
void trial_there_line(const char *path, const char *command, unsigned seconds, Bytes *out);

#endif
