#include "app/keys.h"

#include "base/glyph.h"
#include "commands/edits.h"
#include "commands/lines/indenting.h"
#include "commands/view/follow.h"
#include "session/reading.h"
#include "session/session_files.h"
#include "ui/command.h"
#include "ui/menu.h"
#include "view/cursors.h"
#include "view/wanted.h"

#include <string.h>

/* Shift with a key that moves marks what is moved over. */
static bool shift_marks(Editor *ed, Key k)
{
    Key plain = k;
    plain.mods &= ~(unsigned)MOD_SHIFT;
    const Binding *b = k.mods & MOD_SHIFT ? keymap_find(&ed->config.keys, plain) : NULL;
    if (!b || !b->command || !(b->command->flags & CMD_MOVES))
        return false;
    View *v = ed->panes.view;
    cursors_follow(v);
    if (v->marking == MARK_NONE)
        cursors_mark_here(v, MARK_SHIFT);
    ed->running.marks = true;
    command_run_binding(ed, b, 1, false);
    ed->running.marks = false;
    return true;
}

static void text_esc(Editor *ed)
{
    if (tasks_cancel(&ed->session->tasks) || reading_stop(ed->session, ed->panes.view->file))
        return;
    menu_open(ed, true);
    layers_esc_woke(ed);
}

/* What a key does in plain text. */
static void text_key(Editor *ed, Key k)
{
    const Binding *b = keymap_find(&ed->config.keys, k);
    wanted_forget(&ed->panes);
    follow_seen(ed);
    if (b && b->command) {
        command_run_binding(ed, b, 1, false);
    } else if (!b && shift_marks(ed, k)) {
        return;
    } else if (key_types(k)) {
        char bytes[4] = {(char)k.ch};
        size_t n = k.code == K_CHAR ? utf8_write(k.ch, bytes) : 1;
        indenting_type(ed, bytes, n);
        ed->running.before = NULL;
    } else if (k.code == K_CHAR && (k.mods & ~(unsigned)MOD_SHIFT) == MOD_ALT) {
        menu_letter(ed, k.ch);
    } else if (k.code == K_ESC && k.mods == 0) {
        text_esc(ed);
    } else {
        char name[KEY_NAME_MAX];
        decline(ed, "%s does nothing here", key_written(k, name));
    }
}

/* Over a slow line, or while the editor is busy, Esc and the chord typed after it come as one. Alt with a
 * letter is Esc and the letter anyhow. */
static bool esc_and_chord(const Editor *ed, Key k)
{
    unsigned both = MOD_CTRL | MOD_ALT;
    return k.code == K_CHAR && (k.mods & both) == both && !keymap_find(&ed->config.keys, k);
}

/* Some keys mean the same in every layer; false for others. */
static bool key_of_all_layers(Editor *ed, Key k)
{
    const Binding *b = keymap_find(&ed->config.keys, k);
    const char *name = b && b->command ? b->command->name : "";
    bool help = strcmp(name, "help") == 0; /* comes back to what lies here now */
    if (!help && strcmp(name, "leave") != 0 && strcmp(name, "menus") != 0)
        return false;
    if (!help)
        layers_cancel_all(ed);
    command_run_binding(ed, b, 1, false);
    return true;
}

void keys_handle(Editor *ed, const Input *in)
{
    Key k = ed->running.key = in->key;
    Layer *l = ed->layer;
    bool esc = k.code == K_ESC && k.mods == 0;
    if (l && l->kind->takes_esc && l->kind->key(ed, l, in))
        return;
    if (esc_and_chord(ed, k)) {
        Input parts[2] = {{.kind = INPUT_KEY, .key = {.code = K_ESC}}, {.kind = INPUT_KEY, .key = k}};
        parts[1].key.mods &= ~(unsigned)MOD_ALT;
        keys_handle(ed, &parts[0]);
        keys_handle(ed, &parts[1]);
        return;
    }
    if (esc && layers_esc(ed))
        return;
    if (!esc)
        layers_no_esc(ed);
    if (l && l->kind->key && !esc && l->kind->key(ed, l, in))
        return;
    if (l && l->kind->passing && !esc) {
        layers_pop(ed);
        keys_handle(ed, in);
        return;
    }
    if (l && esc) {
        bool second = menu_fresh_from_esc(ed);
        layers_cancel(ed);
        if (second && !ed->layer && ed->panes.view->cursors)
            command_run(ed, command_named(ed, "one-cursor"), 1, false, "");
    } else if (!l || l->kind->has_text) {
        text_key(ed, k);
    } else if (k.mods & MOD_ALT) {
        layers_cancel(ed);
    } else if (!key_of_all_layers(ed, k)) {
        char name[KEY_NAME_MAX];
        decline(ed, "%s does nothing here; Esc goes back", key_written(k, name));
    }
}

void keys_press(Editor *ed, const char *keys)
{
    while (*keys) {
        size_t n = strcspn(keys, " ");
        Input in = {.kind = INPUT_KEY};
        layers_no_esc(ed);
        if (!key_parse(keys, n, &in.key))
            return;
        session_settle(ed->session);
        keys_handle(ed, &in);
        keys += n + strspn(keys + n, " ");
    }
}
