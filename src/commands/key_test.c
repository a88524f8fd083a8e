#include "commands/key_test.h"

#include "base/mem.h"

#include <ctype.h>
#include <stdio.h>
#include <string.h>

enum { END_BY_ESC = 1000 /* ms between the two */ };

typedef struct KeyTest {
    Layer layer;
    char got[KEY_NAME_MAX];
    char bytes[INPUT_RAW_MAX * 3 + 1];
    char does[160], also[160];
    char route[8]; /* letters after Esc so far */
    bool in_route;
    uint64_t last_esc;
} KeyTest;

static void tell_command(Editor *ed, KeyTest *t, const Command *c)
{
    char key[KEY_NAME_MAX], route[ROUTE_MAX];
    size_t used = 0;
    snprintf(t->does, sizeof t->does, "%s: %s", c->name, c->help);
    t->also[0] = 0;
    for (size_t i = 0; *keymap_key_of(&ed->config.keys, c, i, key) && used < sizeof t->also - 60; i++)
        if (strcmp(key, t->got) != 0)
            used += (size_t)snprintf(t->also + used, sizeof t->also - used, "%s%s", used ? ", " : "", key);
    if (*registry_route(&ed->config.registry, c, route))
        snprintf(t->also + used, sizeof t->also - used, "%s%s", used ? ", " : "", route);
}

/* A letter after Esc: first that of a menu, then that of an entry. */
static void tell_route(Editor *ed, KeyTest *t, char letter)
{
    const Registry *r = &ed->config.registry;
    if (!t->route[0]) {
        size_t m = registry_title(r, letter);
        t->in_route = m < r->n_titles;
        if (m < r->n_titles)
            snprintf(t->does, sizeof t->does, "Opens the menu %s; another letter runs something in it",
                     r->menus[m].title);
        else
            snprintf(t->does, sizeof t->does, "No menu has the letter %c", letter);
        t->route[0] = letter;
        t->route[1] = 0;
        return;
    }
    t->in_route = false;
    const Menu *menu = &r->menus[registry_title(r, t->route[0])];
    const Command *c = registry_letter(menu, letter);
    if (c)
        tell_command(ed, t, c);
    else
        snprintf(t->does, sizeof t->does, "Nothing in %s has the letter %c", menu->title, letter);
    snprintf(t->got, sizeof t->got, "Esc %c %c", t->route[0], letter);
}

static void tell_key(Editor *ed, KeyTest *t, Key k)
{
    const Binding *b = keymap_find(&ed->config.keys, k);
    Key plain = k;
    plain.mods &= ~(unsigned)MOD_SHIFT;
    const Binding *moves = k.mods & MOD_SHIFT ? keymap_find(&ed->config.keys, plain) : NULL;
    t->also[0] = 0;
    bool alt_letter = k.code == K_CHAR && (k.mods & ~(unsigned)MOD_SHIFT) == MOD_ALT;
    if (k.code == K_ESC && k.mods == 0) {
        snprintf(t->does, sizeof t->does, "Wakes the menus from the text, and backs out of everything else");
        t->in_route = true;
        t->route[0] = 0;
    } else if (b && b->command) {
        tell_command(ed, t, b->command);
    } else if (moves && moves->command && (moves->command->flags & CMD_MOVES)) {
        tell_command(ed, t, moves->command);
        strncat(t->does, "; with Shift it marks", sizeof t->does - strlen(t->does) - 1);
    } else if (alt_letter && k.ch < 128 && isalnum((int)k.ch)) {
        t->route[0] = 0;
        t->in_route = true;
        tell_route(ed, t, (char)tolower((int)k.ch));
        snprintf(t->also, sizeof t->also, "Esc %c, which is the same", tolower((int)k.ch));
    } else if (key_types(k)) {
        snprintf(t->does, sizeof t->does, "Types itself");
    } else {
        snprintf(t->does, sizeof t->does, "Nothing here; any command can be put on it in keys.lua");
    }
}

