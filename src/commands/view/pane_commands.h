/* Cutting the text area into panes, and going between them. */
#ifndef PANE_COMMANDS_H
#define PANE_COMMANDS_H

#include "config/registry.h"

extern const Command *const pane_commands[];

#endif
