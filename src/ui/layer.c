#include "ui/layer.h"

#include "session/plan.h"
#include "ui/editor.h"
#include "view/cursors.h"

#include <stdlib.h>

void layers_push(Editor *ed, Layer *l)
{
    const View *v = ed->panes.view;
    if (!ed->layer && !ed->before.view) /* else one follows another */
        ed->before = (SeenBefore){v, doc_version(v->file->doc), v->cursor.at, v->top.at};
    if (l->kind->asks || l->kind->has_text || l->kind->height)
        notices_pass(&ed->notices, ed->clock.last_key);
    l->below = ed->layer;
    ed->layer = l;
}

void layers_settle(Editor *ed)
{
    View *v = ed->panes.view;
    const SeenBefore *b = &ed->before;
    if (ed->layer || !b->view)
        return;
    if (b->view == v && b->cursor == v->cursor.at && b->version == doc_version(v->file->doc))
        v->top.at = b->top;
    ed->before = (SeenBefore){0};
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

void layers_pass(Editor *ed)
{
    if (ed->layer && ed->layer->kind->passing)
        layers_pop(ed);
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

void layers_plain_text(Editor *ed)
{
    layers_cancel_all(ed);
    plans_ask_no_more(ed->session);
    view_drop_mark(ed->panes.view);
    cursors_end(ed->panes.view);
}

bool layers_esc(Editor *ed)
{
    EscTimes *t = &ed->esc;
    bool brief = t->brief != 0, burst = t->last && ed->clock.now - t->last < ESC_BURST;
    *t = (EscTimes){.last = ed->clock.now, .second = burst};
    if (brief || (burst && ed->layer)) {
        layers_plain_text(ed);
        return true;
    }
    return false;
}

void layers_esc_woke(Editor *ed)
{
    if (ed->esc.second)
        ed->esc.brief = ed->clock.now + ESC_BRIEF;
}

void layers_end_brief(Editor *ed)
{
    if (!ed->esc.brief || ed->clock.now < ed->esc.brief)
        return;
    ed->esc = (EscTimes){0};
    layers_plain_text(ed);
}

bool layers_esc_pause(const Editor *ed, uint64_t ms)
{
    return ms >= (ed->esc.brief ? ESC_BRIEF : ESC_BURST);
}

void layers_pause(Editor *ed)
{
    if (ed->esc.brief)
        layers_plain_text(ed);
    ed->esc = (EscTimes){0};
}

int layers_brief_wait(const Editor *ed, uint64_t now)
{
    return !ed->esc.brief ? -1 : ed->esc.brief > now ? (int)(ed->esc.brief - now) : 0;
}

void layers_no_esc(Editor *ed)
{
    ed->esc = (EscTimes){0};
}
