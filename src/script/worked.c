#include "script/worked.h"

#include <stddef.h>

static void (*counts)(lua_State *L, long n);

void worked_count_by(void (*count)(lua_State *L, long n))
{
    counts = count;
}

void worked(lua_State *L, long n)
{
    if (counts)
        counts(L, n);
}
