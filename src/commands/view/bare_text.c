#include "commands/view/bare_text.h"

#include "base/mem.h"
#include "ui/command.h"

static bool bare_key(Editor *ed, Layer *l, const Input *in)
{
    (void)l;
    const Binding *b = keymap_find(&ed->config.keys, in->key);
    if (b && b->command && (b->command->flags & CMD_MOVES)) {
        command_run_binding(ed, b, 1, false);
        return true;
    }
    layers_cancel(ed);
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
    layers_push(ed, l);
}

static const Command cmd_bare_text = {
    .name = "bare-text",
    .label = "Bare text",
    .letter = 't',
    .help = "Show nothing but the text, to be copied with the terminal's mouse; Esc ends it",
    .run = run_bare,
};

const Command *const bare_text_commands[] = {
    &cmd_bare_text,
    NULL,
};
