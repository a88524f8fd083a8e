/* Putting text in by words, for scripts above all. */
#ifndef PUTTING_H
#define PUTTING_H

#include "config/registry.h"

extern const Command *const putting_commands[];

#endif
