/* Picking a command by its name. */
#ifndef PICK_H
#define PICK_H

#include "config/registry.h"

extern const Command *const pick_commands[];

#endif
