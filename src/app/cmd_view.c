/* The View menu. */
#include "app/editor.h"
#include "app/panel.h"
#include "app/panes.h"
#include "app/tables.h"
#include "base/mem.h"

#include <string.h>

/* ---- bare text ---- */

static bool bare_key(Editor *ed, Layer *l, const Input *in)
{
    (void)l;
    const Binding *b = keymap_find(&ed->keys, in->key);
    if (b && b->command && (b->command->flags & CMD_MOVES)) {
        command_run(ed, b->command, 1, false, "");
        return true;
    }
    layer_cancel(ed);
    return true;
}

static void bare_ends(Editor *ed, Layer *l)
{
    (void)l;
    ed->bare = false;
    say(ed, "Everything is shown again");
}

static const LayerKind bare_kind = {.key = bare_key, .cancel = bare_ends};

static void run_bare(Editor *ed, const Args *args)
{
    (void)args;
    Layer *l = mem_get(sizeof *l);
    l->kind = &bare_kind;
    ed->bare = true;
    layer_push(ed, l);
}

/* ---- switches ---- */

static void flip(Editor *ed, const char *name, const char *value)
{
    Err e = {""};
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        if (strcmp(s->name, name) != 0)
            continue;
        if (*value ? settings_set(ed, name, value, NULL, &e) : settings_flip(ed, s))
            say(ed, "%s is now %s", name, settings_value(ed, s));
        else
            warn(ed, "%s", e.text);
    }
}

static void run_numbers(Editor *ed, const Args *args)
{
    flip(ed, "line_numbers", args->text);
}

static void run_wrap(Editor *ed, const Args *args)
{
    flip(ed, "wrap", args->text);
}

static void run_blanks(Editor *ed, const Args *args)
{
    flip(ed, "show_blanks", args->text);
}

static void run_hints(Editor *ed, const Args *args)
{
    flip(ed, "hints", args->text);
}

static void run_mouse(Editor *ed, const Args *args)
{
    flip(ed, "mouse", args->text);
}

static void run_layout(Editor *ed, const Args *args)
{
    flip(ed, "layout", args->text);
}

/* ---- choosers ---- */

static void fill_themes(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    for (size_t i = 0; i < n_themes; i++)
        panel_add(p, (long)i, themes[i].name, NULL, ed->settings.theme == (int)i ? "now" : NULL);
}

static void preview_theme(Editor *ed, long id, void *ctx)
{
    (void)ctx;
    ed->theme = &themes[id];
}

static void theme_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    if (id >= 0)
        flip(ed, "theme", themes[id].name);
}

static void theme_as_before(Editor *ed, void *ctx)
{
    (void)ctx;
    ed->theme = &themes[ed->settings.theme];
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
}

static void fill_kinds(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    const Kind *k;
    for (size_t i = 0; (k = kind_number(i)) != NULL; i++)
        panel_add(p, (long)i, k->name, k->extensions, ed->view->file->kind == k ? "now" : NULL);
}

static void set_kind(Editor *ed, const Kind *k)
{
    ed->view->file->kind = k;
    say(ed, "%s is now of the kind %s", file_name(ed->view->file), k->name);
}

static void kind_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    if (id >= 0)
        set_kind(ed, kind_number((size_t)id));
}

static void run_kind(Editor *ed, const Args *args)
{
    const Kind *k = kind_named(args->text);
    if (k) {
        set_kind(ed, k);
        return;
    }
    if (*args->text)
        warn(ed, "There is no kind “%s”; choose one", args->text);
    PanelSpec p = {.title = "Kind of file", .fill = fill_kinds, .chosen = kind_chosen};
    panel_open(ed, &p);
}

/* ---- panes ---- */

static void run_split_below(Editor *ed, const Args *args)
{
    (void)args;
    panes_split(ed, false);
}

static void run_split_beside(Editor *ed, const Args *args)
{
    (void)args;
    panes_split(ed, true);
}

static void run_pane_next(Editor *ed, const Args *args)
{
    (void)args;
    panes_step(ed, 1);
}

static void run_pane_before(Editor *ed, const Args *args)
{
    (void)args;
    panes_step(ed, -1);
}

static void run_pane_alone(Editor *ed, const Args *args)
{
    (void)args;
    panes_alone(ed);
}

static void run_pane_close(Editor *ed, const Args *args)
{
    (void)args;
    panes_close(ed);
}

static void run_pane_larger(Editor *ed, const Args *args)
{
    panes_grow(ed, (int)args->count);
}

static void run_pane_smaller(Editor *ed, const Args *args)
{
    panes_grow(ed, -(int)args->count);
}

/* ---- what may follow a command's name ---- */

static void offer_switch(Editor *ed, const char *args, Offers *out)
{
    (void)ed;
    offer_words("true|false", args, out);
}

