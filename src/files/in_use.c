#include "files/in_use.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/programs.h"
#include "files/state.h"

#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <poll.h>
#include <pwd.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <time.h>
#include <unistd.h>
#include <xxhash.h>

/* A note is lines of one length: "device folder name since", in hexadecimal digits; all of them zero where
 * nothing is in use any more. */
enum { LINE = 4 * 17, NOTE_MOST = 1 << 22 /* bytes */, NOTES_MOST = 1000, TRIES = 5 };

struct InUsePlace {
    unsigned long long dev, ino; /* of the folder that the file lies in */
    unsigned long long name;     /* a hash of its name */
    unsigned long long since;
};

static const char note_name[] = "steady-quill-";

/* Anybody may put files there, and nobody may remove another's. */
const char *in_use_folder(void)
{
    static const char *const folders[] = {"/run/lock", "/dev/shm", "/tmp"};
    FileState st;
    for (size_t i = 0; i < sizeof folders / sizeof *folders; i++)
        if (state_of_name(folders[i], &st) && st.type == FILE_FOLDER && st.mode & S_ISVTX &&
            st.mode & S_IWOTH)
            return folders[i];
    return NULL;
}

/* Where a file is, with links resolved; it need not be there yet. */
static bool place_of(const char *path, InUsePlace *p)
{
    char real[PATH_MAX];
    FileState st;
    if (realpath(path, real))
        path = real;
    const char *name = path_base(path);
    char *folder = path_folder(path);
    bool ok = state_of(folder, &st);
    free(folder);
    if (ok)
        *p = (InUsePlace){st.node.device, st.node.number, XXH3_64bits(name, strlen(name)),
                          (unsigned long long)time(NULL)};
    return ok;
}

static bool same_place(const InUsePlace *a, const InUsePlace *b)
{
    return a->dev == b->dev && a->ino == b->ino && a->name == b->name && a->since && b->since;
}

/* ---- others' notes ---- */

typedef struct Look {
    const InUse *own;
    const InUsePlace *wanted;
    InUseBy *by;
    int notes;
    bool found;
} Look;

/* Has this note the wanted place? */
static bool note_has(int fd, size_t size, const InUsePlace *wanted, InUsePlace *line)
{
    char *text = mem_get(size + 1);
    ssize_t n = pread(fd, text, size, 0);
    bool found = false;
    for (ssize_t at = 0; !found && at + LINE <= n; at += LINE) {
        char *rest = text + at;
        line->dev = strtoull(rest, &rest, 16);
        line->ino = strtoull(rest, &rest, 16);
        line->name = strtoull(rest, &rest, 16);
        line->since = strtoull(rest, &rest, 16);
        found = same_place(line, wanted);
    }
    free(text);
    return found;
}

static void tell_who(const FileState *st, const char *name, const InUsePlace *line, InUseBy *by)
{
    const struct passwd *who = getpwuid(st->owner);
    *by = (InUseBy){.pid = strtol(name + strlen(note_name), NULL, 10), .since = (long long)line->since};
    if (who)
        snprintf(by->user, sizeof by->user, "%.60s", who->pw_name);
    else
        snprintf(by->user, sizeof by->user, "User %u", (unsigned)st->owner);
}

/* A dead program's note goes, if it is ours to remove. Held by the lock, nobody else takes it for his own. */
static void remove_dead(int fd, int folder, const char *name, const FileState *st)
{
    FileState there;
    if (st->owner == geteuid() && flock(fd, LOCK_EX | LOCK_NB) == 0 &&
        state_in(folder, name, false, &there) && there.node.number == st->node.number)
        unlinkat(folder, name, 0);
}

/* Its lock is held by its program, or for a moment by another that removes it, as that program is dead. One
 * whose process is not there is looked at again (it may live where its number means nothing here). */
