/* Sections, functions and headings of a text: which one a place is in, the next one, all of them. */
#ifndef OUTLINING_H
#define OUTLINING_H

#include "base/stop.h"
#include "kinds/outline.h"
#include "text/text.h"
#include "view/view.h"

/* A line that begins something. */
typedef struct Heading {
    size_t at;       /* where the line begins, */
    size_t from, to; /* and its name in the text */
    int level;
} Heading;

/* The one that a place is in, looking back over so many lines at most. */
bool outlining_around(Text t, const Outline *o, size_t at, size_t lines, Heading *h);
/* The same for the cursor of a view; cheap while one types or moves in a line. */
bool outlining_of_view(View *v, const Outline *o, size_t lines, Heading *h);
/* The first one that begins after a place, or the last one before its line. False: there is none, or it was
 * stopped. */
bool outlining_next(Text t, const Outline *o, size_t at, Stop stop, Heading *h);
bool outlining_before(Text t, const Outline *o, size_t at, Stop stop, Heading *h);
/* The bytes of what that one begins, with its own line: up to the next of its level or above, or to where it
 * ends. */
void outlining_section(Text t, const Outline *o, const Heading *h, Stop stop, size_t *from, size_t *to);
/* Calls `each` for those that begin in [from, to), in order, until it returns false; the place up to which
 * was looked is returned. `from` must begin a line. */
size_t outlining_each(Text t, const Outline *o, size_t from, size_t to,
                      bool (*each)(void *ctx, const Heading *h), void *ctx);

#endif
