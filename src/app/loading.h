/* Large files that are looked at while the rest of them is still being read. */
#ifndef LOADING_H
#define LOADING_H

#include "editor.h"
#include "loader.h"

/* Takes over what has been read; once the first screen was painted, begins to read. */
void loading_go_on(Editor *ed);
int loading_wait(const Editor *ed);
/* The person stops it: what is there can be looked at. False when nothing is being read. */
bool loading_stop(Editor *ed, OpenFile *f);
/* Why a text is not whole and so cannot be changed or saved now, or NULL. Valid until the next call. */
const char *loading_hindrance(const OpenFile *f);
/* Reads the rest at once. */
bool loading_finish(Editor *ed, OpenFile *f);
/* To a line from 0 and a column, as soon as it is there. */
void loading_go_line(Editor *ed, size_t line, size_t column);
/* To the end of what is there, and of all once it is. Any key in the text forgets both. */
void loading_go_end(Editor *ed);

#endif
