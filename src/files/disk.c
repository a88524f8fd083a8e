#include "files/disk.h"

#include "base/mem.h"
#include "base/paths.h"
#include "base/system.h"

#include <errno.h>
#include <fcntl.h>
#include <grp.h>
#include <limits.h>
#include <pwd.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

/* The folder in which a path really ends, with links resolved; false when there is none. */
static bool folder_node(const char *path, FileState *st)
{
    char real[PATH_MAX];
    FileState link;
    if (!realpath(path, real)) { /* not there yet, or a link to nothing */
        if (state_of_name(path, &link) || (size_t)snprintf(real, sizeof real, "%s", path) >= sizeof real)
            return false;
    }
    char *folder = path_folder(real);
    bool there = state_of(folder, st);
    free(folder);
    return there;
}

/* Notes the folder of a file that was opened, if it is still the one that the path leads to. */
bool disk_note_folder(const char *path, DiskState *disk)
{
    FileState folder, there;
    if (!state_of(path, &there) || !state_same_node(there.node, disk->file.node))
        return false;
    if (folder_node(path, &folder))
        disk->folder = folder.node;
    return true;
}

bool disk_holds(const char *path, Text t)
{
    char *buffer = mem_get(BLOCK_MAX);
    int fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY);
    bool same = fd >= 0;
    size_t at = 0;
    for (ssize_t n = 1; same && n > 0;) {
        n = system_read_full(fd, buffer, BLOCK_MAX);
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
    FileState folder, link;
    d.exists = state_of(path, &d.file);
    d.dangling = !d.exists && state_of_name(path, &link);
    if (folder_node(path, &folder))
        d.folder = folder.node;
    return d;
}

static bool same_folder(const DiskState *a, const DiskState *b)
{
    return !a->folder.number || !b->folder.number || state_same_node(a->folder, b->folder);
}

bool disk_same(const DiskState *a, const DiskState *b)
{
    return a->exists == b->exists && a->dangling == b->dangling && same_folder(a, b) &&
           (!a->exists || state_untouched(&a->file, &b->file));
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
    return system_rename_new(AT_FDCWD, path, AT_FDCWD, to);
}

DiskNews disk_compare(const DiskState *now, const DiskState *known)
{
    if (!known->exists)
        return DISK_APPEARED;
    if (!same_folder(now, known))
        return DISK_CHANGED;
    const FileState *is = &now->file, *was = &known->file;
    if (state_untouched(is, was))
        return DISK_SAME;
    /* Another file with the same bytes is as good only if nobody could gain by having it written. */
    bool as_good = state_same_node(is->node, was->node) ||
                   (is->owner == was->owner && is->names == 1 && was->names == 1);
    return is->size == was->size && is->type == FILE_PLAIN && as_good ? DISK_TOUCHED : DISK_CHANGED;
}

DiskNews disk_news(const char *path, DiskState *known, Text t)
{
    DiskState now = disk_look(path);
    FileState there;
    if (!now.exists) {
        bool missing = !state_of(path, &there) && (errno == ENOENT || errno == ENOTDIR);
        return known->exists && missing ? DISK_GONE : DISK_SAME;
    }
    DiskNews news = disk_compare(&now, known);
    if (news != DISK_TOUCHED)
        return news;
    if (!disk_holds(path, t) || !disk_is(path, &now))
        return DISK_CHANGED;
    *known = now;
    return DISK_SAME;
}

void disk_add_rights(const DiskState *d, bool named, Bytes *out)
{
    const FileState *st = &d->file;
    static const char letters[] = "rwxrwxrwx";
    for (int i = 0; i < 9; i++)
        bytes_add(out, st->mode & (1u << (8 - i)) ? &letters[i] : "-", 1);
    const struct passwd *owner = named ? getpwuid(st->owner) : NULL;
    const struct group *group = named ? getgrgid(st->group) : NULL;
    bytes_printf(out, " (%04o), ", (unsigned)(st->mode & 07777));
    bytes_printf(out, owner ? "%s" : "user %.0s%u", owner ? owner->pw_name : "", (unsigned)st->owner);
    bytes_printf(out, group ? ", %s" : ", group %.0s%u", group ? group->gr_name : "", (unsigned)st->group);
    if (st->names > 1)
        bytes_printf(out, ", %lu links", (unsigned long)st->names);
}

long long disk_time(const DiskState *d)
{
    return d->file.written.seconds;
}

bool disk_is_mount(int dir, const char *name)
{
    return system_is_mount(dir, name);
}

bool disk_exists(const char *path)
{
    return access(path, F_OK) == 0;
}

char *disk_real_name(const char *path)
{
    char real[PATH_MAX];
    return mem_string(realpath(path, real) ? real : path);
}

bool disk_is_closed(const char *path)
{
    return access(path, R_OK) != 0 && errno == EACCES;
}

char *disk_missing_folder(const char *path)
{
    size_t n = (size_t)(path_base(path) - path);
    while (n > 1 && path[n - 1] == '/')
        n--;
    char *folder = mem_string_n(path, n);
    FileState st;
    if (n && !state_of_name(folder, &st) && (errno == ENOENT || errno == ENOTDIR))
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
