#include "ui/line_keys.h"

#include <string.h>

Key line_keys_meaning(const Config *c, Key k)
{
    static const struct {
        const char *command;
        Key key;
    } meanings[] = {
        {"go-left", {.code = K_LEFT}},
        {"go-right", {.code = K_RIGHT}},
        {"go-up", {.code = K_UP}},
        {"go-down", {.code = K_DOWN}},
        {"go-line-start", {.code = K_HOME}},
        {"go-line-end", {.code = K_END}},
        {"go-word-left", {.code = K_LEFT, .mods = MOD_CTRL}},
        {"go-word-right", {.code = K_RIGHT, .mods = MOD_CTRL}},
        {"go-screen-up", {.code = K_PAGE_UP}},
        {"go-screen-down", {.code = K_PAGE_DOWN}},
        {"delete-right", {.code = K_DELETE}},
        {"delete-left", {.code = K_BACKSPACE}},
        {"delete-word-left", {.code = K_CHAR, .mods = MOD_CTRL, .ch = 'w'}},
        {"cut-to-line-start", {.code = K_CHAR, .mods = MOD_CTRL, .ch = 'u'}},
        {"cut-to-line-end", {.code = K_CHAR, .mods = MOD_CTRL, .ch = 'k'}},
    };
    const Binding *b = key_types(k) ? NULL : keymap_find(&c->keys, k);
    for (size_t i = 0; b && b->command && i < sizeof meanings / sizeof *meanings; i++)
        if (strcmp(b->command->name, meanings[i].command) == 0)
            return meanings[i].key;
    return k;
}

bool line_keys_take_clip(Editor *ed, LineEntry *l, Key k)
{
    if (!keymap_runs(&ed->config.keys, k, "paste"))
        return false;
    char bytes[1024];
    if (ed->shelf.n)
        line_entry_insert(l, bytes, text_read(ed->shelf.clips[0].text, 0, bytes, sizeof bytes));
    else
        say(ed, "Nothing was cut or copied yet");
    return true;
}
