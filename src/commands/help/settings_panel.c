#include "commands/help/settings_panel.h"

#include "base/mem.h"
#include "base/paths.h"
#include "base/words.h"
#include "config/settings_file.h"
#include "ui/panel.h"
#include "ui/prompt.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static void fill_settings(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        char row[400], value[SETTING_TEXT_MAX];
        Bytes note = {0};
        snprintf(row, sizeof row, "%s = %s", s->name, settings_value(&ed->config, s, value));
        bytes_add_str(&note, s->help);
        const char *before = ": ";
        for (const char *c = s->type == SETTING_CHOICE ? settings_choices(s) : ""; *c; before = ", ") {
            bytes_printf(&note, "%s%.*s", before, (int)strcspn(c, "|"), c);
            c += strcspn(c, "|");
            c += *c == '|';
        }
        char *from = path_short_home(settings_source(&ed->config, s));
        panel_add(p, (long)i, row, note.at, from);
        free(from);
        bytes_free(&note);
    }
}

static const char *what_enter_does(long id)
{
    SettingType type = settings_table[id].type;
    return type == SETTING_BOOL ? "Switch it" : type == SETTING_CHOICE ? "The next value" : "Type a value";
}

static void set_value(Editor *ed, const char *value, void *ctx)
{
    const Setting *s = ctx;
    Err e = {""};
    if (!settings_set(&ed->config, s->name, value, NULL, &e))
        warn(ed, "%s", e.text);
    panel_refresh(ed);
}

static void setting_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    const Setting *s = &settings_table[id];
    if (settings_flip(&ed->config, s)) {
        panel_refresh(ed);
        return;
    }
    char value[SETTING_TEXT_MAX];
    PromptSpec p = {
        .label = s->name,
        .initial = settings_value(&ed->config, s, value),
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
    if (!settings_file_keep(&ed->config, &n, &e))
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
        .enter = what_enter_does,
        .hints = hints,
        .stays = true,
    };
    panel_open(ed, &p);
}

static const Command cmd_settings = {
    .name = "settings",
    .label = "Settings…",
    .letter = 's',
    .help = "Every switch, its value, and where that comes from",
    .words = "preferences options configuration",
    .run = run_settings,
};

/* Names of settings, and after a name its values. */
static void offer_settings(const char *args, Offers *out)
{
    size_t n = strcspn(args, " ");
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        if (!args[n]) {
            if (strncmp(s->name, args, n) == 0)
                offers_add(out, s->name);
        } else if (strlen(s->name) == n && memcmp(s->name, args, n) == 0) {
            out->from = n + strspn(args + n, " ");
            offers_add_words(out, s->type == SETTING_BOOL ? "true|false" : settings_choices(s),
                             args + out->from);
        }
    }
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
    else if (!settings_set(&ed->config, name, value, NULL, &e))
        warn(ed, "%s", e.text);
    else
        say(ed, "%s is now %s, for this run", name, value);
    free(name);
}

static const Command cmd_set = {
    .name = "set",
    .label = "Set…",
    .letter = 't',
    .help = "Set a setting by name, for this run",
    .args = "NAME VALUE",
    .offer = offer_settings,
    .run = run_set,
};

const Command *const settings_commands[] = {
    &cmd_settings,
    &cmd_set,
    NULL,
};
