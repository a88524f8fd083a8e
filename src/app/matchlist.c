/* The panel of lines that match, in this text or in all. */
#include "app/find_prompt.h"
#include "app/panel.h"
#include "app/shown.h"
#include "base/mem.h"
#include "edit/move.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

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
    size_t n, cap;
    bool filled;
} MatchList;

static void add_target(MatchList *l, Target t)
{
    if (l->n == l->cap) {
        l->cap = l->cap ? 2 * l->cap : 64;
        l->rows = mem_grow(l->rows, l->cap * sizeof *l->rows);
    }
    l->rows[l->n++] = t;
}

static void list_file(Editor *ed, MatchList *l, const OpenFile *f, size_t from, size_t to)
{
    Search *s = ed->search;
    bool named = l->everywhere;
    Text t = doc_text(f->doc);
    size_t last = (size_t)-1;
    Match m;
    finder_text(s->finder, t);
    while (l->n < LIST_MAX && finder_next(s->finder, from, to, &m) == FOUND) {
        size_t line = text_line_of(t, m.from);
        from = finder_behind(s->finder, m);
        if (line == last)
            continue;
        last = line;
        char text[200], place[96];
        size_t start = text_line_start(t, line), len = move_line_end(t, start) - start;
        len = text_read(t, start, text, len < sizeof text - 1 ? len : sizeof text - 1);
        text[len] = 0;
        snprintf(place, sizeof place, "%.60s%sline %zu", named ? file_name(f) : "", named ? ", " : "",
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
        if (f->shown->page || (!l->everywhere && f->id != l->from.file))
            continue;
        from = 0;
        to = text_len(doc_text(f->doc));
        if (!l->everywhere)
            search_range(ed, &from, &to);
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
    view_go(ed->view, t.at < text_len(doc_text(f->doc)) ? t.at : text_len(doc_text(f->doc)));
}

static void go_match(Editor *ed, const MatchList *l, long id)
{
    if (id >= 0 && (size_t)id < l->n)
        go(ed, l->rows[id]);
}

static void preview_match(Editor *ed, long id, void *ctx)
{
    go_match(ed, ctx, id);
    view_centre(ed->view);
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

void search_list(Editor *ed, bool everywhere)
{
    Search *s = search_of(ed);
    if (!s->finder) {
        say(ed, "Look for something first: Ctrl+F");
        return;
    }
    s->shown = true;
    MatchList *l = mem_get(sizeof *l);
    *l = (MatchList){.from = {.file = ed->view->file->id, .at = ed->view->cursor.at},
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
