/* Files that were worked on in the last weeks. */
#ifndef LATELY_H
#define LATELY_H

#include "config/registry.h"

extern const Command *const lately_commands[];

#endif