static bool is_held(int fd, const char *name)
{
    enum { LOOKS = 50, MOMENT = 2 /* ms */ };
    FileState st;
    pid_t pid = (pid_t)strtol(name + strlen(note_name), NULL, 10);
    bool held = flock(fd, LOCK_SH | LOCK_NB) != 0 && errno == EWOULDBLOCK;
    for (int i = 0; held && i < LOOKS && pid > 0 && !programs_live(pid); i++) {
        poll(NULL, 0, MOMENT);
        held = flock(fd, LOCK_SH | LOCK_NB) != 0 && errno == EWOULDBLOCK;
    }
    return held && state_of_open(fd, &st) && st.names > 0;
}

static bool look_at(int folder, const char *name, void *ctx)
{
    Look *l = ctx;
    if (strncmp(name, note_name, strlen(note_name)) != 0 ||
        (l->own->path && strcmp(name, path_base(l->own->path)) == 0))
        return true;
    int fd = openat(folder, name, O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK | O_NOCTTY);
    if (fd < 0)
        return true;
    FileState st;
    InUsePlace line;
    bool note = state_of_open(fd, &st) && st.type == FILE_PLAIN && st.names == 1 && st.size <= NOTE_MOST &&
                st.size % LINE == 0;
    bool held = note && is_held(fd, name);
    if (note && !held) {
        remove_dead(fd, folder, name, &st);
    } else if (held && note_has(fd, (size_t)st.size, l->wanted, &line)) {
        tell_who(&st, name, &line, l->by);
        l->found = true;
    }
    close(fd);
    return !l->found && ++l->notes < NOTES_MOST;
}

/* ---- our own ---- */

static bool begin_note(InUse *u, const char *folder)
{
    FileState st;
    for (int i = 0; i < TRIES; i++) {
        Bytes path = {0};
        bytes_printf(&path, "%s/%s%ld-XXXXXX", folder, note_name, (long)getpid());
        int fd = mkostemp(path.at, O_CLOEXEC);
        if (fd < 0) {
            bytes_free(&path);
            return false;
        }
        /* Somebody who looks at it right now takes it for a dead one. */
        if (flock(fd, LOCK_EX | LOCK_NB) == 0 && state_of_open(fd, &st) && st.names == 1 &&
            fchmod(fd, 0644) == 0) {
            u->fd = fd;
            u->path = path.at;
            return true;
        }
        unlink(path.at);
        close(fd);
        bytes_free(&path);
    }
    return false;
}

static bool write_line(const InUse *u, size_t i)
{
    char line[LINE + 1];
    const InUsePlace *p = &u->places[i];
    snprintf(line, sizeof line, "%016llx %016llx %016llx %016llx\n", p->dev, p->ino, p->name, p->since);
    return pwrite(u->fd, line, LINE, (off_t)(i * LINE)) == LINE;
}

static size_t add_line(InUse *u, const InUsePlace *p)
{
    size_t i = 0;
    while (i < u->n && u->places[i].since)
        i++;
    if (i == u->n) {
        if ((u->n + 1) * LINE > NOTE_MOST)
            return 0;
        u->places = array_room(u->places, u->n, sizeof *u->places);
        u->n++;
    }
    u->places[i] = *p;
    u->taken++;
    return write_line(u, i) ? i + 1 : 0;
}

bool in_use_take(InUse *u, const char *path, size_t *line, InUseBy *by)
{
    InUsePlace p;
    const char *folder = in_use_folder();
    if (*line || !folder || !place_of(path, &p))
        return true;
    for (size_t i = 0; i < u->n; i++)
        if (same_place(&u->places[i], &p)) /* by ourselves, under another name */
            return true;
    if (u->fd >= 0 || begin_note(u, folder)) /* first, so that of two at least one sees the other */
        *line = add_line(u, &p);
    Look l = {.own = u, .wanted = &p, .by = by};
    folder_read(folder, look_at, &l);
    return !l.found;
}

void in_use_release(InUse *u, size_t *line)
{
    if (!*line)
        return;
    u->places[*line - 1] = (InUsePlace){0};
    write_line(u, *line - 1);
    *line = 0;
    if (--u->taken == 0)
        in_use_end(u);
}

void in_use_end(InUse *u)
{
    if (u->fd >= 0) {
        unlink(u->path);
        close(u->fd);
    }
    free(u->path);
    free(u->places);
    *u = (InUse){.fd = -1};
}
