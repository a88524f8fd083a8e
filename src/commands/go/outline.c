#include "commands/go/outline.h"

#include "base/array.h"
#include "base/mem.h"
#include "session/session_files.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "view/outlining.h"
#include "view/scroll.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    ROWS_MOST = 100000,
    NAME_MOST = 200,
    FIRST = 128 * 1024, /* bytes that are looked through at first, so that the list is there at once, */
    STEP = 2 << 20,     /* and later before keys are heard again */
};

static const Outline *outline_here(Editor *ed)
{
    const Outline *o = outline_of(ed->panes.view->file->kind, NULL);
    if (!o)
        say(ed, "Nothing is known of what divides a text of the kind %s", ed->panes.view->file->kind->name);
    return o;
}

/* ---- the list ---- */

typedef struct Entry {
    size_t at, line;
    char *name;
} Entry;

typedef struct List {
    Editor *ed;
    Task task;
    FileId file;
    ViewPlace begun;
    Text text; /* that is looked through */
    const Outline *o;
    size_t cursor, looked; /* where it was called from; up to where was looked */
    Entry *all;
    size_t n, now;    /* the one at the cursor: its number from 1 */
    bool going, more; /* there are more than are listed */
} List;

static bool add_entry(void *ctx, const Heading *h)
{
    List *l = ctx;
    char name[NAME_MOST + 2 * OUTLINE_LEVELS + 1];
    size_t n = 0, len = h->to - h->from < NAME_MOST ? h->to - h->from : NAME_MOST;
    if (l->n == ROWS_MOST) {
        l->more = true;
        return false;
    }
    for (int i = 1; i < h->level; i++)
        n += (size_t)snprintf(name + n, sizeof name - n, "  ");
    n += text_read(l->text, h->from, name + n, len);
    while (n && (name[n - 1] == ' ' || name[n - 1] == '(' || name[n - 1] == '\t'))
        n--;
    name[n] = 0;
    l->all = array_room(l->all, l->n, sizeof *l->all);
    l->all[l->n++] = (Entry){h->at, text_line_of(l->text, h->at), mem_string(name)};
    if (h->at <= l->cursor)
        l->now = l->n;
    return true;
}

static void look_on(List *l)
{
    size_t len = text_len(l->text), step = l->looked < FIRST ? FIRST : l->looked < STEP ? l->looked : STEP;
    size_t to = l->looked + step < len ? l->looked + step : len;
    l->looked = outlining_each(l->text, l->o, l->looked, to, add_entry, l);
    if (l->looked >= len || l->more) {
        tasks_remove(&l->ed->session->tasks, &l->task);
        l->going = false;
        if (l->more)
            say(l->ed, "These are the first %d; there are more in the text below them", ROWS_MOST);
    }
}

static void poll_list(void *ctx)
{
    List *l = ctx;
    size_t before = l->n;
    bool followed = panel_shows(l->ed, l) && panel_now(l->ed) == (long)l->now - 1;
    look_on(l);
    if (l->n != before || !l->going)
        panel_refresh(l->ed);
    if (followed && panel_shows(l->ed, l)) /* the one that the cursor is in came only now */
        panel_go(l->ed, (long)l->now - 1);
}

static int wait_list(const void *ctx)
{
    return ((const List *)ctx)->going ? 0 : -1;
}

static void words_of_list(const void *ctx, char out[TASK_WORDS_MAX])
{
    const List *l = ctx;
    snprintf(out, TASK_WORDS_MAX, "Looking through the text: %d %%",
             (int)(100 * (double)l->looked / ((double)text_len(l->text) + 1)));
}

static const TaskKind list_task = {.poll = poll_list, .wait = wait_list, .words = words_of_list};

static void fill(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    const List *l = ctx;
    (void)ed;
    for (size_t i = 0; i < l->n; i++) {
        char place[40];
        snprintf(place, sizeof place, "line %zu", l->all[i].line + 1);
        if (*filter)
            panel_add(p, (long)i, l->all[i].name + strspn(l->all[i].name, " "), NULL, place);
        else
            panel_add_scored(p, (long)i, l->all[i].name, NULL, place, (int)(ROWS_MOST - i));
    }
}

static void go(List *l, long id)
{
    OpenFile *f = session_file(l->ed->session, l->file);
    if (id < 0 || (size_t)id >= l->n || !f || l->ed->panes.view->file != f)
        return;
    size_t len = text_len(doc_text(f->doc)), at = l->all[id].at;
    view_go(l->ed->panes.view, at < len ? at : len);
    scroll_centre(l->ed->panes.view);
}

