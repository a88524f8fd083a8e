#include "commands/help/key_test.h"

#include "base/mem.h"
#include "commands/help/pick.h"
#include "config/keys_file.h"

#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { END_BY_ESC = 1000 /* ms between the two */, LOW = 16 /* rows */ };

typedef struct KeyTest {
    Layer layer;
    char got[KEY_NAME_MAX];
    char bytes[INPUT_RAW_MAX * 3 + 1];
    char does[160], also[160];
    char *line;    /* a key is looked for to run this; NULL: it is only a test */
    Key key;       /* the last one that a command can be put on */
    bool can_hold; /* there is one */
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
        snprintf(t->does, sizeof t->does, "Does nothing here yet");
    }
}

/* ---- putting a command on it ---- */

/* Characters type themselves and Esc leads out of everything: nothing can be put on them. */
static bool may_hold(Key k)
{
    return !key_types(k) && !(k.code == K_ESC && k.mods == 0);
}

static void put(Editor *ed, Key key, KeyWish wish, const char *line)
{
    char name[KEY_NAME_MAX];
    Err e = {""};
    bool keep = !ed->session->rules.plain;
    key_written(key, name);
    if (!keys_file_put(&ed->config, key, wish, line, keep, &e))
        warn(ed, "%s", e.text);
    else if (wish == KEY_RUNS)
        say(ed, "%s does %s now%s", name, line, keep ? ", and in later runs (keys.lua)" : ", in this run");
    else if (wish == KEY_IS_FREE)
        say(ed, "%s does nothing now%s", name, keep ? ", nor in later runs (keys.lua)" : ", in this run");
    else
        say(ed, "%s is as it was%s", name, keep ? "; its line in keys.lua is gone" : "");
}

static const LayerKind key_test_kind;

static void line_chosen(Editor *ed, const char *line, void *ctx)
{
    const Key *key = ctx;
    put(ed, *key, KEY_RUNS, line);
    if (ed->layer && ed->layer->kind == &key_test_kind) /* what the key does is another thing now */
        tell_key(ed, (KeyTest *)ed->layer, *key);
}

static void choose_line(Editor *ed, const KeyTest *t)
{
    char title[KEY_NAME_MAX + 24], name[KEY_NAME_MAX];
    Key *key = mem_get(sizeof *key);
    *key = t->key;
    snprintf(title, sizeof title, "On %s", key_written(t->key, name));
    pick_line(ed, title, line_chosen, key, free);
}

/* p and t, which type themselves anywhere, say what is to be done with the key before them. */
static bool take_letter(Editor *ed, KeyTest *t, Key k)
{
    const Binding *b = keymap_find(&ed->config.keys, t->key);
    if (!t->can_hold || t->in_route || k.code != K_CHAR || k.mods || (k.ch != 'p' && k.ch != 't'))
        return false;
    if (k.ch == 'p' && t->line) {
        put(ed, t->key, KEY_RUNS, t->line);
        layers_plain_text(ed);
    } else if (k.ch == 'p') {
        choose_line(ed, t);
    } else {
        bool own = b && (b->by == BY_PERSON || b->by == BY_THIS_RUN);
        put(ed, t->key, own ? KEY_AS_SHIPPED : KEY_IS_FREE, NULL);
        tell_key(ed, t, t->key);
    }
    return true;
}

static bool key_test_key(Editor *ed, Layer *l, const Input *in)
{
    KeyTest *t = (KeyTest *)l;
    Key k = in->key;
    bool esc = k.code == K_ESC && k.mods == 0;
    uint64_t before = t->last_esc ? t->last_esc : ed->esc.last; /* which may have closed what lay above */
    if (esc && before && ed->clock.now - before < END_BY_ESC) {
        ed->esc.last = ed->clock.now;
        layers_plain_text(ed);
        return true;
    }
    t->last_esc = esc ? ed->clock.now : 0;
    if (take_letter(ed, t, k))
        return true;
    t->can_hold = may_hold(k);
    t->key = k;
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

static bool has_command(const Editor *ed, const KeyTest *t)
{
    const Binding *b = t->can_hold ? keymap_find(&ed->config.keys, t->key) : NULL;
    return b && (b->command || b->by != BY_LAYOUT);
}

/* Paints it, or only measures how many rows it takes. */
static int put_rows(const Editor *ed, const KeyTest *t, Frame *f, int row, int end)
{
    char what[160], then[200] = "";
    snprintf(what, sizeof what, "%s%.60s?%s", t->line ? "Which key for " : "What is this key",
             t->line ? t->line : "",
             f->rows < LOW ? "" : "  Press any key or route. Esc twice ends this."); /* hints say so, too */
    if (t->can_hold && t->line)
        snprintf(then, sizeof then, "p puts %.60s on %s", t->line, t->got);
    else if (has_command(ed, t))
        snprintf(then, sizeof then, "p puts another command on %s, t takes it away", t->got);
    else if (t->can_hold)
        snprintf(then, sizeof then, "p puts a command on %s", t->got);
    const char *const lines[][2] = {
        {what, NULL},
        {"Arrived: ", t->got[0] ? t->got : "nothing yet"},
        {"As bytes: ", t->bytes},
        {"Does: ", t->does},
        {"Also by: ", t->also},
        {"Then: ", then},
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
    int rows = put_rows(ed, (const KeyTest *)l, (Frame *)f, 0, 0);
    return rows < f->status_row - 1 ? rows : f->status_row - 1;
}

static void key_test_paint(Editor *ed, Layer *l, Frame *f)
{
    int row = f->status_row - key_test_height(ed, l, f);
    for (int r = row; r < f->status_row; r++)
        frame_blank(f, r, 0, f->cols, ST_BOX);
    put_rows(ed, (const KeyTest *)l, f, row, f->status_row);
    f->cursor_row = -1;
}

static size_t key_test_hints(Editor *ed, Layer *l, Hint *out)
{
    const KeyTest *t = (const KeyTest *)l;
    size_t n = 0;
    out[n++] = (Hint){"any key", "Try it", true};
    if (t->can_hold)
        out[n++] = (Hint){"p", "Put a command on it", true};
    if (has_command(ed, t) && !t->line)
        out[n++] = (Hint){"t", "Take it away", true};
    out[n++] = (Hint){"Esc Esc", "Back to the text", true};
    return n;
}

static void key_test_free(Editor *ed, Layer *l)
{
    (void)ed;
    free(((KeyTest *)l)->line);
}

static const LayerKind key_test_kind = {
    .key = key_test_key,
    .takes_esc = true,
    .paste = key_test_paste,
    .height = key_test_height,
    .paint = key_test_paint,
    .hints = key_test_hints,
    .free = key_test_free,
};

void key_test_open_for(Editor *ed, const char *command_line)
{
    KeyTest *t = mem_get(sizeof *t);
    t->layer.kind = &key_test_kind;
    t->line = command_line ? mem_string(command_line) : NULL;
    layers_push(ed, &t->layer);
}

void key_test_open(Editor *ed)
{
    key_test_open_for(ed, NULL);
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
    .help = "Press any key: what arrived, what it does here, and put a command on it",
    .run = run_key_test,
};

const Command *const key_test_commands[] = {
    &cmd_what_is_this_key,
    NULL,
};
