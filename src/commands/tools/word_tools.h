/* Changing the word or number at the cursor. */
#ifndef WORD_TOOLS_H
#define WORD_TOOLS_H

#include "config/registry.h"

extern const Command *const word_commands[];

#endif
