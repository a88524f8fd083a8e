/* Checkers that are part of the program: pure functions of the bytes of a text. They may run on any thread.
 */
#ifndef CHECKERS_H
#define CHECKERS_H

#include "kinds/problem.h"

#include <stdbool.h>

typedef void (*CheckBytes)(const char *bytes, size_t n, Problems *out);

/* The one of that name ("json"), or NULL: there is none, or its library was not there when this was built. */
CheckBytes checker_named(const char *name);
/* Is there one of that name, built in or not? */
bool checker_is_known(const char *name);

#endif
