/* The bars in the gutter: which lines differ from the last save. */
#ifndef BARS_H
#define BARS_H
#include "app/editor.h"

/* Finds the differences if the text changed since; a comparison that takes long waits until the
 * keys rest for a moment. */
void bars_look(Editor *ed, OpenFile *f);
/* The sign beside a line, or NULL. */
const char *bars_sign(const OpenFile *f, size_t line);
/* The first changed line behind `line`, or around the end; false when there is none. */
bool bars_next(const OpenFile *f, size_t line, size_t *found);
void bars_free(OpenFile *f);

#endif
