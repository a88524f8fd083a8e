/* What keys for typing and deleting do. */
#ifndef TYPING_H
#define TYPING_H

#include "config/registry.h"

extern const Command *const typing_commands[];

#endif
