#include "hosts/connection.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/programs.h"
#include "base/system.h"

#include <errno.h>
#include <fcntl.h>
#include <poll.h>
#include <pthread.h>
#include <signal.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <sys/wait.h>
#include <termios.h>
#include <unistd.h>

enum {
    SAID_MOST = 4096,     /* bytes of what ssh says */
    LOOK = 200,           /* ms between looks at whether somebody wants it to end */
    IN_FLIGHT_MOST = 4096 /* requests without an answer */
};

/* A request that has no answer yet, or whose answer nobody has taken. */
typedef struct Pending {
    uint32_t number;
    bool answered, forgotten;
    Bytes answer;
} Pending;

struct Connection {
    pid_t pid;
    int to, from, errors, terminal;
    pthread_t reader;
    pthread_mutex_t lock, write_lock;
    pthread_cond_t changed;
    atomic_int holders;
    atomic_bool ends; /* somebody wants it to */
    uint32_t last_number;
    Pending *pending;
    size_t n_pending;
    uint64_t heard; /* ms, when the server said something last, or was asked after a silence */
    bool greeted, lost;
    ServerSkills skills;
    Bytes said;          /* by ssh, for people */
    const char *refused; /* words in it that mean that it goes no further; or NULL */
    Err why;
};

static atomic_uint patience = 30000; /* ms */

void connection_be_patient(unsigned ms)
{
    atomic_store(&patience, ms);
}

/* ---- the other process ---- */

static void become(char *const words[], int in, int out, int err, int terminal)
{
    if (terminal >= 0) { /* it asks the person there, alone */
        setpgid(0, 0);
        tcsetpgrp(terminal, getpid()); /* SIGTTOU is ignored until it is another program */
    } else {
        setsid();
    }
    signal(SIGTTOU, SIG_DFL);
    dup2(in, 0);
    dup2(out, 1);
    dup2(err, 2);
    setenv("LC_ALL", "C.UTF-8", 1);
    execvp(words[0], words);
    _exit(127);
}

static void close_both(int ends[2])
{
    for (int i = 0; i < 2; i++)
        if (ends[i] >= 0)
            close(ends[i]);
}

static bool run(Connection *c, char *const words[], int terminal, Err *e)
{
    int in[2] = {-1, -1}, out[2] = {-1, -1}, err[2] = {-1, -1};
    bool ok = system_pipe(in, false) && system_pipe(out, false) && system_pipe(err, false);
    void (*before)(int) = signal(SIGTTOU, SIG_IGN);
    c->pid = ok ? programs_fork() : -1;
    if (c->pid == 0) {
        if (terminal >= 0)
            signal(SIGTTOU, SIG_IGN);
        become(words, in[0], out[1], err[1], terminal);
    }
    int code = errno;
    signal(SIGTTOU, before);
    if (c->pid < 0) {
        close_both(in);
        close_both(out);
        close_both(err);
        return err_set(e, "%s cannot be run: %s", words[0], err_os(code));
    }
    close(in[0]);
    close(out[1]);
    close(err[1]);
    c->terminal = terminal;
    c->to = in[1];
    c->from = out[0];
    c->errors = err[0];
    fcntl(c->to, F_SETFL, O_NONBLOCK);
    fcntl(c->from, F_SETFL, O_NONBLOCK);
    fcntl(c->errors, F_SETFL, O_NONBLOCK);
    return true;
}

/* ---- what arrives ---- */

static void lose(Connection *c, const char *why)
{
    pthread_mutex_lock(&c->lock);
    if (!c->lost)
        err_set(&c->why, "%s", why);
    c->lost = true;
    pthread_cond_broadcast(&c->changed);
    pthread_mutex_unlock(&c->lock);
}

static void take_version(Connection *c, PacketReader *r)
{
    struct {
        const char *name;
        bool *skill;
    } known[] = {{"posix-rename@openssh.com", &c->skills.posix_rename},
                 {"fsync@openssh.com", &c->skills.fsync},
                 {"hardlink@openssh.com", &c->skills.hardlink}};
    while (r->left && !r->bad) {
        size_t n, m;
        const char *name = packet_read_string(r, PACKET_STRING_MOST, &n);
        packet_read_string(r, PACKET_STRING_MOST, &m);
        for (size_t i = 0; i < sizeof known / sizeof *known; i++)
            if (strlen(known[i].name) == n && memcmp(known[i].name, name, n) == 0)
                *known[i].skill = true;
    }
}

