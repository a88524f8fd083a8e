/* Painting a Frame with curses, which finds out what must be sent. */
#ifndef PAINTER_H
#define PAINTER_H

#include "frame/theme.h"

/* Call after terminal_open, and whenever the theme changes. Is the terminal's own ground white? */
/* `stays`: the ground is such that a theme that follows it need not paint its own. */
void painter_theme(const Theme *theme, bool white, bool stays);
/* Paints what differs from the last frame; `all`: everything. */
void painter_show(const Frame *f, bool all);

#endif
