#include "view/places.h"

#include "edit/cells.h"
#include "text/text_line.h"
#include "view/shown.h"
#include "session/session_memory.h"

#include <time.h>

/* What is written once, such as the text of a commit, has no place to come back to; nor has what is being
 * worked on for another program. */
static Store *store_for(const Panes *p, const OpenFile *f)
{
    const SessionRules *r = &p->session->rules;
    bool may = r->remember_places && !r->plain && !r->batch && !r->dry_run && f->purpose == FOR_WORK &&
               f->path && f->disk.exists && !f->incomplete && !openfile_is_awaited(f) &&
               !openfile_is_temporary(f);
    return may ? session_store(p->session) : NULL;
}

/* The list of files of the last weeks has none that others may not read. */
static void keep_lately(const Panes *p, const OpenFile *f)
{
    Store *store = store_for(p, f);
    if (store && p->session->rules.list_lately && (f->disk.file.mode & MODE_OTHERS_READ))
        store_put_lately(store, f->path, (long long)time(NULL));
}

static void keep(Panes *p, OpenFile *f)
{
    const View *v = panes_view_of(p, f);
    Text t = doc_text(f->doc);
    size_t at = v ? v->cursor.at : f->shown->cursor;
    Store *store = store_for(p, f);
    if (store)
        store_put_place(store, f->path, text_line_of(t, at), cells_chars_before(t, at));
    keep_lately(p, f);
}

static void closing(void *ctx, OpenFile *f)
{
    Panes *p = ctx;
    if (!p->ending)
        keep(p, f);
}

void places_begin(Panes *p)
{
    SessionEvents events = {.ctx = p, .closing = closing};
    session_observe(p->session, &events);
}

void places_keep(Panes *p)
{
    Store *store = p->session->n_files > 1 ? session_store(p->session) : NULL;
    if (store)
        store_begin(store);
    for (size_t i = 0; i < p->session->n_files; i++)
        keep(p, p->session->files[i]);
    if (store)
        store_end(store);
}

void places_recall(Panes *p, OpenFile *f)
{
    View *v = panes_view_of(p, f);
    Store *store = store_for(p, f);
    size_t line, column;
    keep_lately(p, f);
    if (!store || f->shown->led || f->shown->wanted || (v ? v->cursor.at : f->shown->cursor) ||
        !store_get_place(store, f->path, &line, &column))
        return;
    Text t = doc_text(f->doc);
    size_t last = text_newlines(t);
    if (line <= last && v)
        view_go_line(v, line, column);
    else if (line <= last)
        f->shown->cursor = cells_place_of_char(t, line, column);
    else if (f->reading) {
        f->shown->wanted = line + 1;
        f->shown->wanted_column = column;
    }
}
