#include "commands/file/files.h"

#include "commands/asking.h"
#include "commands/file/trial_save.h"

static void run_save(Editor *ed, const Args *args)
{
    (void)args;
    asking_begin(ed, PLAN_SAVE, ed->panes.view->file, NULL);
}

static const Command cmd_save = {
    .name = "save",
    .label = "Save",
    .letter = 's',
    .keys = "Ctrl+S",
    .help = "Write the text to its file",
    .words = "write store keep",
    .more = "A text without a name asks for one first. The new version takes the place of the old one at "
            "once, unless links or rights rule that out.",
    .hint = "Save",
    .flags = CMD_FILE,
    .run = run_save,
};

static void run_save_as(Editor *ed, const Args *args)
{
    if (*args->text)
        asking_begin(ed, PLAN_SAVE, ed->panes.view->file, args->text);
    else
        plan_save_as(ed->session, ed->panes.view->file);
    asking_look(ed);
}

static const Command cmd_save_as = {
    .name = "save-as",
    .label = "Save as…",
    .letter = 'a',
    .help = "Write the text to a file with another name, and go on with that",
    .words = "write another copy export",
    .args = "FILE",
    .offer = offers_files,
    .hint = "Save as",
    .flags = CMD_FILE,
    .run = run_save_as,
};

static void run_save_every(Editor *ed, const Args *args)
{
    (void)args;
    asking_begin(ed, PLAN_SAVE_EVERY, NULL, NULL);
}

static const Command cmd_save_every_file = {
    .name = "save-every-file",
    .label = "Save every file",
    .letter = 'e',
    .help = "Write all texts that have changes; asks for names where there are none",
    .run = run_save_every,
};

static void run_rename(Editor *ed, const Args *args)
{
    asking_begin(ed, PLAN_RENAME, ed->panes.view->file, args->text);
}

static const Command cmd_rename = {
    .name = "rename",
    .label = "Rename…",
    .letter = 'm',
    .help = "Give the file another name on disk, or another folder",
    .more = "Its kind is recognised again by the new name.",
    .args = "FILE",
    .offer = offers_files,
    .flags = CMD_ENDS | CMD_FILE,
    .run = run_rename,
};

static void run_reload(Editor *ed, const Args *args)
{
    (void)args;
    asking_begin(ed, PLAN_RELOAD, ed->panes.view->file, NULL);
}

static const Command cmd_reload = {
    .name = "reload",
    .label = "Reload",
    .letter = 'z',
    .help = "Take what is on disk in place of the text; asks if there are changes",
    .more = "It is a step like any other: undo brings back what was here.",
    .flags = CMD_ENDS | CMD_FILE,
    .run = run_reload,
};

static void run_shell(Editor *ed, const Args *args)
{
    (void)args;
    if (ed->session->rules.batch)
        warn(ed, "There is no screen for a shell here");
    else
        ed->host.shell = true;
}

static const Command cmd_shell_and_back = {
    .name = "shell-and-back",
    .label = "Shell and back",
    .letter = 't',
    .help = "Go to a shell for a moment; leaving it comes back here",
    .words = "suspend terminal background",
    .more = "Files that changed on disk meanwhile are named when you are back.",
    .run = run_shell,
};

static void run_close(Editor *ed, const Args *args)
{
    (void)args;
    if (layers_covered(ed)) /* help is left, not closed */
        layers_uncover(ed);
    else
        asking_begin(ed, PLAN_CLOSE, ed->panes.view->file, NULL);
}

static const Command cmd_close = {
    .name = "close",
    .label = "Close",
    .letter = 'c',
    .help = "Close this text; asks about changes that are not saved",
    .words = "shut file",
    .flags = CMD_ENDS,
    .run = run_close,
};

static void leave(Editor *ed)
{
    asking_begin(ed, PLAN_LEAVE, NULL, NULL);
}

static void run_leave(Editor *ed, const Args *args)
{
    (void)args;
    ed->host.exit_status = 0; /* a failure that was called off counts no longer */
    if (!trial_save_asks(ed, leave))
        leave(ed);
}

static const Command cmd_leave = {
    .name = "leave",
    .label = "Leave",
    .letter = 'q',
    .keys = "Ctrl+Q",
    .help = "End the program; asks about changes that are not saved",
    .words = "exit quit close end bye stop",
    .hint = "Leave",
    .flags = CMD_ENDS,
    .run = run_leave,
};

static void run_leave_with_failure(Editor *ed, const Args *args)
{
    (void)args;
    ed->host.exit_status = 1;
    if (!trial_save_asks(ed, leave))
        leave(ed);
}

static const Command cmd_leave_with_failure = {
    .name = "leave-with-failure",
    .label = "Leave, cancel the caller",
    .letter = 'r',
    .help = "End the program with status 1, so that the program that called it gives up what it wanted",
    .more = "Such as a version control's commit, or the shell's own line: nothing of it is taken then.",
    .hint = "Abort",
    .words = "abort cancel fail give up refuse commit status 1 quit error",
    .flags = CMD_ENDS,
    .run = run_leave_with_failure,
};

const Command *const files_commands[] = {
    &cmd_save,  &cmd_save_as, &cmd_save_every_file,    &cmd_rename, &cmd_reload, &cmd_shell_and_back,
    &cmd_close, &cmd_leave,   &cmd_leave_with_failure, NULL,
};
