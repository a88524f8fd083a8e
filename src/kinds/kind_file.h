/* Reading a kind from its data file. */
#ifndef KIND_FILE_H
#define KIND_FILE_H

#include "kinds/kinds.h"

/* A kind from n bytes, which must stay where they are. With `head_only`, its parts are left for later
 * (kind_source_all). NULL when it has no name or cannot be read. */
Kind *kind_read(const char *bytes, size_t n, bool head_only, const PlainReport *r);
/* Takes what it does not say itself from the kind it builds on. False when there is none of that name. */
bool kind_build_on(Kind *k, const PlainReport *r);
void kind_free(Kind *k);

/* All that its file says, or NULL. */
const PlainValue *kind_source_all(const Kind *k, const PlainReport *r);

#endif
