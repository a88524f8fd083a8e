/* Lock files: they say that a file is being edited, and by whom. One lies beside the file and is locked as
 * long as its editor lives; one that nobody holds means nothing. */
#ifndef LOCKFILE_H
#define LOCKFILE_H

#include <stdbool.h>

/* Begin with {.fd = -1}. */
typedef struct Lockfile {
    int fd;
    char *path; /* of the lock file */
} Lockfile;

typedef struct LockHolder {
    char user[64], host[64];
    long long since; /* seconds since 1970 */
    bool self;       /* this very process */
} LockHolder;

/* Tries to take the file for us. False, and who has it, when somebody else does. Where none
 * can be written (a folder that is not ours, a read-only disk) it is true, without one. */
bool lockfile_take(const char *path, Lockfile *u, LockHolder *by);
void lockfile_release(Lockfile *u);

#endif
