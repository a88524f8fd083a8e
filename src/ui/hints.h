/* Hints: the keys that are most useful now, on the last line or in a column at the right. */
#ifndef HINTS_H
#define HINTS_H

#include "ui/editor.h"

enum { HINTS_SIDE_WIDTH = 30 };

/* Adds the hint of a command, if it has one; returns how many. For the hints of layers. */
size_t hints_add_command(const Editor *ed, const char *name, bool always, Hint *out);
/* As many as fit into a row, the most useful first. */
/* Rows that they take at the foot of a screen: on narrow ones two, and more when some of them must be seen.
 */
int hints_rows(Editor *ed, const Frame *f);
void hints_paint_line(Editor *ed, Frame *f, int row, int rows);
/* More of them, in groups, from column `col` to the right edge. */
void hints_paint_side(Editor *ed, Frame *f, int col);

#endif
