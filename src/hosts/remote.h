/* What this program does with files of a host, in steps of an SFTP server (sftp.h): reading, and writing so
 * that the host has the old version or the new one, whole. These wait, so they run on threads of their own.
 */
#ifndef REMOTE_H
#define REMOTE_H

#include "files/filesystem.h"
#include "hosts/sftp.h"

/* A file of a host. */
typedef struct Remote {
    Sftp sftp;
    const char *host, *path; /* as the server takes it */
    bool lost;               /* set when nobody can know what came of it */
} Remote;

/* Each is false with the reason in e. */
bool remote_look(Remote *r, Seen *seen, Err *e);
/* Feeds all of the file to a loader, and ends that. A file that is not there is an empty one. */
void remote_load(Remote *r, Loader *l);
/* As save_file (save.h); what a wish says of copies on this machine is not for here. `counted`: bytes that
 * are there by now, or NULL. */
bool remote_save(Remote *r, Text t, const SaveWish *wish, atomic_size_t *counted, DiskState *disk, Err *e);
bool remote_rename(Remote *r, const char *to, const DiskState *target, bool *overtaken, DiskState *disk,
                   Err *e);
bool remote_make_folder(Remote *r, Err *e);
bool remote_list(Remote *r, FolderEntries *out, Err *e);

#endif
