#include "kept/earlier.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/own_folder.h"
#include "files/load.h"
#include "files/state.h"
#include "files/write.h"

#include <errno.h>
#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

#include <xxhash.h>

enum {
    MOST_BYTES = 16 << 20, /* of one version; */
    FILE_BYTES = 64 << 20, /* of all of a file, */
    MOST = 40,             /* and how many; */
    ALL_BYTES = 512 << 20, /* of all files; */
    DAYS = 90,             /* the age at which they go */
};

/* The folder for a file's versions: by a hash of its path. NULL when there is no state folder. */
static char *folder_of(const char *path)
{
    Err ignored;
    char *state = own_folder_of_state(&ignored);
    Bytes b = {0};
    if (!state)
        return NULL;
    bytes_printf(&b, "%s/earlier/%016llx", state, (unsigned long long)XXH3_64bits(path, strlen(path)));
    free(state);
    return b.at;
}

/* ---- the list ---- */

static const char who_letters[] = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_.-";

typedef struct List {
    EarlierSave *at;
    size_t n;
} List;

/* After the number: nothing, or "-" and a name of letters that cannot lead elsewhere. */
static bool read_who(const char *s, char who[EARLIER_WHO + 1])
{
    size_t n = strlen(s);
    if (n == 0)
        return true;
    if (*s != '-' || n - 1 > EARLIER_WHO || strspn(s + 1, who_letters) != n - 1)
        return false;
    snprintf(who, EARLIER_WHO + 1, "%s", s + 1);
    return true;
}

/* Who is at work, under sudo too: only to be shown. */
static void who_saves(char who[EARLIER_WHO + 1])
{
    static const char *const names[] = {"SUDO_USER", "DOAS_USER", "LOGNAME", "USER"};
    const char *found = NULL;
    for (size_t i = geteuid() == 0 ? 0 : 2; (!found || !*found) && i < sizeof names / sizeof *names; i++)
        found = getenv(names[i]);
    found = found ? found : "";
    bool plain = strlen(found) <= EARLIER_WHO && !found[strspn(found, who_letters)];
    snprintf(who, EARLIER_WHO + 1, "%s", plain ? found : "");
}

static bool add_entry(int fd, const char *name, void *ctx)
{
    List *l = ctx;
    FileState st;
    EarlierSave s = {0};
    int used = 0;
    if (sscanf(name, "%lld-%u%n", &s.when, &s.number, &used) != 2 || !read_who(name + used, s.who) ||
        !state_in(fd, name, false, &st) || st.type != FILE_PLAIN)
        return true;
    s.bytes = (size_t)st.size;
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
    bytes_printf(&b, "%s/%lld-%u%s%s", folder, s->when, s->number, s->who[0] ? "-" : "", s->who);
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
        if (i < MOST && bytes <= FILE_BYTES && l.at[i].when >= oldest)
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
    who_saves(s.who);
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

/* ---- all of them ---- */

typedef struct Folders {
    char **at;
    size_t n;
} Folders;

static bool add_folder(int fd, const char *name, void *ctx)
{
    (void)fd;
    Folders *all = ctx;
    all->at = array_room(all->at, all->n, sizeof *all->at);
    all->at[all->n++] = mem_string(name);
    return true;
}

/* Everything that is kept. */
typedef struct Kept {
    char *name;
    long long when;
    size_t bytes;
} Kept;

typedef struct AllKept {
    Kept *at;
    size_t n, bytes;
} AllKept;

static void gather(const char *folder, AllKept *all)
{
    List l = list_folder(folder);
    for (size_t k = 0; k < l.n; k++) {
        all->at = array_room(all->at, all->n, sizeof *all->at);
        all->at[all->n++] = (Kept){name_of(folder, &l.at[k]), l.at[k].when, l.at[k].bytes};
        all->bytes += l.at[k].bytes;
    }
    if (!l.n)
        rmdir(folder);
    free(l.at);
}

static int by_age(const void *a, const void *b)
{
    const Kept *x = a, *y = b;
    return (x->when > y->when) - (x->when < y->when);
}

void earlier_thin_out(size_t most)
{
    Err ignored;
    Folders folders = {0};
    AllKept all = {0};
    char *state = own_folder_of_state(&ignored);
    long long too_old = (long long)time(NULL) - DAYS * 86400LL;
    Bytes top = {0}, folder = {0};
    if (!state)
        return;
    bytes_printf(&top, "%s/earlier", state);
    folder_read(top.at, add_folder, &folders);
    for (size_t i = 0; i < folders.n; i++) {
        bytes_clear(&folder);
        bytes_printf(&folder, "%s/%s", top.at, folders.at[i]);
        gather(folder.at, &all);
        free(folders.at[i]);
    }
    free(folders.at);
    if (all.n)
        qsort(all.at, all.n, sizeof *all.at, by_age);
    for (size_t i = 0; i < all.n; i++) {
        if ((all.bytes > most || all.at[i].when < too_old) && unlink(all.at[i].name) == 0)
            all.bytes -= all.at[i].bytes;
        free(all.at[i].name);
    }
    free(all.at);
    bytes_free(&top);
    bytes_free(&folder);
    free(state);
}

bool earlier_keep_bytes(const char *path, Text bytes, Err *e)
{
    static bool thinned; /* once a run is enough */
    char *folder = folder_of(path);
    if (!folder || text_len(bytes) == 0 || text_len(bytes) > MOST_BYTES) {
        free(folder);
        return true;
    }
    bool ok = folder_make(folder) || err_set(e, "Cannot make the folder %s", folder);
    if (ok && !same_as_newest(folder, bytes)) {
        ok = write_version(folder, bytes, e);
        thin_out(folder);
        if (!thinned)
            earlier_thin_out(ALL_BYTES);
        thinned = true;
    }
    free(folder);
    return ok;
}

bool earlier_keep(const char *path, bool also_private, Err *e)
{
    FileState st;
    DiskState disk;
    Text bytes = {0};
    if (!state_of(path, &st) || st.type != FILE_PLAIN || st.size > MOST_BYTES ||
        (!also_private && !(st.mode & MODE_OTHERS_READ)))
        return true;
    bool ok = load_file(path, &bytes, &disk, e) && earlier_keep_bytes(path, bytes, e);
    text_drop(&bytes);
    return ok;
}

void earlier_renamed(const char *from, const char *to)
{
    char *old = folder_of(from), *fresh = folder_of(to);
    if (old && fresh)
        rename(old, fresh); /* if that one has versions already, both keep their own */
    free(old);
    free(fresh);
}
