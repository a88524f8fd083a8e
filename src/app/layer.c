#include "app/editor.h"
#include "base/mem.h"

#include <stdlib.h>

void layer_push(Editor *ed, Layer *l)
{
    l->below = ed->layer;
    ed->layer = l;
}

void layer_pop(Editor *ed)
{
    Layer *l = ed->layer;
    ed->layer = l->below;
    if (l->kind->free)
        l->kind->free(l);
    free(l);
}

void layer_cancel(Editor *ed)
{
    Layer *l = ed->layer;
    /* Taken off first: what cancelling does may lay the next one over the text. */
    ed->layer = l->below;
    if (l->kind->cancel)
        l->kind->cancel(ed, l);
    if (l->kind->free)
        l->kind->free(l);
    free(l);
}

void layer_cancel_all(Editor *ed)
{
    /* Bounded: no cancelling may keep a person here. */
    for (int i = 0; ed->layer && i < 100; i++)
        layer_cancel(ed);
}
