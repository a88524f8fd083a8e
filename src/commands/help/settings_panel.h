/* The panel of settings, and setting one by name. */
#ifndef SETTINGS_PANEL_H
#define SETTINGS_PANEL_H

#include "config/registry.h"

extern const Command *const settings_commands[];

#endif
