#include "commands/search/folder_find.h"

#include "base/arguments.h"
#include "base/array.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/pattern.h"
#include "base/system.h"
#include "base/words.h"
#include "commands/search/search.h"
#include "edit/move.h"
#include "files/load.h"
#include "files/location.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "view/bookmarks.h"
#include "view/change_marks.h"
#include "view/colours.h"
#include "view/scroll.h"
#include "view/shown.h"
#include "view/wanted.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    REFRESH = 150,        /* ms between two fillings of the list while results come */
    SHOWN_MOST = 8 << 20, /* bytes of a file that is shown beside the list */
    NARROW = 60,          /* columns */
    NOWHERE = -1
};

typedef struct FolderFind {
    Task task;
    FolderSearch *search; /* the last one; NULL: none yet */
    char *asked;          /* for a folder, as it was typed last; or NULL */
    char *words;          /* what it looks for, with the options below */
    FindCase letters;
    bool whole, expression;
    char **folders; /* their full names */
    size_t n_folders;
    long now;        /* the result that was gone to last */
    uint64_t filled; /* ms, when the list was */
    bool due;        /* it is to be filled again */
    char title[160], empty[80];
    const void *list; /* what the panel keeps, while it is there */
    OpenFile *copy;   /* of a file that is not open, shown while the list is there; in no session */
    View view;
} FolderFind;

void folder_find_begin(Editor *ed)
{
    ed->folder_find = mem_get(sizeof *ed->folder_find);
    ed->folder_find->now = NOWHERE;
}

/* ---- a file beside the list ---- */

static void drop_copy(Editor *ed)
{
    FolderFind *r = ed->folder_find;
    if (!r->copy)
        return;
    panes_uncover(&ed->panes, &r->view);
    view_leave(&r->view);
    bookmarks_free(r->copy);
    change_marks_free(r->copy);
    colours_free(r->copy);
    shown_end(r->copy);
    openfile_free(r->copy);
    r->copy = NULL;
}

/* Reads a file that is not open, and lays it over the present pane; false when that cannot be. */
static bool show_copy(Editor *ed, const char *path)
{
    FolderFind *r = ed->folder_find;
    Text raw, t;
    DiskState disk;
    Err e;
    if (r->copy && strcmp(r->copy->path, path) == 0)
        return true;
    drop_copy(ed);
    FileState state;
    if (!state_of(path, &state) || state.size > SHOWN_MOST || !load_file(path, &raw, &disk, &e))
        return false;
    Encoding x = encoding_guess(raw);
    bool ok = encoding_read(raw, &x, &t, &e);
    text_drop(&raw);
    if (!ok)
        return false;
    r->copy = openfile_new(t, mem_string(path));
    r->copy->look_only = true;
    r->copy->disk = disk;
    openfile_recognise(r->copy);
    shown_begin(r->copy, ed->panes.tab);
    r->view = (View){.wrap = panes_now(&ed->panes)->view.wrap};
    view_show(&r->view, r->copy);
    panes_cover(&ed->panes, &r->view);
    return true;
}

/* ---- the results ---- */

static const FolderFound *found(const Editor *ed)
{
    return folder_search_found(ed->folder_find->search);
}

/* The part of a path that the folders do not say already. */
static const char *below(const FolderFind *r, const char *path)
{
    size_t n = r->n_folders == 1 ? strlen(r->folders[0]) : 0;
    if (n && strncmp(path, r->folders[0], n) == 0 && (path[n] == '/' || path[n - 1] == '/') && path[n + 1])
        return path + n + (path[n] == '/');
    return path;
}

/* What it looks for is what next and before, and the marks in the texts, are about. */
static bool take_words(Editor *ed)
{
    FolderFind *r = ed->folder_find;
    Search *s = ed->search;
    Err e;
    size_t mistake;
    search_set_what(ed, r->words);
    s->letters = r->letters;
    s->words = r->whole;
    s->expression = r->expression;
    ed->matches.in_mark = false;
    ed->matches.shown = search_prepare(ed, &e, &mistake);
    return ed->matches.shown;
}

/* To the match of a result in the text that is shown; it may have changed since. */
static void go_to_match(Editor *ed, const FolderHit *h)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    if (v->file->reading && h->line >= text_newlines(t)) {
        wanted_line(&ed->panes, h->line, 0);
        return;
    }
    size_t start = text_line_start(t, h->line < text_newlines(t) ? h->line : text_newlines(t));
    Match m;
    if (ed->matches.finder) {
        finder_text(ed->matches.finder, t);
        if (finder_next(ed->matches.finder, start, text_len(t), &m) == FOUND &&
            m.from <= move_line_end(t, start)) {
            matches_go(&ed->matches, m);
            return;
        }
    }
    view_go(v, start);
}

