#include "files/load.h"

#include "base/mem.h"
#include "base/sys.h"
#include "files/loader.h"

#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* Fills a block; returns the bytes read, or -1. Less than cap only at the end. */
static ssize_t fill(int fd, char *to, size_t cap)
{
    size_t done = 0;
    while (done < cap) {
        ssize_t n = read(fd, to + done, cap - done);
        if (n < 0 && errno == EINTR)
            continue;
        if (n < 0)
            return -1;
        if (n == 0)
            break;
        done += (size_t)n;
    }
    return (ssize_t)done;
}

static bool load_blocks(int fd, size_t expected, size_t most, const char *name, Text *out, Err *e)
{
    *out = (Text){0};
    for (;;) {
        /* One byte more than expected, so that one read sees the end. */
        size_t left = expected > text_len(*out) ? expected - text_len(*out) + 1 : 64 * 1024;
        size_t room = most - text_len(*out) + 1;
        left = !expected || left < room ? left : room; /* some of the system's files give whole words only */
        Block *b = block_new(left < BLOCK_MAX ? left : BLOCK_MAX);
        if (!b) {
            text_drop(out);
            return err_set(e, "There is not enough memory for %s", name);
        }
        ssize_t n = fill(fd, b->bytes, b->cap);
        if (n < 0) {
            int code = errno;
            block_drop(b);
            text_drop(out);
            return err_set(e, "Cannot read %s: %s", name, err_os(code));
        }
        bool at_end = (size_t)n < b->cap;
        block_set_len(b, (size_t)n);
        if (!text_add_block(out, b)) {
            text_drop(out);
            return err_set(e, "There is not enough memory for %s", name);
        }
        if (at_end || text_len(*out) > most)
            return true;
    }
}

bool file_load_fd(int fd, const char *name, size_t most, Text *out, Err *e)
{
    return load_blocks(fd, 0, most, name, out, e);
}

static const char *unfit(mode_t mode)
{
    if (S_ISDIR(mode))
        return "is a folder, not a file";
    if (S_ISCHR(mode) || S_ISBLK(mode))
        return "is a device, not a file";
    if (S_ISSOCK(mode))
        return "is a socket, not a file";
    return "is a pipe, not a file";
}

enum {
    BEGINNING = 128 * 1024,     /* enough for any screen */
    TOGETHER = 8 * 1024 * 1024, /* what is read at once by one thread */
    LATER = 64 * 1024 * 1024    /* from here on a person need not wait for the rest */
};

/* The folder in which a path really ends, links followed; false when there is none. */
static bool folder_node(const char *path, struct stat *st)
{
    char real[PATH_MAX], folder[PATH_MAX];
    struct stat link;
    if (!realpath(path, real)) { /* not there yet, or a link to nothing */
        if (lstat(path, &link) == 0 || (size_t)snprintf(real, sizeof real, "%s", path) >= sizeof real)
            return false;
    }
    size_t n = (size_t)(sys_base_name(real) - real);
    snprintf(folder, sizeof folder, "%.*s", (int)n, n ? real : ".");
    return stat(n ? folder : ".", st) == 0;
}

/* Notes the folder of a file that was opened, if it is still the one that the path leads to. */
static bool note_folder(const char *path, DiskState *disk)
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

