/* What one read() from the terminal brought, before it is decoded. */
#ifndef INCOMING_H
#define INCOMING_H

#include <stdbool.h>
#include <stddef.h>

enum { INCOMING_GROWS = 4 /* times, at most */ };

/* Puts it into `out` as UTF-8, when the locale's letters are others; a character may be cut in two by reads.
 * Bytes that are no letter there stay as they are. Returns how many bytes that is. */
size_t incoming_utf8(const char *bytes, size_t n, char *out);
/* Is that too much to be typed? Many bytes, or text after a line end; or it goes on without a pause. Only
 * plain text counts. */
bool incoming_is_burst(const char *bytes, size_t n, bool goes_on);

#endif
