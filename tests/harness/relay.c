/* Stands where ssh would: carries bytes between us and an SFTP server of this machine, and does what networks
 * and bad servers do. RELAY says what: nothing, or one of up N        after N bytes to the server both ends
 * are cut down N      after N bytes from it flip N X    byte N from the server is changed by the bits X again
 * N     what came from the server around byte N comes twice bytes       one byte at a time, in both ways
 *   delay MS    each way takes that long
 *   silent N    after N bytes from the server nothing comes any more
 *   endless N   after N bytes from the server, zeros without end
 * The server is in RELAY_SERVER; ssh's arguments are not looked at. */
#include <errno.h>
#include <poll.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

enum { AT_ONCE = 65536, WAITING = 4096 /* pieces on their way */ };

static char mode[16];
static unsigned long number, bits;

static int is(const char *name)
{
    return strcmp(mode, name) == 0;
}

static long long now_ms(void)
{
    struct timespec t;
    clock_gettime(CLOCK_MONOTONIC, &t);
    return t.tv_sec * 1000LL + t.tv_nsec / 1000000;
}

static void put(int fd, const char *at, size_t n)
{
    while (n) {
        ssize_t done = write(fd, at, n);
        if (done < 0 && errno == EINTR)
            continue;
        if (done <= 0)
            _exit(1);
        at += done;
        n -= (size_t)done;
    }
}

/* One way of the two. */
typedef struct Way {
    int from, to, down;
    unsigned long passed;
    struct Piece {
        char *at;
        size_t n;
        long long due;
    } pieces[WAITING];
    size_t first, n;
} Way;

static void pass(Way *w, char *at, size_t n)
{
    unsigned long before = w->passed;
    w->passed += n;
    if ((is("up") && !w->down) || (is("down") && w->down))
        if (w->passed >= number) {
            put(w->to, at, number - before);
            _exit(1);
        }
    if (w->down && is("flip") && before <= number && number < w->passed)
        at[number - before] = (char)(at[number - before] ^ (char)bits);
    if (w->down && (is("silent") || is("endless")) && w->passed > number) {
        put(w->to, at, number > before ? number - before : 0);
        static const char zeros[AT_ONCE];
        while (is("endless"))
            put(w->to, zeros, sizeof zeros);
        pause();
    }
    put(w->to, at, n);
    if (w->down && is("again") && before <= number && number < w->passed)
        put(w->to, at, n);
}

static int take(Way *w)
{
    static char buffer[AT_ONCE];
    ssize_t n = read(w->from, buffer, is("bytes") ? 1 : sizeof buffer);
    if (n <= 0)
        return 0;
    if (!is("delay")) {
        pass(w, buffer, (size_t)n);
        return 1;
    }
    struct Piece *p = &w->pieces[(w->first + w->n++) % WAITING];
    *p = (struct Piece){malloc((size_t)n), (size_t)n, now_ms() + (long long)number};
    memcpy(p->at, buffer, (size_t)n);
    return 1;
}

static void deliver(Way *w)
{
    while (w->n && w->pieces[w->first].due <= now_ms()) {
        struct Piece *p = &w->pieces[w->first];
        pass(w, p->at, p->n);
        free(p->at);
        w->first = (w->first + 1) % WAITING;
        w->n--;
    }
}

int main(void)
{
    const char *what = getenv("RELAY"), *server = getenv("RELAY_SERVER");
    int to[2], from[2];
    if (what)
        sscanf(what, "%15s %lu %lu", mode, &number, &bits);
    if (!server || pipe(to) || pipe(from))
        return 2;
    if (is("refused")) {
        fputs("ssh: connect to host tern port 22: Connection refused\n", stderr);
        return 255;
    }
    if (fork() == 0) {
        dup2(to[0], 0);
        dup2(from[1], 1);
        for (int i = 0; i < 2; i++) {
            close(to[i]);
            close(from[i]);
        }
        execl(server, server, (char *)NULL);
        _exit(127);
    }
    close(to[0]);
    close(from[1]);
    static Way up, down;
    up = (Way){.from = 0, .to = to[1]};
    down = (Way){.from = from[0], .to = 1, .down = 1};
    for (int open = 1; open;) {
        struct pollfd fds[2] = {{.fd = up.n < WAITING - 1 ? up.from : -1, .events = POLLIN},
                                {.fd = down.n < WAITING - 1 ? down.from : -1, .events = POLLIN}};
        poll(fds, 2, up.n || down.n ? 1 : -1);
        if (fds[0].revents)
            open = take(&up);
        if (fds[1].revents)
            open = open && take(&down);
        deliver(&up);
        deliver(&down);
    }
    return 0;
}
