/* What is known of the place where the cursor stands: the field of a line, when a line of a schedule runs
 * next, what a number means. */
#ifndef TOLD_H
#define TOLD_H

#include "view/view.h"

/* Adds it, or nothing. `now` in seconds since 1970. */
void told_words(const View *v, long long now, Bytes *out);
/* The start of the next field of the line (or, back, of the one before) from the cursor; false when there is
 * none. */
bool told_field(const View *v, bool back, size_t *at);

#endif
