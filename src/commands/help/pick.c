#include "commands/help/pick.h"

#include "base/mem.h"
#include "commands/help/help.h"
#include "session/session_memory.h"
#include "ui/command.h"
#include "ui/fuzzy.h"
#include "ui/panel.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { RECENT_MAX = 8 };

/* A row's id is the number of its command in the registry. */
static const Command *command_of(const Editor *ed, long id)
{
    return ed->config.registry.commands[id];
}

static long id_of(const Editor *ed, const Command *c)
{
    const Registry *r = &ed->config.registry;
    size_t i = 0;
    while (r->commands[i] != c)
        i++;
    return (long)i;
}

typedef struct Recent {
    Panel *panel;
    const Editor *ed;
    const char *filter;
    bool *listed; /* by id */
} Recent;

/* `line`: its name, and perhaps what was given after it. */
static void add_command(const Editor *ed, Panel *p, long id, const char *line, const char *filter)
{
    const Command *c = command_of(ed, id);
    char key[KEY_NAME_MAX], route[ROUTE_MAX], keys[KEY_NAME_MAX + ROUTE_MAX + 4], note[200];
    keymap_key_of(&ed->config.keys, c, 0, key);
    registry_route(&ed->config.registry, c, route);
    snprintf(keys, sizeof keys, "%s%s%s", key, key[0] && route[0] ? "  " : "", route);
    char busy[TASK_WORDS_MAX];
    const char *why = command_disabled_reason(ed, c, busy);
    snprintf(note, sizeof note, "%s%s%s", c->args ? c->args : "", c->args ? ": " : "", why ? why : c->help);
    FuzzyKnown known = {line, c->label, c->words ? c->words : "", c->help, c->flags & CMD_ENDS};
    panel_add_scored(p, id, line, note, keys, fuzzy_known(filter, &known));
}

static void add_recent(const char *line, void *ctx)
{
    Recent *r = ctx;
    size_t n = strcspn(line, " ");
    const Command *c = registry_find(&r->ed->config.registry, line, n);
    if (!c || (!line[n] && r->listed[id_of(r->ed, c)]))
        return;
    r->listed[id_of(r->ed, c)] |= !line[n];
    add_command(r->ed, r->panel, id_of(r->ed, c), line, r->filter);
}

/* What was typed after a whole name, and what is offered there. */
static void fill_arguments(Editor *ed, Panel *p, const Command *c, const char *typed, const char *args)
{
    Offers o = {0};
    Bytes row = {0};
    if (c->offer)
        c->offer(args, &o);
    char none[80];
    snprintf(none, sizeof none, "“%s” takes no argument", c->name);
    if (*args || o.n == 0)
        panel_exact(p, id_of(ed, c), typed, c->args ? c->help : none);
    for (size_t i = 0; i < o.n; i++) {
        bytes_clear(&row);
        bytes_printf(&row, "%s %.*s%s", c->name, (int)o.from, args, o.items[i]);
        if (strcmp(row.at, typed) != 0)
            panel_exact(p, id_of(ed, c), row.at, c->help);
    }
    offers_free(&o);
    bytes_free(&row);
}

/* The last ones used stand on top, then the table in its order. After a whole name its
 * arguments may be typed. */
static void fill_commands(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    const Registry *reg = &ed->config.registry;
    size_t n = strcspn(filter, " ");
    const Command *exact = filter[n] ? registry_find(reg, filter, n) : NULL;
    if (exact) {
        fill_arguments(ed, p, exact, filter, filter + n + strspn(filter + n, " "));
        return;
    }
    Recent r = {.panel = p, .ed = ed, .filter = filter, .listed = mem_get(reg->n)};
    if (session_store(ed->session))
        store_each(session_store(ed->session), "command", RECENT_MAX, add_recent, &r);
    for (size_t m = 0; m < reg->n_menus; m++)
        for (size_t i = 0; i < reg->menus[m].n; i++) {
            long id = id_of(ed, reg->menus[m].commands[i]);
            if (!r.listed[id])
                add_command(ed, p, id, reg->menus[m].commands[i]->name, filter);
        }
    free(r.listed);
    if (*filter && !ctx && panel_rows(p) == 0)
        panel_exact(p, (long)reg->n, filter, "No command matches. Enter looks for it in the help");
}

static void command_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)ctx;
    if (id < 0)
        return;
    if (id == (long)ed->config.registry.n) {
        if (!help_search(ed, typed))
            say(ed, "No command matches “%s”, and the help does not have it", typed);
        return;
    }
    const Command *c = command_of(ed, id);
    size_t n = strlen(c->name);
    const char *args =
        strncmp(typed, c->name, n) == 0 && typed[n] == ' ' ? typed + n + strspn(typed + n, " ") : "";
    if (session_store(ed->session))
        store_add(session_store(ed->session), "command", *args ? typed : c->name);
    command_run(ed, c, 1, false, args);
}

typedef struct Picking {
    char *title;
    void (*chosen)(Editor *ed, const char *line, void *ctx);
    void *ctx;
    void (*free_ctx)(void *);
} Picking;

static void free_picking(void *ctx)
{
    Picking *p = ctx;
    if (p->free_ctx)
        p->free_ctx(p->ctx);
    free(p->title);
    free(p);
}

static void line_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    const Picking *p = ctx;
    if (id < 0)
        return;
    const char *name = command_of(ed, id)->name;
    size_t n = strlen(name);
    p->chosen(ed, strncmp(typed, name, n) == 0 && typed[n] == ' ' ? typed : name, p->ctx);
}

static void topic(Editor *ed, long id, Bytes *out)
{
    if (id < (long)ed->config.registry.n)
        bytes_printf(out, "commands#%s", command_of(ed, id)->name);
}

void pick_line(Editor *ed, const char *title, void (*chosen)(Editor *ed, const char *line, void *ctx),
               void *ctx, void (*free_ctx)(void *))
{
    Picking *picking = mem_get(sizeof *picking);
    *picking = (Picking){mem_string(title), chosen, ctx, free_ctx};
    PanelSpec p = {
        .title = picking->title,
        .fill = fill_commands,
        .chosen = line_chosen,
        .topic = topic,
        .empty = "No command matches",
        .takes_row = true,
        .ctx = picking,
        .free_ctx = free_picking,
    };
    panel_open(ed, &p);
}

static void run_pick(Editor *ed, const Args *args)
{
    (void)args;
    PanelSpec p = {
        .title = "Command",
        .fill = fill_commands,
        .chosen = command_chosen,
        .topic = topic,
        .empty = "No command matches",
        .takes_row = true,
    };
    panel_open(ed, &p);
}

static const Command cmd_command = {
    .name = "command",
    .label = "Command by name…",
    .letter = 'c',
    .keys = "Ctrl+P",
    .shell = "F4",
    .help = "Pick any command by its name, or by what it does",
    .words = "search run action",
    .run = run_pick,
};

const Command *const pick_commands[] = {
    &cmd_command,
    NULL,
};
