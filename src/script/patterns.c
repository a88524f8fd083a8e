#include "script/patterns.h"

#include "script/worked.h"

#include <lauxlib.h>

#include <ctype.h>
#include <stdbool.h>
#include <string.h>

enum { CAPTURES_MOST = 32, DEPTH_MOST = 200, STEPS_AT_ONCE = 20000, COUNTS_FOR = 8 /* instructions */ };
enum { OPEN = -1, POSITION = -2 /* as lengths of a capture */ };

typedef struct Capture {
    const char *at;
    ptrdiff_t len;
} Capture;

typedef struct Matching {
    lua_State *L;
    const char *begin, *end; /* of what is looked through */
    const char *stop;        /* of the pattern */
    Capture captures[CAPTURES_MOST];
    int n, depth;
    int steps; /* since they were counted */
} Matching;

static void count(Matching *m)
{
    if (++m->steps < STEPS_AT_ONCE)
        return;
    m->steps = 0;
    worked(m->L, STEPS_AT_ONCE * COUNTS_FOR);
}

/* ---- single characters ---- */

static bool in_class(unsigned char c, unsigned char name)
{
    bool in;
    switch (tolower(name)) {
    case 'a':
        in = isalpha(c);
        break;
    case 'c':
        in = iscntrl(c);
        break;
    case 'd':
        in = isdigit(c);
        break;
    case 'g':
        in = isgraph(c);
        break;
    case 'l':
        in = islower(c);
        break;
    case 'p':
        in = ispunct(c);
        break;
    case 's':
        in = isspace(c);
        break;
    case 'u':
        in = isupper(c);
        break;
    case 'w':
        in = isalnum(c);
        break;
    case 'x':
        in = isxdigit(c);
        break;
    default:
        return c == name;
    }
    return isupper(name) ? !in : in;
}

/* The end of the single character that begins at p. */
static const char *item_end(const Matching *m, const char *p)
{
    if (*p == '%') {
        if (p + 1 == m->stop)
            luaL_error(m->L, "the pattern ends with '%%'");
        return p + 2;
    }
    if (*p != '[')
        return p + 1;
    const char *q = p + 1;
    q += q < m->stop && *q == '^';
    do { /* a ] that comes first is one of the set */
        if (q >= m->stop)
            luaL_error(m->L, "a [ in the pattern is not closed");
        q += *q == '%' && q + 1 < m->stop ? 2 : 1;
    } while (q >= m->stop || *q != ']');
    return q + 1;
}

/* Is c in the set from [ to before `close`, which is its ]? */
static bool in_set(unsigned char c, const char *p, const char *close)
{
    bool found = true;
    if (*++p == '^') {
        found = false;
        p++;
    }
    for (; p < close; p++) {
        if (*p == '%') {
            if (in_class(c, (unsigned char)*++p))
                return found;
        } else if (p + 2 < close && p[1] == '-') {
            if ((unsigned char)p[0] <= c && c <= (unsigned char)p[2])
                return found;
            p += 2;
        } else if ((unsigned char)*p == c) {
            return found;
        }
    }
    return !found;
}

static bool fits_one(Matching *m, const char *s, const char *p, const char *after)
{
    count(m);
    if (s >= m->end)
        return false;
    unsigned char c = (unsigned char)*s;
    return *p == '.'   ? true
           : *p == '%' ? in_class(c, (unsigned char)p[1])
           : *p == '[' ? in_set(c, p, after - 1)
                       : (unsigned char)*p == c;
}

/* ---- a pattern ---- */

/* The end of what the pattern p matches at s, or NULL. */
static const char *match(Matching *m, const char *s, const char *p);

static const char *match_longest(Matching *m, const char *s, const char *p, const char *after)
{
    ptrdiff_t n = 0;
    while (fits_one(m, s + n, p, after))
        n++;
    for (; n >= 0; n--) {
        const char *end = match(m, s + n, after + 1);
        if (end)
            return end;
    }
    return NULL;
}

static const char *match_shortest(Matching *m, const char *s, const char *p, const char *after)
{
    for (;; s++) {
        const char *end = match(m, s, after + 1);
        if (end)
            return end;
        if (!fits_one(m, s, p, after))
            return NULL;
    }
}

static const char *open_capture(Matching *m, const char *s, const char *p, ptrdiff_t len)
{
    if (m->n >= CAPTURES_MOST)
        luaL_error(m->L, "there are too many captures in the pattern");
    m->captures[m->n++] = (Capture){s, len};
    const char *end = match(m, s, p);
    m->n -= !end;
    return end;
}