static void go_to_result(Editor *ed, long i)
{
    FolderFind *r = ed->folder_find;
    const FolderHit *h = &found(ed)->hits[i];
    Err e = {""};
    drop_copy(ed);
    if (!editor_open(ed, found(ed)->files[h->file].path, &e)) {
        warn(ed, "%s", e.text);
        return;
    }
    r->now = i;
    take_words(ed);
    go_to_match(ed, h);
    scroll_centre(ed->panes.view);
}

static void through_results(Editor *ed, bool back)
{
    FolderFind *r = ed->folder_find;
    long n = (long)found(ed)->n_hits, to = back ? r->now - 1 : r->now + 1;
    bool around = to < 0 || to >= n;
    if (!n) {
        decline(ed, "Nothing was found in the folder");
        return;
    }
    if (around && n == 1) {
        go_to_result(ed, 0);
        ed->running.at_end = true;
        say(ed, "The only result");
        return;
    }
    to = to < 0 ? n - 1 : to >= n ? 0 : to;
    go_to_result(ed, to);
    ed->running.at_end = ed->running.at_end || around;
    say(ed, "%s%ld of %ld: %s, line %zu",
        !around ? "Result "
        : back  ? "That was the first result; on at "
                : "That was the last result; on at ",
        to + 1, n, below(r, found(ed)->files[found(ed)->hits[to].file].path), found(ed)->hits[to].line + 1);
}

/* ---- the list ---- */

/* What the panel keeps. */
typedef struct List {
    Editor *ed;
    FileId file; /* where it was called from */
    ViewPlace place;
} List;

static void add_passed(Bytes *out, size_t n, const char *what)
{
    if (n)
        bytes_printf(out, "%s%zu %s", out->len ? ", " : "", n, what);
}

static void add_amounts(const FolderFound *f, Bytes *out)
{
    bytes_printf(out, "%s in %zu of %s", AMOUNT(f->counts.lines, "line"), f->counts.with,
                 AMOUNT(f->counts.files, "file"));
}

static void set_title(Editor *ed)
{
    FolderFind *r = ed->folder_find;
    const FolderFound *f = found(ed);
    bool narrow = ed->frame.cols < NARROW;
    Bytes b = {0};
    if (!narrow)
        bytes_printf(&b, "“%.40s”: ", r->words);
    add_amounts(f, &b);
    bytes_add_str(&b, f->ended || narrow ? "" : ", searching");
    snprintf(r->title, sizeof r->title, "%s", bytes_str(&b));
    snprintf(r->empty, sizeof r->empty, "%s",
             !f->ended   ? "Searching…"
             : f->n_hits ? "Nothing fits"
                         : "No line matches");
    bytes_free(&b);
}

/* Are all words of the filter in its path or its line? */
static bool passes(const char *filter, const char *path, const char *line)
{
    while (*filter) {
        size_t n = strcspn(filter, " ");
        char *word = mem_string_n(filter, n);
        bool in = !n || strcasestr(path, word) || strcasestr(line, word);
        free(word);
        if (!in)
            return false;
        filter += n + (filter[n] == ' ');
    }
    return true;
}

static void fill_list(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)ctx;
    const FolderFound *f = found(ed);
    set_title(ed);
    for (size_t i = 0; i < f->n_hits; i++) {
        const FolderHit *h = &f->hits[i];
        char place[300];
        snprintf(place, sizeof place, "%.280s:%zu", below(ed->folder_find, f->files[h->file].path),
                 h->line + 1);
        if (!passes(filter, place, h->text))
            continue;
        panel_add_scored(p, (long)i, place, h->text, NULL, 0);
        panel_mark(p, h->from, h->to);
    }
}

static OpenFile *open_one(const Session *s, const char *path)
{
    for (size_t i = 0; i < s->n_files; i++)
        if (s->files[i]->path && strcmp(s->files[i]->path, path) == 0)
            return s->files[i];
    return NULL;
}

static void preview_result(Editor *ed, long id, void *ctx)
{
    (void)ctx;
    const FolderHit *h = &found(ed)->hits[id];
    const char *path = found(ed)->files[h->file].path;
    OpenFile *f = open_one(ed->session, path);
    if (f) {
        drop_copy(ed);
        editor_show(ed, f);
    } else if (!show_copy(ed, path)) {
        return;
    }
    ed->matches.shown = ed->matches.finder != NULL;
    go_to_match(ed, h);
    scroll_centre(ed->panes.view);
}

static const char *enter_words(long id)
{
    return id < 0 ? "Back" : "Open it there";
}

static void list_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    (void)ctx;
    if (id < 0 || (size_t)id >= found(ed)->n_hits)
        return;
    ed->search->through = through_results;
    go_to_result(ed, id);
}

