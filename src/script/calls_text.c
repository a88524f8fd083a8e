#include "script/calls.h"

#include "commands/edits.h"
#include "edit/cells.h"
#include "edit/move.h"
#include "script/places.h"
#include "text/text_line.h"

#include <lauxlib.h>
#include <string.h>

/* ---- the text and its lines ---- */

static int call_text(lua_State *L)
{
    Text t = doc_text(call_file(L)->doc);
    return call_push_text(L, t, 0, text_len(t));
}

static int call_replace_text(lua_State *L)
{
    size_t n;
    const char *bytes = luaL_checklstring(L, 1, &n);
    OpenFile *f = call_file_to_change(L);
    Bytes *out = engine_scratch(engine_of(L));
    Text to = {0};
    edit_own_ends(f, bytes, n, out);
    bool ok = text_insert(&to, 0, bytes_str(out), out->len) && doc_set_text(f->doc, to, 0);
    text_drop(&to);
    return ok ? 0 : luaL_error(L, "there is not enough memory");
}

static int call_lines_of_text(lua_State *L)
{
    lua_pushinteger(L, (lua_Integer)call_lines(doc_text(call_file(L)->doc)));
    return 1;
}

static int call_line_of_text(lua_State *L)
{
    Text t = doc_text(call_file(L)->doc);
    size_t next, line = call_line(L, 1, t, false);
    return call_push_text(L, t, text_line_start(t, line), move_end_of_line(t, line, &next));
}

static int call_replace_line(lua_State *L)
{
    OpenFile *f = call_file_to_change(L);
    Text t = doc_text(f->doc);
    size_t next, line = call_line(L, 2, t, false), from = text_line_start(t, line);
    call_replace(L, f, from, move_end_of_line(t, line, &next) - from, 1);
    return 0;
}

static int call_insert(lua_State *L)
{
    OpenFile *f = call_file_to_change(L);
    View *v = call_view(L);
    size_t before = text_len(doc_text(f->doc)), at = v->cursor.at;
    call_replace(L, f, at, 0, 1);
    view_go(v, at + text_len(doc_text(f->doc)) - before);
    return 0;
}

static int call_insert_line(lua_State *L)
{
    OpenFile *f = call_file_to_change(L);
    Text t = doc_text(f->doc);
    size_t line = call_line(L, 2, t, true), at = text_line_start(t, line), len = text_len(t);
    bool open_end = at == len && len && text_byte(t, len - 1) != '\n';
    luaL_checkstring(L, 1);
    lua_pushstring(L, open_end ? "\n" : "");
    lua_pushvalue(L, 1);
    lua_pushstring(L, open_end ? "" : "\n"); /* a last line without an end has none after it either */
    lua_concat(L, 3);
    call_replace(L, f, at, 0, lua_gettop(L));
    return 0;
}

static int call_delete_lines(lua_State *L)
{
    OpenFile *f = call_file_to_change(L);
    Text t = doc_text(f->doc);
    size_t first = call_line(L, 1, t, false),
           last = lua_isnoneornil(L, 2) ? first : call_line(L, 2, t, false);
    if (last < first)
        return luaL_error(L, "the last line comes before the first");
    size_t from = text_line_start(t, first), to = text_line_start(t, last + 1), len = text_len(t);
    if (to == len && from && text_byte(t, len - 1) != '\n') /* the line before is the last one then */
        from = move_line_end(t, text_line_start(t, first - 1));
    lua_pushliteral(L, "");
    call_replace(L, f, from, to - from, lua_gettop(L));
    return 0;
}

