/* Writing a text to a file so that it holds the old or the new version, whole. */
#ifndef SAVE_H
#define SAVE_H

#include "load.h"

/* Writes `t` to `path`. The new version is written beside the file, synced, and renamed
 * over it, with the mode and owner of the old one. Where that would break something (a second
 * hard link, a folder or an owner that is not ours) the file is written in place.
 * A symbolic link stays one; the file it leads to is written.
 * *disk is what was written. On failure the reason is in e, and the file is as it was unless
 * the text says otherwise. */
bool file_save(const char *path, Text t, DiskState *disk, Err *e);

#endif
