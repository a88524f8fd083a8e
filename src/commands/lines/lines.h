/* Changing whole lines: doubling, moving, joining, indenting, sorting, trimming. */
#ifndef LINES_H
#define LINES_H

#include "config/registry.h"

extern const Command *const lines_commands[];

#endif
