/* A document's history as bytes, and back. */
#ifndef DUMP_H
#define DUMP_H

#include "edit/doc.h"

/* Adds the history to `out` in a form that dump_restore reads: every state as what it
 * changed. Of one that would need more than `most` bytes, only the newest states on the way to the
 * saved one. */
void dump_history(const Doc *d, size_t most, Bytes *out);
/* Gives a fresh document, whose text is the one that was saved, its history back. False (and no
 * change) when the bytes are no such history of this text. */
bool dump_restore(Doc *d, const void *bytes, size_t n);

#endif
