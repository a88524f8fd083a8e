#include "app/ahead.h"

#include "app/keys.h"
#include "base/array.h"
#include "base/mem.h"
#include "base/words.h"

#include <stdlib.h>
#include <string.h>

enum { HELD_MOST = 100000 };

struct Ahead {
    Input *held;
    size_t n;
    FileId file; /* the text that they wait for */
};

static void drop(Ahead *a)
{
    for (size_t i = 0; i < a->n; i++)
        free((char *)a->held[i].bytes);
    a->n = 0;
    a->file = 0;
}

void ahead_free(Ahead *a)
{
    if (!a)
        return;
    drop(a);
    free(a->held);
    free(a);
}

/* Would it change the text? */
static bool changes(const Editor *ed, const Input *in)
{
    if (in->kind == INPUT_PASTE)
        return true;
    const Binding *b = keymap_find(&ed->config.keys, in->key);
    return b && b->command ? (b->command->flags & CMD_CHANGES) != 0 : key_types(in->key);
}

/* What ends the waiting is done at once. */
static bool cannot_wait(const Editor *ed, const Input *in)
{
    const Binding *b = in->kind == INPUT_KEY ? keymap_find(&ed->config.keys, in->key) : NULL;
    return (in->kind != INPUT_KEY && in->kind != INPUT_PASTE) ||
           (in->kind == INPUT_KEY && in->key.code == K_ESC) ||
           (b && b->command && strcmp(b->command->name, "leave") == 0);
}

static void hold(Ahead *a, const Input *in)
{
    a->held = array_room(a->held, a->n, sizeof *a->held);
    a->held[a->n] = *in;
    if (in->kind == INPUT_PASTE) {
        char *bytes = mem_get(in->n_bytes + 1);
        memcpy(bytes, in->bytes, in->n_bytes);
        a->held[a->n].bytes = bytes;
    } else {
        a->held[a->n].bytes = NULL;
    }
    a->n++;
}

bool ahead_takes(Ahead **to, Editor *ed, const Input *in)
{
    Ahead *a = *to;
    const OpenFile *f = ed->panes.view->file;
    bool waits = a && a->n;
    if (ed->layer || cannot_wait(ed, in) || (!waits && (!f->reading || f->look_only || !changes(ed, in))))
        return false;
    if (!a)
        a = *to = mem_get(sizeof *a);
    if (a->n >= HELD_MOST) {
        warn(ed, "Too much waits for %s already; this was not taken", openfile_name(f));
        return true;
    }
    a->file = waits ? a->file : f->id;
    hold(a, in);
    say(ed, "%s typed ahead, for when %s is read; Esc stops that", AMOUNT(a->n, "key"), openfile_name(f));
    return true;
}

bool ahead_is_due(const Ahead *a, const Editor *ed)
{
    const OpenFile *f = a && a->n ? session_file(ed->session, a->file) : NULL;
    return a && a->n && (!f || !f->reading);
}

void ahead_release(Ahead *a, Editor *ed, void (*serve)(Editor *ed, const Input *in))
{
    if (!ahead_is_due(a, ed))
        return;
    const OpenFile *f = session_file(ed->session, a->file);
    Ahead now = *a; /* it may wait for something else afterwards */
    *a = (Ahead){0};
    if (!f || f->incomplete) {
        warn(ed, "Reading was stopped; %s typed ahead cannot be taken", AMOUNT(now.n, "key"));
    } else {
        notices_clear(&ed->notices);
        for (size_t i = 0; i < now.n && !ed->host.leave; i++)
            serve(ed, &now.held[i]);
    }
    drop(&now);
    free(now.held);
}
