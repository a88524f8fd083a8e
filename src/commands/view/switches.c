#include "commands/view/switches.h"

#include "ui/command.h"
#include "ui/panel.h"
#include "ui/screen.h"

#include <stdio.h>
#include <string.h>

static void offer_layouts(const char *args, Offers *out)
{
    offers_add_words(out, "desk|shell", args);
}

static void offer_hints(const char *args, Offers *out)
{
    offers_add_words(out, "line|off|side", args);
}

static void offer_switch(const char *args, Offers *out)
{
    offers_add_words(out, "true|false", args);
}

/* Says what a setting is now, by the name of the command that sets it. */
static void tell(Editor *ed, const char *label, const char *now, const char *why)
{
    static const char *const words[][2] = {
        {"true", "on"}, {"false", "off"}, {"line", "on a line"}, {"side", "at the side"}};
    for (size_t i = 0; i < sizeof words / sizeof *words; i++)
        if (strcmp(now, words[i][0]) == 0)
            now = words[i][1];
    say(ed, "%.*s: %s, for this run; %s keeps it%s", (int)strcspn(label, "…"), label, now,
        KEY_FOR(ed, "settings"), why);
}

/* Sets a setting, or the next of its values; says which that is. */
static void flip(Editor *ed, const char *name, const char *value)
{
    const Setting *s = settings_find(name);
    const char *why = "";
    char now[SETTING_TEXT_MAX];
    Err e = {""};
    bool ok = *value ? settings_set(&ed->config, name, value, NULL, &e) : settings_flip(&ed->config, s);
    if (ok && !*value && ed->config.settings.hints == HINTS_SIDE && !screen_has_side(&ed->frame)) {
        ok = settings_flip(&ed->config, s);
        why = ". There is no room at the side";
    }
    char command[32]; /* of the same name, but for the hyphens */
    snprintf(command, sizeof command, "%s", name);
    for (char *p = command; *p; p++)
        *p = *p == '_' ? '-' : *p;
    if (ok)
        tell(ed, command_named(ed, command)->label, settings_value(&ed->config, s, now), why);
    else
        warn(ed, "%s", e.text);
}

static void run_numbers(Editor *ed, const Args *args)
{
    flip(ed, "line_numbers", args->text);
}

static const Command cmd_line_numbers = {
    .name = "line-numbers",
    .label = "Line numbers",
    .letter = 'n',
    .help = "Show or hide line numbers",
    .words = "gutter count",
    .args = "true|false",
    .offer = offer_switch,
    .run = run_numbers,
};

static void run_wrap(Editor *ed, const Args *args)
{
    flip(ed, "wrap", args->text);
}

static const Command cmd_wrap = {
    .name = "wrap",
    .label = "Wrap",
    .letter = 'w',
    .help = "Let long lines go on in the next row, or off the screen",
    .words = "fold long lines soft",
    .args = "true|false",
    .offer = offer_switch,
    .run = run_wrap,
};

static void run_ruler(Editor *ed, const Args *args)
{
    flip(ed, "ruler", args->text);
}

static const Command cmd_ruler = {
    .name = "ruler",
    .label = "Ruler",
    .letter = 'r',
    .help = "Show or hide a thin line at the width that paragraphs are wrapped at",
    .words = "margin column line length",
    .more = "The width is the setting text_width, else what .editorconfig says, else 80.",
    .args = "true|false",
    .offer = offer_switch,
    .run = run_ruler,
};

static void run_blanks(Editor *ed, const Args *args)
{
    flip(ed, "show_blanks", args->text);
}

static const Command cmd_show_blanks = {
    .name = "show-blanks",
    .label = "Blanks shown",
    .letter = 'b',
    .help = "Show blanks, tabs and line ends as signs",
    .words = "whitespace spaces tabs invisible",
    .args = "true|false",
    .offer = offer_switch,
    .run = run_blanks,
};

static void run_hints(Editor *ed, const Args *args)
{
    flip(ed, "hints", args->text);
}

static const Command cmd_hints = {
    .name = "hints",
    .label = "Hints",
    .letter = 'h',
    .help = "Show the useful keys on a line, not at all, or in a column at the right",
    .args = "line|off|side",
    .offer = offer_hints,
    .run = run_hints,
};

static void run_mouse(Editor *ed, const Args *args)
{
    flip(ed, "mouse", args->text);
}

static const Command cmd_mouse = {
    .name = "mouse",
    .label = "Mouse",
    .letter = 'u',
    .help = "Take clicks and the wheel, or leave the mouse to the terminal",
    .args = "true|false",
    .offer = offer_switch,
    .run = run_mouse,
};

static void run_layout(Editor *ed, const Args *args)
{
    flip(ed, "layout", args->text);
}

static const Command cmd_layout = {
    .name = "layout",
    .label = "Key layout",
    .letter = 'y',
    .help = "Keys as on a desktop, or movement by chords as in the shell's line",
    .words = "keys keyboard bindings",
    .args = "desk|shell",
    .offer = offer_layouts,
    .run = run_layout,
};

/* ---- choosers ---- */

static void offer_themes(const char *args, Offers *out)
{
    offers_add_words(out, theme_names(), args);
}

static void fill_themes(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    const Theme *t;
    for (size_t i = 0; (t = theme_number(i)) != NULL; i++)
        panel_add(p, (long)i, t->name, t->about, ed->config.settings.theme == (int)i ? "now" : NULL);
}

static void preview_theme(Editor *ed, long id, void *ctx)
{
    (void)ctx;
    ed->theme = theme_number((size_t)id);
}

static void theme_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    if (id >= 0)
        flip(ed, "theme", theme_number((size_t)id)->name);
}

static void theme_as_before(Editor *ed, void *ctx)
{
    (void)ctx;
    ed->theme = theme_number((size_t)ed->config.settings.theme);
}

static void run_theme(Editor *ed, const Args *args)
{
    if (*args->text) {
        flip(ed, "theme", args->text);
        return;
    }
    PanelSpec p = {
        .title = "Theme",
        .fill = fill_themes,
        .chosen = theme_chosen,
        .preview = preview_theme,
        .cancelled = theme_as_before,
    };
    panel_open(ed, &p);
    panel_go_now(ed);
}

static const Command cmd_theme = {
    .name = "theme",
    .label = "Theme…",
    .letter = 'm',
    .help = "Choose colours",
    .words = "colours dark light",
    .args = "NAME",
    .offer = offer_themes,
    .run = run_theme,
};

const Command *const switch_commands[] = {
    &cmd_line_numbers, &cmd_wrap,  &cmd_show_blanks, &cmd_ruler, &cmd_hints,
    &cmd_mouse,        &cmd_theme, &cmd_layout,      NULL,
};
