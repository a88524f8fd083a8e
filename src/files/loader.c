#include "files/loader.h"

#include "base/mem.h"
#include "base/system.h"

#include <errno.h>
#include <fcntl.h>
#include <poll.h>
#include <pthread.h>
#include <stdatomic.h>
#include <stdint.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum {
    THREADS = 2,
    PIECE = 256 * 1024, /* read and counted at a time: it stays in the processor's cache */
    WAKE_EACH = 8       /* blocks between two wake-ups of the main thread */
};

/* One block of the file; `ready` is the last thing that a thread sets. */
typedef struct Part {
    Block *block;
    int code; /* errno of a failure; ENOMEM without memory */
    atomic_bool ready;
} Part;

/* What came from a stream at once. */
typedef struct Arrived {
    struct Arrived *next;
    Block *block;
} Arrived;

struct Loader {
    bool stream, fed;
    size_t most; /* bytes of a stream */
    pthread_mutex_t lock;
    Arrived *first, **last;
    bool ended;
    int failed; /* errno */
    /* of one that is fed: */
    atomic_int holders; /* the last one frees it */
    size_t size_said;
    DiskState disk;
    Err why;
    int halt[2]; /* written to when the stream's thread is to end */
    int fd;
    char *name;
    size_t from, size, taken;
    Part *parts;
    size_t n, next_taken; /* the next part the main thread takes */
    atomic_size_t next;   /* the next one a thread takes */
    atomic_bool stop;
    pthread_t threads[THREADS];
    int n_threads;
    bool started, reached_end;
    int wake[2];
};

Loader *loader_new(int fd, size_t from, size_t size, const char *name)
{
    Loader *l = mem_get(sizeof *l);
    l->fd = fd;
    l->name = mem_string(name);
    l->from = l->taken = from;
    l->size = size;
    l->n = size > from ? (size - from + BLOCK_MAX - 1) / BLOCK_MAX : 0;
    l->parts = mem_get((l->n + 1) * sizeof *l->parts);
    if (!system_pipe(l->wake, true))
        l->wake[0] = l->wake[1] = -1;
    return l;
}

Loader *loader_stream(int fd, size_t most, const char *name)
{
    Loader *l = loader_new(fd, 0, 0, name);
    l->stream = true;
    l->most = most;
    l->last = &l->first;
    pthread_mutex_init(&l->lock, NULL);
    if (!system_pipe(l->halt, true))
        l->halt[0] = l->halt[1] = -1;
    return l;
}

Loader *loader_fed(const char *name)
{
    Loader *l = loader_stream(-1, SIZE_MAX, name);
    l->fed = l->started = true;
    atomic_store(&l->holders, 2);
    return l;
}

static void wake_up(Loader *l)
{
    ssize_t ignored = write(l->wake[1], "", 1);
    (void)ignored;
}

/* Hands over what came (n bytes), or that it ended, or why nothing more can come. */
static void arrived(Loader *l, const char *bytes, size_t n, int failed)
{
    Block *b = n ? block_new(n) : NULL;
    Arrived *a = b ? mem_get(sizeof *a) : NULL;
    if (b) {
        memcpy(b->bytes, bytes, n);
        block_set_len(b, n);
        a->block = b;
    }
    pthread_mutex_lock(&l->lock);
    if (a) {
        *l->last = a;
        l->last = &a->next;
    } else {
        l->ended = true;
        l->failed = n ? ENOMEM : failed;
    }
    pthread_mutex_unlock(&l->lock);
    wake_up(l);
}

void loader_feed_size(Loader *l, size_t size)
{
    pthread_mutex_lock(&l->lock);
    l->size_said = size;
    pthread_mutex_unlock(&l->lock);
}

bool loader_feed(Loader *l, const char *bytes, size_t n)
{
    if (n)
        arrived(l, bytes, n, 0);
    return !atomic_load(&l->stop) && !l->failed; /* which this thread alone sets */
}

static void let_go(Loader *l);

