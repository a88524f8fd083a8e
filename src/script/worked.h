/* What calls of the library do by themselves is counted by the engine that bounds the script. */
#ifndef WORKED_H
#define WORKED_H

#include <lua.h>

/* Who counts, from now on. */
void worked_count_by(void (*count)(lua_State *L, long n));
/* A call did so much, in about the time of an instruction each. Raises an error when the script is to stop,
 * so nothing may be held but what Lua owns. */
void worked(lua_State *L, long n);

#endif
