#include "printed/printed.h"

#include "config/settings.h"
#include "kinds/kinds.h"
#include "printed/options.h"

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
        "-- those that are to differ from the standard, which is what stands here.\n");
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        const char *quote = s->type == SETTING_BOOL || s->type == SETTING_INT ? "" : "\"";
        bytes_printf(out, "\n-- %s.\n-- %s = %s%s%s\n", s->help, s->name, quote, s->standard, quote);
    }
}

/* The keys are for the commands that are named after it. */
static void (*const printers[PRINTED_COUNT])(const Config *c, Bytes *out) = {
    [PRINTED_PAGE] = printed_page,
    [PRINTED_SETTINGS_PAGE] = printed_settings,
    [PRINTED_SCRIPTS_PAGE] = printed_scripts,
    [PRINTED_BASH] = printed_bash,
    [PRINTED_ZSH] = printed_zsh,
    [PRINTED_FISH] = printed_fish,
    [PRINTED_SAMPLE] = print_sample,
    [PRINTED_KINDS] = print_kinds,
    [PRINTED_COMMANDS] = print_commands,
    [PRINTED_SETTINGS] = print_settings,
};

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
    for (size_t i = 0; i < PRINTED_COUNT; i++)
        if (strcmp(what, options_printed[i]) == 0) {
            if (!printers[i])
                return print_keys(c, names, out, e);
            printers[i](c, out);
            return true;
        }
    Bytes list = {0};
    for (size_t i = 0; i < PRINTED_COUNT; i++)
        bytes_printf(&list, "%s %s", i ? "," : "", options_printed[i]);
    err_set(e, "--print knows%s", list.at);
    bytes_free(&list);
    return false;
}
