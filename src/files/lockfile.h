/* Saying that a file is being edited, and seeing who else edits it: a small note beside the file,
 * locked as long as its editor lives. A note that nobody holds means nothing. */
#ifndef LOCKFILE_H
#define LOCKFILE_H

#include <stdbool.h>

/* Begin with {.fd = -1}. */
typedef struct Lockfile {
    int fd;
    char *note; /* the note's path */
} Lockfile;

typedef struct LockHolder {
    char user[64], host[64];
    long long since; /* seconds since 1970 */
    bool self;       /* this very process */
} LockHolder;

/* Tries to take the file for us. False, and who has it, when somebody else does. Where no
 * note can be written (a folder that is not ours, a read-only disk) it is true, without one. */
bool lockfile_take(const char *path, Lockfile *u, LockHolder *by);
void lockfile_release(Lockfile *u);

#endif