static const char *close_capture(Matching *m, const char *s, const char *p)
{
    int i = m->n - 1;
    while (i >= 0 && m->captures[i].len != OPEN)
        i--;
    if (i < 0)
        luaL_error(m->L, "a ) in the pattern closes nothing");
    m->captures[i].len = s - m->captures[i].at;
    const char *end = match(m, s, p);
    if (!end)
        m->captures[i].len = OPEN;
    return end;
}

/* %bxy: up to the y that closes this x. */
static const char *balanced(Matching *m, const char *s, const char *p)
{
    if (p + 1 >= m->stop)
        luaL_error(m->L, "two characters are expected after %%b");
    if (s >= m->end || *s != p[0])
        return NULL;
    for (long open = 1; ++s < m->end;) {
        count(m);
        if (*s == p[1]) {
            if (--open == 0)
                return s + 1;
        } else if (*s == p[0]) {
            open++;
        }
    }
    return NULL;
}

static const char *back_reference(Matching *m, const char *s, unsigned char digit)
{
    int i = digit - '1';
    if (i < 0 || i >= m->n || m->captures[i].len == OPEN)
        luaL_error(m->L, "%%%d in the pattern stands for no capture", i + 1);
    if (m->captures[i].len == POSITION) /* nothing is equal to a place */
        return NULL;
    size_t len = (size_t)m->captures[i].len;
    worked(m->L, (long)(len / 16));
    return (size_t)(m->end - s) >= len && memcmp(m->captures[i].at, s, len) == 0 ? s + len : NULL;
}

/* %f[set]: is s where the set begins? */
static bool at_frontier(Matching *m, const char *s, const char *p, const char *after)
{
    unsigned char before = s == m->begin ? 0 : (unsigned char)s[-1],
                  now = s == m->end ? 0 : (unsigned char)*s;
    count(m);
    return !in_set(before, p, after - 1) && in_set(now, p, after - 1);
}

/* A single character with what may follow it. *p becomes what is to be matched next, or NULL: *s is the
 * result.
 */
static void match_item(Matching *m, const char **s, const char **p)
{
    const char *after = item_end(m, *p);
    char repeat = after < m->stop ? *after : 0;
    if (repeat == '*' || repeat == '+') {
        bool enough = repeat == '*' || fits_one(m, *s, *p, after);
        *s = enough ? match_longest(m, *s + (repeat == '+'), *p, after) : NULL;
        *p = NULL;
    } else if (repeat == '-') {
        *s = match_shortest(m, *s, *p, after);
        *p = NULL;
    } else if (repeat == '?') {
        const char *end = fits_one(m, *s, *p, after) ? match(m, *s + 1, after + 1) : NULL;
        *p = end ? NULL : after + 1;
        *s = end ? end : *s;
    } else if (fits_one(m, *s, *p, after)) {
        (*s)++;
        *p = after;
    } else {
        *s = NULL;
        *p = NULL;
    }
}

/* What begins with % and is no single character. False: it is one. */
static bool match_special(Matching *m, const char **s, const char **p)
{
    char name = *p + 1 < m->stop ? (*p)[1] : 0;
    if (name == 'b') {
        *s = balanced(m, *s, *p + 2);
        *p = *s ? *p + 4 : NULL;
    } else if (name == 'f') {
        const char *set = *p + 2;
        if (set >= m->stop || *set != '[')
            luaL_error(m->L, "a [ is expected after %%f");
        const char *after = item_end(m, set);
        bool at = at_frontier(m, *s, set, after);
        *s = at ? *s : NULL;
        *p = at ? after : NULL;
    } else if (isdigit((unsigned char)name)) {
        *s = back_reference(m, *s, (unsigned char)name);
        *p = *s ? *p + 2 : NULL;
    } else {
        return false;
    }
    return true;
}

static const char *match(Matching *m, const char *s, const char *p)
{
    if (++m->depth > DEPTH_MOST)
        luaL_error(m->L, "the pattern is too complex");
    count(m);
    while (p && p != m->stop) {
        if (*p == '(') {
            bool position = p + 1 < m->stop && p[1] == ')';
            s = open_capture(m, s, p + (position ? 2 : 1), position ? POSITION : OPEN);
            p = NULL;
        } else if (*p == ')') {
            s = close_capture(m, s, p + 1);
            p = NULL;
        } else if (*p == '$' && p + 1 == m->stop) {
            s = s == m->end ? s : NULL;
            p = NULL;
        } else if (*p != '%' || !match_special(m, &s, &p)) {
            match_item(m, &s, &p);
        }
    }
    m->depth--;
    return s;
}

