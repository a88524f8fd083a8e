/* Saying that a file is being edited, and seeing who else edits it: a small note beside the file,
 * locked as long as its editor lives. A note that nobody holds means nothing. */
#ifndef INUSE_H
#define INUSE_H

#include <stdbool.h>

/* Begin with {.fd = -1}. */
typedef struct InUse {
    int fd;
    char *note; /* the note's path */
} InUse;

typedef struct InUseBy {
    char user[64], host[64];
    long long since; /* seconds since 1970 */
    bool self;       /* this very process */
} InUseBy;

/* Tries to take the file for us. False, and who has it, when somebody else does. Where no
 * note can be written (a folder that is not ours, a read-only disk) it is true, without one. */
bool inuse_take(const char *path, InUse *u, InUseBy *by);
void inuse_release(InUse *u);

#endif
