/* The File menu. */
#include "app/asking.h"
#include "app/differences.h"
#include "app/editor.h"
#include "app/filelist.h"
#include "app/pages.h"
#include "app/properties.h"
#include "app/tables.h"

static void run_open(Editor *ed, const Args *args)
{
    if (*args->text)
        filelist_go(ed, args->text);
    else
        filelist_open(ed, "");
}

static void run_open_files(Editor *ed, const Args *args)
{
    (void)args;
    filelist_show(ed);
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
    char why[FILE_WORDS_MAX];
    if (file_unready(f, why)) {
        say(ed, "%s", why);
        return;
    }
    f->look_only = !f->look_only;
    say(ed, f->look_only ? "%s can now only be looked at" : "%s can be changed again", file_name(f));
}

static void run_save(Editor *ed, const Args *args)
{
    (void)args;
    asking_begin(ed, PLAN_SAVE, ed->view->file, NULL);
}

static void run_save_as(Editor *ed, const Args *args)
{
    if (*args->text)
        asking_begin(ed, PLAN_SAVE, ed->view->file, args->text);
    else
        plan_save_as(ed->session, ed->view->file);
    asking_look(ed);
}

static void run_save_every(Editor *ed, const Args *args)
{
    (void)args;
    asking_begin(ed, PLAN_SAVE_EVERY, NULL, NULL);
}

static void run_rename(Editor *ed, const Args *args)
{
    asking_begin(ed, PLAN_RENAME, ed->view->file, args->text);
}

static void run_insert_file(Editor *ed, const Args *args)
{
    filelist_insert(ed, args->text);
}

static void run_reload(Editor *ed, const Args *args)
{
    (void)args;
    asking_begin(ed, PLAN_RELOAD, ed->view->file, NULL);
}

static void run_differences(Editor *ed, const Args *args)
{
    (void)args;
    differences_open(ed);
}

static void run_properties(Editor *ed, const Args *args)
{
    (void)args;
    properties_open(ed);
}

static void run_shell(Editor *ed, const Args *args)
{
    (void)args;
    if (ed->session->rules.batch)
        warn(ed, "There is no screen for a shell here");
    else
        ed->shell = true;
}

static void run_next_file(Editor *ed, const Args *args)
{
    (void)args;
    filelist_step(ed, 1);
}

static void run_file_before(Editor *ed, const Args *args)
{
    (void)args;
    filelist_step(ed, -1);
}

static void run_close(Editor *ed, const Args *args)
{
    (void)args;
    if (!page_leave(ed)) /* help is left, not closed */
        asking_begin(ed, PLAN_CLOSE, ed->view->file, NULL);
}

static void run_recover(Editor *ed, const Args *args)
{
    (void)args;
    asking_list(ed);
}

static void run_leave(Editor *ed, const Args *args)
{
    (void)args;
    asking_begin(ed, PLAN_LEAVE, NULL, NULL);
}

static void run_refuse(Editor *ed, const Args *args)
{
    (void)args;
    ed->exit_status = 1;
    asking_begin(ed, PLAN_LEAVE, NULL, NULL);
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
        .more =
            "Lists what is open and what was opened lately, and then what lies in the folder that is typed. "
            "Enter on a folder goes into it, Tab completes; the name of a file that is not there begins it.",
        .args = "FILE",
        .offer = offer_files,
        .hint = "Open",
        .run = run_open,
    },
    {
        .name = "open-files",
        .label = "Open files",
        .letter = 'b',
        .help = "List the open texts with their size and state, and go to one",
        .hint = "Open files",
        .run = run_open_files,
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
        .args = "FILE",
        .offer = offer_files,
        .hint = "Save as",
        .run = run_save_as,
    },
    {
        .name = "save-every-file",
        .label = "Save every file",
        .letter = 'e',
        .help = "Write all texts that have changes; asks for names where there are none",
        .run = run_save_every,
    },
    {
        .name = "rename",
        .label = "Rename…",
        .letter = 'm',
        .help = "Give the file another name on disk, or another folder",
        .more = "Its kind is recognised again by the new name.",
        .args = "FILE",
        .offer = offer_files,
        .run = run_rename,
    },
    {
        .name = "insert-file",
        .label = "Insert file…",
        .letter = 'i',
        .help = "Put the contents of a file at the cursor, or in place of the mark",
        .args = "FILE",
        .offer = offer_files,
        .flags = CMD_CHANGES,
        .run = run_insert_file,
    },
    {
        .name = "reload",
        .label = "Reload",
        .letter = 'z',
        .help = "Take what is on disk in place of the text; asks if there are changes",
        .more = "It is a step like any other: undo brings back what was here.",
        .run = run_reload,
    },
    {
        .name = "differences",
        .label = "Differences",
        .letter = 'd',
        .keys = "F9",
        .help = "Show what differs from the last save, from the disk or from another text",
        .more = "Letters in that view: n and b go to the next change and the one before, t takes one back, c "
                "compares "
                "with something else. Enter goes to the place in the text.",
        .hint = "Differences",
        .run = run_differences,
    },
    {
        .name = "properties",
        .label = "Properties",
        .letter = 'p',
        .help = "Show and change the kind, encoding, line ends and indentation of this text",
        .run = run_properties,
    },
    {
        .name = "look-only",
        .label = "Look only",
        .letter = 'l',
        .help = "Protect this text from changes, or allow them again",
        .run = run_look_only,
    },
    {
        .name = "next-file",
        .label = "Next file",
        .letter = 'x',
        .keys = "Ctrl+PageDown",
        .help = "Show the next of the open texts",
        .run = run_next_file,
    },
    {
        .name = "file-before",
        .label = "File before",
        .letter = 'y',
        .keys = "Ctrl+PageUp",
        .help = "Show the open text before this one",
        .run = run_file_before,
    },
    {
        .name = "shell-and-back",
        .label = "Shell and back",
        .letter = 't',
        .help = "Go to a shell for a moment; leaving it comes back here",
        .more = "Files that changed on disk meanwhile are named when you are back.",
        .run = run_shell,
    },
    {
        .name = "recover-work",
        .label = "Recover work…",
        .letter = 'v',
        .help = "List unsaved and dropped work that can be brought back",
        .more = "What was not saved when the program broke off, and for a week what was dropped on purpose "
                "by leaving, "
                "closing or reloading.",
        .run = run_recover,
    },
    {
        .name = "close",
        .label = "Close",
        .letter = 'c',
        .help = "Close this text; asks about changes that are not saved",
        .run = run_close,
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
    {
        .name = "refuse",
        .label = "Leave with failure",
        .letter = 'r',
        .help = "End the program with status 1, so that whoever called it gives up what it wanted",
        .run = run_refuse,
    },
};