static void stop(Editor *ed)
{
    FolderFind *r = ed->folder_find;
    if (found(ed)->ended)
        return;
    folder_search_stop(r->search);
    tasks_remove(&ed->session->tasks, &r->task);
    Bytes b = {0};
    add_amounts(found(ed), &b);
    say(ed, "The search was stopped: %s", bytes_str(&b));
    bytes_free(&b);
}

static void list_cancelled(Editor *ed, void *ctx)
{
    const List *l = ctx;
    OpenFile *f = session_file(ed->session, l->file);
    drop_copy(ed);
    if (f) {
        editor_show(ed, f);
        view_restore(ed->panes.view, &l->place);
    }
    stop(ed);
}

static void free_list(void *ctx)
{
    Editor *ed = ((List *)ctx)->ed;
    drop_copy(ed);
    ed->folder_find->list = NULL;
    free(ctx);
}

static void open_list(Editor *ed)
{
    FolderFind *r = ed->folder_find;
    List *l = mem_get(sizeof *l);
    *l = (List){ed, ed->panes.view->file->id, view_place(ed->panes.view)};
    r->filled = system_now_ms();
    PanelSpec p = {
        .title = r->title,
        .fill = fill_list,
        .chosen = list_chosen,
        .preview = preview_result,
        .cancelled = list_cancelled,
        .enter = enter_words,
        .empty = r->empty,
        .plain = true,
        .ctx = l,
        .free_ctx = free_list,
    };
    r->list = l;
    panel_open(ed, &p);
    if (r->now >= 0)
        panel_go(ed, r->now);
    if (found(ed)->n_hits)
        panel_preview(ed);
}

/* ---- a search under way ---- */

static void say_end(Editor *ed)
{
    const FolderFound *f = found(ed);
    const FolderCounts *c = &f->counts;
    Bytes b = {0}, over = {0};
    add_amounts(f, &b);
    add_passed(&over, c->binary, "binary");
    add_passed(&over, c->large, "too large");
    add_passed(&over, c->unreadable, "unreadable");
    add_passed(&over, c->ignored, "ignored");
    add_passed(&over, c->links, c->links == 1 ? "link" : "links");
    add_passed(&over, c->systems, "on another file system");
    add_passed(&over, c->others, "no files");
    if (f->n_hits < c->lines)
        bytes_printf(&b, ", the first %zu are listed", f->n_hits);
    if (c->hard)
        bytes_printf(&b, "; the expression took too long in %s", AMOUNT(c->hard, "file"));
    say(ed, "%s%s%s", bytes_str(&b), over.len ? ". Passed over: " : "", bytes_str(&over));
    bytes_free(&b);
    bytes_free(&over);
}

static void poll_search(void *ctx)
{
    Editor *ed = ctx;
    FolderFind *r = ed->folder_find;
    bool none = found(ed)->n_hits == 0;
    r->due = folder_search_take(r->search) || r->due;
    const FolderFound *f = found(ed);
    if (r->due && (f->ended || (none && f->n_hits) || system_now_ms() - r->filled >= REFRESH)) {
        r->due = false;
        r->filled = system_now_ms();
        if (r->list && panel_shows(ed, r->list)) {
            panel_refresh(ed);
            if (none && f->n_hits)
                panel_preview(ed);
        }
    }
    if (f->ended) {
        tasks_remove(&ed->session->tasks, &r->task);
        say_end(ed);
    }
}

static int wait_search(const void *ctx)
{
    const FolderFind *r = ((const Editor *)ctx)->folder_find;
    return r->due ? REFRESH : -1;
}

static size_t fds_search(const void *ctx, struct pollfd *out)
{
    out[0] =
        (struct pollfd){.fd = folder_search_fd(((const Editor *)ctx)->folder_find->search), .events = POLLIN};
    return 1;
}

static void cancel_search(void *ctx)
{
    stop(ctx);
}

static void words_of_search(const void *ctx, char out[TASK_WORDS_MAX])
{
    Bytes b = {0};
    add_amounts(found(ctx), &b);
    snprintf(out, TASK_WORDS_MAX, "Searching the folder: %s so far; Esc stops it", bytes_str(&b));
    bytes_free(&b);
}

static const TaskKind search_task = {.poll = poll_search,
                                     .wait = wait_search,
                                     .fds = fds_search,
                                     .cancel = cancel_search,
                                     .words = words_of_search};

static void forget(Editor *ed)
{
    FolderFind *r = ed->folder_find;
    tasks_remove(&ed->session->tasks, &r->task);
    folder_search_free(r->search);
    for (size_t i = 0; i < r->n_folders; i++)
        free(r->folders[i]);
    free(r->folders);
    free(r->words);
    r->search = NULL;
    r->folders = NULL;
    r->words = NULL;
    r->n_folders = 0;
    r->now = NOWHERE;
}

