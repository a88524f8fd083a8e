#include "files/disk.h"

#include "base/mem.h"
#include "base/sys.h"
#include "base/system.h"

#include <errno.h>
#include <fcntl.h>
#include <grp.h>
#include <limits.h>
#include <pwd.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* The folder in which a path really ends, with links resolved; false when there is none. */
static bool folder_node(const char *path, struct stat *st)
{
    char real[PATH_MAX];
    struct stat link;
    if (!realpath(path, real)) { /* not there yet, or a link to nothing */
        if (lstat(path, &link) == 0 || (size_t)snprintf(real, sizeof real, "%s", path) >= sizeof real)
            return false;
    }
    char *folder = sys_folder_of(real);
    bool there = stat(folder, st) == 0;
    free(folder);
    return there;
}

/* Notes the folder of a file that was opened, if it is still the one that the path leads to. */
bool disk_note_folder(const char *path, DiskState *disk)
{
    struct stat folder, there;
    if (stat(path, &there) != 0 || there.st_dev != disk->st.st_dev || there.st_ino != disk->st.st_ino)
        return false;
    if (folder_node(path, &folder)) {
        disk->folder_dev = folder.st_dev;
        disk->folder_ino = folder.st_ino;
    }
    return true;
}

static bool same_as(const char *path, Text t)
{
    char *buffer = mem_get(BLOCK_MAX);
    int fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY);
    bool same = fd >= 0;
    size_t at = 0;
    for (ssize_t n = 1; same && n > 0;) {
        n = sys_read_full(fd, buffer, BLOCK_MAX);
        same = n >= 0 && at + (size_t)n <= text_len(t);
        for (size_t i = 0; same && i < (size_t)n;) {
            TextRun run = text_run(t, at);
            size_t take = run.len < (size_t)n - i ? run.len : (size_t)n - i;
            same = memcmp(run.at, buffer + i, take) == 0;
            i += take;
            at += take;
        }
    }
    if (fd >= 0)
        close(fd);
    free(buffer);
    return same && at == text_len(t);
}

DiskState disk_look(const char *path)
{
    DiskState d = {0};
    struct stat folder, link;
    d.exists = stat(path, &d.st) == 0;
    d.dangling = !d.exists && lstat(path, &link) == 0;
    if (folder_node(path, &folder)) {
        d.folder_dev = folder.st_dev;
        d.folder_ino = folder.st_ino;
    }
    return d;
}

static bool same_time(struct timespec a, struct timespec b)
{
    return a.tv_sec == b.tv_sec && a.tv_nsec == b.tv_nsec;
}

static bool same_node(const struct stat *a, const struct stat *b)
{
    return a->st_dev == b->st_dev && a->st_ino == b->st_ino;
}

static bool same_folder(const DiskState *a, const DiskState *b)
{
    return !a->folder_ino || !b->folder_ino ||
           (a->folder_ino == b->folder_ino && a->folder_dev == b->folder_dev);
}

static bool untouched(const struct stat *a, const struct stat *b)
{
    return same_node(a, b) && a->st_size == b->st_size && same_time(a->st_mtim, b->st_mtim) &&
           same_time(a->st_ctim, b->st_ctim);
}

bool disk_same(const DiskState *a, const DiskState *b)
{
    return a->exists == b->exists && a->dangling == b->dangling && same_folder(a, b) &&
           (!a->exists || untouched(&a->st, &b->st));
}

bool disk_is(const char *path, const DiskState *state)
{
    DiskState now = disk_look(path);
    return disk_same(&now, state);
}

bool disk_rename(const char *path, const char *to, const DiskState *target)
{
    if (target->exists) {
        if (!disk_is(to, target)) {
            errno = EEXIST;
            return false;
        }
        return rename(path, to) == 0;
    }
    return sys_rename_new(AT_FDCWD, path, AT_FDCWD, to);
}

DiskNews disk_glance(const char *path, const DiskState *known)
{
    DiskState now = disk_look(path);
    if (!now.exists) {
        bool missing = stat(path, &now.st) != 0 && (errno == ENOENT || errno == ENOTDIR);
        return known->exists && missing ? DISK_GONE : DISK_SAME;
    }
    if (!known->exists)
        return DISK_APPEARED;
    if (!same_folder(&now, known))
        return DISK_CHANGED;
    if (untouched(&now.st, &known->st))
        return DISK_SAME;
    /* Another file with the same bytes is as good only if nobody could gain by having it written. */
    bool as_good = same_node(&now.st, &known->st) ||
                   (now.st.st_uid == known->st.st_uid && now.st.st_nlink == 1 && known->st.st_nlink == 1);
    return now.st.st_size == known->st.st_size && S_ISREG(now.st.st_mode) && as_good ? DISK_TOUCHED
                                                                                     : DISK_CHANGED;
}

DiskNews disk_news(const char *path, DiskState *known, Text t)
{
    DiskState now = disk_look(path);
    DiskNews news = disk_glance(path, known);
    if (news != DISK_TOUCHED)
        return news;
    if (!same_as(path, t) || !disk_is(path, &now))
        return DISK_CHANGED;
    *known = now;
    return DISK_SAME;
}

void disk_add_rights(const DiskState *d, Bytes *out)
{
    const struct stat *st = &d->st;
    static const char letters[] = "rwxrwxrwx";
    for (int i = 0; i < 9; i++)
        bytes_add(out, st->st_mode & (1u << (8 - i)) ? &letters[i] : "-", 1);
    const struct passwd *owner = getpwuid(st->st_uid);
    const struct group *group = getgrgid(st->st_gid);
    bytes_printf(out, " (%04o), ", (unsigned)(st->st_mode & 07777));
    bytes_printf(out, owner ? "%s" : "user %.0s%u", owner ? owner->pw_name : "", (unsigned)st->st_uid);
    bytes_printf(out, group ? ", %s" : ", group %.0s%u", group ? group->gr_name : "", (unsigned)st->st_gid);
    if (st->st_nlink > 1)
        bytes_printf(out, ", %lu links", (unsigned long)st->st_nlink);
}

long long disk_time(const DiskState *d)
{
    return d->st.st_mtim.tv_sec;
}

bool disk_is_mount(int dir, const char *name)
{
    return system_is_mount(dir, name);
}

bool disk_exists(const char *path)
{
    return access(path, F_OK) == 0;
}

char *disk_missing_folder(const char *path)
{
    size_t n = (size_t)(sys_base_name(path) - path);
    while (n > 1 && path[n - 1] == '/')
        n--;
    char *folder = mem_string_n(path, n);
    struct stat st;
    if (n && lstat(folder, &st) != 0 && (errno == ENOENT || errno == ENOTDIR))
        return folder;
    free(folder);
    return NULL;
}

bool disk_make_folder(const char *folder, Err *e)
{
    char *part = mem_string(folder);
    bool ok = true;
    for (char *p = part + 1; ok && p[-1]; p++) {
        if (*p && *p != '/')
            continue;
        char end = *p;
        *p = 0;
        ok = mkdir(part, 0777) == 0 || errno == EEXIST;
        if (!ok)
            err_set(e, "The folder %s cannot be made: %s", part, err_os(errno));
        *p = end;
        if (!end)
            break;
    }
    free(part);
    return ok;
}
