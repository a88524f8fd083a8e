#include "script/sandbox.h"

#include "base/words.h"
#include "script/patterns.h"
#include "script/worked.h"

#include <lauxlib.h>
#include <lualib.h>

#include <stdbool.h>
#include <stdint.h>
#include <string.h>

/* What is left out of Lua's own: what reads files, loads code, or is not counted while it runs. */
static const char *const left_out[] = {"dofile", "loadfile", "load", "collectgarbage", "print", NULL};

/* ---- what the library does without being counted ---- */

enum {
    LIST_MOST = 20000000, /* entries that a call may go through, */
    TEXT_MOST = 1 << 30,  /* and bytes that it may make */
    REP_COUNTED = 64
};

/* A text without characters as often as wanted would take as long as that. */
static int rep(lua_State *L)
{
    size_t len, sep_len;
    const char *text = luaL_checklstring(L, 1, &len), *sep = luaL_optlstring(L, 3, "", &sep_len);
    lua_Integer n = luaL_checkinteger(L, 2);
    luaL_Buffer b;
    if (n <= 0 || len + sep_len == 0) {
        lua_pushliteral(L, "");
        return 1;
    }
    if ((lua_Unsigned)n > TEXT_MOST / (len + sep_len))
        return luaL_error(L, "the text would be too long");
    worked(L, (long)((size_t)n * (len + sep_len) / REP_COUNTED));
    char *to = luaL_buffinitsize(L, &b, (size_t)n * len + (size_t)(n - 1) * sep_len);
    size_t size = (size_t)n * len + (size_t)(n - 1) * sep_len, done = len + sep_len;
    memcpy(to, text, len);
    if (n > 1)
        memcpy(to + len, sep, sep_len);
    for (size_t more; done < size; done += more) { /* what is there, once more */
        more = done < size - done ? done : size - done;
        memcpy(to + done, to, more);
    }
    luaL_pushresultsize(&b, size);
    return 1;
}

static void check_length(lua_State *L, lua_Integer n)
{
    if (n > LIST_MOST)
        luaL_error(L, "a list of more than %d entries", LIST_MOST);
    worked(L, n > 0 ? (long)n : 0);
}

/* The call of the library, which is this one's value, unless the list says that it is too long; a list can
 * say what it likes. */
static int with_length(lua_State *L)
{
    luaL_checkany(L, 1);
    check_length(L, luaL_len(L, 1));
    int n = lua_gettop(L);
    lua_pushvalue(L, lua_upvalueindex(1));
    lua_insert(L, 1);
    lua_call(L, n, LUA_MULTRET);
    return lua_gettop(L);
}

/* The same for those that are given two places, the first one being the argument of that number. */
static int with_places(lua_State *L)
{
    int first = (int)lua_tointeger(L, lua_upvalueindex(2)), n = lua_gettop(L);
    luaL_checkany(L, 1);
    lua_Integer from = luaL_optinteger(L, first, 1);
    lua_Integer to = lua_isnoneornil(L, first + 1) ? luaL_len(L, 1) : luaL_checkinteger(L, first + 1);
    if (to >= from && (from > 0 || to < LUA_MAXINTEGER + from))
        check_length(L, to - from + 1);
    else if (to >= from)
        luaL_error(L, "a list of more than %d entries", LIST_MOST);
    lua_pushvalue(L, lua_upvalueindex(1));
    lua_insert(L, 1);
    lua_call(L, n, LUA_MULTRET);
    return lua_gettop(L);
}

/* In the place of the order that sorting goes by, which is this one's value. */
static int counted_order(lua_State *L)
{
    worked(L, 1);
    if (lua_isnil(L, lua_upvalueindex(1))) {
        lua_pushboolean(L, lua_compare(L, 1, 2, LUA_OPLT));
        return 1;
    }
    lua_settop(L, 2);
    lua_pushvalue(L, lua_upvalueindex(1));
    lua_insert(L, 1);
    lua_call(L, 2, 1);
    return 1;
}

static int sort(lua_State *L)
{
    luaL_checkany(L, 1);
    check_length(L, luaL_len(L, 1));
    if (!lua_isnoneornil(L, 2))
        luaL_checktype(L, 2, LUA_TFUNCTION);
    lua_settop(L, 2);
    lua_pushcclosure(L, counted_order, 1);
    lua_pushvalue(L, lua_upvalueindex(1));
    lua_insert(L, 1);
    lua_call(L, 2, 0);
    return 0;
}

static void wrap(lua_State *L, const char *name, lua_CFunction with, int first)
{
    lua_getfield(L, -1, name);
    lua_pushinteger(L, first);
    lua_pushcclosure(L, with, 2);
    lua_setfield(L, -2, name);
}

static void bound_library(lua_State *L)
{
    lua_getglobal(L, "string");
    patterns_open(L);
    lua_pushcfunction(L, rep);
    lua_setfield(L, -2, "rep");
    lua_pop(L, 1);
    lua_getglobal(L, "table");
    wrap(L, "insert", with_length, 0);
    wrap(L, "remove", with_length, 0);
    wrap(L, "sort", sort, 0);
    wrap(L, "move", with_places, 2);
    wrap(L, "concat", with_places, 3);
    wrap(L, "unpack", with_places, 2);
    lua_pop(L, 1);
}

/* ---- what is left out ---- */

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
    bound_library(L);
    lua_pushcfunction(L, set_metatable);
    lua_setglobal(L, "setmetatable");
}
