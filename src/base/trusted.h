/* Files that may tell the program what to do: settings, keys, kinds, recordings, scripts. */
#ifndef TRUSTED_H
#define TRUSTED_H

#include "base/err.h"

#include <stddef.h>

enum { TRUSTED_MOST = 1024 * 1024 /* bytes */ };

/* The bytes of such a file, with a zero after them; the caller frees them. NULL when there are none to be
 * had: with an empty e when there is no such file, else with the reason. As root, only files that root alone
 * may write count: what is judged is what is read. */
char *trusted_read(const char *path, size_t *length, Err *e);

#endif