void folder_find_free(Editor *ed)
{
    drop_copy(ed);
    forget(ed);
    free(ed->folder_find->asked);
    free(ed->folder_find);
}

/* What stands on the screen counts, of all texts that are open. */
static OpenText *open_texts(const Session *s, size_t *n)
{
    OpenText *open = mem_get((s->n_files + 1) * sizeof *open);
    *n = 0;
    for (size_t i = 0; i < s->n_files; i++) {
        const OpenFile *f = s->files[i];
        if (f->path && !f->incomplete && !f->reading && !location_is_remote(f->path))
            open[(*n)++] = (OpenText){f->path, &f->disk, doc_text(f->doc)};
    }
    return open;
}

bool folder_find_start(Editor *ed, const char *words, char *const *folders, size_t n, const char *names,
                       Err *e)
{
    FolderFind *r = ed->folder_find;
    const Search *s = ed->search;
    size_t mistake, n_open;
    OpenText *open = open_texts(ed->session, &n_open);
    FolderWish w = {.folders = (const char *const *)folders,
                    .n_folders = n,
                    .names = names,
                    .what = {words, strlen(words), s->letters, s->words, s->expression},
                    .ignored = s->ignored,
                    .most = (size_t)ed->config.settings.find_in_files_to << 20,
                    .open = open,
                    .n_open = n_open};
    FolderSearch *search = folder_search_begin(&w, e, &mistake);
    free(open);
    if (!search)
        return false;
    forget(ed);
    r->search = search;
    r->words = mem_string(words);
    r->letters = s->letters;
    r->whole = s->words;
    r->expression = s->expression;
    r->folders = mem_get((n + 1) * sizeof(char *));
    for (size_t i = 0; i < n; i++)
        r->folders[r->n_folders++] = mem_string(folders[i]);
    r->due = true;
    take_words(ed);
    tasks_add(&ed->session->tasks, &r->task, &search_task, ed);
    open_list(ed);
    return true;
}

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

static void ask_folder(Editor *ed, const char *words, const char *initial);

static void folder_given(Editor *ed, const char *answer, void *ctx)
{
    char *folder, *names;
    Err e = {""};
    if (location_is_remote(answer)) {
        warn(ed, "Finding in a folder works on this machine only");
        return;
    }
    folder_find_split(answer, &folder, &names);
    if (!*answer || !disk_exists(folder)) {
        warn(ed, "There is no folder %s", folder);
        ask_folder(ed, ctx, answer);
    } else {
        free(ed->folder_find->asked);
        ed->folder_find->asked = mem_string(answer);
        if (!folder_find_start(ed, ctx, &folder, 1, names, &e))
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

static void ask_folder(Editor *ed, const char *words, const char *initial)
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
        .ctx = mem_string(words),
        .free_ctx = free,
    };
    prompt_ask(ed, &p);
    free(likely);
}

static void words_given(Editor *ed, const char *what, void *ctx)
{
    const Ask *a = ctx;
    if (!*what)
        say(ed, "There was nothing to look for");
    else if (a->mistake[0])
        warn(ed, "%s", a->mistake);
    else
        ask_folder(ed, what, NULL);
}

/* ---- the commands ---- */

static void run_find(Editor *ed, const Args *args)
{
    Bytes words = {0}, folder = {0};
    const char *line = args->text;
    bool given = arguments_word(&line, &words), where = given && arguments_word(&line, &folder);
    if (!given) {
        Ask *a = search_new_ask(ed, false);
        a->folder = true;
        search_prompt(ed, a, "Find in a folder", NULL, words_given);
    } else if (!where) {
        ask_folder(ed, bytes_str(&words), NULL);
    } else {
        char *copy = mem_string(bytes_str(&words));
        folder_given(ed, bytes_str(&folder), copy);
        free(copy);
    }
    bytes_free(&words);
    bytes_free(&folder);
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

static void run_list(Editor *ed, const Args *args)
{
    (void)args;
    if (!ed->folder_find->search) {
        decline(ed, "Find in a folder first: %s", KEY_FOR(ed, "find-in-folder"));
        return;
    }
    take_words(ed);
    open_list(ed);
}

static const Command cmd_folder_results = {
    .name = "folder-results",
    .label = "Results of the folder…",
    .letter = 'j',
    .help = "Show again what was found in the folder",
    .words = "search files list",
    .flags = CMD_JUMPS | CMD_LEAVES,
    .run = run_list,
};

const Command *const folder_find_commands[] = {&cmd_find_in_folder, &cmd_folder_results, NULL};
