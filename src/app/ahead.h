/* Keys that would change a text of which not all is there yet: they wait until it is, and lose nothing. */
#ifndef AHEAD_H
#define AHEAD_H

#include "ui/editor.h"

typedef struct Ahead Ahead;

/* Takes an event if it must wait: false when it is to be handled now. *a is made when it is needed. */
bool ahead_takes(Ahead **a, Editor *ed, const Input *in);
/* Hands out what waited, each by `serve`, once all is there. */
void ahead_release(Ahead *a, Editor *ed, void (*serve)(Editor *ed, const Input *in));
/* Is something waiting that can be handed out? */
bool ahead_is_due(const Ahead *a, const Editor *ed);
void ahead_free(Ahead *a);

#endif
