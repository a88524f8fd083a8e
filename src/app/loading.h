/* Going to places in large files that are still being read. */
#ifndef LOADING_H
#define LOADING_H
#include "app/editor.h"

/* More of it is there: to the place that was asked for, if that is among it. */
void loading_arrived(Editor *ed, OpenFile *f);
/* To a line from 0 and a column, as soon as it is there. */
void loading_go_line(Editor *ed, size_t line, size_t column);
/* To the end of what is there, and of all once it is. Any key in the text forgets both. */
void loading_go_end(Editor *ed);

#endif
