/* Paths of this machine as strings. */
#ifndef PATHS_H
#define PATHS_H

/* The person's home folder, or NULL. */
const char *path_home(void);
/* A name in a folder. The caller frees it. */
char *path_in(const char *folder, const char *name);
/* An absolute form of `path` without "." and ".."; links in its folder part are
 * resolved where it exists. The caller frees it. */
char *path_full(const char *path);
/* `path` with a leading "~" or "~/" replaced by the home folder. The caller frees it. */
char *path_expand_home(const char *path);
/* The other way around, to be shown. The caller frees it. */
char *path_short_home(const char *path);
/* The part of a path after its last '/'; points into `path`. */
const char *path_base(const char *path);
/* The part before it, without that '/': "." when there is none, "/" at the top. The caller frees it. */
char *path_folder(const char *path);

#endif
