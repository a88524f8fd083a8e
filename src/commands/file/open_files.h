/* Going to other open files. */
#ifndef OPEN_FILES_H
#define OPEN_FILES_H

#include "config/registry.h"

extern const Command *const open_files_commands[];

#endif
