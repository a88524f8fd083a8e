#include "commands/search/folder_list.h"

#include "base/mem.h"
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

void folder_list_begin(Editor *ed)
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

const FolderFound *folder_list_found(const Editor *ed)
{
    return folder_search_found(ed->folder_find->search);
}

/* The part of a path that the folders do not say already. */
const char *folder_list_below(const Editor *ed, const char *path)
{
    const FolderFind *r = ed->folder_find;
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
    const FolderHit *h = &folder_list_found(ed)->hits[i];
    Err e = {""};
    drop_copy(ed);
    if (!editor_open(ed, folder_list_found(ed)->files[h->file].path, &e)) {
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
    long n = (long)folder_list_found(ed)->n_hits, to = back ? r->now - 1 : r->now + 1;
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
        to + 1, n,
        folder_list_below(ed, folder_list_found(ed)->files[folder_list_found(ed)->hits[to].file].path),
        folder_list_found(ed)->hits[to].line + 1);
}

/* ---- what is to be replaced ---- */

/* Room for what is said of each line. */
static void have_left(Editor *ed)
{
    FolderFind *r = ed->folder_find;
    size_t n = folder_list_found(ed)->n_hits;
    if (n <= r->n_left)
        return;
    r->left = mem_grow(r->left, n * sizeof *r->left);
    memset(r->left + r->n_left, 0, (n - r->n_left) * sizeof *r->left);
    r->n_left = n;
}

bool folder_list_taken(const Editor *ed, size_t hit)
{
    const FolderFind *r = ed->folder_find;
    return hit >= r->n_left || !r->left[hit];
}

void folder_list_take_all(Editor *ed, bool take)
{
    have_left(ed);
    for (size_t i = 0; i < ed->folder_find->n_left; i++)
        ed->folder_find->left[i] = !take;
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
    const FolderFound *f = folder_list_found(ed);
    bool narrow = ed->frame.cols < NARROW;
    Bytes b = {0};
    if (!narrow && r->with)
        bytes_printf(&b, "“%.20s” by “%.20s”: ", r->words, r->with);
    else if (!narrow)
        bytes_printf(&b, "“%.40s”: ", r->words);
    if (narrow)
        bytes_add_str(&b, AMOUNT(f->counts.lines, "line"));
    else
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
    const FolderFound *f = folder_list_found(ed);
    set_title(ed);
    for (size_t i = 0; i < f->n_hits; i++) {
        const FolderHit *h = &f->hits[i];
        char place[300];
        snprintf(place, sizeof place, "%s%.280s:%zu",
                 !ed->folder_find->with     ? ""
                 : folder_list_taken(ed, i) ? "[x] "
                                            : "[ ] ",
                 folder_list_below(ed, f->files[h->file].path), h->line + 1);
        if (!passes(filter, place, h->text))
            continue;
        panel_add_scored(p, (long)i, place, h->text, NULL, 0);
        panel_mark(p, h->from, h->to);
    }
}

OpenFile *folder_list_open_text(const Session *s, const char *path)
{
    for (size_t i = 0; i < s->n_files; i++)
        if (s->files[i]->path && strcmp(s->files[i]->path, path) == 0)
            return s->files[i];
    return NULL;
}

static void preview_result(Editor *ed, long id, void *ctx)
{
    (void)ctx;
    const FolderHit *h = &folder_list_found(ed)->hits[id];
    const char *path = folder_list_found(ed)->files[h->file].path;
    OpenFile *f = folder_list_open_text(ed->session, path);
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

static const char *replace_words(long id)
{
    return id < 0 ? "Back" : "Replace them";
}

/* Tab leaves the line as it is, or takes it again; with Shift all lines of its file. */
static bool take_key(Editor *ed, Key k, long id, void *ctx)
{
    (void)ctx;
    FolderFind *r = ed->folder_find;
    const FolderFound *f = folder_list_found(ed);
    if (k.code != K_TAB || id < 0)
        return false;
    bool leave = folder_list_taken(ed, (size_t)id);
    have_left(ed);
    for (size_t i = 0; i < f->n_hits; i++)
        if (k.mods ? f->hits[i].file == f->hits[id].file : i == (size_t)id)
            r->left[i] = leave;
    panel_refresh(ed);
    return true;
}

static void list_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    (void)ctx;
    if (ed->folder_find->replace) {
        ed->folder_find->replace(ed);
        return;
    }
    if (id < 0 || (size_t)id >= folder_list_found(ed)->n_hits)
        return;
    ed->search->through = through_results;
    go_to_result(ed, id);
}

