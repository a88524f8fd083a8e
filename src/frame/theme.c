#include "frame/theme.h"

#include "base/array.h"
#include "base/data.h"
#include "base/mem.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct {
    Theme **all;
    size_t n;
    Bytes names;
    bool loaded;
} list;

static const char *const look_names[ST_COUNT] = {
    [ST_TEXT] = "text",
    [ST_BAR] = "bar",
    [ST_BAR_KEY] = "bar_key",
    [ST_BAR_NOW] = "bar_now",
    [ST_STATE] = "state",
    [ST_GUTTER] = "gutter",
    [ST_GUTTER_NOW] = "gutter_now",
    [ST_CHANGED] = "changed",
    [ST_ESCAPE] = "escape",
    [ST_MARK] = "mark",
    [ST_CURSOR] = "cursor",
    [ST_MATCH] = "match",
    [ST_MATCH_NOW] = "match_now",
    [ST_STATUS] = "status",
    [ST_STATUS_OTHER] = "status_other",
    [ST_MESSAGE] = "message",
    [ST_WARNING] = "warning",
    [ST_PROMPT] = "prompt",
    [ST_HINT] = "hint",
    [ST_HINT_KEY] = "hint_key",
    [ST_BOX] = "box",
    [ST_BOX_KEY] = "box_key",
    [ST_BOX_NOW] = "box_now",
    [ST_BOX_DIM] = "box_dim",
    [ST_BOX_TITLE] = "box_title",
    [ST_OLD] = "old",
    [ST_OLD_PART] = "old_part",
    [ST_NEW] = "new",
    [ST_NEW_PART] = "new_part",
    [ST_COMMENT] = "comment",
    [ST_QUOTED] = "quoted",
    [ST_NUMBER] = "number",
    [ST_KEYWORD] = "keyword",
    [ST_NAME] = "name",
    [ST_VALUE] = "value",
    [ST_SECTION] = "section",
    [ST_SIGN] = "sign",
    [ST_VARIABLE] = "variable",
    [ST_COMMAND] = "command",
    [ST_ADDED] = "added",
    [ST_REMOVED] = "removed",
    [ST_WRONG] = "wrong",
    [ST_DOUBTFUL] = "doubtful",
    [ST_PARTNER] = "partner",
};

/* ---- reading ---- */

static bool read_colour(const PlainReport *r, const PlainValue *v, short *to)
{
    static const char *const names[] = {"black", "red",     "green", "yellow",
                                        "blue",  "magenta", "cyan",  "white"};
    if (v->type == PLAIN_NUMBER && v->number >= 0 && v->number <= 255 && v->number == (int)v->number) {
        *to = (short)v->number;
        return true;
    }
    const char *name = v->type == PLAIN_TEXT ? v->text : "";
    bool bright = strncmp(name, "bright ", 7) == 0;
    if (strcmp(name, "none") == 0) {
        *to = COLOUR_NONE;
        return true;
    }
    for (short i = 0; i < 8; i++)
        if (strcmp(name + (bright ? 7 : 0), names[i]) == 0) {
            *to = (short)(i + (bright ? 8 : 0));
            return true;
        }
    return plain_wrong(
        r, v->line,
        "%s: a number from 0 to 255, none, or black, red, green, yellow, blue, magenta, cyan, white, each "
        "also bright, is expected",
        v->key);
}

static bool read_attr(const PlainReport *r, const PlainValue *v, Look *look)
{
    static const struct {
        const char *name;
        unsigned attr;
    } attrs[] = {
        {"bold", ATTR_BOLD}, {"underlined", ATTR_UNDERLINE}, {"reversed", ATTR_REVERSE}, {"dim", ATTR_DIM}};
    for (size_t i = 0; i < sizeof attrs / sizeof *attrs; i++)
        if (strcmp(v->key, attrs[i].name) == 0) {
            if (v->type != PLAIN_TRUTH)
                return plain_wrong(r, v->line, "%s: true or false is expected", v->key);
            look->attrs |= v->number != 0 ? attrs[i].attr : 0;
            return true;
        }
    return plain_wrong(
        r, v->line,
        "“%s” means nothing in a look: colour, ground, bold, underlined, reversed or dim is expected",
        v->key);
}

