#include "inuse.h"

#include "bytes.h"
#include "mem.h"
#include "sys.h"

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

enum { NOTE_MOST = 512, TRIES = 5 };

/* Reads "user\nhost\npid\nseconds\n"; whatever else is there is not believed. */
static void read_note(int fd, InUseBy *by)
{
    char text[NOTE_MOST] = "";
    char *line = text, *rest;
    *by = (InUseBy){"somebody", "", 0, false};
    ssize_t n = pread(fd, text, sizeof text - 1, 0);
    if (n <= 0 || !(rest = strchr(line, '\n')))
        return;
    *rest++ = 0;
    snprintf(by->user, sizeof by->user, "%.60s", line);
    if (!(line = rest) || !(rest = strchr(line, '\n')))
        return;
    *rest++ = 0;
    snprintf(by->host, sizeof by->host, "%.60s", line);
    by->self = atol(rest) == (long)getpid();
    if ((rest = strchr(rest, '\n')))
        by->since = atoll(rest + 1);
}

static void write_note(int fd)
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
        /* An empty note still says that somebody is there. */
    }
    bytes_free(&b);
}

/* Is the descriptor still what stands under that name? The one before may just have removed it. */
static bool still_there(int fd, const char *note)
{
    struct stat here, there;
    return fstat(fd, &here) == 0 && S_ISREG(here.st_mode) && stat(note, &there) == 0 &&
           here.st_ino == there.st_ino && here.st_dev == there.st_dev;
}

static int open_note(const char *note)
{
    int fd = open(note, O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK, 0644);
    if (fd < 0 && errno == EACCES) /* somebody else's */
        fd = open(note, O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK);
    return fd;
}

bool inuse_take(const char *path, InUse *u, InUseBy *by)
{
    char real[PATH_MAX];
    Bytes note = {0};
    if (u->fd >= 0)
        return true;
    if (realpath(path, real)) /* the note belongs to the file that a link leads to */
        path = real;
    const char *name = sys_base_name(path);
    bytes_printf(&note, "%.*s.%.200s.in-use", (int)(name - path), path, name);
    bool free_to_take = true;
    for (int i = 0; i < TRIES && free_to_take && u->fd < 0; i++) {
        int fd = open_note(note.at);
        if (fd < 0)
            break;
        if (flock(fd, LOCK_EX | LOCK_NB) != 0 && errno == EWOULDBLOCK) {
            read_note(fd, by);
            free_to_take = false;
            close(fd);
        } else if (still_there(fd, note.at)) {
            write_note(fd);
            u->fd = fd;
        } else {
            close(fd);
        }
    }
    if (u->fd >= 0)
        u->note = mem_string(note.at);
    bytes_free(&note);
    return free_to_take;
}

void inuse_release(InUse *u)
{
    if (u->fd >= 0) {
        unlink(u->note); /* while it is still locked, so that nobody else's is removed */
        close(u->fd);
    }
    free(u->note);
    *u = (InUse){.fd = -1};
}
