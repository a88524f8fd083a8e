/* Colouring: a pure function from a state and the bytes of a line to the roles of those bytes and the next
 * state. A state is a number for the parts that are open: strings and comments over several lines,
 * here-documents, code in other code. 0 is the beginning of a text. */
#ifndef COLOUR_H
#define COLOUR_H

#include "kinds/kinds.h"
#include "kinds/role.h"

#include <stdint.h>

typedef uint32_t ColourState;

enum { COLOUR_START = 0 };

/* Some bytes of a line, as much of it as may matter. */
typedef struct ColourLine {
    const char *bytes; /* without the line end */
    size_t n;
    size_t from;  /* where colouring begins in them: the line's start, or where the last call stopped */
    size_t until; /* nothing is begun from here on; n and more: all is coloured */
    bool begins;  /* bytes[0] is the line's first */
    bool ends;    /* bytes[n - 1] is its last */
} ColourLine;

/* Colours one line, or a piece of a long one, and changes *state to what follows. roles[from…n) are written,
 * unless `roles` is NULL. Returns where the next piece begins: n at least when the line ends here. */
size_t colour_line(const Kind *k, ColourState *state, const ColourLine *line, uint8_t *roles);

/* Can every line of the kind be coloured by itself, from the state colour_plain? */
bool colour_lines_alone(const Kind *k);
/* The state in which nothing is open; not that of a text's first line if the kind has something for it. */
ColourState colour_plain(const Kind *k);
/* Whose parts are looked for in that state: another kind's, where one holds another. */
const Kind *colour_kind(const Kind *k, ColourState state);
/* Has the kind nothing to colour? */
bool colour_none(const Kind *k);
/* Did its expressions need too many steps, so that it is no longer coloured? */
bool colour_gave_up(const Kind *k);

#endif
