/* The files that exist only while a save is under way, and finding those that dead programs left. */
#ifndef LEFTOVERS_H
#define LEFTOVERS_H

#include "base/bytes.h"
#include "files/state.h"

#include <stddef.h>

/* The path of what this program is still writing into a folder for the file called `like`, which is `of`
 * (NULL: not there yet). `which` tells several apart. */
void leftover_name(Bytes *path, const char *folder, const char *like, const FileState *of, const char *which);
/* The path that it gets once the whole new version is in it. */
void leftover_whole(const Bytes *unfinished, Bytes *path);

/* A file that a program wrote in place when it died may be half of both versions. Finds the whole new one
 * that was laid down beside it (or in the state folder) before that, and removes what dead programs left
 * unfinished. found[i] becomes that of paths[i], which the caller frees; NULL when there is none. Each folder
 * is read once, however many files lie in it. */
void leftovers_find(const char *const *paths, size_t n, char **found);
/* Removes such a file, and frees its path. */
void leftover_remove(char **path);

#endif
