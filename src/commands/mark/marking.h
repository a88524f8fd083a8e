/* Marking pieces of the text. */
#ifndef MARKING_H
#define MARKING_H

#include "config/registry.h"

extern const Command *const marking_commands[];

#endif
