#include "commands/mark/repeat.h"

#include "base/bytes.h"
#include "base/glyph.h"
#include "base/mem.h"
#include "commands/edits.h"
#include "ui/command.h"
#include "ui/prompt.h"

#include <stdio.h>
#include <stdlib.h>

typedef struct Repeat {
    Layer layer;
    unsigned count;
} Repeat;

static bool repeat_key(Editor *ed, Layer *l, const Input *in)
{
    Repeat r = *(Repeat *)l;
    Key k = in->key;
    if (!key_types(k) && k.code != K_ENTER && k.code != K_TAB)
        return false;
    layers_pop(ed);
    if (k.code == K_ENTER || k.code == K_TAB) {
        const Binding *b = keymap_find(&ed->config.keys, k);
        if (b && b->command)
            command_run_binding(ed, b, r.count, true);
        return true;
    }
    char bytes[4] = {(char)k.ch};
    size_t n = k.code == K_CHAR ? utf8_write(k.ch, bytes) : 1;
    Bytes all = {0};
    for (unsigned i = 0; i < r.count; i++)
        bytes_add(&all, bytes, n);
    doc_seal(ed->panes.view->file->doc);
    if (all.len)
        edit_type(ed, all.at, all.len);
    bytes_free(&all);
    return true;
}

static void repeat_paint(Editor *ed, Layer *l, Frame *f)
{
    (void)ed;
    char text[80];
    snprintf(text, sizeof text, "The next character is typed %u times", ((Repeat *)l)->count);
    frame_blank(f, f->status_row, 0, f->cols, ST_TEXT);
    frame_text(f, f->status_row, 1, f->cols, ST_PROMPT, text);
}

static size_t repeat_hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed, (void)l;
    out[0] = (Hint){"a character", "Type it that often", true};
    out[1] = (Hint){"Esc", "Back to the text", true};
    return 2;
}

static const LayerKind repeat_kind = {.key = repeat_key, .paint = repeat_paint, .hints = repeat_hints};

static void wait_for_character(Editor *ed, unsigned count)
{
    Repeat *r = mem_get(sizeof *r);
    r->layer.kind = &repeat_kind;
    r->count = count;
    layers_push(ed, &r->layer);
}

enum { COUNT_MAX = 9999 };

static void count_given(Editor *ed, const char *answer, void *ctx)
{
    (void)ctx;
    char *end;
    unsigned long n = strtoul(answer, &end, 10);
    if (*answer < '0' || *answer > '9' || *end || n > COUNT_MAX)
        warn(ed, "“%s” is no count; a number up to %d is", answer, COUNT_MAX);
    else
        wait_for_character(ed, (unsigned)n);
}

static void run_repeat(Editor *ed, const Args *args)
{
    PromptSpec p = {.label = "How often", .done = count_given};
    if (args->counted)
        wait_for_character(ed, args->count);
    else if (*args->text)
        count_given(ed, args->text, NULL);
    else
        prompt_ask(ed, &p);
}

static const Command cmd_repeat_character = {
    .name = "repeat-character",
    .label = "Repeat a character…",
    .letter = 'n',
    .help = "Type the next character as often as the count says",
    .more = "Any command can be repeated: Esc, the count in digits, then its letters or its key.",
    .args = "COUNT",
    .flags = CMD_CHANGES | CMD_ALL,
    .run = run_repeat,
};

const Command *const repeat_commands[] = {
    &cmd_repeat_character,
    NULL,
};
