#include "script/sandbox.h"

#include "base/words.h"

#include <lauxlib.h>
#include <lualib.h>

#include <stdbool.h>
#include <string.h>

/* What is left out of Lua's own: what reads files, loads code, or is not counted while it runs. */
static const char *const left_out[] = {"dofile", "loadfile", "load", "collectgarbage", "print", NULL};

/* A table's finalizer would run uncounted. */
static int set_metatable(lua_State *L)
{
    luaL_checktype(L, 1, LUA_TTABLE);
    if (!lua_isnoneornil(L, 2)) {
        luaL_checktype(L, 2, LUA_TTABLE);
        lua_pushstring(L, "__gc");
        if (lua_rawget(L, 2) != LUA_TNIL)
            return luaL_error(L, "__gc is not possible here");
        lua_pop(L, 1);
    }
    if (luaL_getmetafield(L, 1, "__metatable") != LUA_TNIL)
        return luaL_error(L, "this metatable is protected");
    lua_settop(L, 2);
    lua_setmetatable(L, 1);
    return 1;
}

void sandbox_open(lua_State *L, const char *more)
{
    static const luaL_Reg plain[] = {
        {LUA_GNAME, luaopen_base},       {LUA_TABLIBNAME, luaopen_table}, {LUA_STRLIBNAME, luaopen_string},
        {LUA_MATHLIBNAME, luaopen_math}, {LUA_UTF8LIBNAME, luaopen_utf8},
    };
    for (size_t i = 0; i < sizeof plain / sizeof *plain; i++) {
        luaL_requiref(L, plain[i].name, plain[i].func, 1);
        lua_pop(L, 1);
    }
    for (const char *const *name = left_out; *name; name++)
        if (!(strcmp(*name, "load") == 0 && words_listed(more, "load"))) {
            lua_pushnil(L);
            lua_setglobal(L, *name);
        }
    static const luaL_Reg wished[] = {{LUA_IOLIBNAME, luaopen_io}, {LUA_OSLIBNAME, luaopen_os}};
    for (size_t i = 0; i < sizeof wished / sizeof *wished; i++)
        if (words_listed(more, wished[i].name)) {
            luaL_requiref(L, wished[i].name, wished[i].func, 1);
            lua_pop(L, 1);
        }
    if (words_listed(more, "require")) {
        luaL_requiref(L, LUA_LOADLIBNAME, luaopen_package, 1);
        lua_pop(L, 1);
    }
    lua_getglobal(L, "string"); /* what it makes could only be loaded */
    lua_pushnil(L);
    lua_setfield(L, -2, "dump");
    lua_pop(L, 1);
    lua_pushcfunction(L, set_metatable);
    lua_setglobal(L, "setmetatable");
}
