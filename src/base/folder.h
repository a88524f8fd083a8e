/* Reading folders. */
#ifndef FOLDER_H
#define FOLDER_H

#include <stdbool.h>

/* Calls `entry` for each name in a folder but "." and "..", in no order, until it returns false. `fd` is
 * the folder itself, for the calls that end with "at". False with errno when the folder cannot be read. */
bool folder_read(const char *path, bool (*entry)(int fd, const char *name, void *ctx), void *ctx);

/* Is there a folder at that path? Links are followed. */
bool folder_at(const char *path);

/* Makes a folder and those above it, mode 0700; true when it is there afterwards. As root, only below a
 * folder that is root's. The other returns it open, or -1 with errno. */
bool folder_make(const char *path);
int folder_open_made(const char *path);

/* Makes one that nobody else can look into, where temporary files belong, its name beginning with `name`.
 * The caller frees the path; NULL with errno. */
char *folder_private(const char *name);

/* Removes those of that name that are ours and older than an hour: their programs were killed. */
void folder_private_sweep(const char *name);

/* Removes it with all that is in it; what links in it lead to stays. */
void folder_remove(const char *path);

#endif
