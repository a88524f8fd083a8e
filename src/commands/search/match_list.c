#include "commands/search/match_list.h"

#include "base/array.h"
#include "base/mem.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "view/scroll.h"

#include <stdio.h>
#include <stdlib.h>

enum { LIST_MAX = 5000 /* rows */ };

/* Where a row leads. */
typedef struct Target {
    FileId file;
    size_t at;
    char *text, *place; /* as it is shown */
} Target;

typedef struct MatchList {
    Target from; /* where it was called from */
    bool everywhere;
    Target *rows; /* found once; the filter chooses among them */
    size_t n;
    bool filled;
} MatchList;

static void add_target(MatchList *l, Target t)
{
    l->rows = array_room(l->rows, l->n, sizeof *l->rows);
    l->rows[l->n++] = t;
}

static void list_file(Editor *ed, MatchList *l, const OpenFile *f, size_t from, size_t to)
{
    Finder *finder = ed->matches.finder;
    bool named = l->everywhere;
    Text t = doc_text(f->doc);
    size_t last = (size_t)-1;
    Match m;
    finder_text(finder, t);
    while (l->n < LIST_MAX && finder_next(finder, from, to, &m) == FOUND) {
        size_t line = text_line_of(t, m.from);
        from = finder_after(finder, m);
        if (line == last)
            continue;
        last = line;
        char text[200], place[96];
        size_t start = text_line_start(t, line), len = move_line_end(t, start) - start;
        len = text_read(t, start, text, len < sizeof text - 1 ? len : sizeof text - 1);
        text[len] = 0;
        snprintf(place, sizeof place, "%.60s%sline %zu", named ? openfile_name(f) : "", named ? ", " : "",
                 line + 1);
        add_target(l, (Target){f->id, m.from, mem_string(text), mem_string(place)});
    }
}

static void fill_list(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    MatchList *l = ctx;
    size_t from, to;
    for (size_t i = 0; i < ed->session->n_files && !l->filled; i++) {
        OpenFile *f = ed->session->files[i];
        if (!l->everywhere && f->id != l->from.file)
            continue;
        from = 0;
        to = text_len(doc_text(f->doc));
        if (!l->everywhere)
            matches_range(&ed->matches, &from, &to);
        list_file(ed, l, f, from, to);
    }
    l->filled = true;
    for (size_t i = 0; i < l->n; i++)
        panel_add(p, (long)i, l->rows[i].text, NULL, l->rows[i].place);
}

static void go(Editor *ed, Target t)
{
    OpenFile *f = session_file(ed->session, t.file);
    if (!f)
        return;
    editor_show(ed, f);
    view_go(ed->panes.view, t.at < text_len(doc_text(f->doc)) ? t.at : text_len(doc_text(f->doc)));
}

static void go_match(Editor *ed, const MatchList *l, long id)
{
    if (id >= 0 && (size_t)id < l->n)
        go(ed, l->rows[id]);
}

static void preview_match(Editor *ed, long id, void *ctx)
{
    go_match(ed, ctx, id);
    scroll_centre(ed->panes.view);
}

static void list_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    go_match(ed, ctx, id);
}

static void list_cancelled(Editor *ed, void *ctx)
{
    go(ed, ((const MatchList *)ctx)->from);
}

static void free_list(void *ctx)
{
    MatchList *l = ctx;
    for (size_t i = 0; i < l->n; i++) {
        free(l->rows[i].text);
        free(l->rows[i].place);
    }
    free(l->rows);
    free(l);
}

static void list(Editor *ed, bool everywhere)
{
    if (!ed->matches.finder) {
        say(ed, "Look for something first: %s", KEY_FOR(ed, "find"));
        return;
    }
    ed->matches.shown = true;
    MatchList *l = mem_get(sizeof *l);
    *l = (MatchList){.from = {.file = ed->panes.view->file->id, .at = ed->panes.view->cursor.at},
                     .everywhere = everywhere};
    PanelSpec p = {
        .title = everywhere ? "Matching lines of all texts" : "Matching lines",
        .fill = fill_list,
        .chosen = list_chosen,
        .preview = preview_match,
        .cancelled = list_cancelled,
        .empty = "No line matches",
        .ctx = l,
        .free_ctx = free_list,
    };
    panel_open(ed, &p);
}

static void run_list(Editor *ed, const Args *args)
{
    (void)args;
    list(ed, false);
}

static const Command cmd_list_matches = {
    .name = "list-matches",
    .label = "List matches…",
    .letter = 'l',
    .help = "Show all lines that match the last search",
    .words = "occurrences",
    .flags = CMD_JUMPS | CMD_FILE,
    .run = run_list,
};

static void run_list_all(Editor *ed, const Args *args)
{
    (void)args;
    list(ed, true);
}

static const Command cmd_list_matches_everywhere = {
    .name = "list-matches-everywhere",
    .label = "List matches in all texts…",
    .letter = 'e',
    .help = "Show all lines of all open texts that match the last search",
    .flags = CMD_JUMPS,
    .run = run_list_all,
};

const Command *const match_list_commands[] = {
    &cmd_list_matches_everywhere,
    &cmd_list_matches,
    NULL,
};
