#include "commands/tools/recordings.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/help/key_test.h"
#include "commands/tools/kept.h"
#include "commands/tools/playing.h"
#include "commands/tools/recording.h"
#include "config/own_file.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "ui/prompt.h"
#include "ui/question.h"
#include "view/scroll.h"

#include <stdlib.h>
#include <string.h>

enum { THE_LAST, THE_KEPT }; /* ids of rows: the last recording, and the first of the kept ones */

/* How many steps, and how they begin. */
static void note_words(const Recorded *r, Bytes *out)
{
    bytes_printf(out, "%s: ", AMOUNT(r->n, "key"));
    Bytes text = {0};
    recorded_write(r, &text);
    for (size_t i = 0; i < text.len && out->len < 160; i++)
        bytes_add(out, text.at[i] == '\n' ? "  " : text.at + i, text.at[i] == '\n' ? 2 : 1);
    bytes_free(&text);
}

static void add_row(const Editor *ed, Panel *p, long id, const char *name, const Recorded *r,
                    const Command *c)
{
    Bytes note = {0};
    char key[COMMAND_KEY_MAX] = "";
    note_words(r, &note);
    panel_add(p, id, name, bytes_str(&note), c ? command_key(ed, c, key) : NULL);
    bytes_free(&note);
}

static void fill(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    const Recorded *last = recording_last(ed);
    if (last)
        add_row(ed, p, THE_LAST, "the last one, not kept yet", last, NULL);
    for (size_t i = 0; i < kept_count(ed); i++) {
        const Kept *k = kept_at(ed, i);
        add_row(ed, p, THE_KEPT + (long)i, k->name, &k->what, &k->command);
    }
}

/* What was chosen: the name of a kept one, or NULL for the last one; owned. */
static const Recorded *chosen_keys(const Editor *ed, const char *name)
{
    const Kept *k = name ? kept_named(ed, name) : NULL;
    return k ? &k->what : name ? NULL : recording_last(ed);
}

static void name_given(Editor *ed, const char *name, void *ctx)
{
    const char *old = ctx;
    const Recorded *what = chosen_keys(ed, old);
    const Kept *there = kept_named(ed, name);
    if (!*name || !what) {
        say(ed, "Without a name it is not kept");
        return;
    }
    if (old && strcmp(old, name) == 0)
        return;
    if (there && !(old && strcmp(there->name, old) == 0)) {
        warn(ed, "There is a recording “%s” already", there->name);
        return;
    }
    for (const char *p = name; *p; p++)
        if ((unsigned char)*p < ' ' || *p == 0x7f) {
            warn(ed, "A name cannot have such signs in it");
            return;
        }
    if (kept_put(ed, old, name, what) && (there = kept_named(ed, name)))
        say(ed, "Kept as “%s”%s; its route is %s", name, ed->session->rules.plain ? " for this run" : "",
            KEY_FOR(ed, there->own));
}

static void ask_name(Editor *ed, const char *old)
{
    PromptSpec p = {.label = "Keep it under the name",
                    .initial = old,
                    .done = name_given,
                    .ctx = old ? mem_string(old) : NULL,
                    .free_ctx = free};
    prompt_ask(ed, &p);
}

/* Its lines in the file of recordings; saving that counts. */
static void change_as_text(Editor *ed, const char *name)
{
    Err e = {""};
    const Kept *k = name ? kept_named(ed, name) : NULL;
    char *path = own_file_path(KEPT_FILE_NAME);
    if (!k || k->machine || !k->line || !path) {
        say(ed, !name ? "Keep it under a name first; then its keys stand in a file that you can change"
                      : "It stands in the machine's file, or is kept for this run only");
    } else if (!editor_open(ed, path, &e)) {
        warn(ed, "%s", e.text);
    } else {
        view_go_line(ed->panes.view, k->line, 0);
        scroll_centre(ed->panes.view);
        say(ed, "The keys of “%s”, one in each line; what you save here counts at once", name);
    }
    free(path);
}

static void remove_kept(Editor *ed, const char *name)
{
    const Kept *k = name ? kept_named(ed, name) : NULL;
    char *copy = k ? mem_string(name) : NULL;
    if (!k || k->machine)
        say(ed, k ? "It stands in the machine's file, which is not yours to change" : "It is not kept");
    else if (kept_put(ed, copy, NULL, NULL))
        say(ed, "“%s” is kept no longer", copy);
    free(copy);
}

static void what_now(Editor *ed, char letter, void *ctx)
{
    const char *name = ctx;
    const Recorded *r = chosen_keys(ed, name);
    if (!r)
        return;
    if (letter == 'p')
        playing_start(ed, r, name, PLAY_TIMES, 1);
    else if (letter == 'w')
        playing_start(ed, r, name, PLAY_WHILE_IT_WORKS, 0);
    else if (letter == 'k' || letter == 'a')
        ask_name(ed, name);
    else if (letter == 't')
        change_as_text(ed, name);
    else if (letter == 'f' && name)
        key_test_open_for(ed, kept_named(ed, name)->own);
    else if (letter == 'r')
        remove_kept(ed, name);
}

static void chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    size_t i = (size_t)(id - THE_KEPT);
    const char *name = id >= THE_KEPT && i < kept_count(ed) ? kept_at(ed, i)->name : NULL;
    if (id < 0)
        return;
    QuestionSpec q = {
        .answers = {{'p', "Play"},
                    {'w', "Play as often as it works"},
                    {name ? 'a' : 'k', name ? "Another name…" : "Keep it…"},
                    {name ? 't' : 0, "Change as text"}, /* only of one that is kept */
                    {'f', "Put on a key…"},
                    {'r', "Remove it"}},
        .stay = "Back",
        .done = what_now,
        .ctx = name ? mem_string(name) : NULL,
        .free_ctx = free,
    };
    question_ask(ed, &q, "%s:", name ? name : "The last recording");
}

static void run_recordings(Editor *ed, const Args *args)
{
    (void)args;
    PanelSpec p = {
        .title = "Recordings", .fill = fill, .chosen = chosen, .empty = "There is none; F8 records one"};
    panel_open(ed, &p);
}

static const Command cmd_recordings = {
    .name = "recordings",
    .label = "Recordings…",
    .letter = 's',
    .help = "Play, name, change and remove what was recorded",
    .words = "macros list keep name",
    .more =
        "What is kept under a name is a command of that name, in the menu Yours, and can be put on a key. "
        "Its keys stand in recordings.lua in words, where they can be changed.",
    .run = run_recordings,
};

const Command *const recordings_commands[] = {&cmd_recordings, NULL};