/* ---- results ---- */

static void push_capture(Matching *m, int i, const char *s, const char *end)
{
    if (i >= m->n) {
        if (i != 0)
            luaL_error(m->L, "there is no capture %%%d", i + 1);
        lua_pushlstring(m->L, s, (size_t)(end - s));
        return;
    }
    const Capture *c = &m->captures[i];
    if (c->len == OPEN)
        luaL_error(m->L, "a ( in the pattern is not closed");
    if (c->len == POSITION)
        lua_pushinteger(m->L, (lua_Integer)(c->at - m->begin) + 1);
    else
        lua_pushlstring(m->L, c->at, (size_t)c->len);
}

/* All captures, or all that matched if there are none and `whole`. */
static int push_captures(Matching *m, const char *s, const char *end, bool whole)
{
    int n = m->n == 0 && whole ? 1 : m->n;
    luaL_checkstack(m->L, n, "there are too many captures");
    for (int i = 0; i < n; i++)
        push_capture(m, i, s, end);
    return n;
}

static Matching begin(lua_State *L, const char *s, size_t len, const char *p, size_t p_len)
{
    return (Matching){.L = L, .begin = s, .end = s + len, .stop = p + p_len};
}

static const char *match_at(Matching *m, const char *s, const char *p)
{
    m->n = m->depth = 0;
    return match(m, s, p);
}

/* The place from 0 of argument i, which counts from 1, or from the end when it is negative. */
static size_t place_of(lua_State *L, int i, size_t len)
{
    lua_Integer at = luaL_optinteger(L, i, 1);
    if (at > 0)
        return (lua_Unsigned)at - 1 > len ? len + 1 : (size_t)at - 1;
    return at == 0 || at < -(lua_Integer)len ? 0 : len - (size_t)-at;
}

static bool is_plain(const char *p, size_t len)
{
    for (size_t i = 0; i < len; i++)
        if (p[i] && strchr("^$*+?.([%-", p[i]))
            return false;
    return true;
}

/* The pattern as it is. The time of memmem grows with the sum of both lengths. */
static int find_plain(lua_State *L, const char *s, size_t len, size_t init)
{
    size_t p_len;
    const char *p = lua_tolstring(L, 2, &p_len), *at = memmem(s + init, len - init, p, p_len);
    worked(L, (long)((len - init) / 64));
    if (!at) {
        lua_pushnil(L);
        return 1;
    }
    lua_pushinteger(L, (lua_Integer)(at - s) + 1);
    lua_pushinteger(L, (lua_Integer)(at - s) + (lua_Integer)p_len);
    return 2;
}

static int find(lua_State *L, bool wants_place)
{
    size_t len, p_len;
    const char *s = luaL_checklstring(L, 1, &len), *p = luaL_checklstring(L, 2, &p_len);
    size_t init = place_of(L, 3, len);
    if (init > len) {
        lua_pushnil(L);
        return 1;
    }
    if (wants_place && (lua_toboolean(L, 4) || is_plain(p, p_len)))
        return find_plain(L, s, len, init);
    Matching m = begin(L, s, len, p, p_len);
    bool anchored = p_len && *p == '^';
    for (const char *at = s + init; at <= m.end; at++) {
        const char *end = match_at(&m, at, p + anchored);
        if (end && !wants_place)
            return push_captures(&m, at, end, true);
        if (end) {
            lua_pushinteger(L, (lua_Integer)(at - s) + 1);
            lua_pushinteger(L, (lua_Integer)(end - s));
            return 2 + push_captures(&m, at, end, false);
        }
        if (anchored)
            break;
    }
    lua_pushnil(L);
    return 1;
}

static int call_find(lua_State *L)
{
    return find(L, true);
}

static int call_match(lua_State *L)
{
    return find(L, false);
}