/* What it does not say is as in `text`. */
static Look read_look(const PlainReport *r, const PlainValue *v, const Look *text)
{
    Look look = {text->fg, text->bg, 0};
    if (v->type != PLAIN_TABLE) {
        plain_wrong(r, v->line, "%s: a look such as { colour = \"red\", bold = true } is expected", v->key);
        return look;
    }
    for (const PlainValue *i = v->first; i; i = i->next) {
        if (!i->key)
            plain_wrong(r, i->line, "%s: a look such as { colour = \"red\", bold = true } is expected",
                        v->key);
        else if (strcmp(i->key, "colour") == 0)
            read_colour(r, i, &look.fg);
        else if (strcmp(i->key, "ground") == 0)
            read_colour(r, i, &look.bg);
        else
            read_attr(r, i, &look);
    }
    return look;
}

static const char *text_of(const PlainReport *r, const PlainValue *all, const char *name)
{
    const PlainValue *v = plain_data_find(all, name);
    if (v && (v->type != PLAIN_TEXT || !v->text[0])) {
        plain_wrong(r, v->line, "%s: a text in quotes is expected", name);
        return NULL;
    }
    return v ? v->text : NULL;
}

static void read_looks(const PlainReport *r, const PlainValue *looks, Look to[ST_COUNT])
{
    const PlainValue *text = plain_data_find(looks, "text");
    if (text)
        to[ST_TEXT] = read_look(r, text, &(Look){COLOUR_NONE, COLOUR_NONE, 0});
    for (const PlainValue *v = looks->first; v; v = v->next) {
        int i = 0;
        while (i < ST_COUNT && !(v->key && strcmp(look_names[i], v->key) == 0))
            i++;
        if (i == ST_COUNT)
            plain_wrong(r, v->line, "there is no look of the name “%s”", v->key ? v->key : "");
        else if (i != ST_TEXT)
            to[i] = read_look(r, v, &to[ST_TEXT]);
    }
}

static void free_theme(Theme *t)
{
    free((char *)t->name);
    free((char *)t->about);
    free(t);
}

/* What a theme that builds on no other has at first: attributes only, so that everything can be told apart.
 */
static void begin_looks(const PlainReport *r, const PlainValue *all, Theme *t)
{
    const char *like = text_of(r, all, "like");
    const char *name = text_of(r, all, "name");
    bool first = name && strcmp(name, "mono") == 0;
    const Theme *base = like ? theme_named(like) : first ? NULL : theme_named("mono");
    if (like && !base)
        plain_wrong(r, plain_data_find(all, "like")->line, "like: there is no theme “%s” before this one",
                    like);
    for (int i = 0; i < ST_COUNT; i++)
        t->looks[i] = base ? base->looks[i] : (Look){COLOUR_NONE, COLOUR_NONE, 0};
}

