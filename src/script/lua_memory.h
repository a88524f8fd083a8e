/* Memory for Lua, with a bound: a wrong line must not take all there is. */
#ifndef LUA_MEMORY_H
#define LUA_MEMORY_H

#include <stddef.h>

typedef struct LuaMemory {
    size_t used, most; /* bytes */
} LuaMemory;

/* A lua_Alloc; ctx is a LuaMemory. */
void *lua_memory(void *ctx, void *old, size_t old_size, size_t size);

#endif
