/* Themes: what each style looks like. Each is one data file (data/themes/; docs/themes.md describes the
 * form): those in the program, then the machine's, then the person's. Main thread only. */
#ifndef THEME_H
#define THEME_H

#include "base/plain_data.h"
#include "frame/frame.h"

enum { ATTR_BOLD = 1, ATTR_UNDERLINE = 2, ATTR_REVERSE = 4, ATTR_DIM = 8 };
enum { COLOUR_NONE = -1 }; /* the terminal's own */

typedef struct Look {
    short fg, bg; /* COLOUR_NONE, 0..15 the terminal's colours, or 16..255 of the 256 */
    unsigned attrs;
} Look;

typedef struct Theme {
    const char *name, *about;
    Look looks[ST_COUNT];
    Look on_white[ST_COUNT]; /* the same where the terminal's own ground is white */
    bool follows; /* the terminal: it is one of two by its ground, and leaves that where it will do */
    bool read;    /* else it is one of the program's own that nobody looked at yet */
} Theme;

/* The theme with that name, or NULL. */
const Theme *theme_named(const char *name);
/* All themes one by one, from 0, the standard one; NULL after the last. */
const Theme *theme_number(size_t i);
/* Their names, with "|" between; valid until one is added. */
const char *theme_names(void);

/* Adds a theme from the n bytes of a data file, which may go afterwards, and reports everything that is wrong
 * in it; false when nothing of it can be used. One of the same name is replaced. */
bool theme_add(const char *bytes, size_t n, PlainProblem problem, void *ctx);
/* Frees all. */
void themes_end(void);

#endif