const ScriptCall text_calls[] = {
    {{"", "The text", NULL}, NULL},
    {{"text", "text()", "The whole text"}, call_text},
    {{"replace_text", "replace_text(NEW)", "Puts another text in its place; what is the same stays"},
     call_replace_text},
    {{"lines", "lines()", "How many lines there are"}, call_lines_of_text},
    {{"line", "line(NUMBER)", "A line without its end; without a number that of the cursor"},
     call_line_of_text},
    {{"replace_line", "replace_line(NEW, NUMBER)", "Puts another in its place"}, call_replace_line},
    {{"insert_line", "insert_line(NEW, NUMBER)",
      "Puts a new line before that one; one after the last is fine"},
     call_insert_line},
    {{"delete_lines", "delete_lines(FIRST, LAST)", "Takes lines away; without the second one only that"},
     call_delete_lines},
    {{"insert", "insert(WORDS)", "Puts them at the cursor, which stands after them then"}, call_insert},
    {{NULL, NULL, NULL}, NULL},
};

/* ---- cursor, mark, finding ---- */

static int nothing(lua_State *L)
{
    lua_pushnil(L);
    return 1;
}

static int call_cursor(lua_State *L)
{
    const View *v = call_view(L);
    return call_push_place(L, view_text(v), v->cursor.at);
}

static int call_go(lua_State *L)
{
    View *v = call_view(L);
    view_drop_mark(v);
    view_go(v, call_place(L, 1, view_text(v)));
    return 0;
}

static int call_marked(lua_State *L)
{
    const View *v = call_view(L);
    size_t from, to;
    if (!view_marked(v, &from, &to))
        return nothing(L);
    return call_push_text(L, view_text(v), from, to);
}

static int call_marked_lines(lua_State *L)
{
    const View *v = call_view(L);
    Text t = view_text(v);
    size_t from, to;
    if (!view_marked(v, &from, &to))
        return nothing(L);
    to -= to > from && to == move_line_start(t, to); /* a line of which nothing is marked does not count */
    lua_pushinteger(L, (lua_Integer)text_line_of(t, from) + 1);
    lua_pushinteger(L, (lua_Integer)text_line_of(t, to) + 1);
    return 2;
}

static int call_replace_marked(lua_State *L)
{
    OpenFile *f = call_file_to_change(L);
    View *v = call_view(L);
    size_t from, to, before = text_len(doc_text(f->doc));
    if (v->columns || !view_marked(v, &from, &to))
        return luaL_error(L, v->columns ? "columns are marked, which cannot be replaced so"
                                        : "nothing is marked");
    luaL_checkstring(L, 1);
    view_drop_mark(v);
    call_replace(L, f, from, to - from, 1);
    view_go(v, to + text_len(doc_text(f->doc)) - before);
    return 0;
}

static int call_mark(lua_State *L)
{
    View *v = call_view(L);
    Text t = view_text(v);
    if (lua_isnoneornil(L, 1)) {
        view_drop_mark(v);
        return 0;
    }
    size_t from = call_place(L, 1, t), to = call_place(L, 3, t);
    view_drop_mark(v);
    v->mark.at = from;
    v->marking = MARK_KEY;
    view_go(v, to);
    return 0;
}

static int call_word(lua_State *L)
{
    const View *v = call_view(L);
    size_t from, to;
    if (!move_word_at(view_text(v), v->cursor.at, &from, &to))
        return nothing(L);
    return call_push_text(L, view_text(v), from, to);
}

static bool option(lua_State *L, int arg, const char *name)
{
    bool on = lua_istable(L, arg) && lua_getfield(L, arg, name) != LUA_TNIL && lua_toboolean(L, -1);
    if (lua_istable(L, arg))
        lua_pop(L, 1);
    return on;
}

/* The finder for argument 1, by the options in the table at `arg`. */
static Finder *finder_for(lua_State *L, int arg, Text t)
{
    static const char *const letters[] = {"auto", "exact", "any", NULL};
    Err e = {""};
    FindWhat w = {.letters = CASE_EXACT};
    w.what = luaL_checklstring(L, 1, &w.len);
    if (!lua_isnoneornil(L, arg))
        luaL_checktype(L, arg, LUA_TTABLE);
    w.expression = option(L, arg, "expression");
    w.words = option(L, arg, "words");
    if (lua_istable(L, arg) && lua_getfield(L, arg, "letters") != LUA_TNIL)
        w.letters = (FindCase)luaL_checkoption(L, -1, NULL, letters);
    if (w.len == 0)
        luaL_error(L, "nothing to look for is given");
    Finder *f = engine_finder(engine_of(L), &w, &e);
    if (!f)
        luaL_error(L, "%s", e.text);
    finder_text(f, t);
    return f;
}

