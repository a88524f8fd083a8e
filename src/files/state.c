#include "files/state.h"

#include "base/system.h"

#include <fcntl.h>
#include <sys/stat.h>

static FileType type_of(mode_t mode)
{
    return S_ISREG(mode)                    ? FILE_PLAIN
           : S_ISDIR(mode)                  ? FILE_FOLDER
           : S_ISLNK(mode)                  ? FILE_LINK
           : S_ISFIFO(mode)                 ? FILE_PIPE
           : S_ISSOCK(mode)                 ? FILE_SOCKET
           : S_ISCHR(mode) || S_ISBLK(mode) ? FILE_DEVICE
                                            : FILE_OTHER;
}

static FileTime time_of(struct timespec t)
{
    return (FileTime){t.tv_sec, t.tv_nsec};
}

static bool take(bool known, const struct stat *st, FileState *out)
{
    if (known)
        *out = (FileState){.type = type_of(st->st_mode),
                           .node = {(uint64_t)st->st_dev, (uint64_t)st->st_ino},
                           .size = (uint64_t)st->st_size,
                           .written = time_of(st->st_mtim),
                           .changed = time_of(st->st_ctim),
                           .mode = st->st_mode & 07777,
                           .owner = st->st_uid,
                           .group = st->st_gid,
                           .names = (uint64_t)st->st_nlink};
    return known;
}

bool state_of(const char *path, FileState *out)
{
    struct stat st;
    return take(stat(path, &st) == 0, &st, out);
}

bool state_of_name(const char *path, FileState *out)
{
    struct stat st;
    return take(lstat(path, &st) == 0, &st, out);
}

bool state_of_open(int fd, FileState *out)
{
    struct stat st;
    return take(fstat(fd, &st) == 0, &st, out);
}

bool state_in(int folder, const char *name, bool follow, FileState *out)
{
    struct stat st;
    return take(fstatat(folder, name, &st, follow ? 0 : AT_SYMLINK_NOFOLLOW) == 0, &st, out);
}

bool state_same_node(FileNode a, FileNode b)
{
    return a.device == b.device && a.number == b.number;
}

bool state_same_time(FileTime a, FileTime b)
{
    return a.seconds == b.seconds && a.nanoseconds == b.nanoseconds;
}

bool state_untouched(const FileState *a, const FileState *b)
{
    return state_same_node(a->node, b->node) && a->size == b->size &&
           state_same_time(a->written, b->written) && state_same_time(a->changed, b->changed);
}
