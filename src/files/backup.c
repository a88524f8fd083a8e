#include "files/backup.h"

#include "base/bytes.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/paths.h"
#include "files/leftovers.h"
#include "files/rights.h"
#include "files/write.h"

#include <errno.h>
#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static bool copy_bytes(int from, int to)
{
    char *buffer = mem_get(BLOCK_MAX);
    ssize_t n;
    do {
        n = read(from, buffer, BLOCK_MAX);
        if (n < 0 && errno == EINTR)
            n = 1;
        else if (n > 0 && !write_all(to, buffer, (size_t)n))
            n = -1;
    } while (n > 0);
    free(buffer);
    return n == 0;
}

/* A copy under another name, with owner (where we may) and mode. */
static bool copy_file(const char *path, const char *name)
{
    FileState st;
    int from = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK), to = -1;
    bool ok = from >= 0 && state_of_open(from, &st);
    if (ok)
        to = open(name, O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0600);
    ok = ok && to >= 0 && copy_bytes(from, to);
    /* Who may not be given the file must not be given rights to it either. */
    if (ok && !rights_copy(from, &st, to))
        ok = fchmod(to, 0600) == 0;
    ok = ok && fsync(to) == 0;
    int code = errno;
    if (from >= 0)
        close(from);
    if (to >= 0 && close(to) != 0 && ok) {
        ok = false;
        code = errno;
    }
    if (!ok && to >= 0)
        unlink(name);
    errno = code;
    return ok;
}

/* The number after "NAME.old-", or 0. */
unsigned backup_number(const char *entry, const char *name)
{
    size_t n = strlen(name);
    if (strncmp(entry, name, n) != 0 || strncmp(entry + n, ".old-", 5) != 0)
        return 0;
    char *end;
    unsigned long value = strtoul(entry + n + 5, &end, 10);
    return *end || value > 1000000000 ? 0 : (unsigned)value;
}

typedef struct Scan {
    const char *name;
    unsigned below, highest;
} Scan;

static bool scan_entry(int fd, const char *entry, void *ctx)
{
    Scan *s = ctx;
    unsigned number = backup_number(entry, s->name);
    s->highest = number > s->highest ? number : s->highest;
    if (number && number < s->below)
        unlinkat(fd, entry, 0);
    return true;
}

/* The highest number there is; with `below` not 0, removes those that are lower than that. */
static unsigned scan(const char *folder, const char *name, unsigned below)
{
    Scan s = {.name = name, .below = below};
    folder_read(folder, scan_entry, &s);
    return s.highest;
}

/* The path that a backup's name begins with; its folder is made if need be. */
static char *place_for(const char *path, const SaveWish *wish)
{
    if (!wish->folder || !*wish->folder)
        return mem_string(path);
    Bytes to = {0};
    char *full = path_full(path), *home = path_expand_home(wish->folder);
    bytes_printf(&to, "%s%s", home, full);
    char *folder = path_folder(to.at);
    bool ok = folder_make(folder);
    free(folder);
    free(home);
    free(full);
    if (ok)
        return to.at;
    bytes_free(&to);
    return NULL;
}

bool backup_make(const char *path, const SaveWish *wish, Err *e)
{
    if (!wish || wish->backup == BACKUP_NONE)
        return true;
    char *to = place_for(path, wish);
    const char *name = path_base(path);
    if (!to)
        return err_set(e, "%s was not saved: no backup could be made of it: %s: %s", name, wish->folder,
                       err_os(errno));
    char *folder = path_folder(to);
    unsigned number = wish->backup == BACKUP_NUMBERED ? scan(folder, name, 0) + 1 : 0;
    Bytes fresh = {0}, final = {0};
    leftover_name(&fresh, folder, name, NULL, "b");
    bytes_printf(&final, "%s.old", to);
    if (number)
        bytes_printf(&final, "-%u", number);
    /* Made under another name first, so that an earlier backup is replaced only by a whole one. */
    unlink(fresh.at);
    FileState st;
    bool single = state_of(path, &st) && st.names == 1; /* else it will be written in place */
    bool ok = (single && link(path, fresh.at) == 0) || copy_file(path, fresh.at);
    ok = ok && rename(fresh.at, final.at) == 0;
    if (!ok)
        err_set(e, "%s was not saved: no backup could be made of it: %s", name, err_os(errno));
    unlink(fresh.at); /* there still when both names are the same file already */
    if (ok && number && wish->keep && number > wish->keep)
        scan(folder, name, number - wish->keep + 1);
    bytes_free(&fresh);
    bytes_free(&final);
    free(folder);
    free(to);
    return ok;
}
