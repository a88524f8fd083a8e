#include "base/trusted.h"

#include "base/for_root.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/system.h"

#include <errno.h>
#include <fcntl.h>
#include <stdlib.h>
#include <sys/stat.h>
#include <unistd.h>

/* So that nobody leads root by a link to a file of root's that was never meant for it. */
static bool is_safe(const char *path)
{
    char *full = path_full(path);
    bool safe = path[0] == '/' ? for_root_safe(path) : for_root_safe(full);
    free(full);
    return safe;
}

static int open_trusted(const char *path, Err *e)
{
    struct stat st;
    int fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY);
    if (fd < 0) {
        if (errno != ENOENT && errno != ENOTDIR)
            err_set(e, "%s", err_os(errno));
        return -1;
    }
    const char *wrong = fstat(fd, &st) != 0    ? err_os(errno)
                        : !S_ISREG(st.st_mode) ? "not read: it is no plain file"
                                               : NULL;
    if (!wrong && geteuid() == 0 && (!for_root_alone(&st) || !is_safe(path)))
        wrong = "not read: for root, only files that root alone may write count";
    if (!wrong && st.st_size > TRUSTED_MOST)
        wrong = "not read: it is longer than 1 MiB";
    if (!wrong)
        return fd;
    err_set(e, "%s", wrong);
    close(fd);
    return -1;
}

char *trusted_read(const char *path, size_t *length, Err *e)
{
    *e = (Err){""};
    int fd = open_trusted(path, e);
    if (fd < 0)
        return NULL;
    char *bytes = mem_get(TRUSTED_MOST + 1);
    ssize_t n = system_read_full(fd, bytes, TRUSTED_MOST);
    if (n < 0)
        err_set(e, "%s", err_os(errno));
    close(fd);
    if (n < 0) {
        free(bytes);
        return NULL;
    }
    bytes[n] = 0;
    *length = (size_t)n;
    return bytes;
}
