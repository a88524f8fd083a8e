/* The columns of a table under each other, on the screen only. */
#ifndef ALIGNING_H
#define ALIGNING_H

#include "config/registry.h"

extern const Command *const aligning_commands[];

#endif
