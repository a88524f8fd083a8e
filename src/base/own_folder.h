/* Where this program keeps what is its own. */
#ifndef OWN_FOLDER_H
#define OWN_FOLDER_H

#include "base/err.h"

/* The person's folder for one kind of file, "$XDG_<kind>_HOME/steady-quill" or its
 * standard place below the home folder; kind is "CONFIG" or "STATE". NULL when there is no home.
 * The folder is not made. The caller frees it. */
char *own_folder_of(const char *kind);
/* The folder for stored state, made if need be, mode 0700. NULL with the reason in e when there is no
 * home, or when it is somebody else's: as root in another home nothing is read or left there. */
char *own_folder_of_state(Err *e);

#endif
