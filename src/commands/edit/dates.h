/* The date and the time, put at the cursor. */
#ifndef DATES_H
#define DATES_H

#include "config/registry.h"

extern const Command *const dates_commands[];

#endif
