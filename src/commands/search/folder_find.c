#include "commands/search/folder_find.h"

#include "base/arguments.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/pattern.h"
#include "commands/search/folder_list.h"
#include "commands/search/folder_replace.h"
#include "commands/search/search.h"
#include "files/location.h"
#include "ui/command.h"
#include "ui/panel.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* ---- what is asked ---- */

void folder_find_split(const char *typed, char **folder, char **names)
{
    const char *slash = strrchr(typed, '/'), *last = slash ? slash + 1 : typed;
    bool pattern = pattern_is(last);
    char *head = pattern ? mem_string_n(typed, (size_t)(last - typed)) : mem_string(typed);
    char *home = path_expand_home(*head ? head : ".");
    *names = mem_string(pattern ? last : "");
    *folder = path_full(home);
    size_t n = strlen(*folder);
    while (n > 1 && (*folder)[n - 1] == '/')
        (*folder)[--n] = 0;
    free(home);
    free(head);
}

/* What was given so far. */
typedef struct Given {
    char *words, *with; /* with: NULL: it is only looked for */
} Given;

static Given *new_given(const char *words, const char *with)
{
    Given *g = mem_get(sizeof *g);
    *g = (Given){mem_string(words), with ? mem_string(with) : NULL};
    return g;
}

static void free_given(void *ctx)
{
    Given *g = ctx;
    free(g->words);
    free(g->with);
    free(g);
}

static void ask_folder(Editor *ed, const Given *g, const char *initial);

bool folder_find_start(Editor *ed, const char *words, const char *with, char *const *folders, size_t n,
                       const char *names, Err *e)
{
    if (!folder_list_start(ed, words, with, folders, n, names, e))
        return false;
    if (with)
        ed->folder_find->replace = folder_replace_ask;
    folder_list_open(ed);
    return true;
}

static void folder_given(Editor *ed, const char *answer, void *ctx)
{
    const Given *g = ctx;
    char *folder, *names;
    Err e = {""};
    if (location_is_remote(answer)) {
        warn(ed, "Finding in a folder works on this machine only");
        return;
    }
    folder_find_split(answer, &folder, &names);
    if (!*answer || !disk_exists(folder)) {
        warn(ed, "There is no folder %s", folder);
        ask_folder(ed, g, answer);
    } else {
        free(ed->folder_find->asked);
        ed->folder_find->asked = mem_string(answer);
        if (!folder_find_start(ed, g->words, g->with, &folder, 1, names, &e))
            warn(ed, "%s", e.text);
    }
    free(folder);
    free(names);
}

static void folder_note(Editor *ed, Bytes *out, void *ctx)
{
    (void)ed;
    (void)ctx;
    bytes_add_str(out, "names at the end: /srv/harrow/*.ini,*.conf");
}

/* The folder that was searched last, or that of the file. */
static char *likely_folder(Editor *ed)
{
    const OpenFile *f = ed->panes.view->file;
    if (ed->folder_find->asked)
        return mem_string(ed->folder_find->asked);
    char *folder = f->path && !location_is_remote(f->path) ? location_folder(f->path) : path_full("./");
    Bytes b = {0};
    bytes_printf(&b, "%s%s", folder, folder[strlen(folder) - 1] == '/' ? "" : "/");
    free(folder);
    return b.at;
}

static void ask_folder(Editor *ed, const Given *g, const char *initial)
{
    char *likely = initial ? mem_string(initial) : likely_folder(ed);
    PromptSpec p = {
        .label = "In the folder",
        .initial = likely,
        .history = "find-in-folder",
        .offer = offers_files,
        .note = folder_note,
        .enter = "Find",
        .done = folder_given,
        .ctx = new_given(g->words, g->with),
        .free_ctx = free_given,
    };
    prompt_ask(ed, &p);
    free(likely);
}

static void with_given(Editor *ed, const char *with, void *ctx)
{
    Given g = {ctx, (char *)with};
    Err e = {""};
    if (!ed->matches.finder || !finder_accepts(ed->matches.finder, with, strlen(with), &e))
        warn(ed, "%s", e.text);
    else
        ask_folder(ed, &g, NULL);
}

static void ask_with(Editor *ed, const char *words)
{
    char label[80];
    snprintf(label, sizeof label, "Replace “%.40s” with", words);
    PromptSpec p = {.label = label,
                    .initial = "",
                    .history = "replace",
                    .done = with_given,
                    .ctx = mem_string(words),
                    .free_ctx = free};
    prompt_ask(ed, &p);
}

static void words_given(Editor *ed, const char *what, void *ctx)
{
    const Ask *a = ctx;
    Given g = {(char *)what, NULL};
    if (!*what)
        say(ed, "There was nothing to look for");
    else if (a->mistake[0])
        warn(ed, "%s", a->mistake);
    else if (a->replace)
        ask_with(ed, what);
    else
        ask_folder(ed, &g, NULL);
}