static void stop(Editor *ed)
{
    FolderFind *r = ed->folder_find;
    if (folder_list_found(ed)->ended)
        return;
    folder_search_stop(r->search);
    tasks_remove(&ed->session->tasks, &r->task);
    Bytes b = {0};
    add_amounts(folder_list_found(ed), &b);
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

static const Hint take_hints[] = {
    {"Tab", "Take it or leave it", true}, {"Shift+Tab", "Its whole file", false}, {"", NULL, false}};

void folder_list_open(Editor *ed)
{
    FolderFind *r = ed->folder_find;
    take_words(ed);
    List *l = mem_get(sizeof *l);
    *l = (List){ed, ed->panes.view->file->id, view_place(ed->panes.view)};
    r->filled = system_now_ms();
    PanelSpec p = {
        .title = r->title,
        .fill = fill_list,
        .chosen = list_chosen,
        .preview = preview_result,
        .cancelled = list_cancelled,
        .enter = r->replace ? replace_words : enter_words,
        .key = r->replace ? take_key : NULL,
        .hints = r->replace ? take_hints : NULL,
        .stays = r->replace != NULL,
        .empty = r->empty,
        .plain = true,
        .ctx = l,
        .free_ctx = free_list,
    };
    r->list = l;
    panel_open(ed, &p);
    if (r->now >= 0)
        panel_go(ed, r->now);
    if (folder_list_found(ed)->n_hits)
        panel_preview(ed);
}

/* ---- a search under way ---- */

static void say_end(Editor *ed)
{
    const FolderFound *f = folder_list_found(ed);
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
    bool none = folder_list_found(ed)->n_hits == 0;
    r->due = folder_search_take(r->search) || r->due;
    const FolderFound *f = folder_list_found(ed);
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
    add_amounts(folder_list_found(ctx), &b);
    snprintf(out, TASK_WORDS_MAX, "Searching the folder: %s so far; Esc stops it", bytes_str(&b));
    bytes_free(&b);
}

static const TaskKind search_task = {.poll = poll_search,
                                     .wait = wait_search,
                                     .fds = fds_search,
                                     .cancel = cancel_search,
                                     .words = words_of_search};

void folder_list_free_failures(FolderFind *r)
{
    for (size_t i = 0; i < r->n_failures; i++) {
        free(r->failures[i].path);
        free(r->failures[i].why);
    }
    free(r->failures);
    r->failures = NULL;
    r->n_failures = 0;
}

static void forget(Editor *ed)
{
    FolderFind *r = ed->folder_find;
    tasks_remove(&ed->session->tasks, &r->task);
    folder_search_free(r->search);
    for (size_t i = 0; i < r->n_folders; i++)
        free(r->folders[i]);
    free(r->folders);
    free(r->words);
    free(r->with);
    free(r->left);
    folder_list_free_failures(r);
    r->search = NULL;
    r->folders = NULL;
    r->words = r->with = NULL;
    r->left = NULL;
    r->n_left = 0;
    r->replace = NULL;
    r->n_folders = 0;
    r->now = NOWHERE;
}

void folder_list_free(Editor *ed)
{
    drop_copy(ed);
    if (ed->folder_find->work)
        ed->folder_find->free_work(ed->folder_find->work);
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

bool folder_list_start(Editor *ed, const char *words, const char *with, char *const *folders, size_t n,
                       const char *names, Err *e)
{
    FolderFind *r = ed->folder_find;
    const Search *s = ed->search;
    Replacement by = {with, with ? strlen(with) : 0, s->follow};
    size_t mistake, n_open;
    OpenText *open = open_texts(ed->session, &n_open);
    FolderWish w = {.folders = (const char *const *)folders,
                    .n_folders = n,
                    .names = names,
                    .what = {words, strlen(words), s->letters, s->words, s->expression},
                    .by = with ? &by : NULL,
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
    r->with = with ? mem_string(with) : NULL;
    r->follow = s->follow;
    r->letters = s->letters;
    r->whole = s->words;
    r->expression = s->expression;
    r->folders = mem_get((n + 1) * sizeof(char *));
    for (size_t i = 0; i < n; i++)
        r->folders[r->n_folders++] = mem_string(folders[i]);
    r->due = true;
    tasks_add(&ed->session->tasks, &r->task, &search_task, ed);
    return true;
}
