/* Going to places: lines, brackets, bookmarks, changes, and back. */
#ifndef GOING_H
#define GOING_H

#include "config/registry.h"

extern const Command *const going_commands[];

#endif
