/* Laying out the Frame: top line, text, status line, hint line, then the layers. */
#ifndef SCREEN_H
#define SCREEN_H

#include "ui/editor.h"

enum { SCREEN_SMALL = 16 /* rows; on fewer the menu titles make way for the path */ };

void screen_paint(Editor *ed, Frame *f);
/* Is there room for hints in a column at the side? */
bool screen_has_side(const Frame *f);

#endif
