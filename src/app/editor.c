#include "editor.h"

#include "mem.h"

#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    MESSAGE_MIN = 2000, /* ms that a message stays at least */
    DOUBLE_ESC = 1000,
};

Editor *editor_new(void)
{
    Editor *ed = mem_get(sizeof *ed);
    ed->theme = &themes[0];
    ed->numbers = true;
    keymap_fill(&ed->keys, "desk");
    return ed;
}

void editor_free(Editor *ed)
{
    while (ed->layer)
        layer_pop(ed);
    if (ed->view.file)
        view_leave(&ed->view);
    for (size_t i = 0; i < ed->n_files; i++) {
        doc_free(ed->files[i]->doc);
        free(ed->files[i]->path);
        free(ed->files[i]);
    }
    free(ed->files);
    keymap_free(&ed->keys);
    frame_free(&ed->frame);
    free(ed);
}

void editor_resize(Editor *ed, int rows, int cols)
{
    frame_resize(&ed->frame, rows > 1 ? rows : 1, cols > 1 ? cols : 1);
}

const Frame *editor_paint(Editor *ed)
{
    paint_all(ed, &ed->frame);
    return &ed->frame;
}

/* ---- messages ---- */

static void show_message(Editor *ed, bool warning, const char *format, va_list args)
{
    vsnprintf(ed->message.text, sizeof ed->message.text, format, args);
    ed->message.warning = warning;
    ed->message.since = ed->now;
    ed->message.clear_at = 0;
}

void say(Editor *ed, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    show_message(ed, false, format, args);
    va_end(args);
}

void warn(Editor *ed, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    show_message(ed, true, format, args);
    va_end(args);
}

/* A message goes with the next key, but nobody shall miss it by typing on. */
static void age_message(Editor *ed)
{
    Message *m = &ed->message;
    if (!m->text[0])
        return;
    if (ed->now - m->since >= MESSAGE_MIN)
        m->text[0] = 0;
    else if (!m->clear_at)
        m->clear_at = m->since + MESSAGE_MIN;
}

void editor_tick(Editor *ed, uint64_t now)
{
    ed->now = now;
    if (ed->message.clear_at && now >= ed->message.clear_at) {
        ed->message.text[0] = 0;
        ed->message.clear_at = 0;
    }
}

int editor_wait(const Editor *ed, uint64_t now)
{
    uint64_t due = ed->message.clear_at;
    if (!due)
        return -1;
    return due > now ? (int)(due - now) : 0;
}

/* ---- keys ---- */

static void run_binding(Editor *ed, const Binding *b)
{
    const Command *c = b->command;
    View *v = &ed->view;
    if ((c->flags & CMD_MOVES) && v->marking == MARK_SHIFT)
        view_drop_mark(v);
    command_run(ed, c, 1, false, b->args ? b->args : "");
}

/* Shift with a key that moves marks what is moved over. */
static bool shift_marks(Editor *ed, Key k)
{
    Key plain = k;
    plain.mods &= ~(unsigned)MOD_SHIFT;
    const Binding *b = k.mods & MOD_SHIFT ? keymap_find(&ed->keys, plain) : NULL;
    if (!b || !b->command || !(b->command->flags & CMD_MOVES))
        return false;
    View *v = &ed->view;
    if (v->marking == MARK_NONE) {
        v->mark.at = v->cursor.at;
        v->marking = MARK_SHIFT;
    }
    command_run(ed, b->command, 1, false, b->args ? b->args : "");
    return true;
}

static void text_key(Editor *ed, Key k)
{
    const Binding *b = keymap_find(&ed->keys, k);
    if (b && b->command) {
        run_binding(ed, b);
        return;
    }
    if (!b && shift_marks(ed, k))
        return;
    if (key_types(k)) {
        char bytes[4] = {(char)k.ch};
        size_t n = k.code == K_CHAR ? utf8_encode(k.ch, bytes) : 1;
        edit_type(ed, bytes, n);
        ed->before = NULL;
        return;
    }
    char name[KEY_NAME_MAX];
    if (k.code != K_ESC)
        say(ed, "%s does nothing here", key_written(k, name));
}

/* Rule of the double Esc: the second one within a second closes everything, further ones
 * in the second after that are eaten. True when the key is dealt with. */
static bool double_esc(Editor *ed)
{
    if (ed->double_esc && ed->now - ed->double_esc < DOUBLE_ESC)
        return true;
    bool second = ed->last_esc && ed->now - ed->last_esc < DOUBLE_ESC;
    ed->last_esc = second ? 0 : ed->now;
    ed->double_esc = second ? ed->now : 0;
    if (second) {
        layer_cancel_all(ed);
        view_drop_mark(&ed->view);
    }
    return second;
}

static void layer_or_text_key(Editor *ed, const Input *in)
{
    Key k = in->key;
    Layer *l = ed->layer;
    bool esc = k.code == K_ESC && k.mods == 0;
    if (esc && double_esc(ed))
        return;
    if (!esc)
        ed->last_esc = 0;
    if (!l) {
        text_key(ed, k);
        return;
    }
    if (l->kind->key && !esc && l->kind->key(ed, l, in))
        return;
    if (esc || (k.mods & MOD_ALT)) {
        layer_cancel(ed);
        return;
    }
    const Binding *b = keymap_find(&ed->keys, k);
    if (b && b->command == command_named("leave", 5)) { /* the way out works everywhere */
        layer_cancel_all(ed);
        run_binding(ed, b);
        return;
    }
    char name[KEY_NAME_MAX];
    say(ed, "%s does nothing here; Esc goes back to the text", key_written(k, name));
}

void editor_input(Editor *ed, const Input *in, uint64_t now)
{
    ed->now = now;
    switch (in->kind) {
    case INPUT_KEY:
        age_message(ed);
        layer_or_text_key(ed, in);
        break;
    case INPUT_PASTE:
        age_message(ed);
        if (!ed->layer)
            edit_paste(ed, in->bytes, in->n_bytes, in->paste_goes_on);
        else if (ed->layer->kind->paste)
            ed->layer->kind->paste(ed, ed->layer, in->bytes, in->n_bytes);
        break;
    default:
        break;
    }
}