void loader_feed_end(Loader *l, const DiskState *disk, const char *failed)
{
    pthread_mutex_lock(&l->lock);
    l->disk = *disk;
    if (failed && !l->failed) {
        err_set(&l->why, "%s", failed);
        l->failed = EIO;
    }
    pthread_mutex_unlock(&l->lock);
    arrived(l, NULL, 0, l->failed);
    let_go(l);
}

const DiskState *loader_disk(const Loader *l)
{
    return l->fed && l->ended ? &l->disk : NULL;
}

/* The thread of a stream. */
static void *follow(void *ctx)
{
    Loader *l = ctx;
    char *buffer = mem_get(PIECE);
    size_t all = 0;
    for (;;) {
        struct pollfd fds[2] = {{.fd = l->fd, .events = POLLIN}, {.fd = l->halt[0], .events = POLLIN}};
        if (poll(fds, 2, -1) < 0 && errno != EINTR)
            break;
        if (fds[1].revents)
            break;
        ssize_t n = read(l->fd, buffer, PIECE);
        if (n < 0 && (errno == EINTR || errno == EAGAIN))
            continue;
        all += n > 0 ? (size_t)n : 0;
        if (n <= 0 || all > l->most) {
            arrived(l, NULL, 0, n == 0 ? 0 : n < 0 ? errno : EFBIG);
            break;
        }
        arrived(l, buffer, (size_t)n, 0);
    }
    free(buffer);
    return NULL;
}

static LoadState take_stream(Loader *l, Text *t, Err *e)
{
    pthread_mutex_lock(&l->lock);
    Arrived *all = l->first;
    bool ended = l->ended;
    int failed = l->failed;
    l->first = NULL;
    l->last = &l->first;
    l->size = l->size_said;
    pthread_mutex_unlock(&l->lock);
    for (Arrived *next; all; all = next) {
        next = all->next;
        l->taken += all->block->len;
        if (!text_add_block(t, all->block))
            failed = ENOMEM;
        free(all);
    }
    if (failed == EFBIG)
        err_set(e, "%s does not come to an end; more than %zu MB are not read", l->name, l->most / 1000000);
    else if (failed && l->why.text[0])
        *e = l->why;
    else if (failed)
        err_set(e, "Cannot read all of %s: %s", l->name, err_os(failed));
    return failed ? LOAD_FAILED : ended ? LOADED : LOADING;
}

/* Fills a block from a place of the file; less than its room only at the file's end. */
static int fill(const Loader *l, Block *b, size_t at)
{
    while (b->len < b->cap && !atomic_load_explicit(&l->stop, memory_order_relaxed)) {
        size_t want = b->cap - b->len < PIECE ? b->cap - b->len : PIECE;
        ssize_t n = pread(l->fd, b->bytes + b->len, want, (off_t)(at + b->len));
        if (n < 0 && errno == EINTR)
            continue;
        if (n < 0)
            return errno;
        if (n == 0)
            break;
        block_set_len(b, b->len + (size_t)n);
    }
    return 0;
}

static void load_part(Loader *l, size_t i)
{
    size_t at = l->from + i * BLOCK_MAX, left = l->size - at;
    Part *p = &l->parts[i];
    p->block = block_new(left < BLOCK_MAX ? left : BLOCK_MAX);
    p->code = p->block ? fill(l, p->block, at) : ENOMEM;
    atomic_store_explicit(&p->ready, true, memory_order_release);
}

static void *work(void *ctx)
{
    Loader *l = ctx;
    system_give_way(); /* the person comes first */
    for (size_t i; !atomic_load(&l->stop) && (i = atomic_fetch_add(&l->next, 1)) < l->n;) {
        load_part(l, i);
        if ((i + 1) % WAKE_EACH == 0 || i + 1 >= l->n - (l->n < THREADS ? 0 : THREADS)) {
            wake_up(l);
        }
    }
    return NULL;
}

