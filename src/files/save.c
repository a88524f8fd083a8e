#include "save.h"

#include "backup.h"
#include "bytes.h"
#include "mem.h"
#include "sys.h"
#include "write.h"

#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <sys/xattr.h>
#include <unistd.h>
#ifdef __linux__
#include <linux/fs.h>
#endif

/* A save under way. */
typedef struct Save {
    const char *path; /* links followed */
    char *folder;
    Text text;
    DiskState old;
    const SaveWish *wish;
    DiskState *disk; /* what was written */
    Err *e;
} Save;

/* What a refusal is about, if the file itself is marked so. */
static const char *mark_words(const char *path)
{
#ifdef FS_IOC_GETFLAGS
    int flags = 0, fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK);
    bool known = fd >= 0 && ioctl(fd, FS_IOC_GETFLAGS, &flags) == 0;
    if (fd >= 0)
        close(fd);
    if (known && (flags & FS_IMMUTABLE_FL))
        return "it is marked as immutable (chattr -i takes that away)";
    if (known && (flags & FS_APPEND_FL))
        return "it is marked as append-only (chattr -a takes that away)";
#else
    (void)path;
#endif
    return NULL;
}

static bool failed(const Save *s, const char *what)
{
    int code = errno;
    const char *mark = code == EPERM || code == EACCES ? mark_words(s->path) : NULL;
    return err_set(s->e, "%s was not saved: %s%s", sys_base_name(s->path), what, mark ? mark : err_os(code));
}

static char *folder_of(const char *path)
{
    const char *slash = strrchr(path, '/');
    if (!slash)
        return mem_string(".");
    return slash == path ? mem_string("/") : mem_string_n(path, (size_t)(slash - path));
}

/* ---- beside the file ---- */

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

/* Copies access lists, security labels and all other extended attributes; false when one cannot be. */
static bool copy_attributes(const char *path, int fd)
{
    ssize_t n = listxattr(path, NULL, 0);
    if (n <= 0)
        return n == 0 || errno == ENOTSUP || errno == ENOSYS;
    char *names = mem_get((size_t)n + 1);
    n = listxattr(path, names, (size_t)n);
    bool ok = n >= 0;
    for (const char *name = names; ok && name < names + n; name += strlen(name) + 1) {
        ssize_t size = getxattr(path, name, NULL, 0);
        char *value = mem_get(size > 0 ? (size_t)size : 1), *now = mem_get(size > 0 ? (size_t)size : 1);
        ok = size >= 0 && getxattr(path, name, value, (size_t)size) == size;
        bool same =
            ok && fgetxattr(fd, name, now, (size_t)size) == size && memcmp(value, now, (size_t)size) == 0;
        ok = ok && (same || fsetxattr(fd, name, value, (size_t)size, 0) == 0);
        free(value);
        free(now);
    }
    free(names);
    return ok;
}

/* Owner and mode of a new file are those of any; of an old one its own. The mode comes last: a change of
 * owner takes set-user-id bits away, and they are given only to what has the same owner again. */
static bool dress(const Save *s, int fd)
{
    if (!s->old.exists) {
        mode_t mask = umask(0);
        umask(mask);
        return fchmod(fd, 0666 & ~mask) == 0;
    }
    struct stat st;
    if (fstat(fd, &st) != 0)
        return false;
    bool own = st.st_uid == s->old.st.st_uid && st.st_gid == s->old.st.st_gid;
    return (own || fchown(fd, s->old.st.st_uid, s->old.st.st_gid) == 0) && copy_attributes(s->path, fd) &&
           fchmod(fd, s->old.st.st_mode & 07777) == 0;
}

typedef enum Outcome { SAVED, FAILED, IN_PLACE /* this way is not open; nothing happened */ } Outcome;

static Outcome save_beside(const Save *s)
{
    Bytes name = {0};
    int fd = open_beside(s->folder, s->path, &name);
    Outcome result = SAVED;
    if (fd < 0) {
        bool closed = errno == EACCES || errno == EROFS || errno == EPERM;
        if (!s->old.exists || !closed)
            failed(s, "");
        bytes_free(&name);
        return s->old.exists && closed ? IN_PLACE : FAILED;
    }
    if (!dress(s, fd))
        result = s->old.exists ? IN_PLACE : FAILED;
    else if (!write_text(fd, s->text) || fsync(fd) != 0 || fstat(fd, &s->disk->st) != 0)
        result = FAILED;
    if (result == FAILED)
        failed(s, "");
    if (close(fd) != 0 && result == SAVED)
        result = failed(s, "") ? SAVED : FAILED;
    if (result == SAVED && s->old.exists && !backup_make(s->path, s->wish, s->e))
        result = FAILED;
    if (result == SAVED && rename(name.at, s->path) != 0)
        result = failed(s, "") ? SAVED : FAILED;
    if (result == SAVED)
        sync_folder(s->folder);
    else
        unlink(name.at);
    s->disk->exists = result == SAVED;
    bytes_free(&name);
    return result;
}