/* Its values: the text, the pattern, where to go on, where the last match ended (-1: there was none). */
static int next_match(lua_State *L)
{
    size_t len, p_len;
    const char *s = lua_tolstring(L, lua_upvalueindex(1), &len),
               *p = lua_tolstring(L, lua_upvalueindex(2), &p_len);
    lua_Integer from = lua_tointeger(L, lua_upvalueindex(3)), last = lua_tointeger(L, lua_upvalueindex(4));
    Matching m = begin(L, s, len, p, p_len);
    for (; from <= (lua_Integer)len; from++) {
        const char *end = match_at(&m, s + from, p);
        if (!end || end - s == last)
            continue;
        lua_pushinteger(L, (lua_Integer)(end - s));
        lua_copy(L, -1, lua_upvalueindex(3));
        lua_replace(L, lua_upvalueindex(4));
        return push_captures(&m, s + from, end, true);
    }
    return 0;
}

static int call_gmatch(lua_State *L)
{
    size_t len;
    luaL_checklstring(L, 1, &len);
    luaL_checkstring(L, 2);
    size_t init = place_of(L, 3, len);
    lua_settop(L, 2);
    lua_pushinteger(L, (lua_Integer)(init > len ? len + 1 : init));
    lua_pushinteger(L, -1);
    lua_pushcclosure(L, next_match, 4);
    return 1;
}

/* ---- replacing ---- */

/* %0 to %9 and %% in a text. */
static void add_text(Matching *m, luaL_Buffer *b, const char *s, const char *end)
{
    size_t len;
    const char *text = lua_tolstring(m->L, 3, &len);
    for (const char *at = text, *stop = text + len; at < stop; at++) {
        if (*at != '%') {
            luaL_addchar(b, *at);
            continue;
        }
        at++;
        if (at < stop && *at == '%') {
            luaL_addchar(b, '%');
        } else if (at < stop && *at == '0') {
            luaL_addlstring(b, s, (size_t)(end - s));
        } else if (at < stop && isdigit((unsigned char)*at)) {
            push_capture(m, *at - '1', s, end);
            luaL_tolstring(m->L, -1, NULL);
            lua_remove(m->L, -2);
            luaL_addvalue(b);
        } else {
            luaL_error(m->L, "a digit or %% is expected after %% in what replaces");
        }
    }
}

/* What a table or a function says, or else what stood there; or a text. */
static void add_replaced(Matching *m, luaL_Buffer *b, const char *s, const char *end)
{
    lua_State *L = m->L;
    int type = lua_type(L, 3);
    if (type != LUA_TTABLE && type != LUA_TFUNCTION) {
        add_text(m, b, s, end);
        return;
    }
    if (type == LUA_TTABLE) {
        push_capture(m, 0, s, end);
        lua_gettable(L, 3);
    } else {
        lua_pushvalue(L, 3);
        lua_call(L, push_captures(m, s, end, true), 1);
    }
    if (!lua_toboolean(L, -1)) {
        lua_pop(L, 1);
        luaL_addlstring(b, s, (size_t)(end - s));
        return;
    }
    if (!lua_isstring(L, -1))
        luaL_error(L, "what replaces is a %s, and a text is expected", luaL_typename(L, -1));
    luaL_addvalue(b);
}

static int call_gsub(lua_State *L)
{
    size_t len, p_len;
    const char *s = luaL_checklstring(L, 1, &len), *p = luaL_checklstring(L, 2, &p_len), *last = NULL;
    int type = lua_type(L, 3);
    lua_Integer most = luaL_optinteger(L, 4, (lua_Integer)len + 1), n = 0;
    luaL_argexpected(
        L, type == LUA_TNUMBER || type == LUA_TSTRING || type == LUA_TFUNCTION || type == LUA_TTABLE, 3,
        "string/function/table");
    bool anchored = p_len && *p == '^';
    luaL_Buffer b;
    luaL_buffinit(L, &b);
    Matching m = begin(L, s, len, p, p_len);
    while (n < most) {
        const char *end = match_at(&m, s, p + anchored);
        if (end && end != last) {
            n++;
            add_replaced(&m, &b, s, end);
            s = last = end;
        } else if (s < m.end) {
            luaL_addchar(&b, *s++);
        } else {
            break;
        }
        if (anchored)
            break;
    }
    luaL_addlstring(&b, s, (size_t)(m.end - s));
    luaL_pushresult(&b);
    lua_pushinteger(L, n);
    return 2;
}

void patterns_open(lua_State *L)
{
    static const luaL_Reg calls[] = {{"find", call_find},
                                     {"match", call_match},
                                     {"gmatch", call_gmatch},
                                     {"gsub", call_gsub},
                                     {NULL, NULL}};
    luaL_setfuncs(L, calls, 0);
}
