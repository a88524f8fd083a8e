/* Lua's patterns (Lua 5.4 Reference Manual, 6.4.1) for scripts: find, match, gmatch and gsub as the library
 * has them, but counted while they match, so that a hard pattern can be stopped. */
#ifndef PATTERNS_H
#define PATTERNS_H

#include <lua.h>

/* Puts them in the place of the library's, in the table on the stack. */
void patterns_open(lua_State *L);

#endif