/* A whole packet without its length. Why it cannot be believed, or NULL. */
static const char *take_packet(Connection *c, const char *at, size_t n)
{
    PacketReader r = packet_reader(at, n);
    unsigned type = packet_read_u8(&r);
    uint32_t number = packet_read_u32(&r);
    const char *wrong = NULL;
    pthread_mutex_lock(&c->lock);
    c->heard = system_now_ms();
    if (!c->greeted) {
        wrong = type != PACKET_VERSION || r.bad ? "what answers there is no SFTP server"
                : number < 3                    ? "the server there speaks a version of SFTP before 3"
                                                : NULL;
        if (!wrong)
            take_version(c, &r);
        c->greeted = !wrong;
    } else {
        size_t i = 0;
        while (i < c->n_pending && (c->pending[i].number != number || c->pending[i].answered))
            i++;
        if (r.bad || i == c->n_pending) {
            wrong = "the server answers what was not asked";
        } else if (c->pending[i].forgotten) {
            c->pending[i] = c->pending[--c->n_pending];
        } else {
            Pending *p = &c->pending[i];
            char kind = (char)type;
            bytes_add(&p->answer, &kind, 1);
            bytes_add(&p->answer, r.at, r.left);
            p->answered = true;
        }
    }
    pthread_cond_broadcast(&c->changed);
    pthread_mutex_unlock(&c->lock);
    return wrong;
}

/* Takes the whole packets out of what came. */
static const char *take_packets(Connection *c, Bytes *in)
{
    size_t at = 0;
    const char *wrong = NULL;
    while (!wrong && in->len - at >= 4) {
        PacketReader r = packet_reader(in->at + at, 4);
        size_t n = packet_read_u32(&r);
        if (n < 5 || n > PACKET_MOST)
            wrong =
                c->greeted ? "the server sends what is no packet" : "what answers there is no SFTP server";
        else if (in->len - at - 4 < n)
            break;
        else
            wrong = take_packet(c, in->at + at + 4, n);
        at += 4 + n;
    }
    if (!wrong && at)
        bytes_delete(in, 0, at);
    return wrong;
}

/* False at the end. */
static bool read_some(int fd, Bytes *into, size_t most)
{
    char buffer[65536];
    ssize_t n = read(fd, buffer, sizeof buffer);
    if (n < 0 && (errno == EAGAIN || errno == EINTR))
        return true;
    size_t room = into->len < most ? most - into->len : 0;
    if (n > 0)
        bytes_add(into, buffer, (size_t)n < room ? (size_t)n : room);
    return n > 0;
}

static bool too_silent(Connection *c)
{
    pthread_mutex_lock(&c->lock);
    bool waits = false;
    for (size_t i = 0; i < c->n_pending; i++)
        waits = waits || !c->pending[i].answered;
    bool silent = waits && system_now_ms() - c->heard > atomic_load(&patience);
    pthread_mutex_unlock(&c->lock);
    return silent;
}

static void *read_all(void *ctx)
{
    Connection *c = ctx;
    Bytes in = {0};
    const char *wrong = NULL;
    int errors = c->errors;
    while (!wrong && !atomic_load(&c->ends)) {
        struct pollfd fds[2] = {{.fd = c->from, .events = POLLIN}, {.fd = errors, .events = POLLIN}};
        poll(fds, 2, LOOK);
        if (fds[1].revents) {
            pthread_mutex_lock(&c->lock);
            if (!read_some(errors, &c->said, SAID_MOST))
                errors = -1;
            pthread_mutex_unlock(&c->lock);
        }
        if (fds[0].revents && !read_some(c->from, &in, 2 * (PACKET_MOST + 4)))
            wrong = "the connection has ended";
        const char *mistake = take_packets(c, &in);
        wrong = mistake ? mistake : wrong;
        if (!wrong && too_silent(c))
            wrong = "it does not answer";
    }
    while (errors >= 0 && !atomic_load(&c->ends)) { /* its last words */
        struct pollfd fd = {.fd = errors, .events = POLLIN};
        if (poll(&fd, 1, LOOK) != 1 || !read_some(errors, &c->said, SAID_MOST))
            break;
    }
    lose(c, wrong ? wrong : "it was given up");
    bytes_free(&in);
    return NULL;
}

/* ---- beginning and end ---- */

