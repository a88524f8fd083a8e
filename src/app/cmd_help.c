/* The Help menu: help pages, the lesson, a command by name, settings, the key tester. */
#include "app/editor.h"
#include "app/keytest.h"
#include "app/lesson.h"
#include "app/menu.h"
#include "app/pages.h"
#include "app/panel.h"
#include "app/tables.h"
#include "base/mem.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* ---- help ---- */

static void run_help(Editor *ed, const Args *args)
{
    size_t from, to;
    const Layer *l = ed->layer;
    const char *page = l && l->kind->help                  ? l->kind->help
                       : view_marked(ed->view, &from, &to) ? "marking"
                                                           : "start";
    page_show(ed, *args->text ? args->text : page);
}

static void run_keys(Editor *ed, const Args *args)
{
    (void)args;
    page_show(ed, "keys");
}

static void run_about(Editor *ed, const Args *args)
{
    (void)args;
    say(ed, "Steady Quill %s, under the MIT licence", SQUILL_VERSION);
}

static void run_menus(Editor *ed, const Args *args)
{
    (void)args;
    menu_open(ed, false);
}

static void run_key_test(Editor *ed, const Args *args)
{
    (void)args;
    keytest_open(ed);
}

/* ---- the lesson ---- */

static const char *no_lesson(const Editor *ed)
{
    return ed->lesson ? NULL : "The lesson is not going on; squill --lesson or “Lesson” begins it";
}

static void run_lesson(Editor *ed, const Args *args)
{
    (void)args;
    lesson_start(ed);
}

static void run_lesson_next(Editor *ed, const Args *args)
{
    (void)args;
    lesson_go(ed, 1);
}

static void run_lesson_back(Editor *ed, const Args *args)
{
    (void)args;
    lesson_go(ed, -1);
}

static void run_lesson_stop(Editor *ed, const Args *args)
{
    (void)args;
    lesson_stop(ed);
}

/* ---- a command by name ---- */

enum { TABLE_STEP = 1000, RECENT_MAX = 8 }; /* a row's id: number of the table * 1000 + entry */

static const Command *command_of(long id)
{
    return &menus[id / TABLE_STEP].commands[id % TABLE_STEP];
}

typedef struct Recent {
    Panel *panel;
    const Editor *ed;
    bool listed[4096];
} Recent;

static void add_command(const Editor *ed, Panel *p, long id)
{
    const Command *c = command_of(id);
    char key[KEY_NAME_MAX], route[ROUTE_MAX], keys[KEY_NAME_MAX + ROUTE_MAX + 4], note[200];
    keymap_key_of(&ed->keys, c, 0, key);
    command_route(c, route);
    snprintf(keys, sizeof keys, "%s%s%s", key, key[0] && route[0] ? "  " : "", route);
    const char *why = command_disabled_reason(ed, c);
    snprintf(note, sizeof note, "%s%s%s", c->args ? c->args : "", c->args ? ": " : "", why ? why : c->help);
    panel_add(p, id, c->name, note, keys);
}

static long id_of(const Command *c)
{
    for (size_t m = 0; m < n_menus; m++)
        if (c >= menus[m].commands && c < menus[m].commands + menus[m].n)
            return (long)m * TABLE_STEP + (c - menus[m].commands);
    return -1;
}

static void add_recent(const char *name, void *ctx)
{
    Recent *r = ctx;
    const Command *c = command_named(name, strlen(name));
    if (c && !r->listed[id_of(c) % 4096]) {
        r->listed[id_of(c) % 4096] = true;
        add_command(r->ed, r->panel, id_of(c));
    }
}

/* What was typed behind a whole name, and what is offered there. */
static void fill_arguments(Editor *ed, Panel *p, const Command *c, const char *typed, const char *args)
{
    Offers o = {0};
    Bytes row = {0};
    if (c->offer)
        c->offer(ed, args, &o);
    if (*args || o.n == 0)
        panel_exact(p, id_of(c), typed, c->args ? c->help : "Takes nothing behind its name");
    for (size_t i = 0; i < o.n; i++) {
        bytes_clear(&row);
        bytes_printf(&row, "%s %.*s%s", c->name, (int)o.from, args, o.items[i]);
        if (strcmp(row.at, typed) != 0)
            panel_exact(p, id_of(c), row.at, c->help);
    }
    offers_free(&o);
    bytes_free(&row);
}

/* The last ones used stand on top, then the table in its order. Behind a whole name its
 * arguments may be typed. */
static void fill_commands(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)ctx;
    size_t n = strcspn(filter, " ");
    const Command *exact = filter[n] ? command_named(filter, n) : NULL;
    if (exact) {
        fill_arguments(ed, p, exact, filter, filter + n + strspn(filter + n, " "));
        return;
    }
    Recent r = {.panel = p, .ed = ed};
    if (session_store(ed->session))
        store_each(session_store(ed->session), "command", RECENT_MAX, add_recent, &r);
    for (size_t m = 0; m < n_menus; m++)
        for (size_t i = 0; i < menus[m].n; i++) {
            long id = (long)m * TABLE_STEP + (long)i;
            if (!r.listed[id % 4096])
                add_command(ed, p, id);
        }
}

static void command_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)ctx;
    if (id < 0)
        return;
    const Command *c = command_of(id);
    size_t n = strlen(c->name);
    const char *args =
        strncmp(typed, c->name, n) == 0 && typed[n] == ' ' ? typed + n + strspn(typed + n, " ") : "";
    if (session_store(ed->session))
        store_add(session_store(ed->session), "command", c->name);
    command_run(ed, c, 1, false, args);
}

static void run_pick(Editor *ed, const Args *args)
{
    (void)args;
    PanelSpec p = {
        .title = "Command",
        .fill = fill_commands,
        .chosen = command_chosen,
        .empty = "No command has these letters in this order",
        .takes_row = true,
    };
    panel_open(ed, &p);
}

