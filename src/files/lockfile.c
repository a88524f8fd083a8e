#include "files/lockfile.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "base/sys.h"

#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <pwd.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <time.h>
#include <unistd.h>

enum { FILE_MOST = 512 /* bytes */, TRIES = 5 };

/* Reads "user\nhost\npid\nseconds\n"; false when it is something else. */
static bool read_holder(int fd, LockHolder *by)
{
    char text[FILE_MOST] = "", *lines[4] = {text};
    *by = (LockHolder){"somebody", "", 0, false};
    ssize_t n = pread(fd, text, sizeof text - 1, 0);
    for (int i = 1; n > 0 && i < 4; i++) {
        char *end = strchr(lines[i - 1], '\n');
        if (!end)
            return false;
        *end = 0;
        lines[i] = end + 1;
    }
    if (n <= 0)
        return n == 0; /* its owner is just writing it */
    char *rest_of_pid, *rest;
    long pid = strtol(lines[2], &rest_of_pid, 10);
    by->since = strtoll(lines[3], &rest, 10);
    if (*rest_of_pid || rest == lines[3] || strcmp(rest, "\n") != 0)
        return false;
    snprintf(by->user, sizeof by->user, "%.60s", lines[0]);
    snprintf(by->host, sizeof by->host, "%.60s", lines[1]);
    by->self = pid == (long)getpid();
    return true;
}

static void write_holder(int fd)
{
    char host[64] = "";
    const struct passwd *me = getpwuid(geteuid());
    gethostname(host, sizeof host - 1);
    Bytes b = {0};
    if (me)
        bytes_printf(&b, "%s\n", me->pw_name);
    else
        bytes_printf(&b, "user %u\n", (unsigned)geteuid());
    bytes_printf(&b, "%s\n%ld\n%lld\n", host, (long)getpid(), (long long)time(NULL));
    if (ftruncate(fd, 0) != 0 || pwrite(fd, b.at, b.len, 0) != (ssize_t)b.len) {
        /* An empty one still says that somebody is there. */
    }
    bytes_free(&b);
}

typedef enum FoundLock {
    FOUND_TAKEN,
    FOUND_OURS /* or nobody's: there is none */,
    FOUND_GONE,
    FOUND_FOREIGN
} FoundLock;

/* Looks at what has the lock file's name. A dead one of ours is removed; nothing of anybody else's is ever
 * touched. */
static FoundLock look_at(const char *lock, LockHolder *by)
{
    struct stat here, there;
    int fd = open(lock, O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK | O_NOCTTY);
    if (fd < 0)
        return errno == ENOENT ? FOUND_GONE : FOUND_FOREIGN;
    bool plain =
        fstat(fd, &here) == 0 && S_ISREG(here.st_mode) && here.st_nlink == 1 && here.st_size < FILE_MOST;
    FoundLock result = FOUND_FOREIGN;
    if (plain && read_holder(fd, by)) {
        if (flock(fd, LOCK_EX | LOCK_NB) != 0)
            result = errno == EWOULDBLOCK ? FOUND_TAKEN : FOUND_FOREIGN;
        else if (here.st_uid == geteuid() && lstat(lock, &there) == 0 && there.st_ino == here.st_ino &&
                 there.st_dev == here.st_dev) /* held by the lock, nobody else removes or takes it */
            result = unlink(lock) == 0 ? FOUND_GONE : FOUND_FOREIGN;
    }
    close(fd);
    return result;
}

bool lockfile_take(const char *path, Lockfile *u, LockHolder *by)
{
    char real[PATH_MAX];
    Bytes lock = {0};
    if (u->fd >= 0)
        return true;
    if (realpath(path, real)) /* it belongs to the file that a link leads to */
        path = real;
    const char *name = sys_base_name(path);
    bytes_printf(&lock, "%.*s.%.200s.in-use", (int)(name - path), path, name);
    FoundLock found = FOUND_GONE;
    for (int i = 0; i < TRIES && found == FOUND_GONE && u->fd < 0; i++) {
        int fd = open(lock.at, O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0644);
        if (fd >= 0 && flock(fd, LOCK_EX | LOCK_NB) == 0) {
            write_holder(fd);
            u->fd = fd;
        } else if (fd >= 0) { /* somebody who looks at it right now takes it for a dead one */
            close(fd);
        } else if (errno == EEXIST) {
            found = look_at(lock.at, by);
        } else {
            break;
        }
    }
    if (u->fd >= 0)
        u->path = mem_string(lock.at);
    bytes_free(&lock);
    return found != FOUND_TAKEN;
}

void lockfile_release(Lockfile *u)
{
    if (u->fd >= 0) {
        struct stat here, there; /* while it is still locked, and only if it is still ours */
        if (fstat(u->fd, &here) == 0 && lstat(u->path, &there) == 0 && here.st_ino == there.st_ino &&
            here.st_dev == there.st_dev)
            unlink(u->path);
        close(u->fd);
    }
    free(u->path);
    *u = (Lockfile){.fd = -1};
}
