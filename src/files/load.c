#include "files/load.h"

#include "base/mem.h"
#include "base/paths.h"
#include "base/system.h"
#include "files/loader.h"

#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* Adds a block of so many bytes at most; *whole: there were so many. */
static bool add_block(int fd, size_t most, const char *name, Text *out, bool *whole, Err *e)
{
    Block *b = block_new(most < BLOCK_MAX ? most : BLOCK_MAX);
    bool memory = b != NULL;
    ssize_t n = b ? system_read_full(fd, b->bytes, b->cap) : -1;
    if (!b || n < 0) {
        int code = errno;
        if (b)
            block_drop(b);
        text_drop(out);
        return memory ? err_set(e, "Cannot read %s: %s", name, err_os(code))
                      : err_set(e, "There is not enough memory for %s", name);
    }
    *whole = (size_t)n == b->cap;
    block_set_len(b, (size_t)n);
    if (text_add_block(out, b))
        return true;
    text_drop(out);
    return err_set(e, "There is not enough memory for %s", name);
}

static bool load_blocks(int fd, size_t expected, size_t most, const char *name, Text *out, Err *e)
{
    bool more = true;
    *out = (Text){0};
    while (more && text_len(*out) <= most) {
        /* One byte more than expected, so that one read sees the end. */
        size_t left = expected > text_len(*out) ? expected - text_len(*out) + 1 : 64 * 1024;
        size_t room = most - text_len(*out) + 1;
        left = !expected || left < room ? left : room; /* some of the system's files give whole words only */
        if (!add_block(fd, left, name, out, &more, e))
            return false;
    }
    return true;
}

bool load_descriptor(int fd, const char *name, size_t most, Text *out, Err *e)
{
    return load_blocks(fd, 0, most, name, out, e);
}

bool load_exactly(int fd, const char *name, size_t n, Text *out, Err *e)
{
    bool more = true;
    *out = (Text){0};
    while (more && text_len(*out) < n)
        if (!add_block(fd, n - text_len(*out), name, out, &more, e))
            return false;
    return true;
}

static const char *unfit(FileType type)
{
    static const char *const words[] = {[FILE_FOLDER] = "is a folder, not a file",
                                        [FILE_PIPE] = "is a pipe, not a file",
                                        [FILE_SOCKET] = "is a socket, not a file",
                                        [FILE_DEVICE] = "is a device, not a file",
                                        [FILE_OTHER] = "is not a file"};
    return words[type] ? words[type] : words[FILE_OTHER];
}

enum {
    BEGINNING = 128 * 1024,     /* enough for any screen */
    TOGETHER = 8 * 1024 * 1024, /* what is read at once by one thread */
    LATER = 64 * 1024 * 1024    /* from here on a person need not wait for the rest */
};

static int open_once(const char *path, DiskState *disk, bool *exchanged, Err *e)
{
    *disk = (DiskState){0};
    e->text[0] = 0;
    if (!*path_base(path)) {
        err_set(e, "%s is a folder, not a file", path);
        return -1;
    }
    /* Looked at before it is opened: opening a device or a pipe can already do something. */
    if (!state_of(path, &disk->file)) {
        if (errno != ENOENT)
            err_set(e, "Cannot open %s: %s", path, err_os(errno));
        else
            *disk = disk_look(path);
        if (disk->exists) { /* it has just appeared */
            *exchanged = true;
            err_set(e, "Cannot open %s: it was replaced while being opened", path);
        }
        return -1;
    }
    if (disk->file.type != FILE_PLAIN) {
        err_set(e, "%s %s", path, unfit(disk->file.type));
        return -1;
    }
    int fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY);
    if (fd < 0) {
        err_set(e, "Cannot open %s: %s", path, err_os(errno));
        return -1;
    }
    bool known = state_of_open(fd, &disk->file);
    disk->exists = known && disk->file.type == FILE_PLAIN;
    if (disk->exists && disk_note_folder(path, disk))
        return fd;
    if (disk->exists) {
        *exchanged = true;
        err_set(e, "Cannot open %s: it was replaced while being opened", path);
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

bool load_head(const char *path, char *out, size_t cap, size_t *n, Err *e)
{
    DiskState disk;
    int fd = open_file(path, &disk, e);
    if (fd < 0)
        return err_set(e, "%s", e->text[0] ? e->text : "there is no such file");
    ssize_t got = system_read_full(fd, out, cap);
    int code = errno;
    close(fd);
    *n = got > 0 ? (size_t)got : 0;
    return got >= 0 || err_set(e, "Cannot read it: %s", err_os(code));
}

/* Reads the beginning of a file and leaves the rest to a loader. */
static bool load_large(int fd, size_t size, const char *path, Text *out, Loader **rest, Err *e)
{
    Block *b = block_new(BEGINNING);
    ssize_t n = b ? system_read_full(fd, b->bytes, b->cap) : 0;
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

bool load_file_begin(const char *path, Text *out, DiskState *disk, Loader **rest, Err *e)
{
    *out = (Text){0};
    *rest = NULL;
    int fd = open_file(path, disk, e);
    if (fd < 0)
        return !e->text[0];
    size_t size = (size_t)disk->file.size;
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

bool load_file(const char *path, Text *out, DiskState *disk, Err *e)
{
    Loader *rest;
    bool ok = load_file_begin(path, out, disk, &rest, e);
    if (ok && rest && !loader_finish(rest, out, e)) {
        text_drop(out);
        ok = false;
    }
    loader_free(rest);
    return ok;
}

bool disk_may_write(const char *path)
{
    if (access(path, W_OK) == 0)
        return true;
    if (errno != ENOENT)
        return false;
    char *folder = path_folder(path); /* a new one is made there */
    bool may = access(folder, W_OK) == 0 || errno == ENOENT;
    free(folder);
    return may;
}
