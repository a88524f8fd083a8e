/* The colours of a text: which role each byte has. What is open at checkpoints of the text is kept, so that a
 * screen anywhere is coloured at once, and a change is followed only as far as it matters. */
#ifndef COLOURS_H
#define COLOURS_H

#include "kinds/colour.h"
#include "session/openfile.h"

/* Before bytes [from, to) are shown: follows changes. What lies too far after what is known is guessed from
 * nearby, to be put right by colours_step. False when the text has no colours. */
bool colours_begin(OpenFile *f, size_t from, size_t to);
/* The state at the start of a line; cheapest when asked for one line after the other. */
ColourState colours_state(OpenFile *f, size_t line_from);
/* The roles of bytes [from, to) of the line that begins at line_from. */
void colours_of(OpenFile *f, size_t line_from, size_t from, size_t to, uint8_t *roles);
/* The roles of any bytes [from, to), and the kind that a line is of, as code in other code. Both as far as
 * they are known at once. */
void colours_between(OpenFile *f, size_t from, size_t to, uint8_t *roles);
const Kind *colours_kind(OpenFile *f, size_t line_from);
/* Puts right for about a millisecond what was guessed before `to`. True while there is more to do. */
bool colours_step(OpenFile *f, size_t to);
/* Is there something to do? */
bool colours_unsure(const OpenFile *f, size_t to);
void colours_free(OpenFile *f);

#endif
