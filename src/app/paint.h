/* What the files that lay out the Frame share. */
#ifndef PAINT_H
#define PAINT_H
#include "app/panes.h"

/* Remembers that clicking there presses those keys. */
void add_spot(Editor *ed, int row, int from, int to, const char *keys);
/* The text of a view in the place it has; sets the frame's cursor if it is the present one. */
void paint_text(Editor *ed, Frame *f, View *v);
int gutter_width(const Editor *ed, const View *v);
/* Where one is and what the text is like; or a message, which takes the whole row. */
void paint_status(Editor *ed, Frame *f, int row);
/* The status line of one pane among several. */
void paint_pane_status(Editor *ed, Frame *f, const Pane *p);
/* "changed", "look only" and their like, or "". */
const char *state_words(const OpenFile *f);

#endif
