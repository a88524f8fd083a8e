/* Writing a text to a file so that it holds the old or the new version, whole. */
#ifndef SAVE_H
#define SAVE_H

#include "files/load.h"

typedef enum Backup { BACKUP_NONE, BACKUP_ONE, BACKUP_NUMBERED } Backup;

/* Why a file was not saved, where that can be mended. */
typedef enum SaveFate {
    SAVE_ENDED,       /* it was saved, or there is no more to say than the message does */
    SAVE_OVERTAKEN,   /* the file is not what was agreed to any more */
    SAVE_UNREACHABLE, /* its machine could not be asked (any more) */
    SAVE_DENIED,      /* somebody with more rights there may do it */
} SaveFate;

typedef struct SaveWish {
    Backup backup;
    unsigned keep;         /* of numbered backups */
    const char *folder;    /* where backups go; NULL or "": beside the file */
    const DiskState *only; /* refuse unless the file is still this very one (or still missing); NULL: any */
    bool in_place;         /* keep the file itself, as others hold it open */
    SaveFate *fate;        /* set to what was the reason of a failure; may be NULL */
    bool as_root;          /* of a host: by an SFTP server that sudo or doas runs there */
    /* Called when the whole new version lies at a path, just before the old one goes; may be NULL. */
    void (*replacing)(const char *path, const FileState *st, void *ctx);
    void *ctx;
} SaveWish;

/* Writes `t` to `path`. The new version is written beside the file, given the owner, group, mode and
 * all extended attributes (access lists and security labels are such) of the old one, synced, and
 * renamed over it. Where that would break something (a second hard link, an owner or attribute that
 * we may not set, a folder that we may not write, something mounted at its name) or the wish says so, the
 * file is written in place, after a complete copy of the new version is safe elsewhere. A symbolic link stays
 * one; the file it leads to is written. `wish` may be NULL: no backup. *disk is what was written. On failure
 * the reason is in e, and the file is as it was unless the text says where the whole new version lies. */
bool save_file(const char *path, Text t, const SaveWish *wish, DiskState *disk, Err *e);

/* Keeps a whole new version safe in the state folder, for nobody else to read, under a name that says what it
 * is of. Its path, which the caller frees, and removes when it is not needed (leftovers.h); NULL with the
 * reason in e. */
char *save_aside(const char *like, Text t, Err *e);

#endif
