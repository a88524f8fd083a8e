/* Owner, mode, access lists and other attributes of files; private to this room. */
#ifndef RIGHTS_H
#define RIGHTS_H

#include "files/state.h"

#include <stdbool.h>

/* Gives the file open as `to` all that is not bytes from the one open as `from`, which `st` is of: owner and
 * group, mode together with its access list, all other extended attributes. At no moment may anybody do more
 * with it than with the other. False with errno when something of it cannot be given. */
bool rights_copy(int from, const FileState *st, int to);
/* Gives it the rights that any new file gets. */
bool rights_of_new(int fd);

#endif