static void offer_hints(Editor *ed, const char *args, Offers *out)
{
    (void)ed;
    offer_words("line|off|side", args, out);
}

static void offer_layouts(Editor *ed, const char *args, Offers *out)
{
    (void)ed;
    offer_words("desk|shell", args, out);
}

static void offer_themes(Editor *ed, const char *args, Offers *out)
{
    (void)ed;
    for (size_t i = 0; i < n_themes; i++)
        if (strncmp(themes[i].name, args, strlen(args)) == 0)
            offers_add(out, themes[i].name);
}

static void offer_kinds(Editor *ed, const char *args, Offers *out)
{
    (void)ed;
    const Kind *k;
    for (size_t i = 0; (k = kind_number(i)) != NULL; i++)
        if (strncmp(k->name, args, strlen(args)) == 0)
            offers_add(out, k->name);
}

const Command view_commands[N_VIEW_COMMANDS] = {
    {
        .name = "line-numbers",
        .label = "Line numbers",
        .letter = 'n',
        .help = "Show or hide line numbers",
        .args = "true|false",
        .offer = offer_switch,
        .run = run_numbers,
    },
    {
        .name = "wrap",
        .label = "Wrap",
        .letter = 'w',
        .help = "Let long lines go on in the next row, or off the screen",
        .args = "true|false",
        .offer = offer_switch,
        .run = run_wrap,
    },
    {
        .name = "show-blanks",
        .label = "Blanks shown",
        .letter = 'b',
        .help = "Show blanks, tabs and line ends as signs",
        .args = "true|false",
        .offer = offer_switch,
        .run = run_blanks,
    },
    {
        .name = "hints",
        .label = "Hints",
        .letter = 'h',
        .help = "Show the useful keys on a line, not at all, or in a column at the right",
        .args = "line|off|side",
        .offer = offer_hints,
        .run = run_hints,
    },
    {
        .name = "mouse",
        .label = "Mouse",
        .letter = 'u',
        .help = "Take clicks and the wheel, or leave the mouse to the terminal",
        .args = "true|false",
        .offer = offer_switch,
        .run = run_mouse,
    },
    {
        .name = "split-below",
        .label = "Split below",
        .letter = 's',
        .help = "Cut this pane in two, one below the other",
        .more =
            "Each pane shows a place of its own, of the same file or of another one; changes show in all of "
            "them at once.",
        .hint = "Split",
        .run = run_split_below,
    },
    {
        .name = "split-beside",
        .label = "Split beside",
        .letter = 'e',
        .help = "Cut this pane in two, side by side",
        .run = run_split_beside,
    },
    {
        .name = "next-pane",
        .label = "Next pane",
        .letter = 'x',
        .keys = "F6",
        .help = "Go to the next pane",
        .hint = "Next pane",
        .run = run_pane_next,
    },
    {
        .name = "pane-before",
        .label = "Pane before",
        .letter = 'z',
        .keys = "Shift+F6",
        .help = "Go to the pane before this one",
        .run = run_pane_before,
    },
    {
        .name = "this-pane-alone",
        .label = "This pane alone",
        .letter = 'a',
        .help = "Close all other panes; their files stay open",
        .hint = "One pane",
        .run = run_pane_alone,
    },
    {
        .name = "close-pane",
        .label = "Close pane",
        .letter = 'c',
        .help = "Close this pane; its file stays open",
        .run = run_pane_close,
    },
    {
        .name = "pane-larger",
        .label = "Pane larger",
        .letter = '+',
        .help = "Give this pane one more row or column, or as many as the count says",
        .run = run_pane_larger,
    },
    {
        .name = "pane-smaller",
        .label = "Pane smaller",
        .letter = '-',
        .help = "Take one row or column from this pane, or as many as the count says",
        .run = run_pane_smaller,
    },
    {
        .name = "bare-text",
        .label = "Bare text",
        .letter = 't',
        .help = "Show nothing but the text, to be copied with the terminal's mouse; Esc ends it",
        .run = run_bare,
    },
    {
        .name = "file-kind",
        .label = "File kind…",
        .letter = 'k',
        .help = "Say what kind of file this is",
        .args = "KIND",
        .offer = offer_kinds,
        .run = run_kind,
    },
    {
        .name = "theme",
        .label = "Theme…",
        .letter = 'm',
        .help = "Choose colours",
        .args = "terminal|dark|light|mono",
        .offer = offer_themes,
        .run = run_theme,
    },
    {
        .name = "layout",
        .label = "Key layout",
        .letter = 'y',
        .help = "Keys as on a desktop, or movement by chords as in the shell's line",
        .args = "desk|shell",
        .offer = offer_layouts,
        .run = run_layout,
    },
};
