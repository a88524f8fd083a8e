/* The panel of lines that match, in this text or in all. */
#include "find_prompt.h"

#include "mem.h"
#include "move.h"
#include "panel.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* A row's id: the number of the open file and the place in it. */
enum { FILE_BITS = 10, FILE_MASK = (1 << FILE_BITS) - 1 };

typedef struct MatchList {
    OpenFile *file; /* where it was called from */
    size_t origin;
    bool everywhere;
} MatchList;

static size_t list_file(Editor *ed, Panel *p, size_t number, size_t from, size_t to, size_t rows, bool named)
{
    Search *s = ed->search;
    const OpenFile *f = ed->files[number];
    Text t = doc_text(f->doc);
    size_t last = (size_t)-1;
    Match m;
    finder_text(s->finder, t);
    while (rows < LIST_MAX && finder_next(s->finder, from, to, &m) == FOUND) {
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
        panel_add(p, (long)(m.from << FILE_BITS | number), text, NULL, place);
        rows++;
    }
    return rows;
}

static void fill_list(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    const MatchList *l = ctx;
    size_t from, to, rows = 0;
    for (size_t i = 0; i < ed->n_files && i <= FILE_MASK; i++) {
        OpenFile *f = ed->files[i];
        if (f->page || (!l->everywhere && f != l->file))
            continue;
        from = 0;
        to = text_len(doc_text(f->doc));
        if (!l->everywhere)
            search_range(ed, &from, &to);
        rows = list_file(ed, p, i, from, to, rows, l->everywhere);
    }
}

static void go_match(Editor *ed, long id)
{
    editor_show(ed, ed->files[id & FILE_MASK]);
    view_go(ed->view, (size_t)id >> FILE_BITS);
}

static void preview_match(Editor *ed, long id, void *ctx)
{
    (void)ctx;
    go_match(ed, id);
    view_centre(ed->view);
}

static void list_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    if (id >= 0)
        go_match(ed, id);
}

static void list_cancelled(Editor *ed, void *ctx)
{
    const MatchList *l = ctx;
    editor_show(ed, l->file);
    view_go(ed->view, l->origin);
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
    *l = (MatchList){ed->view->file, ed->view->cursor.at, everywhere};
    PanelSpec p = {
        .title = everywhere ? "Matching lines of all texts" : "Matching lines",
        .fill = fill_list,
        .chosen = list_chosen,
        .preview = preview_match,
        .cancelled = list_cancelled,
        .empty = "No line matches",
        .ctx = l,
        .free_ctx = free,
    };
    panel_open(ed, &p);
}
