/* Help: pages that lie over the text, and what else the Help menu has for beginners. */
#ifndef HELP_H
#define HELP_H

#include "config/registry.h"

extern const Command *const help_commands[];

#endif
