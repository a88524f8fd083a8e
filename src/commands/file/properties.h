/* The properties of a text: its kind, encoding, line ends and indentation, whether it may be changed. */
#ifndef PROPERTIES_H
#define PROPERTIES_H

#include "config/registry.h"

extern const Command *const properties_commands[];

#endif
