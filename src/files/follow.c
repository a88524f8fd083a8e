#include "files/follow.h"

#include "base/mem.h"
#include "base/paths.h"
#include "base/system.h"
#include "files/watch.h"

#include <errno.h>
#include <fcntl.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum {
    SEEN = 64,   /* bytes before the place that was read last, which tell whether it was written again */
    BLIND = 100, /* ms between looks where the system does not tell */
    OLD_MOST = 10 * 1000 /* ms that a file which lost its name is still read */
};

/* One open file, and how far it was read. */
typedef struct Source {
    int fd; /* -1: none */
    size_t at;
    FileState state;
    char seen[SEEN]; /* the bytes before `at`, */
    size_t n_seen;   /* as many as are known */
} Source;

struct Follow {
    char *path; /* NULL: a pipe */
    bool by_name, gone, ended;
    Source now, old; /* old: what had the name before */
    uint64_t old_since;
    Watch watch;
    bool blind; /* the system does not tell of all of it */
};

static void close_source(Source *s)
{
    if (s->fd >= 0)
        close(s->fd);
    *s = (Source){.fd = -1};
}

/* The file, and the folder in which another one may get its name. */
static void watch_all(Follow *f)
{
    char *folder = path_folder(f->path);
    watch_end(&f->watch);
    bool file = f->now.fd < 0 || watch_begin(&f->watch, f->path);
    bool told = watch_folder(&f->watch, folder) && file;
    f->blind = !told || f->old.fd >= 0; /* that one has a name that nobody knows */
    free(folder);
}

static bool open_source(const char *path, Source *s, Err *e)
{
    *s = (Source){.fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY)};
    e->text[0] = 0;
    if (s->fd < 0)
        return errno == ENOENT || errno == ENOTDIR ? false
                                                   : err_set(e, "Cannot read %s: %s", path, err_os(errno));
    if (state_of_open(s->fd, &s->state) && s->state.type == FILE_PLAIN)
        return true;
    close_source(s);
    return err_set(e, "%s is not a file that can be followed", path);
}

/* The bytes before the place are those that tell it again. */
static void note_seen(Source *s)
{
    size_t n = s->at < SEEN ? s->at : SEEN;
    ssize_t got = pread(s->fd, s->seen, n, (off_t)(s->at - n));
    s->n_seen = got == (ssize_t)n ? n : 0;
}

static bool still_seen(const Source *s)
{
    char now[SEEN];
    ssize_t got = pread(s->fd, now, s->n_seen, (off_t)(s->at - s->n_seen));
    return got == (ssize_t)s->n_seen && memcmp(now, s->seen, s->n_seen) == 0;
}

Follow *follow_begin(const char *path, size_t at, const DiskState *known, bool by_name)
{
    Follow *f = mem_get(sizeof *f);
    Err ignored;
    f->path = mem_string(path);
    f->by_name = by_name;
    f->now.fd = f->old.fd = f->watch.fd = -1;
    if (open_source(path, &f->now, &ignored)) {
        bool same = known->exists && state_same_node(known->file.node, f->now.state.node);
        f->now.at = same ? at : 0;
        if (same && f->now.at <= f->now.state.size)
            note_seen(&f->now);
    }
    f->gone = f->now.fd < 0;
    watch_all(f);
    return f;
}

Follow *follow_pipe(int fd)
{
    Follow *f = mem_get(sizeof *f);
    f->now.fd = fd;
    f->old.fd = f->watch.fd = -1;
    return f;
}

void follow_end(Follow *f)
{
    if (!f)
        return;
    close_source(&f->now);
    close_source(&f->old);
    watch_end(&f->watch);
    free(f->path);
    free(f);
}

/* ---- what came ---- */

