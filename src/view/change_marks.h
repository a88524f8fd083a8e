/* The marks in the gutter at lines that differ from the last save, or from Shown.since. */
#ifndef CHANGE_MARKS_H
#define CHANGE_MARKS_H

#include "session/openfile.h"

/* Finds the differences if the text changed since the last time. A comparison that takes long is left until
 * the keys have rested for `rested` ms; returns the ms after which to call again then, 0: all is done. */
unsigned change_marks_look(OpenFile *f, unsigned long long rested);
/* The sign beside a line, or NULL. */
const char *change_marks_sign(const OpenFile *f, size_t line);
/* The first changed line after `line`, or around the end; false when there is none. */
bool change_marks_next(const OpenFile *f, size_t line, size_t *found);
void change_marks_free(OpenFile *f);

#endif
