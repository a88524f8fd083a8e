#include "files/save.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "base/own_folder.h"
#include "base/paths.h"
#include "base/system.h"
#include "files/backup.h"
#include "files/leftovers.h"
#include "files/rights.h"
#include "files/write.h"

#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

/* A save under way. */
typedef struct Save {
    const char *path, *name; /* with links resolved; its last part */
    char *folder;
    int dir; /* the folder, held open so that it cannot be swapped */
    Text text;
    DiskState old;
    int old_fd; /* the old version, open for reading; -1: it cannot be */
    bool backed_up;
    const SaveWish *wish;
    DiskState *disk; /* what was written */
    Err *e;
} Save;

static bool failed(const Save *s, const char *what)
{
    int code = errno;
    const char *mark = code == EPERM || code == EACCES ? system_mark(s->path) : NULL;
    return err_set(s->e, "%s was not saved: %s%s", path_base(s->path), what, mark ? mark : err_os(code));
}

static bool told_overtaken(const Save *s)
{
    if (s->wish && s->wish->fate)
        *s->wish->fate = SAVE_OVERTAKEN;
    return err_set(s->e, "%s was not saved: the file was replaced meanwhile", s->name);
}

/* False, with the reason, when somebody wrote to the file, or replaced it, since it was looked at. Our own
 * backup's link changes the time of its status. */
static bool untouched(const Save *s, bool after_backup)
{
    FileState now;
    bool there = state_in(s->dir, s->name, false, &now);
    if (!there && errno != ENOENT)
        return failed(s, "");
    if (!there || !s->old.exists)
        return there == s->old.exists || told_overtaken(s);
    const FileState *old = &s->old.file;
    bool touched = !state_same_node(now.node, old->node) || now.size != old->size ||
                   !state_same_time(now.written, old->written) ||
                   (!after_backup && !state_same_time(now.changed, old->changed));
    return !touched || told_overtaken(s);
}

/* ---- beside the file ---- */

/* Makes a file for the new version in a folder, which may be open as `dir` (else AT_FDCWD); *name becomes its
 * path. It is locked as long as it is open: so others see that its maker lives. */
static int open_beside(int dir, const char *folder, const char *like, const FileState *of, Bytes *name)
{
    for (unsigned i = 0; i < 100; i++) {
        char which[16];
        snprintf(which, sizeof which, "%x", i);
        bytes_clear(name);
        leftover_name(name, folder, like, of, which);
        int fd = openat(dir, dir == AT_FDCWD ? name->at : path_base(name->at),
                        O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0600);
        if (fd >= 0)
            flock(fd, LOCK_EX | LOCK_NB);
        if (fd >= 0 || errno != EEXIST)
            return fd;
    }
    return -1;
}

/* Owner, mode and the rest are those of the old version. Done twice: before writing, to know that it can be,
 * and after it, as the system takes set-user-id bits and capabilities away from what is written to. */
static bool dress(const Save *s, int fd)
{
    if (!s->old.exists)
        return rights_of_new(fd);
    if (s->old_fd < 0) {
        errno = EACCES;
        return false;
    }
    return rights_copy(s->old_fd, &s->old.file, fd);
}

typedef enum Outcome { SAVED, FAILED, IN_PLACE /* this way is not open; nothing happened */ } Outcome;

/* Once, whichever way is taken in the end. */
static bool back_up(Save *s)
{
    if (s->old.exists && !s->backed_up)
        s->backed_up = backup_make(s->path, s->wish, s->e);
    return s->backed_up || !s->old.exists;
}

/* The new version is whole; the old one goes. */
static Outcome put_in_place(Save *s, const Bytes *name)
{
    if (!untouched(s, false) || !back_up(s))
        return FAILED;
    if (s->wish && s->wish->replacing)
        s->wish->replacing(s->path, &s->disk->file, s->wish->ctx);
    if (!untouched(s, true))
        return FAILED;
    const char *fresh = path_base(name->at);
    bool ok = s->old.exists ? renameat(s->dir, fresh, s->dir, s->name) == 0
                            : system_rename_new(s->dir, fresh, s->dir, s->name);
    if (!ok && errno == EBUSY && s->old.exists) /* something is mounted there */
        return IN_PLACE;
    if (!ok && errno == EEXIST)
        told_overtaken(s);
    else if (!ok)
        failed(s, "");
    return ok ? SAVED : FAILED;
}

