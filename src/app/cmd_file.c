/* The File menu. */
#include "editor.h"
#include "sys.h"
#include "tables.h"

#include <stdlib.h>

static void open_given(Editor *ed, const char *answer, void *ctx)
{
    (void)ctx;
    Err e = {""};
    char *path = sys_expand_home(answer);
    if (!*path)
        say(ed, "Without a name nothing was opened");
    else if (!editor_open(ed, path, &e))
        warn(ed, "%s", e.text);
    free(path);
}

static void run_open(Editor *ed, const Args *args)
{
    if (*args->text) {
        open_given(ed, args->text, NULL);
        return;
    }
    PromptSpec p = {.label = "Open", .history = "files", .offer = offer_files, .done = open_given};
    prompt_ask(ed, &p);
}

static void run_new(Editor *ed, const Args *args)
{
    (void)args;
    editor_show(ed, editor_add(ed, (Text){0}));
}

static void run_look_only(Editor *ed, const Args *args)
{
    (void)args;
    OpenFile *f = ed->view->file;
    f->look_only = !f->look_only;
    say(ed, f->look_only ? "%s can now only be looked at" : "%s can be changed again", file_name(f));
}

static void run_save(Editor *ed, const Args *args)
{
    (void)args;
    editor_save(ed, ed->view->file, NULL);
}

static void run_save_as(Editor *ed, const Args *args)
{
    (void)args;
    editor_save_as(ed, ed->view->file, NULL);
}

static void run_leave(Editor *ed, const Args *args)
{
    (void)args;
    editor_leave(ed);
}

const Command file_commands[N_FILE_COMMANDS] = {
    {
        .name = "new",
        .label = "New",
        .letter = 'n',
        .help = "Begin a new text; its first save asks for a name",
        .run = run_new,
    },
    {
        .name = "open",
        .label = "Open…",
        .letter = 'o',
        .keys = "Ctrl+O",
        .help = "Open a file, or go to it if it is open",
        .args = "FILE",
        .offer = offer_files,
        .hint = "Open",
        .run = run_open,
    },
    {
        .name = "save",
        .label = "Save",
        .letter = 's',
        .keys = "Ctrl+S",
        .help = "Write the text to its file",
        .more = "A text without a name asks for one first. The new version takes the place of the old one at "
                "once, unless links or rights rule that out.",
        .hint = "Save",
        .run = run_save,
    },
    {
        .name = "save-as",
        .label = "Save as…",
        .letter = 'a',
        .help = "Write the text to a file with another name, and go on with that",
        .hint = "Save as",
        .run = run_save_as,
    },
    {
        .name = "look-only",
        .label = "Look only",
        .letter = 'l',
        .help = "Protect this text from changes, or allow them again",
        .run = run_look_only,
    },
    {
        .name = "leave",
        .label = "Leave",
        .letter = 'q',
        .keys = "Ctrl+Q",
        .help = "End the program; asks about changes that are not saved",
        .hint = "Leave",
        .run = run_leave,
    },
};
