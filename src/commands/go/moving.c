#include "commands/go/moving.h"

#include "base/mem.h"
#include "edit/move.h"
#include "ui/command.h"
#include "view/scroll.h"

#include <string.h>

static void run_left(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->panes.view, move_left(view_text(ed->panes.view), ed->panes.view->cursor.at));
}

static const Command cmd_go_left = {
    .name = "go-left",
    .label = "One character left",
    .letter = 'a',
    .keys = "Left",
    .shell = "Left Ctrl+B",
    .help = "Go one character to the left",
    .flags = CMD_MOVES | CMD_REPEATS | CMD_ADVANCES | CMD_EACH,
    .run = run_left,
};

static void run_right(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->panes.view, move_right(view_text(ed->panes.view), ed->panes.view->cursor.at));
}

static const Command cmd_go_right = {
    .name = "go-right",
    .label = "One character right",
    .letter = 'd',
    .keys = "Right",
    .shell = "Right Ctrl+F",
    .help = "Go one character to the right",
    .flags = CMD_MOVES | CMD_REPEATS | CMD_ADVANCES | CMD_EACH,
    .run = run_right,
};

static void run_word_left(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->panes.view, move_word_left(view_text(ed->panes.view), ed->panes.view->cursor.at));
}

static const Command cmd_go_word_left = {
    .name = "go-word-left",
    .label = "Word to the left",
    .letter = 'q',
    .keys = "Ctrl+Left",
    .help = "Go to the start of this word or the one before",
    .flags = CMD_MOVES | CMD_REPEATS | CMD_ADVANCES | CMD_EACH,
    .run = run_word_left,
};

static void run_word_right(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->panes.view, move_word_right(view_text(ed->panes.view), ed->panes.view->cursor.at));
}

static const Command cmd_go_word_right = {
    .name = "go-word-right",
    .label = "Word to the right",
    .letter = 'e',
    .keys = "Ctrl+Right",
    .help = "Go to the end of this word or the next",
    .flags = CMD_MOVES | CMD_REPEATS | CMD_ADVANCES | CMD_EACH,
    .run = run_word_right,
};

static long bounded(const Args *args)
{
    return (long)(args->count < 10000 ? args->count : 10000);
}

static void run_up(Editor *ed, const Args *args)
{
    scroll_cursor(ed->panes.view, -bounded(args));
}

static const Command cmd_go_up = {
    .name = "go-up",
    .label = "One line up",
    .letter = 'w',
    .keys = "Up",
    .shell = "Up Ctrl+P",
    .help = "Go one line up",
    .flags = CMD_MOVES | CMD_ADVANCES | CMD_EACH,
    .run = run_up,
};

static void run_down(Editor *ed, const Args *args)
{
    scroll_cursor(ed->panes.view, bounded(args));
}

static const Command cmd_go_down = {
    .name = "go-down",
    .label = "One line down",
    .letter = 's',
    .keys = "Down",
    .shell = "Down Ctrl+N",
    .help = "Go one line down",
    .flags = CMD_MOVES | CMD_ADVANCES | CMD_EACH,
    .run = run_down,
};

static void run_screen_up(Editor *ed, const Args *args)
{
    scroll_screens(ed->panes.view, -bounded(args));
}

static const Command cmd_go_screen_up = {
    .name = "go-screen-up",
    .label = "One screen up",
    .letter = 'r',
    .keys = "PageUp",
    .shell = "PageUp",
    .help = "Go one screen up",
    .flags = CMD_MOVES | CMD_ADVANCES,
    .run = run_screen_up,
};

static void run_screen_down(Editor *ed, const Args *args)
{
    scroll_screens(ed->panes.view, bounded(args));
}

static const Command cmd_go_screen_down = {
    .name = "go-screen-down",
    .label = "One screen down",
    .letter = 'f',
    .keys = "PageDown",
    .shell = "PageDown",
    .help = "Go one screen down",
    .flags = CMD_MOVES | CMD_ADVANCES,
    .run = run_screen_down,
};

/* ---- moving by letters ---- */

static const struct {
    char letter;
    const char *command;
} pad_letters[] = {{'w', "go-up"},        {'s', "go-down"},       {'a', "go-left"},
                   {'d', "go-right"},     {'q', "go-word-left"},  {'e', "go-word-right"},
                   {'r', "go-screen-up"}, {'f', "go-screen-down"}};

static bool pad_key(Editor *ed, Layer *l, const Input *in)
{
    (void)l;
    Key k = in->key;
    const Binding *b = keymap_find(&ed->config.keys, k);
    if (b && b->command && (b->command->flags & CMD_MOVES)) {
        command_run_binding(ed, b, 1, false);
        return true;
    }
    if (!key_types(k))
        return false;
    uint32_t ch = k.ch < 128 ? k.ch : settings_menu_letter(&ed->config, k.ch);
    for (size_t i = 0; i < sizeof pad_letters / sizeof *pad_letters; i++)
        if ((uint32_t)pad_letters[i].letter == (ch | 0x20)) {
            command_run(ed, command_named(ed, pad_letters[i].command), 1, false, "");
            return true;
        }
    say(ed, "Letters move now; Esc ends that");
    return true;
}

static size_t pad_hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed, (void)l;
    static const Hint hints[] = {{"Esc", "Back to typing", true},
                                 {"w", "Up", true},
                                 {"s", "Down", true},
                                 {"a", "Left", true},
                                 {"d", "Right", false},
                                 {"q", "Word left", false},
                                 {"e", "Word right", false},
                                 {"r", "Screen up", false},
                                 {"f", "Screen down", false}};
    memcpy(out, hints, sizeof hints);
    return sizeof hints / sizeof *hints;
}

static const LayerKind pad_kind = {.help = "moving", .key = pad_key, .hints = pad_hints};

static void run_pad(Editor *ed, const Args *args)
{
    (void)args;
    Layer *l = mem_get(sizeof *l);
    l->kind = &pad_kind;
    layers_push(ed, l);
}

static const Command cmd_move_by_letters = {
    .name = "move-by-letters",
    .label = "Move by letters…",
    .letter = 's',
    .help = "Move by w a s d, words by q e, screens by r f; Esc ends it",
    .run = run_pad,
};

const Command *const moving_commands[] = {
    &cmd_go_left,        &cmd_go_right,     &cmd_go_up,         &cmd_go_down,         &cmd_go_screen_up,
    &cmd_go_screen_down, &cmd_go_word_left, &cmd_go_word_right, &cmd_move_by_letters, NULL,
};
