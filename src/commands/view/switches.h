/* Switching how things are shown: settings that have commands of their own. */
#ifndef SWITCHES_H
#define SWITCHES_H

#include "config/registry.h"

extern const Command *const switch_commands[];

#endif
