/* A key's way to what it does: a layer, or a command in the text. */
#ifndef KEYS_H
#define KEYS_H

#include "ui/editor.h"

void keys_handle(Editor *ed, const Input *in);
/* Presses keys given by their written names, such as "Esc f s". */
void keys_press(Editor *ed, const char *keys);

#endif
