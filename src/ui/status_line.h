/* Laying out status lines: where one is, what the text is like, what goes on. */
#ifndef STATUS_LINE_H
#define STATUS_LINE_H

#include "ui/editor.h"

/* Of the view with the cursor; or a message, which takes the whole row. */
void status_line_paint(Editor *ed, Frame *f, int row);
/* Of one pane among several. */
void status_line_paint_pane(Editor *ed, Frame *f, Pane *p);
/* "changed", "look only" and their like, or "". */
const char *status_line_state(const View *v);

/* Rows of the screen that it takes: more than one for a message that is too long for one, if it is not
 * hidden. */
int status_line_rows(const Editor *ed, const Frame *f);
/* Is the message cut even so? */
bool status_line_is_cut(const Editor *ed, const Frame *f);

#endif