static Outcome save_beside(Save *s)
{
    Bytes name = {0};
    int fd = open_beside(s->dir, s->folder, s->name, s->old.exists ? &s->old.file : NULL, &name);
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
    else if (!write_text(fd, s->text) || !dress(s, fd) || !write_sync(fd) ||
             !state_of_open(fd, &s->disk->file))
        result = FAILED;
    if (result == FAILED)
        failed(s, "");
    if (result == SAVED)
        result = put_in_place(s, &name);
    close(fd); /* it was synced: its bytes are there */
    if (result == SAVED) {
        write_sync_folder(s->folder);
        /* Renaming changed the time of its status. */
        if (!state_in(s->dir, s->name, false, &s->disk->file)) {
            failed(s, "");
            result = FAILED;
        }
    } else {
        unlinkat(s->dir, path_base(name.at), 0);
    }
    s->disk->exists = result == SAVED;
    bytes_free(&name);
    return result;
}

/* ---- in place ---- */

/* Writes the whole new version where it is safe: beside the file, in the state folder, or where there
 * is none, among the temporary files; nobody else may read it. Returns it, open and locked, or -1. */
static int keep_copy(const Save *s, Bytes *name)
{
    Err ignored;
    FileState st;
    const FileState *of = s->old.exists ? &s->old.file : NULL;
    int fd = open_beside(s->dir, s->folder, s->name, of, name);
    if (fd < 0) {
        char *folder = own_folder_of_state(&ignored);
        fd = open_beside(AT_FDCWD, folder ? folder : "/tmp", s->name, of, name);
        free(folder);
    }
    if (fd < 0) {
        failed(s, "there is no place for a safe copy: ");
        return -1;
    }
    Bytes whole = {0};
    leftover_whole(name, &whole);
    bool ok = write_text(fd, s->text) && write_sync(fd) && state_of_open(fd, &st) &&
              rename(name->at, whole.at) == 0;
    if (!ok) {
        failed(s, "a safe copy could not be written: ");
        unlink(name->at);
        close(fd);
        bytes_free(&whole);
        return -1;
    }
    bytes_free(name);
    *name = whole;
    if (s->wish && s->wish->replacing)
        s->wish->replacing(name->at, &st, s->wish->ctx);
    return fd;
}

/* Room for all of it is asked for before a byte of the old version is overwritten. */
static bool make_room(int fd, off_t len, DiskState *disk)
{
    if (!state_of_open(fd, &disk->file))
        return false;
    if (len <= (off_t)disk->file.size)
        return true;
    int code = posix_fallocate(fd, 0, len);
    if (code == 0 || code == EINVAL || code == EOPNOTSUPP || code == ENOSYS)
        return true;
    if (ftruncate(fd, (off_t)disk->file.size) != 0)
        disk->exists = false;
    errno = code;
    return false;
}

static bool overwrite(const Save *s, int fd, const char *copy)
{
    off_t len = (off_t)text_len(s->text);
    bool ok = write_text(fd, s->text) && ftruncate(fd, len) == 0;
    mode_t special = s->old.exists ? s->old.file.mode & (S_ISUID | S_ISGID) : 0;
    if (ok && special && fchmod(fd, s->old.file.mode & 07777) != 0) {
        /* Writing took them away, and only the owner may give them again: then they are gone for good. */
    }
    ok = ok && write_sync(fd) && state_of_open(fd, &s->disk->file);
    if (ok && s->wish && s->wish->replacing) /* from now on the copy is not needed */
        s->wish->replacing(s->path, &s->disk->file, s->wish->ctx);
    if (!ok)
        err_set(s->e, "%s is only partly written (%s); the whole new version is in %s", path_base(s->path),
                err_os(errno), copy);
    return ok;
}

/* Opens the file that was looked at, and no other. */
static int open_in_place(const Save *s)
{
    FileState st;
    int flags = O_WRONLY | O_CLOEXEC | O_NOCTTY | O_NONBLOCK;
    if (!s->old.exists) /* a link to nothing is followed */
        return openat(s->dir, s->name, flags | O_CREAT, 0666);
    int fd = openat(s->dir, s->name, flags | O_NOFOLLOW);
    if (fd < 0)
        return -1;
    int code = !state_of_open(fd, &st) ? errno : state_same_node(st.node, s->old.file.node) ? 0 : ESTALE;
    if (code == 0)
        return fd;
    close(fd);
    errno = code;
    return -1;
}

