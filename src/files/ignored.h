/* What a folder's own ignore files (.gitignore) leave out, in the form that gitignore(5) describes. */
#ifndef IGNORED_H
#define IGNORED_H

#include <stdbool.h>
#include <stddef.h>

/* The rules of one folder, and through `above` those of the folders that it lies in. */
typedef struct Ignored Ignored;

/* Reads those of a folder, given by its path. NULL when it has none: then those above count. They must be
 * freed after those of the folders below. */
Ignored *ignored_read(const char *folder, const Ignored *above);
void ignored_free(Ignored *g);
/* Those of the folders above `folder`, up to one that holds a repository: *n of them, the uppermost first, in
 * memory that the caller frees, each and all; NULL when it lies in no repository. */
Ignored **ignored_above(const char *folder, size_t *n);
/* Is a path, below the folders of `g`, left out? A folder that is left out is not to be looked into. */
bool ignored_is(const Ignored *g, const char *path, bool folder);

#endif
