/* The Lua side: settings and keys as plain data. */
#ifndef SCRIPT_H
#define SCRIPT_H

#include "editor.h"

/* Reads settings.lua and keys.lua, those of the machine first, then the person's. A wrong line
 * is told and left out; the others count. */
void script_load_settings(Editor *ed);
/* Reads one such file; `keys` or settings. Returns how many lines were wrong; the first is told. */
unsigned script_load_file(Editor *ed, const char *path, bool keys);

#endif