static bool save_in_place(Save *s)
{
    Bytes copy = {0};
    int fd = open_in_place(s), copy_fd = -1;
    if (fd < 0)
        return failed(s, "");
    bool ok = back_up(s);
    copy_fd = ok ? keep_copy(s, &copy) : -1;
    bool safe = ok = copy_fd >= 0;
    if (ok && s->old.exists && !untouched(s, s->wish && s->wish->backup != BACKUP_NONE))
        ok = false;
    else if (ok && !make_room(fd, (off_t)text_len(s->text), s->disk))
        ok = failed(s, "");
    if (safe && !ok) {
        safe = unlink(copy.at) != 0; /* nothing was touched: it is not needed */
    }
    ok = ok && overwrite(s, fd, copy.at);
    if (close(fd) != 0 && ok) {
        ok = false;
        err_set(s->e, "%s may be only partly written (%s); the whole new version is in %s",
                path_base(s->path), err_os(errno), copy.at);
    }
    if (safe && ok)
        unlink(copy.at);
    if (copy_fd >= 0)
        close(copy_fd);
    s->disk->exists = ok;
    bytes_free(&copy);
    return ok;
}

/* Looks at the file that is there now. */
static bool look(Save *s, bool dangling)
{
    const DiskState *only = s->wish ? s->wish->only : NULL;
    FileState folder;
    s->old.exists = state_in(s->dir, s->name, dangling, &s->old.file);
    if (!s->old.exists && errno != ENOENT)
        return failed(s, "");
    if (!state_of_open(s->dir, &folder))
        return failed(s, "");
    s->old.dangling = dangling;
    s->old.folder.device = dangling ? 0 : folder.node.device;
    s->old.folder.number = dangling ? 0 : folder.node.number;
    if (only && !disk_same(only, &s->old))
        return told_overtaken(s);
    if (s->old.exists && s->old.file.type != FILE_PLAIN)
        return err_set(s->e, "%s was not saved: it is no file", s->name);
    if (s->old.exists)
        s->old_fd = openat(s->dir, s->name, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOFOLLOW | O_NOCTTY);
    FileState opened = {0};
    if (s->old_fd >= 0 && !state_of_open(s->old_fd, &opened))
        return failed(s, "");
    if (s->old_fd >= 0 && !state_same_node(opened.node, s->old.file.node))
        return told_overtaken(s);
    return !s->old.exists || faccessat(s->dir, s->name, W_OK, 0) == 0 || failed(s, "");
}

bool save_file(const char *path, Text t, const SaveWish *wish, DiskState *disk, Err *e)
{
    char real[PATH_MAX];
    FileState link;
    Save s = {.path = path, .text = t, .wish = wish, .disk = disk, .e = e, .old_fd = -1};
    *disk = (DiskState){0};
    bool named = state_of_name(path, &link), dangling = false;
    if (!named && errno != ENOENT)
        return failed(&s, "");
    if (named && realpath(path, real))
        s.path = real;
    else if (named && link.type == FILE_LINK && !(dangling = errno == ENOENT))
        return failed(&s, "");
    if (dangling && geteuid() == 0 && link.owner != 0)
        return err_set(e, "%s was not saved: it is somebody else's link to what does not exist",
                       path_base(path));
    s.name = path_base(s.path);
    s.folder = path_folder(s.path);
    s.dir = open(s.folder, SYSTEM_FOLDER_ONLY | O_DIRECTORY | O_CLOEXEC);
    bool ok = s.dir >= 0 ? look(&s, dangling) : failed(&s, "");
    if (ok) {
        InPlace why = !s.old.exists                  ? NOT_IN_PLACE
                      : disk_is_mount(s.dir, s.name) ? IN_PLACE_MOUNT
                      : s.old.file.names > 1         ? IN_PLACE_NAMES
                      : wish && wish->in_place       ? IN_PLACE_WISHED
                                                     : NOT_IN_PLACE;
        Outcome done = dangling || why ? IN_PLACE : save_beside(&s);
        disk->in_place = done == IN_PLACE && !why && s.old.exists ? IN_PLACE_RIGHTS : why;
        ok = done == IN_PLACE ? save_in_place(&s) : done == SAVED;
    }
    disk->folder.device = s.old.folder.device;
    disk->folder.number = s.old.folder.number;
    if (s.old_fd >= 0)
        close(s.old_fd);
    if (s.dir >= 0)
        close(s.dir);
    free(s.folder);
    return ok;
}

char *save_aside(const char *like, Text t, Err *e)
{
    char *folder = own_folder_of_state(e), *path = NULL;
    Bytes name = {0};
    int fd = folder ? open_beside(AT_FDCWD, folder, like, NULL, &name) : -1;
    Bytes whole = {0};
    if (fd >= 0) {
        leftover_whole(&name, &whole);
        if (write_text(fd, t) && write_sync(fd) && rename(name.at, whole.at) == 0)
            path = mem_string(whole.at);
        else
            unlink(name.at);
    }
    if (folder && !path)
        err_set(e, "%s was not saved: a safe copy could not be written: %s", like, err_os(errno));
    if (fd >= 0)
        close(fd);
    bytes_free(&name);
    bytes_free(&whole);
    free(folder);
    return path;
}
