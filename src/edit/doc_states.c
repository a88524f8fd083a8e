#include "edit/doc_states.h"

#include "base/array.h"

#include <stdlib.h>

size_t doc_states_add(Doc *d, State s)
{
    d->states = array_room(d->states, d->n_states, sizeof *d->states);
    d->states[d->n_states] = s;
    return d->n_states++;
}

void doc_states_clear(Doc *d)
{
    for (size_t i = 0; i < d->n_states; i++)
        text_drop(&d->states[i].text);
    free(d->states);
    d->states = NULL;
    d->n_states = 0;
}