/* ---- settings ---- */

static void fill_settings(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        char row[400];
        snprintf(row, sizeof row, "%s = %s", s->name, settings_value(ed, s));
        panel_add(p, (long)i, row, s->help, settings_source(ed, s));
    }
}

static void set_value(Editor *ed, const char *value, void *ctx)
{
    const Setting *s = ctx;
    Err e = {""};
    if (!settings_set(ed, s->name, value, NULL, &e))
        warn(ed, "%s", e.text);
    panel_refresh(ed);
}

static void setting_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    const Setting *s = &settings_table[id];
    if (settings_flip(ed, s)) {
        panel_refresh(ed);
        return;
    }
    PromptSpec p = {
        .label = s->name,
        .initial = settings_value(ed, s),
        .done = set_value,
        .select = true,
        .ctx = (void *)s,
    };
    prompt_ask(ed, &p);
}

static bool settings_key(Editor *ed, Key k, long id, void *ctx)
{
    (void)id, (void)ctx;
    if (k.code != K_CHAR || k.mods != MOD_CTRL || k.ch != 's')
        return false;
    Err e = {""};
    size_t n = 0;
    if (!settings_keep(ed, &n, &e))
        warn(ed, "%s", e.text);
    else if (n)
        say(ed, "Kept %s for later runs", AMOUNT(n, "setting"));
    else
        say(ed, "Nothing was set in this run that is not kept already");
    panel_refresh(ed);
    return true;
}

static void run_settings(Editor *ed, const Args *args)
{
    (void)args;
    static const Hint hints[] = {{"Ctrl+S", "Keep for later runs", true}, {"", NULL, false}};
    PanelSpec p = {
        .title = "Settings",
        .fill = fill_settings,
        .chosen = setting_chosen,
        .key = settings_key,
        .hints = hints,
        .stays = true,
    };
    panel_open(ed, &p);
}

/* "set NAME VALUE"; without them the panel. */
static void run_set(Editor *ed, const Args *args)
{
    Err e = {""};
    size_t n = strcspn(args->text, " ");
    char *name = mem_string_n(args->text, n);
    const char *value = args->text + n + strspn(args->text + n, " =");
    if (!*name)
        run_settings(ed, args);
    else if (!settings_set(ed, name, value, NULL, &e))
        warn(ed, "%s", e.text);
    else
        say(ed, "%s is now %s, for this run", name, value);
    free(name);
}

/* Names of settings, and behind a name its values. */
static void offer_settings(Editor *ed, const char *args, Offers *out)
{
    (void)ed;
    size_t n = strcspn(args, " ");
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        if (!args[n]) {
            if (strncmp(s->name, args, n) == 0)
                offers_add(out, s->name);
        } else if (strlen(s->name) == n && memcmp(s->name, args, n) == 0) {
            out->from = n + strspn(args + n, " ");
            offer_words(s->type == SETTING_BOOL ? "true|false" : s->choices, args + out->from, out);
        }
    }
}

static void offer_pages(Editor *ed, const char *args, Offers *out)
{
    (void)ed;
    offer_words("start|keys|commands|menus|moving|marking|lines|undo|finding|prompts|panels|files|settings|"
                "own-keys|trouble",
                args, out);
}

const Command help_commands[N_HELP_COMMANDS] = {
    {
        .name = "help",
        .label = "Help",
        .letter = 'h',
        .keys = "F1",
        .help = "Help on what you are doing",
        .args = "PAGE",
        .offer = offer_pages,
        .hint = "Help",
        .run = run_help,
    },
    {
        .name = "lesson",
        .label = "Lesson",
        .letter = 'l',
        .help = "Learn by doing, in ten minutes, on practice copies",
        .run = run_lesson,
    },
    {
        .name = "all-keys",
        .label = "All keys",
        .letter = 'k',
        .help = "One page with all keys and routes",
        .run = run_keys,
    },
    {
        .name = "what-is-this-key",
        .label = "What is this key…",
        .letter = 'w',
        .help = "Press any key: what arrived, and what it does here",
        .run = run_key_test,
    },
    {
        .name = "command",
        .label = "Command by name…",
        .letter = 'c',
        .keys = "Ctrl+P",
        .shell = "F4",
        .help = "Pick any command by its name",
        .run = run_pick,
    },
    {
        .name = "settings",
        .label = "Settings…",
        .letter = 's',
        .help = "Every switch, its value, and where that comes from",
        .run = run_settings,
    },
    {
        .name = "set",
        .label = "Set…",
        .letter = 't',
        .help = "Set a setting by name, for this run",
        .args = "NAME VALUE",
        .offer = offer_settings,
        .run = run_set,
    },
    {
        .name = "menus",
        .label = "Menus",
        .letter = 'm',
        .keys = "F10",
        .help = "Wake the menu bar, as Esc does",
        .run = run_menus,
    },
    {
        .name = "lesson-next",
        .label = "Lesson: next step",
        .letter = 'n',
        .help = "Skip this step of the lesson",
        .disabled_reason = no_lesson,
        .run = run_lesson_next,
    },
    {
        .name = "lesson-back",
        .label = "Lesson: step before",
        .letter = 'b',
        .help = "Back to the step before",
        .disabled_reason = no_lesson,
        .run = run_lesson_back,
    },
    {
        .name = "lesson-stop",
        .label = "Lesson: stop",
        .letter = 'x',
        .help = "End the lesson; the practice texts stay open",
        .disabled_reason = no_lesson,
        .run = run_lesson_stop,
    },
    {
        .name = "about",
        .label = "About",
        .letter = 'a',
        .help = "Name, version and licence",
        .run = run_about,
    },
};
