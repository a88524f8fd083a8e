/* All commands, and the menus in which they stand. */
#ifndef MENUS_H
#define MENUS_H

#include "config/registry.h"

void menus_register(Registry *r);

#endif
