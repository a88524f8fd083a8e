/* The panels of the Edit menu: the history of a text and the shelf of clips. */
#ifndef HISTORY_H
#define HISTORY_H
#include "app/editor.h"

void history_open(Editor *ed);
void shelf_open(Editor *ed);

#endif
