#include "ui/layer.h"

#include "session/plan.h"
#include "ui/editor.h"

#include <stdlib.h>

void layers_push(Editor *ed, Layer *l)
{
    l->below = ed->layer;
    ed->layer = l;
}

static void free_layer(Editor *ed, Layer *l)
{
    if (l->kind->free)
        l->kind->free(ed, l);
    free(l);
}

void layers_take(Editor *ed, Layer *l)
{
    for (Layer **p = &ed->layer; *p; p = &(*p)->below)
        if (*p == l) {
            *p = l->below;
            return;
        }
}

void layers_pop(Editor *ed)
{
    Layer *l = ed->layer;
    ed->layer = l->below;
    free_layer(ed, l);
}

void layers_cancel(Editor *ed)
{
    Layer *l = ed->layer;
    /* Taken off first: what cancelling does may lay the next one over the text. */
    ed->layer = l->below;
    if (l->kind->cancel)
        l->kind->cancel(ed, l);
    free_layer(ed, l);
}

void layers_cancel_all(Editor *ed)
{
    /* Bounded: no cancelling may keep a person here. */
    for (int i = 0; ed->layer && i < 100; i++)
        layers_cancel(ed);
}

static Layer *covering(const Editor *ed)
{
    Layer *l = ed->layer;
    while (l && !l->kind->has_text)
        l = l->below;
    return l;
}

bool layers_covered(const Editor *ed)
{
    return covering(ed) != NULL;
}

void layers_uncover(Editor *ed)
{
    Layer *top = ed->layer, *cover = covering(ed), *above = NULL;
    if (!cover)
        return;
    for (Layer *l = top; l != cover; l = l->below)
        above = l;
    ed->layer = cover;
    layers_cancel_all(ed);
    if (!above)
        return;
    above->below =
        NULL; /* what lies above may be at work, such as a list that shows where its rows lead: it stays */
    ed->layer = top;
}

/* ---- Esc ---- */

enum { DOUBLE_ESC = 1000 /* ms */ };

void layers_plain_text(Editor *ed)
{
    layers_cancel_all(ed);
    plans_ask_no_more(ed->session);
    view_drop_mark(ed->panes.view);
}

bool layers_double_esc(Editor *ed)
{
    EscTimes *t = &ed->esc;
    if (t->twice && ed->clock.now - t->twice < DOUBLE_ESC)
        return true;
    bool second = t->last && ed->clock.now - t->last < DOUBLE_ESC;
    t->last = second ? 0 : ed->clock.now;
    t->twice = second ? ed->clock.now : 0;
    if (second)
        layers_plain_text(ed);
    return second;
}

void layers_no_esc(Editor *ed)
{
    ed->esc = (EscTimes){0};
}
