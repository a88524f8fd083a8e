/* The earlier saves of a file: to look at what differs, and to take all or a part of one back. */
#ifndef EARLIER_COMMANDS_H
#define EARLIER_COMMANDS_H

#include "config/registry.h"

extern const Command *const earlier_commands[];

#endif
