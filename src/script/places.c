#include "script/places.h"

#include "commands/edits.h"
#include "edit/cells.h"
#include "edit/move.h"
#include "session/reading.h"
#include "text/text_line.h"

#include <lauxlib.h>

OpenFile *call_file(lua_State *L)
{
    OpenFile *f = engine_file(engine_of(L));
    if (!f)
        luaL_error(L, "no text is open yet");
    return f;
}

OpenFile *call_file_to_change(lua_State *L)
{
    char why[TASK_WORDS_MAX];
    OpenFile *f = call_file(L);
    if (f->look_only)
        luaL_error(L, "%s is open to look only", openfile_name(f));
    if (reading_unready(f, why))
        luaL_error(L, "%s", why);
    return f;
}

View *call_view(lua_State *L)
{
    View *v = engine_editor(engine_of(L))->panes.view;
    if (v->file != call_file(L))
        luaL_error(L, "%s is not the text that is shown; it has no cursor and no mark",
                   openfile_name(call_file(L)));
    return v;
}

size_t call_lines(Text t)
{
    size_t n = text_line_count(t);
    return n ? n : 1;
}

size_t call_line(lua_State *L, int arg, Text t, bool beyond)
{
    if (lua_isnoneornil(L, arg))
        return text_line_of(t, call_view(L)->cursor.at);
    lua_Integer n = luaL_checkinteger(L, arg);
    size_t last = text_newlines(t) + 1;
    if (n < 1 || (lua_Unsigned)n > last + beyond)
        luaL_error(L, "there is no line %I; the text has %I", (LUAI_UACINT)n, (LUAI_UACINT)call_lines(t));
    return (size_t)n - 1;
}

size_t call_place(lua_State *L, int arg, Text t)
{
    size_t line = call_line(L, arg, t, false);
    lua_Integer column = luaL_optinteger(L, arg + 1, 1);
    if (column < 1)
        luaL_error(L, "columns count from 1");
    return cells_place_of_char(t, line, column > PTRDIFF_MAX ? PTRDIFF_MAX : (size_t)column - 1);
}

int call_push_place(lua_State *L, Text t, size_t at)
{
    lua_pushinteger(L, (lua_Integer)text_line_of(t, at) + 1);
    lua_pushinteger(L, (lua_Integer)cells_chars_before(t, at) + 1);
    return 2;
}

int call_push_text(lua_State *L, Text t, size_t from, size_t to)
{
    luaL_Buffer b;
    char *bytes = luaL_buffinitsize(L, &b, to - from);
    luaL_pushresultsize(&b, text_read(t, from, bytes, to - from));
    return 1;
}

void call_replace(lua_State *L, OpenFile *f, size_t at, size_t removed, int arg)
{
    size_t n;
    const char *bytes = luaL_checklstring(L, arg, &n);
    Script *s = engine_of(L);
    Bytes *out = engine_scratch(s);
    const View *v = engine_editor(s)->panes.view;
    edit_own_ends(f, bytes, n, out);
    if (!doc_replace(f->doc, at, removed, bytes_str(out), out->len, STEP_WHOLE,
                     v->file == f ? v->cursor.at : at))
        luaL_error(L, "there is not enough memory");
}