static bool key_test_key(Editor *ed, Layer *l, const Input *in)
{
    KeyTest *t = (KeyTest *)l;
    Key k = in->key;
    bool esc = k.code == K_ESC && k.mods == 0;
    if (esc && t->last_esc && ed->clock.now - t->last_esc < END_BY_ESC) {
        ed->esc.twice = ed->clock.now; /* further ones in this second are eaten */
        layers_plain_text(ed);
        return true;
    }
    t->last_esc = esc ? ed->clock.now : 0;
    key_written(k, t->got);
    size_t used = 0;
    t->bytes[0] = 0;
    for (size_t i = 0; i < in->n_raw; i++)
        used += (size_t)snprintf(t->bytes + used, sizeof t->bytes - used, "%02x ", (unsigned char)in->raw[i]);
    if (t->in_route && !esc && k.code == K_CHAR && k.mods == 0 && k.ch < 128) {
        tell_route(ed, t, (char)tolower((int)k.ch));
    } else {
        t->in_route = false;
        tell_key(ed, t, k);
    }
    return true;
}

static void key_test_paste(Editor *ed, Layer *l, const char *bytes, size_t n)
{
    (void)ed, (void)bytes;
    KeyTest *t = (KeyTest *)l;
    strcpy(t->got, "a paste");
    snprintf(t->bytes, sizeof t->bytes, "%zu of them", n);
    strcpy(t->does, "It would be put into the text as it is");
    t->also[0] = 0;
}

/* Paints it, or only measures how many rows it takes. */
static int put_rows(const KeyTest *t, Frame *f, int row, int end)
{
    const char *const lines[][2] = {
        {"What is this key?  Press any key or route. Esc twice ends this.", NULL},
        {"Arrived: ", t->got[0] ? t->got : "nothing yet"},
        {"As bytes: ", t->bytes},
        {"Does here: ", t->does},
        {"Also by: ", t->also},
        {"When you press a key and nothing changes here, it never arrived: the terminal, a multiplexer or "
         "the "
         "desktop keeps it. The route at “Also by” works all the same.",
         ""},
    };
    int first = row;
    for (size_t i = 0; i < sizeof lines / sizeof *lines; i++) {
        Bytes line = {0};
        const char *value = lines[i][1];
        bytes_printf(&line, "%s%s", lines[i][0], value ? value : "");
        int used = frame_wrapped(f, row, 1, f->cols, end - row, value ? ST_BOX : ST_BOX_TITLE, line.at);
        if (value && *value && row < end)
            frame_text(f, row, 1 + frame_width(f, lines[i][0]), f->cols, ST_BOX_TITLE,
                       used == 1 ? value : "");
        row += used;
        bytes_free(&line);
    }
    return row - first;
}

static int key_test_height(Editor *ed, Layer *l, const Frame *f)
{
    (void)ed;
    int rows = put_rows((const KeyTest *)l, (Frame *)f, 0, 0);
    return rows < f->status_row - 1 ? rows : f->status_row - 1;
}

static void key_test_paint(Editor *ed, Layer *l, Frame *f)
{
    int row = f->status_row - key_test_height(ed, l, f);
    for (int r = row; r < f->status_row; r++)
        frame_blank(f, r, 0, f->cols, ST_BOX);
    put_rows((const KeyTest *)l, f, row, f->status_row);
    f->cursor_row = -1;
}

static size_t key_test_hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed, (void)l;
    out[0] = (Hint){"any key", "Try it", true};
    out[1] = (Hint){"Esc Esc", "Back to the text", true};
    return 2;
}

static const LayerKind key_test_kind = {
    .key = key_test_key,
    .takes_esc = true,
    .paste = key_test_paste,
    .height = key_test_height,
    .paint = key_test_paint,
    .hints = key_test_hints,
};

void key_test_open(Editor *ed)
{
    KeyTest *t = mem_get(sizeof *t);
    t->layer.kind = &key_test_kind;
    layers_push(ed, &t->layer);
}

static void run_key_test(Editor *ed, const Args *args)
{
    (void)args;
    key_test_open(ed);
}

static const Command cmd_what_is_this_key = {
    .name = "what-is-this-key",
    .label = "What is this key…",
    .letter = 'w',
    .help = "Press any key: what arrived, and what it does here",
    .run = run_key_test,
};

const Command *const key_test_commands[] = {
    &cmd_what_is_this_key,
    NULL,
};