Connection *connection_begin(char *const words[], int terminal, Err *e)
{
    Connection *c = mem_get(sizeof *c);
    pthread_mutex_init(&c->lock, NULL);
    pthread_mutex_init(&c->write_lock, NULL);
    pthread_cond_init(&c->changed, NULL);
    atomic_store(&c->holders, 1);
    c->to = c->from = c->errors = -1;
    c->heard = system_now_ms();
    if (run(c, words, terminal, e)) {
        if (system_thread(&c->reader, read_all, c))
            return c;
        err_set(e, "No thread can be had for the connection");
        kill(c->pid, SIGKILL);
        waitpid(c->pid, NULL, 0);
    }
    for (int i = 0; i < 3; i++) {
        int fd = i == 0 ? c->to : i == 1 ? c->from : c->errors;
        if (fd >= 0)
            close(fd);
    }
    free(c);
    return NULL;
}

void connection_end(Connection *c)
{
    atomic_store(&c->ends, true);
    lose(c, "it was given up");
}

Connection *connection_hold(Connection *c)
{
    atomic_fetch_add(&c->holders, 1);
    return c;
}

/* It is asked to end by the end of its input; after a moment it is made to. */
static void end_process(pid_t pid)
{
    struct timespec moment = {0, 10 * 1000 * 1000};
    for (int i = 0; i < 20; i++) {
        if (waitpid(pid, NULL, WNOHANG) == pid)
            return;
        if (i == 5)
            kill(pid, SIGTERM);
        nanosleep(&moment, NULL);
    }
    kill(pid, SIGKILL);
    waitpid(pid, NULL, 0);
}

void connection_drop(Connection *c)
{
    if (!c || atomic_fetch_sub(&c->holders, 1) != 1)
        return;
    atomic_store(&c->ends, true);
    close(c->to);
    pthread_join(c->reader, NULL);
    close(c->from);
    if (c->errors >= 0)
        close(c->errors);
    end_process(c->pid);
    for (size_t i = 0; i < c->n_pending; i++)
        bytes_free(&c->pending[i].answer);
    free(c->pending);
    bytes_free(&c->said);
    pthread_mutex_destroy(&c->lock);
    pthread_mutex_destroy(&c->write_lock);
    pthread_cond_destroy(&c->changed);
    free(c);
}

bool connection_lost(const Connection *c)
{
    Connection *all = (Connection *)c;
    pthread_mutex_lock(&all->lock);
    bool lost = c->lost;
    pthread_mutex_unlock(&all->lock);
    return lost;
}

/* The last line that ssh said says most. */
void connection_why(Connection *c, Err *e)
{
    pthread_mutex_lock(&c->lock);
    size_t n = c->said.len;
    while (n && (c->said.at[n - 1] == '\n' || c->said.at[n - 1] == '\r'))
        n--;
    size_t from = n;
    while (from && c->said.at[from - 1] != '\n')
        from--;
    if (n > from)
        err_set(e, "%.*s", (int)(n - from), c->said.at + from);
    else
        err_set(e, "%s", c->why.text[0] ? c->why.text : "the connection has ended");
    pthread_mutex_unlock(&c->lock);
}

ServerSkills connection_skills(const Connection *c)
{
    return c->skills;
}

/* Waits a moment for something to change. */
static void wait_a_moment(Connection *c)
{
    struct timespec until;
    clock_gettime(CLOCK_REALTIME, &until);
    until.tv_nsec += LOOK * 1000 * 1000;
    until.tv_sec += until.tv_nsec / 1000000000;
    until.tv_nsec %= 1000000000;
    pthread_cond_timedwait(&c->changed, &c->lock, &until);
}

static bool is_wanted(const atomic_bool *stop)
{
    return !stop || !atomic_load((atomic_bool *)stop);
}

/* What it says while the terminal is its own goes there, but for bytes that would steer the terminal. After
 * that nobody sees it. */
static void show_said(Connection *c, size_t *shown)
{
    for (; c->terminal >= 0 && *shown < c->said.len; ++*shown) {
        char b = c->said.at[*shown];
        bool steers = (b < ' ' && b != '\n' && b != '\t' && b != '\r') || (unsigned char)b >= 0x7f;
        ssize_t ignored = write(c->terminal, steers ? "?" : &b, 1);
        (void)ignored;
    }
}

