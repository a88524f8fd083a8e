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

#ifdef O_PATH /* a folder that may be entered but not listed will do */
enum { FOLDER_ONLY = O_PATH };
#else
enum { FOLDER_ONLY = O_RDONLY };
#endif

/* A save under way. */
typedef struct Save {
    const char *path, *name; /* links followed; its last part */
    char *folder;
    int dir; /* the folder, so that nobody exchanges it under our hands */
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

static bool same_file(const struct stat *a, const struct stat *b)
{
    return a->st_dev == b->st_dev && a->st_ino == b->st_ino;
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

/* Makes a file for the new version in a folder, which may be open as `dir` (else AT_FDCWD); *name becomes its
 * path. */
static int open_beside(int dir, const char *folder, const char *like, Bytes *name)
{
    for (unsigned i = 0; i < 100; i++) {
        bytes_clear(name);
        bytes_printf(name, "%s/.%.200s.%lx%x-unfinished", folder, like, (long)getpid(), i);
        int fd = openat(dir, dir == AT_FDCWD ? name->at : sys_base_name(name->at),
                        O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0600);
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
 * owner takes set-user-id bits away, and they are given only to what has the same owner again. Done twice:
 * before writing, to know that it can be, and after it, as the system takes such bits and capabilities away
 * from what is written to. */
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
    int fd = open_beside(s->dir, s->folder, s->name, &name);
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
    else if (!write_text(fd, s->text) || !dress(s, fd) || !sync_file(fd) || fstat(fd, &s->disk->st) != 0)
        result = FAILED;
    if (result == FAILED)
        failed(s, "");
    if (close(fd) != 0 && result == SAVED)
        result = failed(s, "") ? SAVED : FAILED;
    if (result == SAVED && s->old.exists && !backup_make(s->path, s->wish, s->e))
        result = FAILED;
    if (result == SAVED && renameat(s->dir, sys_base_name(name.at), s->dir, s->name) != 0)
        result = failed(s, "") ? SAVED : FAILED;
    if (result == SAVED)
        sync_folder(s->folder);
    else
        unlinkat(s->dir, sys_base_name(name.at), 0);
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
    int fd = open_beside(s->dir, s->folder, s->name, name);
    if (fd < 0) {
        char *folder = sys_state_folder(&ignored);
        fd = open_beside(AT_FDCWD, folder ? folder : "/tmp", s->name, name);
        free(folder);
    }
    if (fd < 0)
        return failed(s, "there is no place for a safe copy: ");
    bool ok = write_text(fd, s->text) && sync_file(fd);
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
    bool ok = write_text(fd, s->text) && ftruncate(fd, len) == 0;
    mode_t special = s->old.exists ? s->old.st.st_mode & (S_ISUID | S_ISGID) : 0;
    if (ok && special && fchmod(fd, s->old.st.st_mode & 07777) != 0) {
        /* Writing took them away, and only the owner may give them again: then they are gone for good. */
    }
    ok = ok && sync_file(fd) && fstat(fd, &s->disk->st) == 0;
    if (!ok)
        err_set(s->e, "%s is only partly written (%s); the whole new version is in %s",
                sys_base_name(s->path), err_os(errno), copy);
    return ok;
}

/* Opens the file that was looked at, and no other. */
static int open_in_place(const Save *s)
{
    struct stat st;
    int flags = O_WRONLY | O_CLOEXEC | O_NOCTTY | O_NONBLOCK;
    if (!s->old.exists) /* a link to nothing is followed */
        return openat(s->dir, s->name, flags | O_CREAT, 0666);
    int fd = openat(s->dir, s->name, flags | O_NOFOLLOW);
    if (fd < 0)
        return -1;
    int code = fstat(fd, &st) != 0 ? errno : same_file(&st, &s->old.st) ? 0 : ESTALE;
    if (code == 0)
        return fd;
    close(fd);
    errno = code;
    return -1;
}

static bool save_in_place(const Save *s)
{
    Bytes copy = {0};
    int fd = open_in_place(s);
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

/* Looks at the file that is there now. */
static bool look(Save *s, bool dangling)
{
    const DiskState *only = s->wish ? s->wish->only : NULL;
    s->old.exists = fstatat(s->dir, s->name, &s->old.st, dangling ? 0 : AT_SYMLINK_NOFOLLOW) == 0;
    if (!s->old.exists && errno != ENOENT)
        return failed(s, "");
    if (only &&
        (dangling || only->exists != s->old.exists || (only->exists && !same_file(&only->st, &s->old.st))))
        return err_set(s->e, "%s was not saved: somebody exchanged the file meanwhile", s->name);
    if (s->old.exists && !S_ISREG(s->old.st.st_mode))
        return err_set(s->e, "%s was not saved: it is no file", s->name);
    return !s->old.exists || faccessat(s->dir, s->name, W_OK, 0) == 0 || failed(s, "");
}

bool file_save(const char *path, Text t, const SaveWish *wish, DiskState *disk, Err *e)
{
    char real[PATH_MAX];
    struct stat link;
    Save s = {.path = path, .text = t, .wish = wish, .disk = disk, .e = e};
    *disk = (DiskState){0};
    bool named = lstat(path, &link) == 0, dangling = false;
    if (!named && errno != ENOENT)
        return failed(&s, "");
    if (named && realpath(path, real))
        s.path = real;
    else if (named && S_ISLNK(link.st_mode) && !(dangling = errno == ENOENT))
        return failed(&s, "");
    s.name = sys_base_name(s.path);
    s.folder = folder_of(s.path);
    s.dir = open(s.folder, FOLDER_ONLY | O_DIRECTORY | O_CLOEXEC);
    bool ok = s.dir >= 0 ? look(&s, dangling) : failed(&s, "");
    if (ok) {
        bool linked = s.old.exists && s.old.st.st_nlink > 1;
        Outcome done = dangling || linked ? IN_PLACE : save_beside(&s);
        ok = done == IN_PLACE ? save_in_place(&s) : done == SAVED;
    }
    if (s.dir >= 0)
        close(s.dir);
    free(s.folder);
    return ok;
}
