#include "loader.h"

#include "mem.h"
#include "sys.h"

#include <errno.h>
#include <fcntl.h>
#include <poll.h>
#include <pthread.h>
#include <stdatomic.h>
#include <stdlib.h>
#include <string.h>
#include <sys/resource.h>
#include <sys/syscall.h>
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

struct Loader {
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
    if (pipe2(l->wake, O_CLOEXEC | O_NONBLOCK) != 0)
        l->wake[0] = l->wake[1] = -1;
    return l;
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
#ifdef SYS_gettid
    setpriority(PRIO_PROCESS, (id_t)syscall(SYS_gettid), 5); /* the person comes first */
#endif
    for (size_t i; !atomic_load(&l->stop) && (i = atomic_fetch_add(&l->next, 1)) < l->n;) {
        load_part(l, i);
        if ((i + 1) % WAKE_EACH == 0 || i + 1 >= l->n - (l->n < THREADS ? 0 : THREADS)) {
            ssize_t ignored = write(l->wake[1], "", 1);
            (void)ignored;
        }
    }
    return NULL;
}

void loader_start(Loader *l)
{
    l->started = true;
    while (l->wake[1] >= 0 && l->n_threads < THREADS && (size_t)l->n_threads < l->n &&
           sys_thread(&l->threads[l->n_threads], work, l))
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

/* What was written behind the end since the size was asked for. */
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

void loader_free(Loader *l)
{
    if (!l)
        return;
    atomic_store(&l->stop, true);
    for (int i = 0; i < l->n_threads; i++)
        pthread_join(l->threads[i], NULL);
    for (size_t i = 0; i < l->n; i++)
        if (l->parts[i].block)
            block_drop(l->parts[i].block);
    for (int i = 0; i < 2; i++)
        if (l->wake[i] >= 0)
            close(l->wake[i]);
    close(l->fd);
    free(l->parts);
    free(l->name);
    free(l);
}
