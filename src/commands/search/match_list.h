/* The panel of lines that match, in this text or in all. */
#ifndef MATCH_LIST_H
#define MATCH_LIST_H

#include "config/registry.h"

extern const Command *const match_list_commands[];

#endif
