/* Replacing: one by one, all, seen first. */
#ifndef REPLACE_H
#define REPLACE_H

#include "config/registry.h"

extern const Command *const replace_commands[];

#endif
