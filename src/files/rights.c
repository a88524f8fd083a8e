#include "files/rights.h"

#include "base/mem.h"
#include "base/system.h"

#include <errno.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/xattr.h>
#include <unistd.h>
#ifdef HAVE_LIBACL
#include <acl/libacl.h>
#endif

static const char access_list[] = "system.posix_acl_access";

/* A new file may have a list from its folder, which a mode alone would open to those it names. */
static bool copy_mode_and_list(int from, const FileState *st, int to)
{
#ifdef HAVE_LIBACL
    if (perm_copy_fd("", from, "", to, NULL) != 0 && errno != ENOSYS && errno != EOPNOTSUPP)
        return false;
#else
    char list[4096];
    ssize_t n = fgetxattr(from, access_list, list, sizeof list);
    bool none = n < 0 && (errno == ENODATA || errno == ENOTSUP);
    if (n >= 0 ? fsetxattr(to, access_list, list, (size_t)n, 0) != 0 : !none)
        return false;
    if (none && fremovexattr(to, access_list) != 0 && errno != ENODATA && errno != ENOTSUP)
        return false;
#endif
    return fchmod(to, st->mode & 07777) == 0;
}

/* Security labels and all others. */
static bool copy_attributes(int from, int to)
{
    ssize_t n = flistxattr(from, NULL, 0);
    if (n <= 0)
        return n == 0 || errno == ENOTSUP || errno == ENOSYS;
    char *names = mem_get((size_t)n + 1);
    n = flistxattr(from, names, (size_t)n);
    bool ok = n >= 0;
    for (const char *name = names; ok && name < names + n; name += strlen(name) + 1) {
        if (strcmp(name, access_list) == 0)
            continue;
        ssize_t size = fgetxattr(from, name, NULL, 0);
        char *value = mem_get(size > 0 ? (size_t)size : 1), *now = mem_get(size > 0 ? (size_t)size : 1);
        ok = size >= 0 && fgetxattr(from, name, value, (size_t)size) == size;
        bool same =
            ok && fgetxattr(to, name, now, (size_t)size) == size && memcmp(value, now, (size_t)size) == 0;
        ok = ok && (same || fsetxattr(to, name, value, (size_t)size, 0) == 0);
        free(value);
        free(now);
    }
    free(names);
    return ok;
}

bool rights_copy(int from, const FileState *st, int to)
{
    FileState now;
    if (!state_of_open(to, &now))
        return false;
    bool own = now.owner == st->owner && now.group == st->group;
    /* The mode comes after the owner, whose change takes set-user-id bits away. */
    return (own || fchown(to, st->owner, st->group) == 0) && copy_mode_and_list(from, st, to) &&
           copy_attributes(from, to);
}

bool rights_of_new(int fd)
{
    return fchmod(fd, 0666 & ~system_umask()) == 0;
}
