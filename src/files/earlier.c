#include "files/earlier.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/sys.h"
#include "files/load.h"
#include "files/write.h"

#include <errno.h>
#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <time.h>
#include <unistd.h>

#include <xxhash.h>

enum {
    MOST_BYTES = 16 << 20, /* of one version; */
    ALL_BYTES = 64 << 20,  /* of all of a file, */
    MOST = 40,             /* and how many; */
    DAYS = 90,             /* the age at which they go */
};

/* The folder for a file's versions: by a hash of its path. NULL when there is no state folder. */
static char *folder_of(const char *path)
{
    Err ignored;
    char *state = sys_state_folder(&ignored);
    Bytes b = {0};
    if (!state)
        return NULL;
    bytes_printf(&b, "%s/earlier/%016llx", state, (unsigned long long)XXH3_64bits(path, strlen(path)));
    free(state);
    return b.at;
}

/* ---- the list ---- */

typedef struct List {
    EarlierSave *at;
    size_t n;
} List;

static bool add_entry(int fd, const char *name, void *ctx)
{
    List *l = ctx;
    struct stat st;
    EarlierSave s = {0};
    int used = 0;
    if (sscanf(name, "%lld-%u%n", &s.when, &s.number, &used) != 2 || name[used] ||
        fstatat(fd, name, &st, AT_SYMLINK_NOFOLLOW) != 0 || !S_ISREG(st.st_mode))
        return true;
    s.bytes = (size_t)st.st_size;
    l->at = array_room(l->at, l->n, sizeof *l->at);
    l->at[l->n++] = s;
    return true;
}

static int newest_first(const void *a, const void *b)
{
    const EarlierSave *x = a, *y = b;
    return x->when != y->when ? (x->when < y->when) - (x->when > y->when)
                              : (x->number < y->number) - (x->number > y->number);
}

static List list_folder(const char *folder)
{
    List l = {0};
    folder_read(folder, add_entry, &l);
    if (l.n)
        qsort(l.at, l.n, sizeof *l.at, newest_first);
    return l;
}

size_t earlier_list(const char *path, EarlierSave **out)
{
    char *folder = folder_of(path);
    List l = folder ? list_folder(folder) : (List){0};
    free(folder);
    *out = l.at;
    return l.n;
}

static char *name_of(const char *folder, const EarlierSave *s)
{
    Bytes b = {0};
    bytes_printf(&b, "%s/%lld-%u", folder, s->when, s->number);
    return b.at;
}

static bool read_version(const char *folder, const EarlierSave *s, Text *out, Err *e)
{
    DiskState disk;
    char *name = name_of(folder, s);
    bool ok = load_file(name, out, &disk, e);
    if (ok && !disk.exists)
        ok = err_set(e, "It is not kept any longer");
    free(name);
    return ok;
}

bool earlier_read(const char *path, const EarlierSave *s, Text *out, Err *e)
{
    char *folder = folder_of(path);
    bool ok =
        folder ? read_version(folder, s, out, e) : err_set(e, "There is no place where it could be kept");
    free(folder);
    return ok;
}

/* ---- keeping ---- */

/* What is too much, or too old. */
static void thin_out(const char *folder)
{
    List l = list_folder(folder);
    size_t bytes = 0;
    long long oldest = (long long)time(NULL) - DAYS * 86400LL;
    for (size_t i = 0; i < l.n; i++) {
        bytes += l.at[i].bytes;
        if (i < MOST && bytes <= ALL_BYTES && l.at[i].when >= oldest)
            continue;
        char *name = name_of(folder, &l.at[i]);
        unlink(name);
        free(name);
    }
    free(l.at);
}

static bool same_as_newest(const char *folder, Text bytes)
{
    List l = list_folder(folder);
    Text newest = {0};
    Err ignored;
    bool same = l.n && l.at[0].bytes == text_len(bytes) &&
                read_version(folder, &l.at[0], &newest, &ignored) &&
                text_common_start(newest, bytes) == text_len(bytes);
    text_drop(&newest);
    free(l.at);
    return same;
}

static bool write_version(const char *folder, Text bytes, Err *e)
{
    EarlierSave s = {.when = (long long)time(NULL)};
    int fd = -1;
    char *name = NULL;
    for (; fd < 0 && s.number < 1000; s.number++) {
        free(name);
        name = name_of(folder, &s);
        fd = open(name, O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0600);
        if (fd < 0 && errno != EEXIST)
            break;
    }
    bool ok = fd >= 0 && write_text(fd, bytes);
    if (!ok)
        err_set(e, "%s", err_os(errno));
    if (fd >= 0)
        close(fd);
    if (fd >= 0 && !ok)
        unlink(name);
    free(name);
    return ok;
}

bool earlier_keep(const char *path, Err *e)
{
    struct stat st;
    DiskState disk;
    Text bytes = {0};
    char *folder = NULL;
    if (stat(path, &st) != 0 || !S_ISREG(st.st_mode) || st.st_size > MOST_BYTES || st.st_size == 0)
        return true;
    if (!load_file(path, &bytes, &disk, e))
        return false;
    folder = folder_of(path);
    bool ok = folder && (sys_make_folders(folder) || err_set(e, "Cannot make the folder %s", folder));
    if (ok && !same_as_newest(folder, bytes)) {
        ok = write_version(folder, bytes, e);
        thin_out(folder);
    }
    text_drop(&bytes);
    free(folder);
    return ok || !folder;
}

void earlier_renamed(const char *from, const char *to)
{
    char *old = folder_of(from), *fresh = folder_of(to);
    if (old && fresh)
        rename(old, fresh); /* if that one has versions already, both keep their own */
    free(old);
    free(fresh);
}
