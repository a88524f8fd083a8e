/* The File menu. */
#include "editor.h"
#include "tables.h"

static void run_save(Editor *ed, const Args *args)
{
    (void)args;
    editor_save(ed, ed->view.file, NULL);
}

static void run_save_as(Editor *ed, const Args *args)
{
    (void)args;
    editor_save_as(ed, ed->view.file, NULL);
}

static void run_leave(Editor *ed, const Args *args)
{
    (void)args;
    editor_leave(ed);
}

const Command file_commands[N_FILE_COMMANDS] = {
    {
        .name = "save",
        .label = "Save",
        .letter = 's',
        .keys = "Ctrl+S",
        .help = "Write the text to its file",
        .more = "A text without a name asks for one first. The file is the old or the new version, "
                "whole, at every moment.",
        .hint = "Save",
        .run = run_save,
    },
    {
        .name = "save-as",
        .label = "Save as…",
        .letter = 'a',
        .help = "Write the text to a file with another name, and go on with that",
        .run = run_save_as,
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
