/* Themes: what each style looks like. */
#ifndef THEME_H
#define THEME_H

#include "frame/frame.h"

enum { ATTR_BOLD = 1, ATTR_UNDERLINE = 2, ATTR_REVERSE = 4, ATTR_DIM = 8 };
enum { COLOUR_NONE = -1 }; /* the terminal's own */

typedef struct Look {
    short fg, bg; /* COLOUR_NONE, 0..15 the terminal's colours, or 16..255 of the 256 */
    unsigned attrs;
} Look;

typedef struct Theme {
    const char *name;
    Look looks[ST_COUNT];
} Theme;

extern const Theme themes[];
extern const size_t n_themes;

/* The theme with that name, or NULL. The first one is the standard. */
const Theme *theme_named(const char *name);

#endif
