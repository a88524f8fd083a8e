#include "app/history.h"

#include "app/panel.h"
#include "base/mem.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

enum { SHOWN = 40 /* bytes of a text that stand for it */ };

/* The first letters of [from, from + n), on one line. */
static void first_words(Text t, size_t from, size_t n, Bytes *out)
{
    char bytes[SHOWN + 1];
    size_t got = text_read(t, from, bytes, n < SHOWN ? n : SHOWN);
    while (got && got < n && ((unsigned char)bytes[got - 1] & 0x80)) /* no half characters */
        got--;
    for (size_t i = 0; i < got; i++)
        bytes_add(out, bytes[i] == '\n' || bytes[i] == '\t' ? " " : bytes + i, bytes[i] == '\r' ? 0 : 1);
    if (got < n)
        bytes_add_str(out, "…");
}

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
    first_words(s.added ? now : before, s.at, s.added ? s.added : s.removed, out);
    bytes_add_str(out, "”");
}

static void state_when(long long when, Bytes *out)
{
    time_t t = (time_t)when, now = time(NULL);
    struct tm here;
    char text[32];
    long long ago = (long long)now - when;
    localtime_r(&t, &here);
    strftime(text, sizeof text, ago > 20 * 3600 ? "%d %b %H:%M" : "%H:%M:%S", &here);
    bytes_add_str(out, text);
}

/* Newest first; a state that does not lie on the way from the first one to now is on another branch. */
static void fill_history(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    const Doc *d = ed->view->file->doc;
    size_t start = *(const size_t *)ctx, n = doc_states(d);
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
        state_when(s.when, &note);
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
    doc_go(ed->view->file->doc, (size_t)id, &cursor);
    view_drop_mark(ed->view);
    view_go(ed->view, cursor);
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
    go_state(ed, (long)*(size_t *)ctx, NULL);
}

void history_open(Editor *ed)
{
    const Doc *d = ed->view->file->doc;
    size_t *now = mem_get(sizeof *now);
    for (size_t i = 0; i < doc_states(d); i++)
        if (doc_state(d, i).now)
            *now = i;
    PanelSpec p = {
        .title = "History",
        .fill = fill_history,
        .chosen = state_chosen,
        .preview = go_state,
        .cancelled = as_before,
        .ctx = now,
        .free_ctx = free,
    };
    panel_open(ed, &p);
    panel_go(ed, (long)*now);
}

/* ---- the shelf ---- */

static void fill_shelf(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    for (size_t i = 0; i < ed->shelf.n; i++) {
        const Clip *c = &ed->shelf.clips[i];
        Bytes text = {0};
        size_t lines = text_newlines(c->text);
        first_words(c->text, 0, text_len(c->text), &text);
        panel_add(p, (long)i, bytes_str(&text), c->block ? "a block of columns" : NULL,
                  lines ? AMOUNT(lines, "line") : AMOUNT(text_len(c->text), "byte"));
        bytes_free(&text);
    }
}

static void clip_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    if (id < 0)
        return;
    Clip c = ed->shelf.clips[id];
    memmove(ed->shelf.clips + 1, ed->shelf.clips, (size_t)id * sizeof c);
    ed->shelf.clips[0] = c;
    clip_paste(ed, 1);
}

void shelf_open(Editor *ed)
{
    PanelSpec p = {.title = "Shelf: paste", .fill = fill_shelf, .chosen = clip_chosen};
    panel_open(ed, &p);
}
