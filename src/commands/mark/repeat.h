/* Typing a character many times. */
#ifndef REPEAT_H
#define REPEAT_H

#include "config/registry.h"

extern const Command *const repeat_commands[];

#endif
