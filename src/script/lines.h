/* Files of settings and keys: lines in the syntax of Lua, run one statement at a time, so that a wrong line
 * costs only itself. */
#ifndef LINES_H
#define LINES_H

#include "config/config.h"

/* Reads settings.lua, or with `keys` keys.lua. What is wrong goes to Config.problems. */
void lines_load(Config *c, const char *path, bool keys);

#endif
