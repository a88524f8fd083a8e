/* Painting a Frame with curses, which finds out what must be sent. */
#ifndef PAINTER_H
#define PAINTER_H

#include "frame/theme.h"

/* Call after terminal_open, and whenever the theme changes. Is the terminal's own ground white? */
void painter_theme(const Theme *theme, bool white);
/* Paints what differs from the last frame; `all`: everything. */
void painter_show(const Frame *f, bool all);

#endif
