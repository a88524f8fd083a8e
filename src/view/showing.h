/* Which files the panes show. */
#ifndef SHOWING_H
#define SHOWING_H

#include "session/session.h"
#include "view/panes.h"

/* Observes the session: what is kept with its files begins and ends with them, and a file that is closed
 * gives way to the one that was shown last. */
void showing_begin(Panes *p, Session *s);
/* Shows a file in the pane with the cursor. */
void showing_show(Panes *p, OpenFile *f);
/* Cells from one tab stop to the next in all files, where .editorconfig does not say. */
void showing_set_tab(Panes *p, size_t cells);

#endif
