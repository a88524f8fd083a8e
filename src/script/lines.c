#include "script/lines.h"

#include "base/mem.h"
#include "script/lua_memory.h"
#include "script/own_data.h"

#include <lauxlib.h>
#include <lua.h>

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    STEPS_MAX = 100000,       /* of a statement, in instructions */
    FILE_STEPS_MAX = 1000000, /* of a whole file */
    LINES_MAX = 50,
    MEMORY_MAX = 16 * 1024 * 1024, /* bytes */
};

static const char reading_key; /* its address names the reading in Lua's registry */

/* What a running line may reach: it is found by its address in the registry. */
typedef struct Reading {
    Config *config;
    const char *path;
    bool keys;
    char *error;           /* of the present line; "" or a text */
    int steps, line_steps; /* that are left for the file, and for the statement */
} Reading;

enum { STEPS_AT_ONCE = 1000 };

/* Called every so many instructions. The reading is found by its address in the registry. */
static void count_steps(lua_State *L, lua_Debug *info)
{
    (void)info;
    lua_rawgetp(L, LUA_REGISTRYINDEX, &reading_key);
    Reading *r = lua_touserdata(L, -1);
    lua_pop(L, 1);
    r->steps -= STEPS_AT_ONCE;
    r->line_steps -= STEPS_AT_ONCE;
    if (r->steps <= 0)
        luaL_error(L, "the file takes too long");
    if (r->line_steps <= 0)
        luaL_error(L, "it does not come to an end");
}

/* A value as text: that of a string itself, or written into `small`. NULL: it is none. */
static const char *value_text(lua_State *L, int index, char *small, size_t cap)
{
    int isnum;
    size_t len;
    lua_Integer n;
    const char *text;
    switch (lua_type(L, index)) {
    case LUA_TBOOLEAN:
        return lua_toboolean(L, index) ? "true" : "false";
    case LUA_TNUMBER:
        n = lua_tointegerx(L, index, &isnum);
        if (isnum)
            snprintf(small, cap, "%lld", (long long)n);
        return isnum ? small : NULL;
    case LUA_TSTRING:
        text = lua_tolstring(L, index, &len);
        return strlen(text) == len ? text : NULL;
    default:
        return NULL;
    }
}

/* Called for "name = value" and, on the table `does`, for does["…"] = value. */
static int assigned(lua_State *L)
{
    Reading *r = lua_touserdata(L, lua_upvalueindex(1));
    bool on_keys = lua_toboolean(L, lua_upvalueindex(2));
    char small[32];
    Err e = {""};
    if (lua_type(L, 2) != LUA_TSTRING)
        return luaL_error(L, "a name is expected");
    const char *name = lua_tostring(L, 2);
    const char *value = value_text(L, 3, small, sizeof small);
    if (!value)
        return luaL_error(L, "%s: a text, a whole number, true or false is expected", name);
    bool ok;
    if (on_keys && lua_type(L, 3) == LUA_TBOOLEAN && !lua_toboolean(L, 3))
        ok = config_set_key(r->config, name, NULL, &e);
    else if (on_keys)
        ok = config_set_key(r->config, name, value, &e);
    else if (r->keys)
        ok = err_set(&e, "lines here look like does[\"F5\"] = \"command\"");
    else
        ok = settings_set(r->config, name, value, r->path, &e);
    return ok ? 0 : luaL_error(L, "%s", e.text);
}

/* Pushes an empty table that reports what is assigned in it. */
static void push_reporter(lua_State *L, Reading *r, bool on_keys)
{
    lua_newtable(L);
    lua_newtable(L);
    lua_pushlightuserdata(L, r);
    lua_pushboolean(L, on_keys);
    lua_pushcclosure(L, assigned, 2);
    lua_setfield(L, -2, "__newindex");
    if (!on_keys) { /* reading the global `does`, or by its former name `key`, gives the table for keys */
        lua_newtable(L);
        push_reporter(L, r, true);
        lua_pushvalue(L, -1);
        lua_setfield(L, -3, "key");
        lua_setfield(L, -2, "does");
        lua_setfield(L, -2, "__index");
    }
    lua_setmetatable(L, -2);
}

static bool incomplete(const char *message)
{
    size_t n = strlen(message);
    return n >= 5 && strcmp(message + n - 5, "<eof>") == 0;
}

/* Runs one statement. 1 done, 0 it goes on in the next line, -1 wrong (the reason in r->error). */
static int run_line(lua_State *L, Reading *r, const char *line, size_t n, bool last)
{
    int result = 1;
    if (luaL_loadbufferx(L, line, n, "=", "t") != LUA_OK) {
        result = !last && incomplete(lua_tostring(L, -1)) ? 0 : -1;
    } else {
        push_reporter(L, r, false);
        lua_setupvalue(L, -2, 1);
        r->line_steps = STEPS_MAX;
        lua_pushlightuserdata(L, r);
        lua_rawsetp(L, LUA_REGISTRYINDEX, &reading_key);
        lua_sethook(L, count_steps, LUA_MASKCOUNT, STEPS_AT_ONCE);
        if (lua_pcall(L, 0, 0, 0) != LUA_OK)
            result = -1;
    }
    if (result < 0) {
        const char *text = lua_tostring(L, -1);
        const char *colon = text && text[0] == ':' ? strstr(text, ": ") : NULL;
        free(r->error);
        r->error = mem_string(colon ? colon + 2 : text ? text : "not understood");
    }
    lua_settop(L, 0);
    return result;
}

static void run_lines(lua_State *L, Reading *r, const char *bytes, size_t n)
{
    unsigned number = 1;
    const char *end = bytes + n;
    for (const char *p = bytes; p < end;) {
        const char *stop = p;
        unsigned lines = 0;
        int done = 0;
        while (done == 0) {
            const char *next = memchr(stop, '\n', (size_t)(end - stop));
            stop = next ? next + 1 : end;
            lines++;
            done = run_line(L, r, p, (size_t)(stop - p), stop == end || lines == LINES_MAX);
        }
        if (done < 0) {
            config_problem(&r->config->problems, r->path, number, r->error);
            if (lines > 1) { /* only the line where it began is lost */
                stop = memchr(p, '\n', (size_t)(end - p));
                stop = stop ? stop + 1 : end;
                lines = 1;
            }
        }
        number += lines;
        p = stop;
    }
}

void lines_load(Config *cfg, const char *path, bool keys)
{
    size_t n;
    LuaMemory memory = {.most = MEMORY_MAX};
    char *bytes = own_data_read(&cfg->problems, path, &n);
    if (!bytes)
        return;
    lua_State *L = lua_newstate(lua_memory, &memory);
    Reading r = {.config = cfg, .path = path, .keys = keys, .steps = FILE_STEPS_MAX};
    if (L) {
        run_lines(L, &r, bytes, n);
        lua_close(L);
    }
    free(r.error);
    free(bytes);
}
