#include "printed/printed.h"

#include "config/settings.h"
#include "kinds/kinds.h"

#include <stdio.h>
#include <string.h>

static void print_kinds(const Config *c, Bytes *out)
{
    (void)c;
    for (size_t i = 0; kind_number(i); i++)
        bytes_printf(out, "%s\t%s\n", kind_number(i)->name, kind_number(i)->about);
}

static void print_commands(const Config *c, Bytes *out)
{
    for (size_t i = 0; i < c->registry.n; i++)
        bytes_printf(out, "%s\t%s\n", c->registry.commands[i]->name, c->registry.commands[i]->help);
}

static void print_settings(const Config *c, Bytes *out)
{
    (void)c;
    for (size_t i = 0; i < SETTINGS_COUNT; i++)
        bytes_printf(out, "%s\t%s\n", settings_table[i].name, settings_table[i].help);
}

/* All of them, as remarks with their standards: a file to begin with. */
static void print_sample(const Config *c, Bytes *out)
{
    (void)c;
    bytes_add_str(
        out,
        "-- Settings: " CONFIG_MACHINE_FOLDER
        "/settings.lua for a machine, ~/.config/steady-quill/settings.lua for\n"
        "-- a person. Only lines of this form count, and nothing in them is run. Take the -- away before\n"
        "-- those that shall differ from the standard, which is what stands here.\n");
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        const char *quote = s->type == SETTING_BOOL || s->type == SETTING_INT ? "" : "\"";
        bytes_printf(out, "\n-- %s.\n-- %s = %s%s%s\n", s->help, s->name, quote, s->standard, quote);
    }
}

static const struct {
    const char *name;
    void (*print)(const Config *c, Bytes *out);
} printed_kinds[] = {
    {"squill.1", printed_page},
    {"squill-settings.5", printed_settings},
    {"squill-scripts.5", printed_scripts},
    {"bash", printed_bash},
    {"zsh", printed_zsh},
    {"fish", printed_fish},
    {"settings.lua", print_sample},
    {"kinds", print_kinds},
    {"commands", print_commands},
    {"settings", print_settings},
};

enum { N_ALL = sizeof printed_kinds / sizeof *printed_kinds };

const char *printed_name(size_t i)
{
    return i < N_ALL ? printed_kinds[i].name : i == N_ALL ? "keys" : NULL;
}

/* A table of keys in Markdown, for the commands of these names. */
static bool print_keys(const Config *c, char *const *names, Bytes *out, Err *e)
{
    char key[KEY_NAME_MAX], route[ROUTE_MAX];
    bytes_add_str(out, "| key | does | route |\n|---|---|---|\n");
    for (; *names; names++) {
        const Command *found = registry_find(&c->registry, *names, strlen(*names));
        if (!found)
            return err_set(e, "there is no command “%s”", *names);
        bytes_add_str(out, "| ");
        for (size_t i = 0; *keymap_key_of(&c->keys, found, i, key); i++)
            bytes_printf(out, "%s`%s`", i ? ", " : "", key);
        registry_route(&c->registry, found, route);
        bytes_printf(out, " | %s | %s%s%s |\n", found->help, route[0] ? "`" : "", route, route[0] ? "`" : "");
    }
    return true;
}

bool printed_print(const Config *c, const char *what, char *const *names, Bytes *out, Err *e)
{
    if (strcmp(what, "keys") == 0)
        return print_keys(c, names, out, e);
    for (size_t i = 0; i < N_ALL; i++)
        if (strcmp(what, printed_kinds[i].name) == 0) {
            printed_kinds[i].print(c, out);
            return true;
        }
    Bytes list = {0};
    for (size_t i = 0; printed_name(i); i++)
        bytes_printf(&list, "%s %s", i ? "," : "", printed_name(i));
    err_set(e, "--print knows%s", list.at);
    bytes_free(&list);
    return false;
}