bool connection_greet(Connection *c, const atomic_bool *stop, Err *e)
{
    Bytes hello = {0};
    size_t at = packet_begin(&hello, PACKET_INIT, 3); /* the version stands where others have a number */
    packet_end(&hello, at);
    uint64_t since = system_now_ms();
    size_t shown = 0;
    bool sent = connection_send(c, &hello, 0), late = false;
    bytes_free(&hello);
    pthread_mutex_lock(&c->lock);
    while (sent && !c->greeted && !c->lost && is_wanted(stop) && !late) {
        wait_a_moment(c);
        show_said(c, &shown);
        if (c->refused && strstr(bytes_str(&c->said), c->refused))
            break;
        late = c->terminal < 0 && system_now_ms() - since > atomic_load(&patience);
    }
    bool ok = c->greeted && !c->lost;
    pthread_mutex_unlock(&c->lock);
    if (ok)
        return true;
    if (late)
        lose(c, "it does not answer");
    if (c->refused && strstr(bytes_str(&c->said), c->refused))
        return err_set(e, "the password was not right");
    /* Its words come with its end, also where it ended before it could be asked anything. */
    for (int i = 0; i < 40 && is_wanted(stop) && !late && !connection_lost(c); i++) {
        pthread_mutex_lock(&c->lock);
        wait_a_moment(c);
        pthread_mutex_unlock(&c->lock);
    }
    connection_why(c, e);
    return false;
}

/* ---- asking ---- */

uint32_t connection_number(Connection *c)
{
    pthread_mutex_lock(&c->lock);
    uint32_t number = ++c->last_number ? c->last_number : ++c->last_number;
    pthread_mutex_unlock(&c->lock);
    return number;
}

static bool expect(Connection *c, uint32_t number)
{
    pthread_mutex_lock(&c->lock);
    bool idle = c->n_pending == 0, ok = !c->lost && c->n_pending < IN_FLIGHT_MOST;
    if (ok && number) {
        c->pending = array_room(c->pending, c->n_pending, sizeof *c->pending);
        c->pending[c->n_pending++] = (Pending){.number = number};
    }
    if (idle)
        c->heard = system_now_ms();
    pthread_mutex_unlock(&c->lock);
    return ok;
}

bool connection_send(Connection *c, const Bytes *packets, uint32_t number)
{
    size_t at = 0;
    if (!expect(c, number))
        return false;
    pthread_mutex_lock(&c->write_lock);
    while (at < packets->len && !connection_lost(c)) {
        struct pollfd fd = {.fd = c->to, .events = POLLOUT};
        poll(&fd, 1, LOOK);
        ssize_t n = fd.revents ? write(c->to, packets->at + at, packets->len - at) : 0;
        if (n < 0 && errno != EAGAIN && errno != EINTR) {
            break; /* why is known to the one who reads */
        }
        at += n > 0 ? (size_t)n : 0;
    }
    pthread_mutex_unlock(&c->write_lock);
    return at == packets->len;
}

void connection_say(Connection *c, const char *words, const char *refused)
{
    Bytes b = {0};
    pthread_mutex_lock(&c->lock);
    c->refused = refused;
    pthread_mutex_unlock(&c->lock);
    bytes_add_str(&b, words);
    connection_send(c, &b, 0);
    if (b.at)
        explicit_bzero(b.at, b.len);
    bytes_free(&b);
}

static Pending *find(Connection *c, uint32_t number)
{
    for (size_t i = 0; i < c->n_pending; i++)
        if (c->pending[i].number == number)
            return &c->pending[i];
    return NULL;
}

bool connection_wait(Connection *c, uint32_t number, const atomic_bool *stop, Bytes *answer)
{
    *answer = (Bytes){0};
    pthread_mutex_lock(&c->lock);
    Pending *p;
    while ((p = find(c, number)) && !p->answered && !c->lost && is_wanted(stop))
        wait_a_moment(c);
    bool ok = p && p->answered;
    if (ok) {
        *answer = p->answer;
        *p = c->pending[--c->n_pending];
    } else if (p) {
        p->forgotten = true;
    }
    pthread_mutex_unlock(&c->lock);
    return ok;
}

void connection_forget(Connection *c, uint32_t number)
{
    pthread_mutex_lock(&c->lock);
    Pending *p = find(c, number);
    if (p && p->answered) {
        bytes_free(&p->answer);
        *p = c->pending[--c->n_pending];
    } else if (p) {
        p->forgotten = true;
    }
    pthread_mutex_unlock(&c->lock);
}
