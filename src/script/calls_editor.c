#include "script/calls.h"

#include "base/mem.h"
#include "commands/asking.h"
#include "commands/tools/playing.h"
#include "script/places.h"
#include "session/session_memory.h"
#include "ui/command.h"

#include <lauxlib.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

/* ---- the open texts ---- */

static int call_path(lua_State *L)
{
    lua_pushstring(L, call_file(L)->path); /* nil without one */
    return 1;
}

static int call_name(lua_State *L)
{
    lua_pushstring(L, openfile_name(call_file(L)));
    return 1;
}

static int call_changed(lua_State *L)
{
    lua_pushboolean(L, openfile_changed(call_file(L)));
    return 1;
}

static int call_kind(lua_State *L)
{
    OpenFile *f = call_file(L);
    if (!lua_isnoneornil(L, 1)) {
        const Kind *k = kind_named(luaL_checkstring(L, 1));
        if (!k)
            return luaL_error(L, "there is no kind of file “%s”", lua_tostring(L, 1));
        session_say_kind(engine_editor(engine_of(L))->session, f, k, false);
    }
    lua_pushstring(L, f->kind->name);
    return 1;
}

static int call_files(lua_State *L)
{
    const Session *s = engine_editor(engine_of(L))->session;
    lua_createtable(L, (int)s->n_files, 0);
    for (size_t i = 0, n = 0; i < s->n_files; i++)
        if (s->files[i]->path) {
            lua_pushstring(L, s->files[i]->path);
            lua_rawseti(L, -2, (lua_Integer)++n);
        }
    return 1;
}

/* After what was called in another file: back to the one before, with what it gave, or with its failure. */
static int in_file_ends(lua_State *L, int status, lua_KContext before)
{
    engine_set_file(engine_of(L), (FileId)before);
    if (status != LUA_OK && status != LUA_YIELD)
        return lua_error(L);
    return lua_gettop(L) - 1;
}

static int call_in_file(lua_State *L)
{
    const char *path = luaL_checkstring(L, 1);
    luaL_checktype(L, 2, LUA_TFUNCTION);
    Script *s = engine_of(L);
    const Session *session = engine_editor(s)->session;
    lua_settop(L, 2);
    for (size_t i = 0; i < session->n_files; i++)
        if (session->files[i]->path && strcmp(session->files[i]->path, path) == 0) {
            FileId before = engine_set_file(s, session->files[i]->id);
            return in_file_ends(L, lua_pcallk(L, 0, LUA_MULTRET, 0, (lua_KContext)before, in_file_ends),
                                (lua_KContext)before);
        }
    return luaL_error(L, "%s is not open; files() lists what is", path);
}

/* ---- settings ---- */

static int call_setting(lua_State *L)
{
    const Editor *ed = engine_editor(engine_of(L));
    const Setting *s = settings_find(luaL_checkstring(L, 1));
    char value[SETTING_TEXT_MAX];
    if (!s)
        return luaL_error(L, "there is no setting “%s”", lua_tostring(L, 1));
    const char *text = settings_value(&ed->config, s, value);
    if (s->type == SETTING_BOOL)
        lua_pushboolean(L, strcmp(text, "true") == 0);
    else if (s->type == SETTING_INT)
        lua_pushinteger(L, strtol(text, NULL, 10));
    else
        lua_pushstring(L, text);
    return 1;
}

static int call_set(lua_State *L)
{
    Editor *ed = engine_editor(engine_of(L));
    Err e = {""};
    const char *name = luaL_checkstring(L, 1);
    const char *value =
        lua_isboolean(L, 2) ? (lua_toboolean(L, 2) ? "true" : "false") : luaL_checkstring(L, 2);
    return settings_set(&ed->config, name, value, "a script", &e) ? 0 : luaL_error(L, "%s", e.text);
}

/* ---- commands, keys, events ---- */

/* A field of the table at 1 that is a text; NULL when it is not there and need not be. */
static const char *field(lua_State *L, const char *name, bool needed)
{
    int type = lua_getfield(L, 1, name);
    if (type == LUA_TNIL && !needed)
        return NULL;
    if (type != LUA_TSTRING)
        luaL_error(L, "%s = \"…\" is expected in a command", name);
    return lua_tostring(L, -1); /* it stays on the stack, and so alive */
}

/* "tide_times" can be called tide-times, and its label is "Tide times" unless it is said. */
static const char *push_label(lua_State *L, const char *name)
{
    luaL_gsub(L, name, "-", " ");
    luaL_Buffer b;
    size_t n;
    const char *words = lua_tolstring(L, -1, &n);
    char *label = luaL_buffinitsize(L, &b, n);
    memcpy(label, words, n);
    if (n && label[0] >= 'a' && label[0] <= 'z')
        label[0] = (char)(label[0] - 'a' + 'A');
    luaL_pushresultsize(&b, n);
    return lua_tostring(L, -1);
}

static int call_command(lua_State *L)
{
    luaL_checktype(L, 1, LUA_TTABLE);
    OwnCommandSpec spec = {.name = field(L, "name", true)};
    Editor *ed = engine_editor(engine_of(L));
    Err e = {""};
    spec.label = field(L, "label", false);
    spec.help = field(L, "help", false);
    spec.route = field(L, "route", false);
    spec.words = field(L, "words", false);
    const char *key = field(L, "key", false);
    spec.label = spec.label ? spec.label : push_label(L, spec.name);
    spec.help = spec.help ? spec.help : "A command of your own, from a script";
    spec.route = spec.route ? spec.route : "";
    if (lua_getfield(L, 1, "run") != LUA_TFUNCTION)
        return luaL_error(L, "run = function () … end is expected in a command");
    engine_add_command(L, &spec);
    if (key && !config_set_key(&ed->config, key, spec.name, &e))
        return luaL_error(L, "%s", e.text);
    return 0;
}

