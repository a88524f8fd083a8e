#include "commands/view/pane_commands.h"

#include "ui/editor.h"

static void split(Editor *ed, bool beside)
{
    if (panes_can_split(&ed->panes, beside))
        panes_split(&ed->panes, beside);
    else
        say(ed, "There is no room here for another pane %s this one", beside ? "beside" : "below");
}

static void run_split_below(Editor *ed, const Args *args)
{
    (void)args;
    split(ed, false);
}

static const Command cmd_split_below = {
    .name = "split-below",
    .label = "Split below",
    .letter = 's',
    .help = "Cut this pane in two, one below the other",
    .words = "window pane horizontal",
    .more = "Each pane shows a place of its own, of the same file or of another one; changes show in all of "
            "them at once.",
    .hint = "Split",
    .flags = CMD_LEAVES,
    .run = run_split_below,
};

static void run_split_beside(Editor *ed, const Args *args)
{
    (void)args;
    split(ed, true);
}

static const Command cmd_split_beside = {
    .name = "split-beside",
    .label = "Split beside",
    .letter = 'e',
    .help = "Cut this pane in two, side by side",
    .words = "window pane vertical",
    .flags = CMD_LEAVES,
    .run = run_split_beside,
};

static void step(Editor *ed, int by)
{
    if (panes_many(&ed->panes))
        panes_step(&ed->panes, by);
    else
        say(ed, "There is only one pane; {split-below} and {split-beside} split it");
}

static void run_next(Editor *ed, const Args *args)
{
    (void)args;
    step(ed, 1);
}

static const Command cmd_next_pane = {
    .name = "next-pane",
    .label = "Next pane",
    .letter = 'x',
    .keys = "F6",
    .help = "Go to the next pane",
    .hint = "Next pane",
    .flags = CMD_LEAVES,
    .run = run_next,
};

static void run_before(Editor *ed, const Args *args)
{
    (void)args;
    step(ed, -1);
}

static const Command cmd_pane_before = {
    .name = "pane-before",
    .label = "Pane before",
    .letter = 'z',
    .keys = "Shift+F6",
    .help = "Go to the pane before this one",
    .flags = CMD_LEAVES,
    .run = run_before,
};

static void run_alone(Editor *ed, const Args *args)
{
    (void)args;
    panes_alone(&ed->panes);
}

static const Command cmd_this_pane_alone = {
    .name = "this-pane-alone",
    .label = "This pane alone",
    .letter = 'a',
    .help = "Close all other panes; their files stay open",
    .hint = "One pane",
    .flags = CMD_ENDS | CMD_LEAVES,
    .run = run_alone,
};

static void run_close(Editor *ed, const Args *args)
{
    (void)args;
    if (panes_many(&ed->panes))
        panes_close(&ed->panes);
    else
        say(ed, "This is the only pane; {close} closes the file");
}

static const Command cmd_close_pane = {
    .name = "close-pane",
    .label = "Close pane",
    .letter = 'c',
    .help = "Close this pane; its file stays open",
    .flags = CMD_ENDS | CMD_LEAVES,
    .run = run_close,
};

static void grow(Editor *ed, int by)
{
    if (!panes_many(&ed->panes))
        say(ed, "There is only one pane");
    else if (!panes_grow(&ed->panes, by))
        say(ed, "This pane cannot get %s", by > 0 ? "larger" : "smaller");
}

static void run_larger(Editor *ed, const Args *args)
{
    grow(ed, (int)args->count);
}

static const Command cmd_pane_larger = {
    .name = "pane-larger",
    .label = "Pane larger",
    .letter = '+',
    .help = "Give this pane one more row or column, or as many as the count says",
    .run = run_larger,
};

static void run_smaller(Editor *ed, const Args *args)
{
    grow(ed, -(int)args->count);
}

static const Command cmd_pane_smaller = {
    .name = "pane-smaller",
    .label = "Pane smaller",
    .letter = '-',
    .help = "Take one row or column from this pane, or as many as the count says",
    .run = run_smaller,
};

const Command *const pane_commands[] = {
    &cmd_split_below, &cmd_split_beside,    &cmd_next_pane,
    &cmd_pane_before, &cmd_this_pane_alone, &cmd_close_pane,
    &cmd_pane_larger, &cmd_pane_smaller,    NULL,
};
