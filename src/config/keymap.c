#include "config/keymap.h"

#include "base/array.h"
#include "base/mem.h"

#include <stdlib.h>
#include <string.h>

static void add_keys(Keymap *m, const Command *c, const char *keys)
{
    while (keys && *keys) {
        size_t n = strcspn(keys, " ");
        Key k;
        if (key_parse(keys, n, &k) && !keymap_find(m, k))
            keymap_set(m, k, c, NULL, BY_LAYOUT);
        keys += n + strspn(keys + n, " ");
    }
}

static void remove_at(Keymap *m, size_t i)
{
    free(m->at[i].args);
    memmove(m->at + i, m->at + i + 1, (m->n - i - 1) * sizeof *m->at);
    m->n--;
}

void keymap_fill(Keymap *m, const Registry *r, const char *layout)
{
    bool shell = strcmp(layout, "shell") == 0;
    for (size_t i = m->n; i-- > 0;)
        if (m->at[i].by == BY_LAYOUT)
            remove_at(m, i);
    for (size_t i = 0; i < r->n; i++) {
        const Command *c = r->commands[i];
        add_keys(m, c, shell && c->shell ? c->shell : c->keys);
    }
}

void keymap_set(Keymap *m, Key key, const Command *c, const char *args, SetBy by)
{
    for (size_t i = m->n; i-- > 0;)
        if (key_same(m->at[i].key, key))
            remove_at(m, i);
    if (!c && by == BY_LAYOUT)
        return;
    m->at = array_room(m->at, m->n, sizeof *m->at);
    m->at[m->n++] = (Binding){key, c, args ? mem_string(args) : NULL, by};
}

void keymap_forget(Keymap *m, const Command *c)
{
    for (size_t i = m->n; i-- > 0;)
        if (m->at[i].command == c)
            remove_at(m, i);
}

const Binding *keymap_find(const Keymap *m, Key key)
{
    for (size_t i = 0; i < m->n; i++)
        if (key_same(m->at[i].key, key))
            return &m->at[i];
    return NULL;
}

bool keymap_runs(const Keymap *m, Key key, const char *command)
{
    const Binding *b = keymap_find(m, key);
    return b && b->command && strcmp(b->command->name, command) == 0;
}

const char *keymap_key_of(const Keymap *m, const Command *c, size_t n, char out[KEY_NAME_MAX])
{
    out[0] = 0;
    for (size_t i = 0; i < m->n; i++)
        if (m->at[i].command == c && n-- == 0)
            return key_written(m->at[i].key, out);
    return out;
}

void keymap_free(Keymap *m)
{
    for (size_t i = 0; i < m->n; i++)
        free(m->at[i].args);
    free(m->at);
    *m = (Keymap){0};
}
