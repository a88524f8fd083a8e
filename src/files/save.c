#include "save.h"

#include "bytes.h"
#include "mem.h"
#include "sys.h"

#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

static bool write_all(int fd, const char *at, size_t n)
{
    while (n) {
        ssize_t done = write(fd, at, n);
        if (done < 0 && errno == EINTR)
            continue;
        if (done < 0)
            return false;
        at += done;
        n -= (size_t)done;
    }
    return true;
}

enum { GATHER = 256 * 1024 };

/* Long pieces are written as they lie, short ones gathered. */
static bool write_text(int fd, Text t)
{
    char *gathered = mem_get(GATHER);
    size_t held = 0, at = 0;
    bool ok = true;
    while (ok && at < text_len(t)) {
        TextRun run = text_run(t, at);
        at += run.len;
        if (held + run.len > GATHER) {
            ok = write_all(fd, gathered, held);
            held = 0;
        }
        if (run.len > GATHER) {
            ok = ok && write_all(fd, run.at, run.len);
        } else {
            memcpy(gathered + held, run.at, run.len);
            held += run.len;
        }
    }
    ok = ok && write_all(fd, gathered, held);
    free(gathered);
    return ok;
}

static char *folder_of(const char *path)
{
    const char *slash = strrchr(path, '/');
    if (!slash)
        return mem_string(".");
    return slash == path ? mem_string("/") : mem_string_n(path, (size_t)(slash - path));
}

static int failed(Err *e, const char *path, const char *what)
{
    err_set(e, "%s was not saved: %s%s", sys_base_name(path), what, err_os(errno));
    return -1;
}

/* The name must last as long as the file's bytes: its folder is synced too. */
static void sync_folder(const char *folder)
{
    int fd = open(folder, O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (fd >= 0) {
        fsync(fd);
        close(fd);
    }
}

static int open_beside(const char *folder, const char *path, Bytes *name)
{
    for (unsigned i = 0; i < 100; i++) {
        bytes_clear(name);
        bytes_printf(name, "%s/.%.200s.%lx%x-unfinished", folder, sys_base_name(path), (long)getpid(), i);
        int fd = open(name->at, O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0600);
        if (fd >= 0 || errno != EEXIST)
            return fd;
    }
    return -1;
}

static mode_t mode_for(const DiskState *old)
{
    if (old->exists)
        return old->st.st_mode & 07777;
    mode_t mask = umask(0);
    umask(mask);
    return 0666 & ~mask;
}

/* 1: done; 0: not possible this way, nothing happened; -1: failed, reason in e. */
static int save_beside(const char *path, Text t, const DiskState *old, DiskState *disk, Err *e)
{
    char *folder = folder_of(path);
    Bytes name = {0};
    int fd = open_beside(folder, path, &name), result = 1;
    if (fd < 0) {
        result =
            old->exists && (errno == EACCES || errno == EROFS || errno == EPERM) ? 0 : failed(e, path, "");
    } else {
        if (old->exists && fchown(fd, old->st.st_uid, old->st.st_gid) != 0)
            result = 0;
        else if (!write_text(fd, t) || fchmod(fd, mode_for(old)) != 0 || fsync(fd) != 0)
            result = failed(e, path, "");
        if (result == 1 && fstat(fd, &disk->st) != 0)
            result = failed(e, path, "");
        if (close(fd) != 0 && result == 1)
            result = failed(e, path, "");
        if (result == 1 && rename(name.at, path) != 0)
            result = failed(e, path, "");
        if (result == 1)
            sync_folder(folder);
        else
            unlink(name.at);
    }
    disk->exists = result == 1;
    bytes_free(&name);
    free(folder);
    return result;
}

static bool save_in_place(const char *path, Text t, DiskState *disk, Err *e)
{
    off_t len = (off_t)text_len(t);
    int fd = open(path, O_WRONLY | O_CREAT | O_CLOEXEC | O_NOCTTY, 0666);
    if (fd < 0)
        return failed(e, path, "") == 1;
    /* Room for all of it is asked for before a byte of the old version is overwritten. */
    bool ok = fstat(fd, &disk->st) == 0;
    if (ok && len > disk->st.st_size) {
        int code = posix_fallocate(fd, 0, len);
        if (code != 0 && code != EINVAL && code != EOPNOTSUPP) {
            errno = code;
            if (ftruncate(fd, disk->st.st_size) != 0)
                errno = code;
            ok = false;
        }
    }
    if (!ok) {
        failed(e, path, "");
        close(fd);
        return false;
    }
    ok = write_text(fd, t) && ftruncate(fd, len) == 0 && fsync(fd) == 0 && fstat(fd, &disk->st) == 0;
    if (!ok)
        failed(e, path, "it is only partly written! Please save again or elsewhere: ");
    if (close(fd) != 0 && ok)
        ok = failed(e, path, "") == 1;
    disk->exists = ok;
    return ok;
}

bool file_save(const char *path, Text t, DiskState *disk, Err *e)
{
    char real[PATH_MAX];
    DiskState old = {0};
    struct stat link;
    *disk = (DiskState){0};
    bool named = lstat(path, &link) == 0;
    if (named && realpath(path, real)) {
        path = real;
        named = false; /* no dangling link */
    }
    if (stat(path, &old.st) == 0) {
        old.exists = true;
        if (!S_ISREG(old.st.st_mode))
            return err_set(e, "%s was not saved: it is no file", sys_base_name(path));
        if (access(path, W_OK) != 0)
            return failed(e, path, "") == 1;
    }
    bool dangling = named && S_ISLNK(link.st_mode);
    bool linked = old.exists && old.st.st_nlink > 1;
    if (!dangling && !linked) {
        int done = save_beside(path, t, &old, disk, e);
        if (done != 0)
            return done == 1;
    }
    return save_in_place(path, t, disk, e);
}