static void preview(Editor *ed, long id, void *ctx)
{
    (void)ed;
    go(ctx, id);
}

static void chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)ed, (void)typed;
    go(ctx, id);
}

static void cancelled(Editor *ed, void *ctx)
{
    const List *l = ctx;
    if (ed->panes.view->file->id == l->file)
        view_restore(ed->panes.view, &l->begun);
}

static void free_list(void *ctx)
{
    List *l = ctx;
    if (l->going)
        tasks_remove(&l->ed->session->tasks, &l->task);
    for (size_t i = 0; i < l->n; i++)
        free(l->all[i].name);
    free(l->all);
    text_drop(&l->text);
    free(l);
}

static void run_outline(Editor *ed, const Args *args)
{
    (void)args;
    const Outline *o = outline_here(ed);
    if (!o)
        return;
    View *v = ed->panes.view;
    List *l = mem_get(sizeof *l);
    *l = (List){.ed = ed,
                .file = v->file->id,
                .begun = view_place(v),
                .text = text_keep(view_text(v)),
                .o = o,
                .cursor = v->cursor.at,
                .going = true};
    tasks_add(&ed->session->tasks, &l->task, &list_task, l);
    look_on(l);
    if (!l->n && !l->going) {
        free_list(l);
        say(ed, "Nothing divides this text that its kind knows");
        return;
    }
    PanelSpec p = {.title = "Outline",
                   .fill = fill,
                   .chosen = chosen,
                   .preview = preview,
                   .cancelled = cancelled,
                   .empty = "Nothing fits",
                   .ctx = l,
                   .free_ctx = free_list};
    long now = l->now ? (long)l->now - 1 : 0;
    panel_open(ed, &p);
    panel_go(ed, now);
}

static const Command cmd_outline = {
    .name = "outline",
    .label = "Outline…",
    .letter = 'o',
    .help = "List the sections, functions or headings of the text, and go to one",
    .words = "symbols structure headings functions sections toc contents",
    .flags = CMD_JUMPS | CMD_FILE,
    .run = run_outline,
};

/* ---- from one to the next ---- */

static void step(Editor *ed, bool back)
{
    View *v = ed->panes.view;
    const Outline *o = outline_here(ed);
    Heading h;
    if (!o)
        return;
    if (back ? outlining_before(view_text(v), o, v->cursor.at, ed->stop, &h)
             : outlining_next(view_text(v), o, v->cursor.at, ed->stop, &h))
        view_go(v, h.at);
    else
        decline(ed, back ? "There is no section before this" : "There is no section after this");
}

static void run_next(Editor *ed, const Args *args)
{
    (void)args;
    step(ed, false);
}

static const Command cmd_next_section = {
    .name = "next-section",
    .label = "Next section",
    .letter = 'd',
    .help = "Go to the next section, function or heading",
    .words = "function heading forward",
    .flags = CMD_MOVES | CMD_REPEATS,
    .run = run_next,
};

static void run_before(Editor *ed, const Args *args)
{
    (void)args;
    step(ed, true);
}

static const Command cmd_section_before = {
    .name = "section-before",
    .label = "Section before",
    .letter = 'h',
    .help = "Go to the section, function or heading before",
    .words = "function heading back",
    .flags = CMD_MOVES | CMD_REPEATS,
    .run = run_before,
};

static void run_mark(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    const Outline *o = outline_here(ed);
    Heading h;
    size_t from, to;
    if (!o)
        return;
    if (!outlining_around(view_text(v), o, v->cursor.at, (size_t)-1, &h)) {
        say(ed, "The cursor is in no section");
        return;
    }
    outlining_section(view_text(v), o, &h, ed->stop, &from, &to);
    v->mark.at = from;
    v->marking = MARK_KEY;
    view_go(v, to);
}

static const Command cmd_mark_section = {
    .name = "mark-section",
    .label = "Section",
    .letter = 'd',
    .help = "Mark the section or function that the cursor is in",
    .words = "select function heading",
    .flags = CMD_EACH,
    .run = run_mark,
};

const Command *const outline_commands[] = {&cmd_outline, &cmd_next_section, &cmd_section_before,
                                           &cmd_mark_section, NULL};
