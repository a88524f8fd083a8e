#include "app/places.h"

#include "app/pages.h"
#include "app/shown.h"
#include "base/mem.h"
#include "edit/move.h"

#include <stdlib.h>
#include <string.h>

enum { PLACES_MAX = 60 };

/* Each stands in a document and moves along with its text. */
struct Place {
    OpenFile *file;
    Anchor at;
    struct Place *next; /* among a file's bookmarks */
};

static Place *new_place(OpenFile *f, size_t at)
{
    Place *p = mem_get(sizeof *p);
    p->file = f;
    doc_add_anchor(f->doc, &p->at, at, true);
    return p;
}

static void free_place(Place *p)
{
    doc_remove_anchor(p->file->doc, &p->at);
    free(p);
}

/* ---- jumping back ---- */

static void drop_places(Editor *ed, size_t from, size_t n)
{
    if (n == 0)
        return;
    for (size_t i = from; i < from + n; i++)
        free_place(ed->places[i]);
    memmove(ed->places + from, ed->places + from + n, (ed->n_places - from - n) * sizeof *ed->places);
    ed->n_places -= n;
}

static bool is_here(const Editor *ed, const Place *p)
{
    return p->file == ed->view->file && p->at.at == ed->view->cursor.at;
}

void places_note(Editor *ed)
{
    if (page_shown(ed))
        return;
    drop_places(ed, ed->place, ed->n_places - ed->place); /* a new way begins here */
    if (ed->n_places && is_here(ed, ed->places[ed->n_places - 1]))
        return;
    if (ed->n_places == PLACES_MAX)
        drop_places(ed, 0, 1);
    ed->places = mem_grow(ed->places, PLACES_MAX * sizeof *ed->places);
    ed->places[ed->n_places++] = new_place(ed->view->file, ed->view->cursor.at);
    ed->place = ed->n_places;
}

static void go(Editor *ed, const Place *p)
{
    editor_show(ed, p->file);
    view_go(ed->view, p->at.at);
}

bool places_go(Editor *ed, bool forward)
{
    if (forward) {
        while (ed->place + 1 < ed->n_places) {
            const Place *p = ed->places[++ed->place];
            if (!is_here(ed, p)) {
                go(ed, p);
                return true;
            }
        }
        return false;
    }
    if (ed->place == ed->n_places) { /* so that "forward" comes back here */
        places_note(ed);
        ed->place = ed->n_places ? ed->n_places - 1 : 0;
    }
    while (ed->place > 0) {
        const Place *p = ed->places[--ed->place];
        if (!is_here(ed, p)) {
            go(ed, p);
            return true;
        }
    }
    return false;
}

/* ---- bookmarks ---- */

void bookmark_flip(Editor *ed)
{
    OpenFile *f = ed->view->file;
    Text t = view_text(ed->view);
    size_t line = text_line_of(t, ed->view->cursor.at);
    for (Place **p = &f->shown->bookmarks; *p; p = &(*p)->next)
        if (text_line_of(t, (*p)->at.at) == line) {
            Place *gone = *p;
            *p = gone->next;
            free_place(gone);
            say(ed, "The bookmark on line %zu is gone", line + 1);
            return;
        }
    Place *fresh = new_place(f, text_line_start(t, line));
    fresh->next = f->shown->bookmarks;
    f->shown->bookmarks = fresh;
    say(ed, "Line %zu is bookmarked", line + 1);
}

void bookmark_next(Editor *ed)
{
    View *v = ed->view;
    size_t start = move_line_start(view_text(v), v->cursor.at), best = (size_t)-1, first = (size_t)-1;
    for (const Place *p = v->file->shown->bookmarks; p; p = p->next) {
        if (p->at.at > start && p->at.at < best)
            best = p->at.at;
        if (p->at.at < first)
            first = p->at.at;
    }
    if (first == (size_t)-1) {
        say(ed, "There is no bookmark in %s yet", file_name(v->file));
        return;
    }
    view_go(v, best == (size_t)-1 ? first : best);
}

bool bookmark_in(const OpenFile *f, size_t start, size_t end)
{
    for (const Place *p = f->shown->bookmarks; p; p = p->next)
        if (p->at.at >= start && p->at.at <= end)
            return true;
    return false;
}

void places_forget(Editor *ed, OpenFile *f)
{
    while (f->shown->bookmarks) {
        Place *p = f->shown->bookmarks;
        f->shown->bookmarks = p->next;
        free_place(p);
    }
    for (size_t i = ed->n_places; i-- > 0;)
        if (ed->places[i]->file == f) {
            drop_places(ed, i, 1);
            ed->place -= ed->place > i;
        }
}
