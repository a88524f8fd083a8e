/* Undo, redo, and the panel of all states of a text. */
#ifndef HISTORY_H
#define HISTORY_H

#include "config/registry.h"

extern const Command *const history_commands[];

#endif
