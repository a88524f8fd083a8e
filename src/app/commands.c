#include "app/editor.h"
#include "app/loading.h"
#include "app/pages.h"
#include "app/places.h"
#include "app/tables.h"
#include "base/mem.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

const Menu menus[] = {
    {"File", 'f', file_commands, N_FILE_COMMANDS, "Esc f"},
    {"Edit", 'e', edit_commands, N_EDIT_COMMANDS, "Esc e"},
    {"Mark", 'm', mark_commands, N_MARK_COMMANDS, "Esc m"},
    {"Lines", 'l', lines_commands, N_LINES_COMMANDS, "Esc l"},
    {"Search", 's', search_commands, N_SEARCH_COMMANDS, "Esc s"},
    {"Go", 'g', go_commands, N_GO_COMMANDS, "Esc g"},
    {"View", 'v', view_commands, N_VIEW_COMMANDS, "Esc v"},
    {"Tools", 't', tools_commands, N_TOOLS_COMMANDS, "Esc t"},
    {"Help", 'h', help_commands, N_HELP_COMMANDS, "Esc h"},
    {NULL, 0, key_commands, N_KEY_COMMANDS, "Esc g s"},
};
const size_t n_menus = sizeof menus / sizeof *menus;
const size_t n_titles = sizeof menus / sizeof *menus - 1;

const Command *command_named(const char *name, size_t n)
{
    for (size_t m = 0; m < n_menus; m++)
        for (size_t i = 0; i < menus[m].n; i++) {
            const Command *c = &menus[m].commands[i];
            if (strlen(c->name) == n && memcmp(c->name, name, n) == 0)
                return c;
        }
    return NULL;
}

const Menu *command_menu(const Command *c)
{
    for (size_t m = 0; m < n_menus; m++)
        if (c >= menus[m].commands && c < menus[m].commands + menus[m].n)
            return &menus[m];
    return NULL;
}

const char *command_route(const Command *c, char out[ROUTE_MAX])
{
    const Menu *m = command_menu(c);
    out[0] = 0;
    if (m && m->route && c->letter)
        snprintf(out, ROUTE_MAX, "%s %c", m->route, c->letter);
    return out;
}

const char *command_disabled_reason(const Editor *ed, const Command *c)
{
    static char why[FILE_WORDS_MAX];
    if ((c->flags & CMD_CHANGES) && file_unready(ed->view->file, why))
        return why;
    if ((c->flags & CMD_CHANGES) && ed->view->file->look_only)
        return "This text is open to look only";
    return c->disabled_reason ? c->disabled_reason(ed) : NULL;
}

void command_run(Editor *ed, const Command *c, unsigned count, bool counted, const char *text)
{
    const char *why = command_disabled_reason(ed, c);
    if (page_shown(ed) && c == command_named("new-line", 8) && page_follow(ed))
        return;
    if (why) {
        say(ed, "%s", why);
        return;
    }
    Args args = {.count = count, .counted = counted, .text = text};
    bool loop = (c->flags & CMD_REPEATS) != 0;
    View *v = ed->view;
    Doc *doc = v->file->doc;
    bool group = loop && count > 1 && (c->flags & CMD_CHANGES);
    if (!(c->flags & CMD_CHANGES))
        doc_seal(doc);
    if (c->flags & CMD_JUMPS)
        places_note(ed);
    doc_set_verb(doc, (c->flags & CMD_TYPING) ? NULL : c->label);
    ed->running = c;
    if (group)
        doc_begin(doc);
    for (unsigned i = 0; i < (loop ? count : 1); i++) {
        unsigned long version = doc_version(doc);
        size_t cursor = v->cursor.at;
        c->run(ed, &args);
        ed->before = c;
        if (loop && version == doc_version(doc) && cursor == v->cursor.at)
            break; /* at an end: doing it again would do nothing again */
    }
    if (group)
        doc_end(doc);
    if (ed->view->file && ed->view->file->doc == doc && !ed->layer)
        doc_set_verb(doc, NULL);
    ed->running = NULL;
}

bool command_run_line(Editor *ed, const char *line, unsigned count, bool counted)
{
    line += strspn(line, " ");
    size_t n = strcspn(line, " ");
    const Command *c = command_named(line, n);
    if (!c) {
        warn(ed, "There is no command “%.*s”", (int)(n < 60 ? n : 60), line);
        return false;
    }
    line += n;
    command_run(ed, c, count, counted, line + strspn(line, " "));
    return true;
}

/* ---- keys ---- */

static void add_keys(Keymap *m, const Command *c, const char *keys)
{
    while (keys && *keys) {
        size_t n = strcspn(keys, " ");
        Key k;
        if (key_parse(keys, n, &k) && !keymap_find(m, k))
            keymap_set(m, k, c, NULL, false);
        keys += n + strspn(keys + n, " ");
    }
}

static void remove_at(Keymap *m, size_t i)
{
    free(m->at[i].args);
    memmove(m->at + i, m->at + i + 1, (m->n - i - 1) * sizeof *m->at);
    m->n--;
}

void keymap_fill(Keymap *m, const char *layout)
{
    bool shell = strcmp(layout, "shell") == 0;
    for (size_t i = m->n; i-- > 0;)
        if (!m->at[i].own)
            remove_at(m, i);
    for (size_t t = 0; t < n_menus; t++)
        for (size_t i = 0; i < menus[t].n; i++) {
            const Command *c = &menus[t].commands[i];
            add_keys(m, c, shell && c->shell ? c->shell : c->keys);
        }
}

void keymap_set(Keymap *m, Key key, const Command *c, const char *args, bool own)
{
    for (size_t i = m->n; i-- > 0;)
        if (key_same(m->at[i].key, key))
            remove_at(m, i);
    if (!c && !own)
        return;
    if (m->n == m->cap) {
        m->cap = m->cap ? 2 * m->cap : 64;
        m->at = mem_grow(m->at, m->cap * sizeof *m->at);
    }
    m->at[m->n++] = (Binding){key, c, args ? mem_string(args) : NULL, own};
}

const Binding *keymap_find(const Keymap *m, Key key)
{
    for (size_t i = 0; i < m->n; i++)
        if (key_same(m->at[i].key, key))
            return &m->at[i];
    return NULL;
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
