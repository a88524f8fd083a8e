/* Checkers that are part of the program: pure functions of the bytes of a text. They may run on any thread.
 */
#ifndef CHECKERS_H
#define CHECKERS_H

#include "base/stop.h"
#include "kinds/problem.h"

#include <stdbool.h>

/* `stop` is asked every few kilobytes; what was found up to then counts for nothing. */
typedef void (*CheckBytes)(const char *bytes, size_t n, Stop stop, Problems *out);

/* The one of that name ("json"), or NULL: there is none, or its library was not there when this was built. */
CheckBytes checker_named(const char *name);
/* Is there one of that name, built in or not? */
bool checker_is_known(const char *name);

#endif
