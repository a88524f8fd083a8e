/* Completing the word at the cursor: from this text, the other open ones, the words of the kind of file, and
 * the names of files after a slash. */
#ifndef COMPLETE_H
#define COMPLETE_H

#include "config/registry.h"

extern const Command *const complete_commands[];

#endif