/* ---- the commands ---- */

static void ask_words(Editor *ed, const char *label, bool replace)
{
    Ask *a = search_new_ask(ed, false);
    a->folder = true;
    a->replace = replace;
    search_prompt(ed, a, label, NULL, words_given);
}

/* The arguments of a command, as far as they were given. */
typedef struct Words {
    Bytes at[3];
    size_t n;
} Words;

static void read_words(const char *line, size_t most, Words *w)
{
    while (w->n < most && arguments_word(&line, &w->at[w->n]))
        w->n++;
}

static void free_words(Words *w)
{
    for (size_t i = 0; i < 3; i++)
        bytes_free(&w->at[i]);
}

static void run_find(Editor *ed, const Args *args)
{
    Words w = {0};
    read_words(args->text, 2, &w);
    Given g = {(char *)bytes_str(&w.at[0]), NULL};
    if (w.n == 0)
        ask_words(ed, "Find in a folder", false);
    else if (w.n == 1)
        ask_folder(ed, &g, NULL);
    else
        folder_given(ed, bytes_str(&w.at[1]), &g);
    free_words(&w);
}

static void run_replace(Editor *ed, const Args *args)
{
    Words w = {0};
    Err e = {""};
    size_t mistake;
    read_words(args->text, 3, &w);
    Given g = {(char *)bytes_str(&w.at[0]), (char *)bytes_str(&w.at[1])};
    search_set_what(ed, w.n ? g.words : ed->search->what ? ed->search->what : "");
    if (w.n == 0)
        ask_words(ed, "Replace in a folder", true);
    else if (!search_prepare(ed, &e, &mistake))
        warn(ed, "%s, at character %zu", e.text, mistake + 1);
    else if (w.n == 1)
        ask_with(ed, g.words);
    else if (!finder_accepts(ed->matches.finder, g.with, strlen(g.with), &e))
        warn(ed, "%s", e.text);
    else if (w.n == 2)
        ask_folder(ed, &g, NULL);
    else
        folder_given(ed, bytes_str(&w.at[2]), &g);
    free_words(&w);
}

static const Command cmd_find_in_folder = {
    .name = "find-in-folder",
    .label = "Find in a folder…",
    .letter = 'o',
    .help = "Find words in all text files of a folder, and list the lines",
    .words = "search files below everywhere directory",
    .more =
        "Tab shows the options: letter case, whole words, expressions, and whether files are searched that "
        "the folder's ignore files (.gitignore) leave out. Then give the folder; patterns at its end say "
        "which names count, such as /srv/harrow/*.ini,*.conf. Texts that are open are searched as they are "
        "on "
        "the screen. Links, the folders of version controls and other file systems are passed over, and "
        "binary and very large files.",
    .args = "WORDS FOLDER",
    .flags = CMD_JUMPS | CMD_LEAVES,
    .run = run_find,
};

static const Command cmd_replace_in_folder = {
    .name = "replace-in-folder",
    .label = "Replace in a folder…",
    .letter = 'p',
    .help = "Replace words in all text files of a folder, after seeing each change",
    .words = "search files below everywhere directory change",
    .more =
        "Asks as finding in a folder does, and lists every line as it would be; the text above shows it as "
        "it "
        "is. Tab leaves one as it is, or takes it again, with Shift all of its file. Nothing is written "
        "before Enter and the question after it. Then each file is saved as always: with its checks, as root "
        "where that is needed, and with an earlier save to go back to. What changed meanwhile or cannot be "
        "saved is listed. A text that is open gets one step of undo; one with unsaved changes is not saved.",
    .args = "WORDS WITH FOLDER",
    .flags = CMD_JUMPS | CMD_LEAVES,
    .run = run_replace,
};

static void run_list(Editor *ed, const Args *args)
{
    (void)args;
    if (!ed->folder_find->search) {
        decline(ed, "Find in a folder first: %s", KEY_FOR(ed, "find-in-folder"));
        return;
    }
    if (ed->folder_find->n_failures)
        folder_replace_show_failures(ed);
    else
        folder_list_open(ed);
}

static const Command cmd_folder_results = {
    .name = "folder-results",
    .label = "Results of the folder…",
    .letter = 'j',
    .help = "Show again what was found in the folder, or where nothing could be replaced",
    .words = "search files list",
    .flags = CMD_JUMPS | CMD_LEAVES,
    .run = run_list,
};

const Command *const folder_find_commands[] = {&cmd_find_in_folder, &cmd_replace_in_folder,
                                               &cmd_folder_results, NULL};
