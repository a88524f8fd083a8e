#include "commands/menus.h"

#include "commands/edit/clips.h"
#include "commands/edit/complete.h"
#include "commands/edit/dates.h"
#include "commands/edit/history.h"
#include "commands/edit/putting.h"
#include "commands/edit/typing.h"
#include "commands/file/comparing.h"
#include "commands/file/earlier_saves.h"
#include "commands/file/files.h"
#include "commands/file/lately.h"
#include "commands/file/merging.h"
#include "commands/file/open_files.h"
#include "commands/file/opening.h"
#include "commands/file/properties.h"
#include "commands/file/recovering.h"
#include "commands/file/trial_save.h"
#include "commands/go/going.h"
#include "commands/go/moving.h"
#include "commands/go/outline.h"
#include "commands/help/help.h"
#include "commands/help/key_test.h"
#include "commands/help/lesson.h"
#include "commands/help/manual.h"
#include "commands/help/pick.h"
#include "commands/help/settings_panel.h"
#include "commands/lines/lines.h"
#include "commands/lines/shape.h"
#include "commands/mark/many.h"
#include "commands/mark/marking.h"
#include "commands/mark/repeat.h"
#include "commands/search/folder_find.h"
#include "commands/search/match_list.h"
#include "commands/search/replace.h"
#include "commands/search/search.h"
#include "commands/tools/growing.h"
#include "commands/tools/play_keys.h"
#include "commands/tools/problems.h"
#include "commands/tools/recording.h"
#include "commands/tools/recordings.h"
#include "commands/tools/run.h"
#include "commands/tools/spelling.h"
#include "commands/tools/word_tools.h"
#include "commands/view/aligning.h"
#include "commands/view/bare_text.h"
#include "commands/view/follow.h"
#include "commands/view/hiding_lines.h"
#include "commands/view/pane_commands.h"
#include "commands/view/switches.h"

/* The tables of commands, one of each feature. */
static const Command *const *const tables[] = {
    bare_text_commands, clip_commands,        complete_commands,   comparing_commands,  files_commands,
    going_commands,     help_commands,        history_commands,    key_test_commands,   lesson_commands,
    lines_commands,     marking_commands,     match_list_commands, moving_commands,     open_files_commands,
    opening_commands,   pane_commands,        pick_commands,       properties_commands, recovering_commands,
    repeat_commands,    replace_commands,     run_commands,        search_commands,     settings_commands,
    switch_commands,    putting_commands,     typing_commands,     growing_commands,    word_commands,
    recording_commands, play_keys_commands,   recordings_commands, problems_commands,   manual_commands,
    earlier_commands,   folder_find_commands, follow_commands,     merging_commands,    trial_commands,
    shape_commands,     dates_commands,       outline_commands,    hiding_commands,     lately_commands,
    many_commands,      aligning_commands,    spelling_commands,
};

typedef struct MenuSpec {
    const char *title;
    char letter;
    const char *route;
    const char *commands;
} MenuSpec;

/* The menus, and the order in which the commands stand there. The last one is on no bar: its keys are on
 * every keyboard, and its letters those of the pad. */
static const MenuSpec menus[] = {
    {"File", 'f', "Esc f",
     "save save-as save-every-file save-on-trial | new open lately open-files next-file file-before close | "
     "differences merge earlier-saves reload rename insert-file properties look-only recover-work | "
     "shell-and-back leave leave-with-failure"},
    {"Edit", 'e', "Esc e",
     "undo redo history | cut copy paste earlier-clip shelf paste-from-system | delete-right "
     "delete-word-right delete-word-left cut-to-line-end cut-to-line-start | complete-word insert-date "
     "insert type "
     "overtype"},
    {"Mark", 'm', "Esc m",
     "mark mark-word mark-line mark-block mark-section mark-inside mark-all | mark-columns mark-swap | "
     "mark-next-same mark-all-same cursor-on-lines one-cursor | "
     "repeat-character"},
    {"Lines", 'l', "Esc l",
     "indent unindent comment | duplicate-lines move-lines-up move-lines-down join-lines append-line "
     "delete-lines | "
     "sort-lines sort-by-numbers sort-by-cell reverse-lines remove-doubles remove-lines-without "
     "remove-lines-with | "
     "wrap-paragraph unwrap-paragraph align-columns convert-indentation trim-blanks line-end-character"},
    {"Search", 's', "Esc s",
     "find find-next find-before find-backwards find-word | replace replace-all | list-matches "
     "list-matches-everywhere | find-in-folder replace-in-folder folder-results"},
    {"Go", 'g', "Esc g",
     "outline next-section section-before | go-line go-top go-bottom go-line-start go-line-end go-matching | "
     "jump-back jump-forward "
     "next-change next-problem problem-before next-conflict next-field field-before bookmark next-bookmark | "
     "where centre "
     "move-by-letters"},
    {"View", 'v', "Esc v",
     "line-numbers wrap show-blanks ruler hints bare-text theme | follow | only-what-counts only-matches "
     "only-changes only-problems | columns-under-each-other | file-kind | split-below "
     "split-beside "
     "next-pane pane-before this-pane-alone close-pane pane-larger pane-smaller | mouse layout"},
    {"Tools", 't', "Esc t",
     "check-file problems check-spelling | run-command filter | record-keys play-keys play-keys-many "
     "recordings "
     "growing-number | upper-case "
     "lower-case number-up number-down flip-word | encoding "
     "read-as line-ends indentation"},
    {"Help", 'h', "Esc h",
     "manual | help lesson lesson-more all-keys what-is-this-key command | settings set menus what-was-said "
     "| "
     "lesson-next "
     "lesson-back lesson-stop | about"},
    {NULL, 0, "Esc g s",
     "go-left go-right go-up go-down go-screen-up go-screen-down go-word-left go-word-right "
     "new-line tab delete-left"},
};

void menus_register(Registry *r)
{
    for (size_t i = 0; i < sizeof tables / sizeof *tables; i++)
        registry_add(r, tables[i]);
    for (size_t i = 0; i < sizeof menus / sizeof *menus; i++)
        registry_add_menu(r, menus[i].title, menus[i].letter, menus[i].route, menus[i].commands);
}
