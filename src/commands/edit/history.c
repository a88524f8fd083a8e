#include "commands/edit/history.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/excerpt.h"
#include "text/text_line.h"
#include "ui/panel.h"
#include "view/cursors.h"

#include <stdlib.h>
#include <string.h>

static void step(Editor *ed, const Args *args, bool (*go)(Doc *, size_t *), const char *none,
                 const char *done)
{
    View *v = ed->panes.view;
    size_t at = v->cursor.at;
    unsigned n = 0;
    while (n < args->count && go(v->file->doc, &at))
        n++;
    view_drop_mark(v);
    if (!cursors_recall(v))
        view_go(v, at);
    notices_pass(&ed->notices, ed->clock.last_key);
    if (n == 0)
        say(ed, "%s", none);
    else if (args->counted)
        say(ed, "%s %u step%s", done, n, n == 1 ? "" : "s");
}

static void run_undo(Editor *ed, const Args *args)
{
    step(ed, args, doc_undo, "This is the text as it was at first; there is nothing to undo", "Undid");
}

static const Command cmd_undo = {
    .name = "undo",
    .label = "Undo",
    .letter = 'u',
    .keys = "Ctrl+Z Ctrl+_",
    .help = "Take back the last step",
    .words = "back revert mistake",
    .hint = "Undo",
    .flags = CMD_CHANGES | CMD_ALL,
    .run = run_undo,
};

static void run_redo(Editor *ed, const Args *args)
{
    step(ed, args, doc_redo, "There is nothing to redo", "Did again");
}

static const Command cmd_redo = {
    .name = "redo",
    .label = "Redo",
    .letter = 'r',
    .keys = "Ctrl+Y",
    .help = "Do again what was undone last",
    .words = "again forward",
    .hint = "Redo",
    .flags = CMD_CHANGES | CMD_ALL,
    .run = run_redo,
};

/* ---- all states ---- */

static size_t lines_in(Text t, size_t from, size_t n)
{
    return n ? text_line_of(t, from + n) - text_line_of(t, from) : 0;
}

/* typed “berth”, cut 3 lines, replaced … */
static void describe(const Doc *d, size_t i, Bytes *out)
{
    StateInfo s = doc_state(d, i);
    if (i == 0) {
        bytes_add_str(out, "as it was at first");
        return;
    }
    Text now = doc_state_text(d, i), before = doc_state_text(d, s.parent);
    size_t lines = lines_in(s.added ? now : before, s.at, s.added ? s.added : s.removed);
    if (s.verb) {
        size_t n = strlen(s.verb);
        if (n > 3 && strcmp(s.verb + n - 3, "…") == 0)
            n -= 3;
        bytes_printf(out, "%.*s", (int)n, s.verb);
    } else {
        bytes_add_str(out, s.added == 0 ? "deleted" : s.removed ? "replaced" : "typed");
    }
    if (lines > 1) {
        bytes_printf(out, " %s", AMOUNT(lines, "line"));
        return;
    }
    bytes_add_str(out, " “");
    excerpt_add(s.added ? now : before, s.at, s.added ? s.added : s.removed, out);
    bytes_add_str(out, "”");
}

/* What Esc goes back to. */
typedef struct Before {
    size_t state;
    ViewPlace place;
} Before;

/* Newest first; a state that does not lie on the way from the first one to now is on another branch. */
static void fill_history(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    const Doc *d = ed->panes.view->file->doc;
    size_t start = ((const Before *)ctx)->state, n = doc_states(d);
    bool *on_way = mem_get(n);
    for (size_t i = start;; i = doc_state(d, i).parent) {
        on_way[i] = true;
        if (i == 0)
            break;
    }
    for (size_t i = n; i-- > 0;) {
        StateInfo s = doc_state(d, i);
        Bytes text = {0}, note = {0};
        describe(d, i, &text);
        bytes_add_str(&note, words_when_exactly(s.when, (char[WORDS_MAX]){0}));
        if (!on_way[i] && i < start)
            bytes_add_str(&note, " · another branch");
        panel_add(p, (long)i, text.at, note.at, i == start ? "now" : s.saved ? "last saved" : NULL);
        bytes_free(&text);
        bytes_free(&note);
    }
    free(on_way);
}

static void go_state(Editor *ed, long id, void *ctx)
{
    (void)ctx;
    size_t cursor;
    doc_go(ed->panes.view->file->doc, (size_t)id, &cursor);
    view_drop_mark(ed->panes.view);
    view_go(ed->panes.view, cursor);
}

static void state_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    if (id < 0)
        return;
    go_state(ed, id, ctx);
    say(ed, "This is the text as it was then. Nothing is lost: the history has the other states too.");
}

static void as_before(Editor *ed, void *ctx)
{
    const Before *b = ctx;
    go_state(ed, (long)b->state, NULL);
    view_restore(ed->panes.view, &b->place);
}

static void run_history(Editor *ed, const Args *args)
{
    (void)args;
    const Doc *d = ed->panes.view->file->doc;
    Before *b = mem_get(sizeof *b);
    *b = (Before){doc_state_now(d), view_place(ed->panes.view)};
    size_t now = b->state;
    PanelSpec p = {
        .title = "History",
        .fill = fill_history,
        .chosen = state_chosen,
        .preview = go_state,
        .cancelled = as_before,
        .ctx = b,
        .free_ctx = free,
    };
    panel_open(ed, &p);
    panel_go(ed, (long)now);
}

static const Command cmd_history = {
    .name = "history",
    .label = "History…",
    .letter = 'h',
    .help = "See all states of the text, those on other branches too, and go to one",
    .words = "versions undo tree",
    .run = run_history,
};

const Command *const history_commands[] = {
    &cmd_undo,
    &cmd_redo,
    &cmd_history,
    NULL,
};