static int call_does(lua_State *L)
{
    Editor *ed = engine_editor(engine_of(L));
    Err e = {""};
    const char *key = luaL_checkstring(L, 1);
    const char *line = lua_isboolean(L, 2) && !lua_toboolean(L, 2) ? NULL : luaL_checkstring(L, 2);
    return config_set_key(&ed->config, key, line, &e) ? 0 : luaL_error(L, "%s", e.text);
}

static int call_when(lua_State *L)
{
    const char *name = luaL_checkstring(L, 1);
    int event = 0;
    while (event < EVENTS && strcmp(engine_event_names[event], name) != 0)
        event++;
    if (event == EVENTS)
        return luaL_error(L, "there is no event “%s”; there are opened, kind found, saving and saved", name);
    luaL_checktype(L, 2, LUA_TFUNCTION);
    lua_settop(L, 2);
    engine_when(L, (Event)event);
    return 0;
}

/* Runs it as in a command line: it must not need a person. */
static int call_do_command(lua_State *L)
{
    const char *line = luaL_checkstring(L, 1);
    Script *s = engine_of(L);
    Editor *ed = engine_editor(s);
    if (!engine_may_command(s))
        return luaL_error(L, "no command can be run here");
    if (call_file(L) != ed->panes.view->file)
        return luaL_error(L, "commands work on the text that is shown, which %s is not",
                          openfile_name(call_file(L)));
    Layer *before = ed->layer;
    size_t depth = playing_depth(ed);
    notices_clear(&ed->notices);
    ed->notices.warning = ed->running.declined = false;
    bool ok = command_run_line(ed, line, 1, false);
    playing_finish(ed, depth);
    asking_look(ed);
    if (ed->layer && ed->layer != before) {
        layers_cancel_all(ed);
        return luaL_error(L, "“%s” asks for something; put it after the name", line);
    }
    if (!ok || ed->notices.warning || ed->running.declined)
        return luaL_error(L, "%s: %s", line, ed->notices.text);
    lua_pushstring(L, ed->notices.text);
    return 1;
}

/* ---- the world ---- */

static int call_now(lua_State *L)
{
    lua_pushinteger(L, (lua_Integer)time(NULL));
    return 1;
}

static int call_date(lua_State *L)
{
    char words[200];
    struct tm tm;
    const char *format = luaL_optstring(L, 1, "%Y-%m-%d");
    time_t when = (time_t)luaL_optinteger(L, 2, (lua_Integer)time(NULL));
    if (!localtime_r(&when, &tm))
        return luaL_error(L, "there is no such time");
    size_t n = strftime(words, sizeof words, format, &tm);
    if (n == 0 && *format)
        return luaL_error(L, "that form of a date is too long");
    lua_pushlstring(L, words, n);
    return 1;
}

static int call_environment(lua_State *L)
{
    lua_pushstring(L, getenv(luaL_checkstring(L, 1)));
    return 1;
}

const ScriptCall editor_calls[] = {
    {{"", "The open texts", NULL}, NULL},
    {{"path", "path()", "The whole name of its file, or nil"}, call_path},
    {{"name", "name()", "The last part of it"}, call_name},
    {{"kind", "kind(NAME)", "Its kind of file; with a name it is of that kind from now on"}, call_kind},
    {{"changed", "changed()", "Has it changes that are not saved?"}, call_changed},
    {{"files", "files()", "A list of the paths of all open files"}, call_files},
    {{"in_file", "in_file(PATH, FUNCTION)", "Calls it so that all calls speak of that open file"},
     call_in_file},
    {{"", "Commands, keys, events", NULL}, NULL},
    {{"command", "command { name = …, run = FUNCTION }",
      "Adds a command. label, help, words (by which it is found), key and route may be there too; it stands "
      "in the "
      "menu Yours or where its route says. The function gets a count, and what stood after the name"},
     call_command},
    {{"does", "does(KEY, LINE)", "Puts a command line on a key or a route, or with false nothing"},
     call_does},
    {{"when", "when(EVENT, FUNCTION)",
      "Calls it with path and kind of a file that was opened, whose kind was found, that is about to be "
      "saved "
      "(refuse stops that), or was saved. EVENT: \"opened\", \"kind found\", \"saving\", \"saved\""},
     call_when},
    {{"do_command", "do_command(LINE)", "Runs any command, such as \"go-line 40\"; gives what it said"},
     call_do_command},
    {{"setting", "setting(NAME)", "What is set"}, call_setting},
    {{"set", "set(NAME, VALUE)", "Sets it for this run"}, call_set},
    {{"", "Time and environment", NULL}, NULL},
    {{"now", "now()", "The time, in seconds since 1970"}, call_now},
    {{"date", "date(FORM, TIME)", "A time as strftime writes it; without one now, without a form 2026-11-27"},
     call_date},
    {{"environment", "environment(NAME)", "A variable of the environment, or nil"}, call_environment},
    {{NULL, NULL, NULL}, NULL},
};
