#include "base/own_folder.h"

#include "base/folder.h"
#include "base/for_root.h"
#include "base/paths.h"

#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

char *own_folder_of(const char *kind)
{
    char variable[32];
    snprintf(variable, sizeof variable, "XDG_%s_HOME", kind);
    const char *set = getenv(variable);
    if (set && set[0] == '/')
        return path_in(set, "steady-quill");
    const char *above = path_home();
    if (!above)
        return NULL;
    return path_in(above, strcmp(kind, "CONFIG") == 0 ? ".config/steady-quill" : ".local/state/steady-quill");
}

char *own_folder_of_state(Err *e)
{
    char *folder = own_folder_of("STATE");
    struct stat st, link;
    if (!folder) {
        err_set(e, "There is no home folder");
        return NULL;
    }
    const char *above = path_home();
    size_t n = above ? strlen(above) : 0;
    if (n && strncmp(folder, above, n) == 0 && folder[n] == '/' && stat(above, &st) != 0) {
        err_set(e, "There is no home folder %s", above); /* and it is not ours to make */
        free(folder);
        return NULL;
    }
    if (geteuid() == 0 && !for_root_safe(folder)) {
        err_set(e, "the state folder is not root's alone (%s)", folder);
        free(folder);
        return NULL;
    }
    int fd = folder_open_made(folder), code = errno;
    /* The descriptor is judged and changed, and not whatever has that name by then. */
    bool ok = fd >= 0 && fstat(fd, &st) == 0 && lstat(folder, &link) == 0 && S_ISDIR(link.st_mode) &&
              link.st_ino == st.st_ino && link.st_dev == st.st_dev && st.st_uid == geteuid();
    if (ok && (st.st_mode & 07777) != 0700)
        ok = fchmod(fd, 0700) == 0;
    if (fd >= 0)
        close(fd);
    if (ok)
        return folder;
    if (fd < 0)
        err_set(e, "the state folder cannot be made: %s (%s)", err_os(code), folder);
    else
        err_set(e, "the state folder is somebody else's (%s)", folder);
    free(folder);
    return NULL;
}