static Theme *read_theme(const char *bytes, size_t n, const PlainReport *r)
{
    Err e;
    unsigned line;
    PlainData *data = plain_data_read(bytes, n, NULL, &e, &line);
    if (!data) {
        plain_wrong(r, line, "%s", e.text);
        return NULL;
    }
    const PlainValue *all = plain_data_all(data), *looks = plain_data_find(all, "looks");
    const PlainValue *on_white = plain_data_find(all, "on_white");
    const char *name = text_of(r, all, "name"), *about = text_of(r, all, "about");
    for (const PlainValue *v = all->first; v; v = v->next)
        if (strcmp(v->key, "name") != 0 && strcmp(v->key, "about") != 0 && strcmp(v->key, "like") != 0 &&
            v != looks && v != on_white)
            plain_wrong(r, v->line,
                        "“%s” means nothing in a theme: name, about, like, looks or on_white is expected",
                        v->key);
    Theme *t = mem_get(sizeof *t);
    t->read = true;
    begin_looks(r, all, t);
    if (looks && looks->type == PLAIN_TABLE)
        read_looks(r, looks, t->looks);
    else
        plain_wrong(r, looks ? looks->line : 1, "looks = { … } is expected");
    memcpy(t->on_white, t->looks, sizeof t->looks);
    const Theme *light = on_white && on_white->type == PLAIN_TEXT ? theme_named(on_white->text) : NULL;
    t->follows = light != NULL;
    if (light)
        memcpy(t->on_white, light->looks, sizeof t->on_white);
    else if (on_white && on_white->type == PLAIN_TABLE)
        read_looks(r, on_white, t->on_white);
    else if (on_white)
        plain_wrong(r, on_white->line,
                    "on_white: looks in { }, or the name of a theme before this one, are expected");
    if (name && strpbrk(name, "|\"\\ "))
        plain_wrong(r, plain_data_find(all, "name")->line, "name: one word is expected"), name = NULL;
    else if (!name)
        plain_wrong(r, 1, "a line such as name = \"harbour\" is expected");
    t->name = name ? mem_string(name) : NULL;
    t->about = about ? mem_string(about) : NULL;
    plain_data_free(data);
    if (t->name)
        return t;
    free_theme(t);
    return NULL;
}

/* ---- the list ---- */

static void add(Theme *t)
{
    bytes_clear(&list.names);
    for (size_t i = 0; i < list.n; i++)
        if (strcmp(list.all[i]->name, t->name) == 0) { /* those who show it keep it */
            Theme old = *list.all[i];
            *list.all[i] = *t;
            *t = old;
            free_theme(t);
            return;
        }
    list.all = array_room(list.all, list.n, sizeof *list.all);
    list.all[list.n++] = t;
}

/* The program's own are listed by their names; they are read when they are looked at. */
static void load_own(void)
{
    static const char *const order[] = {"auto", "terminal", "dark", "light", "contrast", "distinct", "mono"};
    if (list.loaded)
        return;
    list.loaded = true;
    for (size_t i = 0; i < sizeof order / sizeof *order; i++) {
        Theme *t = mem_get(sizeof *t);
        t->name = mem_string(order[i]);
        add(t);
    }
}

static const Theme *looked_at(Theme *t)
{
    const PlainReport quiet = {0};
    if (t->read)
        return t;
    char path[100];
    snprintf(path, sizeof path, "themes/%s.lua", t->name);
    const DataFile *d = data_find(path);
    Theme *read = read_theme(d->bytes, d->len, &quiet), unread = *t;
    *t = *read;
    *read = unread;
    free_theme(read);
    return t;
}

bool theme_add(const char *bytes, size_t n, PlainProblem problem, void *ctx)
{
    const PlainReport r = {problem, ctx};
    load_own();
    Theme *t = read_theme(bytes, n, &r);
    if (t)
        add(t);
    return t != NULL;
}

const Theme *theme_named(const char *name)
{
    load_own();
    for (size_t i = 0; i < list.n; i++)
        if (strcmp(list.all[i]->name, name) == 0)
            return looked_at(list.all[i]);
    return NULL;
}

const Theme *theme_number(size_t i)
{
    load_own();
    return i < list.n ? looked_at(list.all[i]) : NULL;
}

const char *theme_names(void)
{
    load_own();
    if (!list.names.len)
        for (size_t i = 0; i < list.n; i++)
            bytes_printf(&list.names, "%s%s", i ? "|" : "", list.all[i]->name);
    return bytes_str(&list.names);
}

void themes_end(void)
{
    for (size_t i = 0; i < list.n; i++)
        free_theme(list.all[i]);
    free(list.all);
    bytes_free(&list.names);
    memset(&list, 0, sizeof list);
}
