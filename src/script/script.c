#include "script.h"

#include "mem.h"
#include "sys.h"

#include <lauxlib.h>
#include <lua.h>

#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

/* Takes note of what is wrong in a file; line 0: with the file itself. */
static void problem(Editor *ed, const char *path, unsigned line, const char *what)
{
    const char *home = getenv("HOME");
    size_t n = home ? strlen(home) : 0;
    if (n > 1 && strncmp(path, home, n) == 0 && path[n] == '/')
        bytes_printf(&ed->problems, "~%s", path + n);
    else
        bytes_add_str(&ed->problems, path);
    if (line)
        bytes_printf(&ed->problems, ", line %u", line);
    bytes_printf(&ed->problems, ": %s\n", what);
}

enum { STEPS_MAX = 100000, LINES_MAX = 50, FILE_MAX = 1024 * 1024 };

static const char machine_folder[] = "/etc/steady-quill";

/* What a running line may reach: it is found by its address in the registry. */
typedef struct Reading {
    Editor *ed;
    const char *path;
    bool keys;
    char *error; /* of the present line; "" or a text */
} Reading;

static void too_long(lua_State *L, lua_Debug *info)
{
    (void)info;
    luaL_error(L, "it does not come to an end");
}

static bool value_text(lua_State *L, int index, char *out, size_t cap)
{
    int isnum;
    lua_Integer n;
    switch (lua_type(L, index)) {
    case LUA_TBOOLEAN:
        snprintf(out, cap, "%s", lua_toboolean(L, index) ? "true" : "false");
        return true;
    case LUA_TNUMBER:
        n = lua_tointegerx(L, index, &isnum);
        if (isnum)
            snprintf(out, cap, "%lld", (long long)n);
        return isnum;
    case LUA_TSTRING:
        snprintf(out, cap, "%s", lua_tostring(L, index));
        return true;
    default:
        return false;
    }
}

/* Called for "name = value" and, on the table `key`, for key["…"] = value. */
static int assigned(lua_State *L)
{
    Reading *r = lua_touserdata(L, lua_upvalueindex(1));
    bool on_keys = lua_toboolean(L, lua_upvalueindex(2));
    char value[512];
    Err e = {""};
    if (lua_type(L, 2) != LUA_TSTRING)
        return luaL_error(L, "a name is expected");
    const char *name = lua_tostring(L, 2);
    if (!value_text(L, 3, value, sizeof value))
        return luaL_error(L, "%s: a text, a whole number, true or false is expected", name);
    bool ok;
    if (on_keys && lua_type(L, 3) == LUA_TBOOLEAN && !lua_toboolean(L, 3))
        ok = keys_set(r->ed, name, NULL, &e);
    else if (on_keys)
        ok = keys_set(r->ed, name, value, &e);
    else if (r->keys)
        ok = err_set(&e, "lines here look like key[\"F5\"] = \"command\"");
    else
        ok = settings_set(r->ed, name, value, r->path, &e);
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
    if (!on_keys) { /* reading the global `key` gives the table for keys */
        lua_newtable(L);
        push_reporter(L, r, true);
        lua_setfield(L, -2, "key");
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
        lua_sethook(L, too_long, LUA_MASKCOUNT, STEPS_MAX);
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
            problem(r->ed, r->path, number, r->error);
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

/* May this file tell us what to do? As root, only root's own files may. */
static bool trusted(const char *path)
{
    struct stat st;
    if (stat(path, &st) != 0 || !S_ISREG(st.st_mode))
        return false;
    return geteuid() != 0 || (st.st_uid == 0 && (st.st_mode & (S_IWGRP | S_IWOTH)) == 0);
}

static void load_file(Editor *ed, const char *path, bool keys)
{
    if (access(path, F_OK) != 0)
        return;
    if (!trusted(path)) {
        problem(ed, path, 0, "not read: for root, only files that root alone may write count");
        return;
    }
    FILE *f = fopen(path, "rb");
    if (!f) {
        problem(ed, path, 0, err_os(errno));
        return;
    }
    char *bytes = mem_get(FILE_MAX);
    size_t n = fread(bytes, 1, FILE_MAX, f);
    fclose(f);
    lua_State *L = luaL_newstate();
    Reading r = {.ed = ed, .path = path, .keys = keys};
    if (L) {
        run_lines(L, &r, bytes, n);
        lua_close(L);
    }
    free(r.error);
    free(bytes);
}

static void load_both(Editor *ed, const char *folder)
{
    Bytes path = {0};
    bytes_printf(&path, "%s/settings.lua", folder);
    load_file(ed, path.at, false);
    bytes_clear(&path);
    bytes_printf(&path, "%s/keys.lua", folder);
    load_file(ed, path.at, true);
    bytes_free(&path);
}

void script_load_settings(Editor *ed)
{
    char *own = sys_own_folder("CONFIG");
    load_both(ed, machine_folder);
    if (own)
        load_both(ed, own);
    free(own);
    size_t n = 0;
    for (const char *p = bytes_str(&ed->problems); *p; p++)
        n += *p == '\n';
    if (n)
        warn(ed, "%.*s%s", (int)strcspn(ed->problems.at, "\n"), ed->problems.at,
             n > 1 ? " (there is more: help settings)" : "");
}
