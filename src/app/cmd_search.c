/* The Search menu. */
#include "app/editor.h"
#include "app/search.h"
#include "app/tables.h"
#include "base/mem.h"
#include "edit/move.h"

#include <stdlib.h>

static void run_find(Editor *ed, const Args *args)
{
    size_t from, to;
    char *marked = NULL;
    Text t = view_text(ed->view);
    /* A mark within one line is what to find; a longer one is where to find. */
    if (view_marked(ed->view, &from, &to) && to - from < 200 &&
        text_line_of(t, from) == text_line_of(t, to)) {
        marked = mem_get(to - from + 1);
        text_read(t, from, marked, to - from);
        view_go(ed->view, from);
        view_drop_mark(ed->view);
    }
    search_ask(ed, false, *args->text ? args->text : marked);
    free(marked);
}

static void run_find_back(Editor *ed, const Args *args)
{
    search_ask(ed, true, *args->text ? args->text : NULL);
}

static void run_next(Editor *ed, const Args *args)
{
    (void)args;
    search_again(ed, false);
}

static void run_before(Editor *ed, const Args *args)
{
    (void)args;
    search_again(ed, true);
}

static void run_replace(Editor *ed, const Args *args)
{
    search_replace_ask(ed, args->text);
}

static void run_list(Editor *ed, const Args *args)
{
    (void)args;
    search_list(ed, false);
}

static void run_list_all(Editor *ed, const Args *args)
{
    (void)args;
    search_list(ed, true);
}

static void run_replace_all(Editor *ed, const Args *args)
{
    search_replace_all(ed, args->text);
}

static void run_word(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->view;
    Text t = view_text(v);
    size_t end = move_word_right(t, v->cursor.at), start = move_word_left(t, end);
    if (start > v->cursor.at || end - start > 200 || start == end) {
        say(ed, "There is no word at the cursor");
        return;
    }
    char *word = mem_get(end - start + 1);
    text_read(t, start, word, end - start);
    view_go(v, start);
    search_ask(ed, false, word);
    free(word);
}

const Command search_commands[N_SEARCH_COMMANDS] = {
    {
        .name = "find",
        .label = "Find…",
        .letter = 'f',
        .keys = "Ctrl+F",
        .shell = "Ctrl+R",
        .help = "Find words as you type them",
        .more =
            "Enter stays at the match, Esc goes back to where you were. Tab shows the options: letter case, "
            "whole words, expressions, only in the mark.",
        .args = "WORDS",
        .hint = "Find",
        .flags = CMD_JUMPS,
        .run = run_find,
    },
    {
        .name = "find-backwards",
        .label = "Find backwards…",
        .letter = 'k',
        .help = "Find words towards the top of the text",
        .args = "WORDS",
        .flags = CMD_JUMPS,
        .run = run_find_back,
    },
    {
        .name = "find-next",
        .label = "Next match",
        .letter = 'n',
        .keys = "Ctrl+N F3",
        .shell = "F3",
        .help = "Go to the next match of the last search",
        .hint = "Next match",
        .flags = CMD_MOVES | CMD_JUMPS | CMD_REPEATS,
        .run = run_next,
    },
    {
        .name = "find-before",
        .label = "Match before",
        .letter = 'b',
        .keys = "Ctrl+B Shift+F3",
        .shell = "Shift+F3",
        .help = "Go to the match before",
        .flags = CMD_MOVES | CMD_JUMPS | CMD_REPEATS,
        .run = run_before,
    },
    {
        .name = "replace",
        .label = "Replace…",
        .letter = 'r',
        .keys = "Ctrl+R",
        .shell = "",
        .help = "Replace words, one by one or all",
        .more = "Words with blanks behind the name are put in quotation marks.",
        .args = "WORDS BY",
        .hint = "Replace",
        .flags = CMD_CHANGES,
        .run = run_replace,
    },
    {
        .name = "replace-all",
        .label = "Replace all…",
        .letter = 'a',
        .help = "Replace words everywhere at once",
        .more =
            "-x takes the words as an expression, -w means whole words, -i any letter case, -f lets the new "
            "words follow the letter case of the old ones. Without a screen: squill --do.",
        .args = "[-x] [-w] [-i] [-f] WORDS BY",
        .flags = CMD_CHANGES,
        .run = run_replace_all,
    },
    {
        .name = "list-matches-everywhere",
        .label = "List matches in all texts…",
        .letter = 'e',
        .help = "Show all lines of all open texts that match the last search",
        .flags = CMD_JUMPS,
        .run = run_list_all,
    },
    {
        .name = "list-matches",
        .label = "List matches…",
        .letter = 'l',
        .help = "Show all lines that match the last search",
        .flags = CMD_JUMPS,
        .run = run_list,
    },
    {
        .name = "find-word",
        .label = "Word at the cursor",
        .letter = 'w',
        .help = "Find the word at the cursor",
        .flags = CMD_JUMPS,
        .run = run_word,
    },
};
