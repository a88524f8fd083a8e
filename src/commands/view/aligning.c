#include "commands/view/aligning.h"

#include "ui/editor.h"
#include "view/aligned.h"

static void run_align(Editor *ed, const Args *args)
{
    View *v = ed->panes.view;
    (void)args;
    v->goal_kept = false;
    if (v->aligned) {
        aligned_end(v);
        say(ed, "The text shows as it is again");
    } else if (!aligned_begin(v)) {
        say(ed, "The first rows of this text are not divided by the same commas, semicolons, tabs or bars");
    } else {
        say(ed, "Columns stand under each other, on the screen only%s; {columns-under-each-other} ends that",
            ed->config.settings.wrap ? ", and long lines are not wrapped" : "");
    }
}

static const Command cmd_columns = {
    .name = "columns-under-each-other",
    .label = "Columns under each other",
    .letter = 'd',
    .help = "Show the cells of a table under each other, without changing the text; again: as it is",
    .more = "What divides the first rows counts: commas, semicolons, tabs or bars. A cell of more than 40 "
            "characters "
            "pushes the rest of its row aside.",
    .words = "csv table align tabular spreadsheet",
    .hint = "As it is",
    .flags = CMD_FILE,
    .run = run_align,
};

const Command *const aligning_commands[] = {&cmd_columns, NULL};
