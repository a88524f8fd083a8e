#include "files/leftovers.h"

#include "base/folder.h"
#include "base/mem.h"
#include "base/own_folder.h"
#include "base/paths.h"
#include "base/programs.h"

#include <fcntl.h>
#include <limits.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <unistd.h>

/* Hidden, and of an ending that readers of whole folders pass over: cron, run-parts and sudo want no dot in a
 * name, patterns leave out hidden files. (Only logrotate reads whatever is hidden.) Before it, a name says
 * .FILE.DEVICE-INODE.PROCESS.WHICH */
static const char unfinished[] = "-unfinished.bak", safe_copy[] = "-safe-copy.bak";

enum { LIKE_MOST = 180 /* bytes of the file's name, so that the whole fits into a name */ };

void leftover_name(Bytes *path, const char *folder, const char *like, const FileState *of, const char *which)
{
    bytes_printf(path, "%s/.%.*s.%lx-%lx.%lx.%s%s", folder, LIKE_MOST, like,
                 of ? (unsigned long)of->node.device : 0, of ? (unsigned long)of->node.number : 0,
                 (long)getpid(), which, unfinished);
}

void leftover_whole(const Bytes *name, Bytes *path)
{
    bytes_printf(path, "%.*s%s", (int)(name->len - strlen(unfinished)), name->at, safe_copy);
}

/* ---- what dead programs left ---- */

/* What such a name says. */
typedef struct Leftover {
    bool whole;
    const char *like;
    size_t like_len;
    char node[64];
    long pid;
} Leftover;

static bool read_name(const char *name, Leftover *l)
{
    size_t n = strlen(name), part = strlen(unfinished), whole = strlen(safe_copy);
    const char *dots[3]; /* before node, process, which */
    l->whole = n > whole && strcmp(name + n - whole, safe_copy) == 0;
    if (!l->whole && !(n > part && strcmp(name + n - part, unfinished) == 0))
        return false;
    n -= l->whole ? whole : part;
    for (int i = 2; i >= 0; i--) {
        while (n > 1 && name[n - 1] != '.')
            n--;
        if (n <= 1 || name[0] != '.')
            return false;
        dots[i] = name + --n;
    }
    l->like = name + 1;
    l->like_len = n - 1;
    l->pid = strtol(dots[1] + 1, NULL, 16);
    snprintf(l->node, sizeof l->node, "%.*s", (int)(dots[1] - dots[0] - 1), dots[0] + 1);
    return true;
}

/* Nobody has it open any more: its maker has died. Only files of our own are looked at. */
static bool left_behind(int dir, const char *name, long pid)
{
    FileState st;
    int fd = openat(dir, name, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOFOLLOW | O_NOCTTY);
    bool ours = fd >= 0 && state_of_open(fd, &st) && st.type == FILE_PLAIN && st.owner == geteuid();
    bool dead = ours && flock(fd, LOCK_SH | LOCK_NB) == 0;
    if (fd >= 0)
        close(fd);
    /* Between being made and being locked its maker may still be at it. */
    return dead && (pid <= 0 || !programs_live((pid_t)pid) || pid == (long)getpid());
}

/* One of the files that such copies are sought for. */
typedef struct Sought {
    char *folder; /* with links resolved */
    char name[LIKE_MOST + 1];
    char node[64]; /* "": it is not there */
    char **found;
} Sought;

/* A look through one folder. */
typedef struct Look {
    const char *folder;
    const Sought *files; /* whose folder it is, unless it is nobody's */
    size_t n;
    bool by_name; /* those that lie in it are recognised by their names too */
} Look;

static bool belongs(const Look *look, const Leftover *l, const Sought *f)
{
    if (*f->node && strcmp(f->node, l->node) == 0)
        return true;
    return look->by_name && strlen(f->name) == l->like_len && memcmp(f->name, l->like, l->like_len) == 0;
}

static bool look_at(int fd, const char *name, void *ctx)
{
    const Look *look = ctx;
    Leftover l;
    if (!read_name(name, &l))
        return true;
    bool known = false;
    for (size_t i = 0; i < look->n; i++) {
        const Sought *f = &look->files[i];
        if (!belongs(look, &l, f) || (l.whole && *f->found))
            continue;
        if (!known && !left_behind(fd, name, l.pid))
            return true;
        known = true;
        if (!l.whole) {
            unlinkat(fd, name, 0);
            return true;
        }
        Bytes path = {0};
        bytes_printf(&path, "%s/%s", look->folder, name);
        *f->found = path.at;
    }
    return true;
}

static Sought seek(const char *path, char **found)
{
    char real[PATH_MAX];
    FileState st;
    Sought s = {.found = found};
    *found = NULL;
    if (realpath(path, real) && state_of(real, &st)) {
        path = real;
        snprintf(s.node, sizeof s.node, "%lx-%lx", (unsigned long)st.node.device,
                 (unsigned long)st.node.number);
    }
    s.folder = path_folder(path);
    snprintf(s.name, sizeof s.name, "%.*s", LIKE_MOST, path_base(path));
    return s;
}

static int by_folder(const void *a, const void *b)
{
    return strcmp(((const Sought *)a)->folder, ((const Sought *)b)->folder);
}

void leftovers_find(const char *const *paths, size_t n, char **found)
{
    Err ignored;
    Sought *files = mem_get((n + 1) * sizeof *files);
    for (size_t i = 0; i < n; i++)
        files[i] = seek(paths[i], &found[i]);
    qsort(files, n, sizeof *files, by_folder);
    for (size_t i = 0, next; i < n; i = next) {
        for (next = i + 1; next < n && by_folder(&files[i], &files[next]) == 0;)
            next++;
        Look look = {files[i].folder, &files[i], next - i, true};
        folder_read(look.folder, look_at, &look);
    }
    char *state = own_folder_of_state(&ignored);
    const char *const elsewhere[] = {state, "/tmp"};
    for (size_t i = 0; i < sizeof elsewhere / sizeof *elsewhere; i++) {
        Look look = {elsewhere[i], files, n, false};
        if (look.folder)
            folder_read(look.folder, look_at, &look);
    }
    free(state);
    for (size_t i = 0; i < n; i++)
        free(files[i].folder);
    free(files);
}

void leftover_remove(char **path)
{
    if (!*path)
        return;
    unlink(*path);
    free(*path);
    *path = NULL;
}
