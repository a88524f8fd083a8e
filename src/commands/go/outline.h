/* The outline of a text: the list of what divides it, going from one to the next, marking one. */
#ifndef OUTLINE_LIST_H
#define OUTLINE_LIST_H

#include "config/registry.h"

extern const Command *const outline_commands[];

#endif