/* ---- in place ---- */

/* Writes the whole new version where it is safe: beside the file, in the state folder, or where there
 * is none, among the temporary files; nobody else may read it. */
static bool keep_copy(const Save *s, Bytes *name)
{
    Err ignored;
    int fd = open_beside(s->folder, s->path, name);
    if (fd < 0) {
        char *folder = sys_state_folder(&ignored);
        fd = open_beside(folder ? folder : "/tmp", s->path, name);
        free(folder);
    }
    if (fd < 0)
        return failed(s, "there is no place for a safe copy: ");
    bool ok = write_text(fd, s->text) && fsync(fd) == 0;
    if (!ok)
        failed(s, "a safe copy could not be written: ");
    close(fd);
    if (!ok)
        unlink(name->at);
    return ok;
}

/* Room for all of it is asked for before a byte of the old version is overwritten. */
static bool make_room(int fd, off_t len, DiskState *disk)
{
    if (fstat(fd, &disk->st) != 0)
        return false;
    if (len <= disk->st.st_size)
        return true;
    int code = posix_fallocate(fd, 0, len);
    if (code == 0 || code == EINVAL || code == EOPNOTSUPP || code == ENOSYS)
        return true;
    if (ftruncate(fd, disk->st.st_size) != 0)
        disk->exists = false;
    errno = code;
    return false;
}

static bool overwrite(const Save *s, int fd, const char *copy)
{
    off_t len = (off_t)text_len(s->text);
    bool ok =
        write_text(fd, s->text) && ftruncate(fd, len) == 0 && fsync(fd) == 0 && fstat(fd, &s->disk->st) == 0;
    if (!ok)
        err_set(s->e, "%s is only partly written (%s); the whole new version is in %s",
                sys_base_name(s->path), err_os(errno), copy);
    return ok;
}

static bool save_in_place(const Save *s)
{
    Bytes copy = {0};
    int fd = open(s->path, O_WRONLY | O_CREAT | O_CLOEXEC | O_NOCTTY | O_NONBLOCK, 0666);
    if (fd < 0)
        return failed(s, "");
    bool ok = (!s->old.exists || backup_make(s->path, s->wish, s->e)) && keep_copy(s, &copy);
    bool safe = ok;
    if (ok && !make_room(fd, (off_t)text_len(s->text), s->disk)) {
        ok = failed(s, "");
        safe = unlink(copy.at) != 0; /* nothing was touched: it is not needed */
    }
    ok = ok && overwrite(s, fd, copy.at);
    if (close(fd) != 0 && ok) {
        ok = false;
        err_set(s->e, "%s may be only partly written (%s); the whole new version is in %s",
                sys_base_name(s->path), err_os(errno), copy.at);
    }
    if (safe && ok)
        unlink(copy.at);
    s->disk->exists = ok;
    bytes_free(&copy);
    return ok;
}

bool file_save(const char *path, Text t, const SaveWish *wish, DiskState *disk, Err *e)
{
    char real[PATH_MAX];
    struct stat link;
    Save s = {.path = path, .text = t, .wish = wish, .disk = disk, .e = e};
    *disk = (DiskState){0};
    bool named = lstat(path, &link) == 0;
    bool dangling = named && S_ISLNK(link.st_mode);
    if (named && realpath(path, real)) {
        s.path = real;
        dangling = false;
    }
    if (stat(s.path, &s.old.st) == 0) {
        s.old.exists = true;
        if (!S_ISREG(s.old.st.st_mode))
            return err_set(e, "%s was not saved: it is no file", sys_base_name(path));
        if (access(s.path, W_OK) != 0)
            return failed(&s, "");
    } else if (errno != ENOENT) {
        return failed(&s, "");
    }
    s.folder = folder_of(s.path);
    bool linked = s.old.exists && s.old.st.st_nlink > 1;
    Outcome done = dangling || linked ? IN_PLACE : save_beside(&s);
    bool ok = done == IN_PLACE ? save_in_place(&s) : done == SAVED;
    free(s.folder);
    return ok;
}
