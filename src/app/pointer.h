/* What the mouse does: clicks, drags and the wheel in the text, on what is clickable, or in a layer. */
#ifndef POINTER_H
#define POINTER_H

#include "ui/editor.h"

void pointer_begin(Editor *ed);
void pointer_free(Editor *ed);
/* Something else came than the mouse: what it held (a border, the words of a double click) may be gone by its
 * next move. */
void pointer_release(Editor *ed);
void pointer_handle(Editor *ed, const Mouse *m);

#endif
