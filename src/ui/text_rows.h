/* Laying out the text of a view. */
#ifndef TEXT_ROWS_H
#define TEXT_ROWS_H

#include "ui/editor.h"

/* The text in the place that the view has; sets the frame's cursor if it is the one with the cursor. */
void text_rows_paint(Editor *ed, Frame *f, View *v);
/* Cells that numbers and signs take before the text. */
int text_rows_gutter(const Editor *ed, const View *v);

#endif
