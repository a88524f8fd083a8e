/* Which part of Lua's library scripts have: what cannot read or run anything outside, and is counted while it
 * runs. */
#ifndef SANDBOX_H
#define SANDBOX_H

#include <lua.h>

/* Opens it, and of io, os, load and require those named in `more`, with commas between. */
void sandbox_open(lua_State *L, const char *more);

#endif
