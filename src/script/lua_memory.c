#include "script/lua_memory.h"

#include <stdlib.h>

void *lua_memory(void *ctx, void *old, size_t old_size, size_t size)
{
    LuaMemory *m = ctx;
    size_t before = old ? old_size : 0;
    if (size == 0) {
        free(old);
        m->used -= before;
        return NULL;
    }
    if (size > before && m->used + (size - before) > m->most)
        return NULL;
    void *p = realloc(old, size);
    if (p)
        m->used += size - before;
    return p;
}