void loader_start(Loader *l)
{
    l->started = true;
    if (l->stream) {
        if (l->halt[1] >= 0 && l->wake[1] >= 0 && system_thread(&l->threads[0], follow, l))
            l->n_threads = 1;
        else
            arrived(l, NULL, 0, EAGAIN);
        return;
    }
    while (l->wake[1] >= 0 && l->n_threads < THREADS && (size_t)l->n_threads < l->n &&
           system_thread(&l->threads[l->n_threads], work, l))
        l->n_threads++;
}

bool loader_started(const Loader *l)
{
    return l->started;
}

int loader_fd(const Loader *l)
{
    return l->wake[0];
}

/* What was written after the end since the size was asked for. */
static LoadState take_growth(Loader *l, Text *t, Err *e)
{
    for (;;) {
        Block *b = block_new(PIECE);
        int code = b ? fill(l, b, l->taken) : ENOMEM;
        size_t n = b ? b->len : 0;
        if (code || !text_add_block(t, b)) {
            if (code && b)
                block_drop(b);
            err_set(e, "Cannot read all of %s: %s", l->name, err_os(code ? code : ENOMEM));
            return LOAD_FAILED;
        }
        l->taken += n;
        if (n < PIECE)
            return LOADED;
    }
}

LoadState loader_take(Loader *l, Text *t, Err *e)
{
    char bytes[256];
    if (!l->started)
        return LOADING;
    while (l->wake[0] >= 0 && read(l->wake[0], bytes, sizeof bytes) > 0)
        continue;
    if (l->stream)
        return take_stream(l, t, e);
    for (; l->next_taken < l->n && !l->reached_end; l->next_taken++) {
        Part *p = &l->parts[l->next_taken];
        if (l->n_threads == 0)
            load_part(l, l->next_taken);
        if (!atomic_load_explicit(&p->ready, memory_order_acquire))
            return LOADING;
        if (p->code) {
            err_set(e, "Cannot read all of %s: %s", l->name, err_os(p->code));
            return LOAD_FAILED;
        }
        size_t n = p->block->len;
        l->reached_end = n < p->block->cap; /* it shrank meanwhile */
        Block *b = p->block;
        p->block = NULL;
        if (!text_add_block(t, b)) {
            err_set(e, "There is not enough memory for all of %s", l->name);
            return LOAD_FAILED;
        }
        l->taken += n;
    }
    return l->reached_end ? LOADED : take_growth(l, t, e);
}

bool loader_finish(Loader *l, Text *t, Err *e)
{
    if (!l->started)
        loader_start(l);
    for (LoadState s; (s = loader_take(l, t, e)) != LOADED;) {
        struct pollfd fd = {.fd = l->wake[0], .events = POLLIN};
        if (s == LOAD_FAILED)
            return false;
        poll(&fd, 1, 100);
    }
    return true;
}

size_t loader_done(const Loader *l)
{
    return l->taken;
}

size_t loader_size(const Loader *l)
{
    return l->size;
}

/* Nobody uses it any more. */
static void free_all(Loader *l)
{
    for (size_t i = 0; i < l->n; i++)
        if (l->parts[i].block)
            block_drop(l->parts[i].block);
    for (int i = 0; i < 2; i++)
        if (l->wake[i] >= 0)
            close(l->wake[i]);
    if (l->stream) {
        Text rest = {0};
        Err ignored;
        take_stream(l, &rest, &ignored);
        text_drop(&rest);
        for (int i = 0; i < 2; i++)
            if (l->halt[i] >= 0)
                close(l->halt[i]);
        pthread_mutex_destroy(&l->lock);
    }
    if (l->fd >= 0)
        close(l->fd);
    free(l->parts);
    free(l->name);
    free(l);
}

static void let_go(Loader *l)
{
    if (atomic_fetch_sub(&l->holders, 1) == 1)
        free_all(l);
}

void loader_free(Loader *l)
{
    if (!l)
        return;
    atomic_store(&l->stop, true);
    if (l->stream && l->halt[1] >= 0) {
        ssize_t ignored = write(l->halt[1], "", 1);
        (void)ignored;
    }
    for (int i = 0; i < l->n_threads; i++)
        pthread_join(l->threads[i], NULL);
    if (l->fed)
        let_go(l);
    else
        free_all(l);
}