static int call_find(lua_State *L)
{
    Text t = doc_text(call_file(L)->doc);
    size_t from;
    Match m;
    if (lua_istable(L, 2) && lua_getfield(L, 2, "line") != LUA_TNIL) {
        lua_getfield(L, 2, "column");
        from = call_place(L, lua_gettop(L) - 1, t);
    } else {
        from = call_view(L)->cursor.at;
    }
    Finder *f = finder_for(L, 2, t);
    Found found = finder_next(f, from, text_len(t), &m);
    if (found == FOUND_TOO_HARD)
        return luaL_error(L, "this expression takes too long here");
    if (found == FOUND_NONE)
        return nothing(L);
    call_push_place(L, t, m.from);
    call_push_text(L, t, m.from, m.to);
    return 3;
}

/* The bytes in which it is replaced: those of the options' lines, or all. */
static void range(lua_State *L, int arg, Text t, size_t *from, size_t *to)
{
    *from = 0;
    *to = text_len(t);
    if (!lua_istable(L, arg))
        return;
    if (lua_getfield(L, arg, "first") != LUA_TNIL)
        *from = text_line_start(t, call_line(L, lua_gettop(L), t, false));
    if (lua_getfield(L, arg, "last") != LUA_TNIL)
        *to = move_line_end(t, text_line_start(t, call_line(L, lua_gettop(L), t, false)));
    *to = *to < *from ? *from : *to;
}

static int call_replace_all(lua_State *L)
{
    OpenFile *f = call_file_to_change(L);
    Script *s = engine_of(L);
    Text t = doc_text(f->doc), all;
    Replacement by = {.with = luaL_checklstring(L, 2, &by.len)};
    Err e = {""};
    size_t from, to, count, lines;
    range(L, 3, t, &from, &to);
    Finder *finder = finder_for(L, 3, t);
    if (!finder_accepts(finder, by.with, by.len, &e) ||
        !finder_replace_all(finder, from, to, &by, engine_editor(s)->stop, &all, &count, &lines, &e))
        return luaL_error(L, "%s", e.text);
    bool ok = count == 0 || doc_set_text(f->doc, all, 0);
    text_drop(&all);
    if (!ok)
        return luaL_error(L, "there is not enough memory");
    lua_pushinteger(L, (lua_Integer)count);
    return 1;
}

const ScriptCall place_calls[] = {
    {{"", "The cursor, the mark, finding", NULL}, NULL},
    {{"cursor", "cursor()", "Its line and column"}, call_cursor},
    {{"go", "go(LINE, COLUMN)", "Goes there; without a column to the line's start"}, call_go},
    {{"marked", "marked()", "What is marked, or nil"}, call_marked},
    {{"marked_lines", "marked_lines()", "The first and the last line of it, or nil"}, call_marked_lines},
    {{"replace_marked", "replace_marked(NEW)", "Puts it in the place of what is marked"},
     call_replace_marked},
    {{"mark", "mark(LINE, COLUMN, LINE, COLUMN)",
      "Marks from there to there; without places it drops the mark"},
     call_mark},
    {{"word", "word()", "The word at the cursor, or nil"}, call_word},
    {{"find", "find(WHAT, OPTIONS)",
      "Line, column and words of the next match from the cursor, or from { line = …, column = … }; nil if "
      "there is "
      "none. Options: expression = true, words = true, letters = \"any\" or \"auto\""},
     call_find},
    {{"replace", "replace(WHAT, BY, OPTIONS)",
      "Replaces all of them, or those of { first = LINE, last = LINE }; how many"},
     call_replace_all},
    {{NULL, NULL, NULL}, NULL},
};
