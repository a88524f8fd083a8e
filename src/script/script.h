/* The Lua side: settings and keys as plain data. */
#ifndef SCRIPT_H
#define SCRIPT_H
#include "app/editor.h"

/* Reads settings.lua and keys.lua, those of the machine first, then the person's. A wrong line
 * is left out and noted in Editor.problems, of which the first is told; the others count. */
void script_load_settings(Editor *ed);
#endif
