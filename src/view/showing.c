#include "view/showing.h"

#include "view/bookmarks.h"
#include "view/change_marks.h"
#include "view/colours.h"
#include "view/shown.h"
#include "session/session_files.h"

static void added(void *ctx, OpenFile *f)
{
    shown_begin(f, ((const Panes *)ctx)->tab);
}

/* The text that was shown last. */
static OpenFile *shown_before(const Session *s, const OpenFile *f)
{
    OpenFile *best = NULL;
    for (size_t i = 0; i < s->n_files; i++) {
        OpenFile *o = s->files[i];
        if (o != f && (!best || o->shown->turn > best->shown->turn))
            best = o;
    }
    return best;
}

static void closing(void *ctx, OpenFile *f)
{
    Panes *p = ctx;
    if (p->root && !p->ending && panes_show(p, f)) {
        OpenFile *instead = shown_before(p->session, f);
        if (!instead)
            instead = session_add(p->session, (Text){0});
        panes_replace(p, f, instead);
        instead->shown->turn = ++p->turn;
    }
    bookmarks_free(f);
    change_marks_free(f);
    colours_free(f);
    shown_end(f);
}

static size_t cursor(void *ctx, const OpenFile *f)
{
    const View *v = panes_view_of(ctx, f);
    return v ? v->cursor.at : f->shown->cursor;
}

void showing_begin(Panes *p, Session *s)
{
    SessionEvents events = {.ctx = p, .added = added, .closing = closing, .cursor = cursor};
    p->session = s;
    session_observe(s, &events);
}

void showing_show(Panes *p, OpenFile *f)
{
    View *v = &panes_now(p)->view;
    if (v->file != f)
        view_show(v, f);
    f->shown->turn = ++p->turn;
}

void showing_set_tab(Panes *p, size_t cells)
{
    p->tab = cells;
    for (size_t i = 0; i < p->session->n_files; i++)
        p->session->files[i]->shown->tab = cells;
}