static int open_once(const char *path, DiskState *disk, bool *exchanged, Err *e)
{
    *disk = (DiskState){0};
    e->text[0] = 0;
    if (!*sys_base_name(path)) {
        err_set(e, "%s is a folder, not a file", path);
        return -1;
    }
    /* Looked at before it is opened: opening a device or a pipe can already do something. */
    if (stat(path, &disk->st) != 0) {
        if (errno != ENOENT)
            err_set(e, "Cannot open %s: %s", path, err_os(errno));
        else
            *disk = disk_look(path);
        if (disk->exists) { /* it has just appeared */
            *exchanged = true;
            err_set(e, "Cannot open %s: it was exchanged meanwhile", path);
        }
        return -1;
    }
    if (!S_ISREG(disk->st.st_mode)) {
        err_set(e, "%s %s", path, unfit(disk->st.st_mode));
        return -1;
    }
    int fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY);
    if (fd < 0) {
        err_set(e, "Cannot open %s: %s", path, err_os(errno));
        return -1;
    }
    bool known = fstat(fd, &disk->st) == 0;
    disk->exists = known && S_ISREG(disk->st.st_mode);
    if (disk->exists && note_folder(path, disk))
        return fd;
    if (disk->exists) {
        *exchanged = true;
        err_set(e, "Cannot open %s: it was exchanged meanwhile", path);
        close(fd);
        return -1;
    }
    err_set(e, "Cannot open %s: %s", path, known ? "it is no longer a file" : err_os(errno));
    close(fd);
    return -1;
}

enum { OPEN_TRIES = 20 };

/* Opens a regular file; -1 with the reason in e, or without when there is none of that name. While we look,
 * somebody may just save it. */
static int open_file(const char *path, DiskState *disk, Err *e)
{
    bool exchanged = true;
    int fd = -1;
    for (int i = 0; fd < 0 && exchanged && i < OPEN_TRIES; i++) {
        exchanged = false;
        fd = open_once(path, disk, &exchanged, e);
    }
    return fd;
}

/* Reads the beginning of a file and leaves the rest to a loader. */
static bool load_large(int fd, size_t size, const char *path, Text *out, Loader **rest, Err *e)
{
    Block *b = block_new(BEGINNING);
    ssize_t n = b ? fill(fd, b->bytes, b->cap) : 0;
    int code = errno;
    *rest = NULL;
    if (!b || n < 0) {
        if (b)
            block_drop(b);
        close(fd);
        return b ? err_set(e, "Cannot read %s: %s", path, err_os(code))
                 : err_set(e, "There is not enough memory for %s", path);
    }
    block_set_len(b, (size_t)n);
    if (!text_add_block(out, b)) {
        close(fd);
        return err_set(e, "There is not enough memory for %s", path);
    }
    *rest = loader_new(fd, (size_t)n, size, path);
    return true;
}

bool file_load_begin(const char *path, Text *out, DiskState *disk, Loader **rest, Err *e)
{
    *out = (Text){0};
    *rest = NULL;
    int fd = open_file(path, disk, e);
    if (fd < 0)
        return !e->text[0];
    size_t size = (size_t)disk->st.st_size;
    if (size > TOGETHER) {
        if (!load_large(fd, size, path, out, rest, e))
            return false;
        if (size > LATER || loader_finish(*rest, out, e)) {
            if (size <= LATER) {
                loader_free(*rest);
                *rest = NULL;
            }
            return true;
        }
        loader_free(*rest);
        *rest = NULL;
        text_drop(out);
        return false;
    }
    /* Files of the system's own say 0 and may never end: then the rest comes as from a pipe. */
    bool ok = load_blocks(fd, size, size ? UNMEASURED_MOST : TOGETHER, path, out, e);
    if (ok && !size && text_len(*out) > TOGETHER)
        *rest = loader_stream(fd, UNMEASURED_MOST, path);
    else
        close(fd);
    return ok;
}

bool file_load(const char *path, Text *out, DiskState *disk, Err *e)
{
    Loader *rest;
    bool ok = file_load_begin(path, out, disk, &rest, e);
    if (ok && rest && !loader_finish(rest, out, e)) {
        text_drop(out);
        ok = false;
    }
    loader_free(rest);
    return ok;
}

bool file_may_write(const char *path)
{
    return access(path, W_OK) == 0 || errno == ENOENT;
}

static bool same_as(const char *path, Text t)
{
    char *buffer = mem_get(BLOCK_MAX);
    int fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY);
    bool same = fd >= 0;
    size_t at = 0;
    for (ssize_t n = 1; same && n > 0;) {
        n = fill(fd, buffer, BLOCK_MAX);
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
