/* Moving by the keys that every keyboard has for it, or by letters. */
#ifndef MOVING_H
#define MOVING_H

#include "config/registry.h"

extern const Command *const moving_commands[];

#endif
