#include "script/workers.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "base/system.h"
#include "files/write.h"

#include <errno.h>
#include <fcntl.h>
#include <poll.h>
#include <stdlib.h>
#include <string.h>
#include <sys/wait.h>
#include <unistd.h>

enum { WORKERS_MOST = 16 };

/* What came of a piece, as its process hands it over; the bytes follow. */
typedef struct Head {
    size_t piece, out, err;
    int status;
} Head;

typedef struct Result {
    bool there;
    int status;
    char *bytes; /* first what goes to standard output, then the rest */
    size_t out, err;
} Result;

typedef struct Worker {
    pid_t pid;
    int from; /* -1: it has ended */
    Bytes got;
} Worker;

size_t workers_standard(void)
{
    long n = sysconf(_SC_NPROCESSORS_ONLN);
    return n < 1 ? 1 : n > WORKERS_MOST ? WORKERS_MOST : (size_t)n;
}

/* Does a piece and gathers what it prints; the bytes are the caller's. */
static Result do_piece(const Work *w, size_t piece)
{
    char *out = NULL, *err = NULL;
    Result r = {.there = true};
    FILE *to = open_memstream(&out, &r.out), *also = open_memstream(&err, &r.err);
    if (to && also)
        r.status = w->run(piece, to, also, w->ctx);
    if (to)
        fclose(to);
    if (also)
        fclose(also);
    r.bytes = mem_get(r.out + r.err + 1);
    if (r.out)
        memcpy(r.bytes, out, r.out);
    if (r.err)
        memcpy(r.bytes + r.out, err, r.err);
    free(out);
    free(err);
    return r;
}

static void print(Result *r)
{
    fwrite(r->bytes, 1, r->out, stdout);
    fflush(stdout);
    fwrite(r->bytes + r->out, 1, r->err, stderr);
    free(r->bytes);
    r->bytes = NULL;
}

/* The life of a worker. */
static void work_through(const Work *w, size_t lane, const size_t *lane_of, int to,
                         const volatile sig_atomic_t *end)
{
    for (size_t i = 0; i < w->n && !*end; i++) {
        if (lane_of[i] != lane)
            continue;
        Result r = do_piece(w, i);
        Head h = {i, r.out, r.err, r.status};
        if (!write_all(to, (const char *)&h, sizeof h) || !write_all(to, r.bytes, r.out + r.err))
            break;
        free(r.bytes);
    }
    _exit(0);
}

static bool start(const Work *w, Worker *all, size_t k, const size_t *lane_of,
                  const volatile sig_atomic_t *end)
{
    int pipes[2];
    all[k].from = -1;
    if (!system_pipe(pipes, false))
        return false;
    fflush(NULL); /* or it would be printed twice */
    all[k].pid = fork();
    if (all[k].pid == 0) {
        for (size_t i = 0; i < k; i++)
            close(all[i].from);
        close(pipes[0]);
        work_through(w, k, lane_of, pipes[1], end);
    }
    close(pipes[1]);
    if (all[k].pid < 0) {
        close(pipes[0]);
        return false;
    }
    all[k].from = pipes[0];
    return true;
}

/* Takes the whole results from what has come. */
static void take_results(Worker *k, Result *results, size_t n)
{
    Head h;
    size_t at = 0;
    while (k->got.len - at >= sizeof h) {
        memcpy(&h, k->got.at + at, sizeof h);
        if (h.piece >= n || k->got.len - at - sizeof h < h.out + h.err)
            break;
        Result *r = &results[h.piece];
        *r = (Result){.there = true, .status = h.status, .out = h.out, .err = h.err};
        r->bytes = mem_get(h.out + h.err + 1);
        memcpy(r->bytes, k->got.at + at + sizeof h, h.out + h.err);
        at += sizeof h + h.out + h.err;
    }
    bytes_delete(&k->got, 0, at);
}

static void take(Worker *k, Result *results, size_t n)
{
    char buffer[65536];
    ssize_t got = read(k->from, buffer, sizeof buffer);
    if (got < 0 && errno == EINTR)
        return;
    if (got > 0) {
        bytes_add(&k->got, buffer, (size_t)got);
        take_results(k, results, n);
        return;
    }
    close(k->from);
    k->from = -1;
    waitpid(k->pid, NULL, 0);
    bytes_free(&k->got);
}

static int worse(int a, int b)
{
    return a > b ? a : b;
}

/* Prints those whose turn it is. */
static int print_ready(Result *results, size_t n, size_t *next)
{
    int worst = 0;
    for (; *next < n && results[*next].there; ++*next) {
        worst = worse(worst, results[*next].status);
        print(&results[*next]);
    }
    return worst;
}

/* All have ended: the rest, and what is missing. */
static int print_rest(const Work *w, Result *results, size_t next, const volatile sig_atomic_t *end)
{
    int worst = 0;
    for (; next < w->n; next++) {
        if (results[next].there)
            print(&results[next]);
        worst = worse(worst, results[next].there ? results[next].status
                             : *end              ? 1
                                                 : w->lost(next, stderr, w->ctx));
    }
    return worst;
}

static int one_after_the_other(const Work *w, const volatile sig_atomic_t *end)
{
    int worst = 0;
    for (size_t i = 0; i < w->n && !*end; i++)
        worst = worse(worst, w->run(i, stdout, stderr, w->ctx));
    return worst;
}

int workers_run(const Work *w, size_t at_once, const volatile sig_atomic_t *end)
{
    size_t lanes = at_once > WORKERS_MOST ? WORKERS_MOST : at_once, next = 0, going = 0;
    Worker all[WORKERS_MOST] = {{0}};
    int worst = 0;
    if (lanes < 2)
        return one_after_the_other(w, end);
    Result *results = mem_get(w->n * sizeof *results);
    size_t *lane_of = mem_get(w->n * sizeof *lane_of);
    for (size_t i = 0; i < w->n; i++) /* before any is done: saving changes what tells files apart */
        lane_of[i] = w->lane(i, w->ctx) % lanes;
    for (size_t i = 0; i < lanes; i++)
        going += start(w, all, i, lane_of, end);
    while (going) {
        struct pollfd fds[WORKERS_MOST];
        for (size_t i = 0; i < lanes; i++)
            fds[i] = (struct pollfd){.fd = all[i].from, .events = POLLIN};
        if (poll(fds, lanes, -1) < 0)
            continue;
        for (size_t i = 0; i < lanes; i++)
            if (fds[i].fd >= 0 && fds[i].revents) {
                take(&all[i], results, w->n);
                going -= all[i].from < 0;
            }
        worst = worse(worst, print_ready(results, w->n, &next));
    }
    worst = worse(worst, print_rest(w, results, next, end));
    free(results);
    free(lane_of);
    return worst;
}