static FollowNews read_pipe(Follow *f, Bytes *out, size_t most, Err *e)
{
    enum { PIECE = 64 * 1024 };
    char *piece = mem_get(PIECE);
    FollowNews news = FOLLOW_NOTHING;
    for (size_t got = 0; got < most && !f->ended;) {
        struct pollfd fd = {.fd = f->now.fd, .events = POLLIN};
        if (poll(&fd, 1, 0) <= 0)
            break;
        ssize_t n = read(f->now.fd, piece, PIECE);
        if (n < 0 && (errno == EINTR || errno == EAGAIN))
            break;
        if (n <= 0 && news == FOLLOW_MORE) /* the end is the next news */
            break;
        if (n <= 0) {
            f->ended = true;
            if (n < 0)
                err_set(e, "Cannot read on: %s", err_os(errno));
            news = n < 0 ? FOLLOW_FAILED : FOLLOW_ENDED;
            break;
        }
        bytes_add(out, piece, (size_t)n);
        got += (size_t)n;
        news = FOLLOW_MORE;
    }
    free(piece);
    return news;
}

/* What a file has after the place that was read last. */
static FollowNews read_on(Source *s, Bytes *out, size_t most, Err *e)
{
    FileState before = s->state;
    if (!state_of_open(s->fd, &s->state))
        return err_set(e, "Cannot read on: %s", err_os(errno)), FOLLOW_FAILED;
    bool written = !state_same_time(before.changed, s->state.changed) || before.size != s->state.size;
    if (s->state.size < s->at || (written && !still_seen(s))) {
        s->at = s->n_seen = 0;
        return FOLLOW_EMPTIED;
    }
    if (s->state.size == s->at)
        return FOLLOW_NOTHING;
    size_t n = s->state.size - s->at < most ? (size_t)s->state.size - s->at : most;
    char *bytes = mem_try(n);
    ssize_t got = bytes ? pread(s->fd, bytes, n, (off_t)s->at) : -1;
    int code = bytes ? errno : ENOMEM;
    if (got > 0) {
        bytes_add(out, bytes, (size_t)got);
        s->at += (size_t)got;
        note_seen(s);
    }
    free(bytes);
    if (got < 0)
        return err_set(e, "Cannot read on: %s", err_os(code)), FOLLOW_FAILED;
    return got ? FOLLOW_MORE : FOLLOW_NOTHING;
}

/* Has another file the name by now? */
static FollowNews look_at_name(Follow *f, Err *e)
{
    FileState there;
    Source next;
    bool any = state_of(f->path, &there);
    if (any && f->now.fd >= 0 && state_same_node(there.node, f->now.state.node)) {
        f->gone = false;
        return FOLLOW_NOTHING;
    }
    if (!any || !open_source(f->path, &next, e)) {
        bool news = !f->gone;
        f->gone = true;
        if (any && e->text[0] && news)
            return FOLLOW_FAILED;
        return news ? FOLLOW_GONE : FOLLOW_NOTHING;
    }
    bool first = f->now.fd < 0;
    close_source(&f->old);
    f->old = f->now; /* who writes it may not know yet that it lost its name */
    f->old_since = system_now_ms();
    f->now = next;
    f->gone = false;
    watch_all(f);
    return first ? FOLLOW_APPEARED : FOLLOW_REPLACED;
}

FollowNews follow_step(Follow *f, Bytes *out, size_t most, Err *e)
{
    FollowNews news = FOLLOW_NOTHING;
    e->text[0] = 0;
    if (!f->path)
        return f->ended ? FOLLOW_NOTHING : read_pipe(f, out, most, e);
    watch_news(&f->watch);
    if (f->old.fd >= 0) {
        Err ignored;
        news = read_on(&f->old, out, most, &ignored);
        if (news == FOLLOW_MORE)
            return news;
        if (news == FOLLOW_FAILED || system_now_ms() - f->old_since > OLD_MOST) {
            close_source(&f->old);
            watch_all(f);
        }
    }
    news = f->now.fd >= 0 ? read_on(&f->now, out, most, e) : FOLLOW_NOTHING;
    if (news != FOLLOW_NOTHING || (!f->by_name && f->now.fd >= 0))
        return news;
    return look_at_name(f, e);
}

size_t follow_fds(const Follow *f, struct pollfd *out)
{
    int fd = f->path ? f->watch.fd : f->now.fd;
    *out = (struct pollfd){.fd = fd, .events = POLLIN};
    return fd >= 0 && !f->ended;
}

int follow_wait(const Follow *f)
{
    return f->path && f->blind ? BLIND : -1;
}

const FileState *follow_state(const Follow *f)
{
    return f->path && f->now.fd >= 0 ? &f->now.state : NULL;
}
