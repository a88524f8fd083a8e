/* Saving, renaming, reloading, closing and leaving. */
#ifndef FILES_H
#define FILES_H

#include "config/registry.h"

extern const Command *const files_commands[];

#endif
