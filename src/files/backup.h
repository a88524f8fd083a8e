/* Earlier versions, kept on request beside the file: NAME.old, or NAME.old-1, NAME.old-2 and so on,
 * the highest number being the newest. In a folder of their own they lie under the file's whole path. */
#ifndef BACKUP_H
#define BACKUP_H

#include "files/save.h"

/* Keeps what the file holds now, by another link to it or by a copy; the file itself is not touched.
 * True at once when none is wished for. */
bool backup_make(const char *path, const SaveWish *wish, Err *e);

/* The number of a numbered one, by the names of both; 0: it is none. */
unsigned backup_number(const char *entry, const char *name);

#endif
