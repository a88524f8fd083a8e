/* Going to places of large files that are still being read. */
#ifndef WANTED_H
#define WANTED_H

#include "view/panes.h"

/* Observes the session: goes where one wanted to as soon as that is read. */
void wanted_begin(Panes *p);
/* To a line from 0 and a column, as soon as it is there. */
void wanted_line(Panes *p, size_t line, size_t column);
/* To the end of what is there, and of all once it is. */
void wanted_end(Panes *p);
/* Any key in the text forgets both. */
void wanted_forget(Panes *p);

#endif
