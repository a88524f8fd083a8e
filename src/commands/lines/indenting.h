/* Automatic indentation, by the kind of file: a new line begins under the one above, a step deeper after what
 * opens something; what closes it goes a step back. Only for what is typed, never for what is pasted. */
#ifndef INDENTING_H
#define INDENTING_H

#include "ui/editor.h"

/* What a key types at the cursor. */
void indenting_type(Editor *ed, const char *bytes, size_t n);
/* Enter. */
void indenting_new_line(Editor *ed);

#endif
