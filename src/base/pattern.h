/* Patterns for the names of files, as shells have them: * stands for any letters, ? for one, [a-z] for one of
 * those, [!a-z] for any other; \ takes what follows as it is. The time is bounded by the product of both
 * lengths, whatever the pattern. */
#ifndef PATTERN_H
#define PATTERN_H

#include <stdbool.h>
#include <stddef.h>

/* Does a name, without slashes, fit? */
bool pattern_fits(const char *pattern, const char *name);
/* The same for a path and a pattern with slashes; "**" between them stands for any folders, also for none. */
bool pattern_fits_path(const char *pattern, const char *path);
/* Does a name fit one of several, which have commas between them? None at all: every name does. */
bool pattern_fits_one(const char *patterns, const char *name);
/* Has it any of the signs that make a name a pattern? */
bool pattern_is(const char *name);

#endif
