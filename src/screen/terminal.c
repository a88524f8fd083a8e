#include "screen/terminal.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "base/programs.h"
#include "base/system.h"

#include <curses.h>
#include <errno.h>
#include <fcntl.h>
#include <langinfo.h>
#include <poll.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <sys/wait.h>
#include <term.h>
#include <termios.h>
#include <unistd.h>

/* Bracketed paste, focus reports, Alt as Esc. */
static const char take_modes[] = "\033[?2004h\033[?1004h\033[?1036h";
static const char give_modes[] = "\033[?1006l\033[?1002l\033[?1036l\033[?1004l\033[?2004l";
static const char mouse_on[] = "\033[?1002h\033[?1006h";
static const char mouse_off[] = "\033[?1006l\033[?1002l";

/* What a signal handler needs stands ready: it may neither allocate nor call curses. */
static struct {
    bool taken;
    int fd;
    int shared; /* its flags before us, if others have the same descriptor; else -1 */
    bool alone; /* it does not control us: no signal tells of its size, and nobody lets us go on */
    struct termios before, ours;
    char restore[512];
    size_t n_restore;
    SCREEN *curses;
    FILE *canvas;   /* where curses writes: memory, from which it goes to the terminal as that takes it */
    Bytes pending;  /* what the terminal has not taken yet, */
    size_t flushed; /* but for so many bytes of it */
    unsigned long long sent;
    bool mouse;
    bool private_modes; /* the terminal ignores modes that it does not know */
    bool plain;         /* … but not longer sequences */
    bool cursor_known, bar;
    void (*emergency)(void);
    int pipe[2];
} term = {.fd = -1, .shared = -1, .pipe = {-1, -1}};

/* A terminal that reads nothing (stopped, cut off) must not keep us: what it does not take now is kept for
 * later. */
static void flush(void)
{
    while (term.flushed < term.pending.len) {
        ssize_t n = write(term.fd, term.pending.at + term.flushed, term.pending.len - term.flushed);
        if (n < 0 && errno == EINTR)
            continue;
        if (n < 0 && errno == EAGAIN)
            return;
        if (n < 0) /* it is gone; reading from it tells */
            break;
        term.flushed += (size_t)n;
        term.sent += (unsigned long long)n;
    }
    bytes_clear(&term.pending);
    term.flushed = 0;
}

/* Takes over what curses has written. */
static void collect(void)
{
    int fd = term.canvas ? fileno(term.canvas) : -1;
    off_t n = fd >= 0 ? lseek(fd, 0, SEEK_CUR) : 0;
    char piece[4096];
    for (off_t at = 0; at < n;) {
        ssize_t got = pread(fd, piece, n - at < (off_t)sizeof piece ? (size_t)(n - at) : sizeof piece, at);
        if (got <= 0)
            break;
        bytes_add(&term.pending, piece, (size_t)got);
        at += got;
    }
    if (n > 0)
        lseek(fd, 0, SEEK_SET);
}

static void send_bytes(const char *bytes, size_t n)
{
    collect();
    bytes_add(&term.pending, bytes, n);
    flush();
}

enum { SIDE_MOST = 2000 /* rows or columns */ };

enum { STUCK = 300 /* ms after which a terminal that takes nothing is given up */ };

/* Past what is pending; safe in signal handlers. */
static void send_now(const char *bytes, size_t n)
{
    while (n) {
        struct pollfd fd = {.fd = term.fd, .events = POLLOUT};
        ssize_t done = write(term.fd, bytes, n);
        if (done < 0 && errno != EINTR && (errno != EAGAIN || poll(&fd, 1, STUCK) != 1))
            return;
        if (done > 0) {
            bytes += done;
            n -= (size_t)done;
            term.sent += (unsigned long long)done;
        }
    }
}

void terminal_flush(void)
{
    collect();
    flush();
}

bool terminal_waits(void)
{
    return term.flushed < term.pending.len;
}

unsigned long long terminal_sent(void)
{
    return term.sent;
}

/* The last of it, as long as the terminal takes it. */
static void flush_all(void)
{
    terminal_flush();
    for (struct pollfd fd = {.fd = term.fd, .events = POLLOUT}; terminal_waits();) {
        if (poll(&fd, 1, STUCK) != 1 || (fd.revents & (POLLERR | POLLHUP)))
            break;
        flush();
    }
    bytes_clear(&term.pending);
    term.flushed = 0;
}

/* Safe in signal handlers. */
static void give_back(void)
{
    if (!term.taken)
        return;
    term.taken = false;
    send_now(term.restore, term.n_restore);
    tcsetattr(term.fd, TCSANOW, &term.before); /* not after the output: that may never be read */
    if (term.shared >= 0)
        fcntl(term.fd, F_SETFL, term.shared);
}

const char *terminal_capability(const char *name)
{
    const char *s = tigetstr(name);
    return s == (char *)-1 ? NULL : s;
}

static void add_restore(const char *s)
{
    size_t n = strlen(s);
    if (term.n_restore + n < sizeof term.restore) {
        memcpy(term.restore + term.n_restore, s, n);
        term.n_restore += n;
    }
}

/* A string of the terminal's description without its padding ("$<5>"). */
static void add_capability(const char *name)
{
    const char *s = terminal_capability(name);
    while (s && *s) {
        const char *pad = strstr(s, "$<");
        char part[128];
        size_t n = pad ? (size_t)(pad - s) : strlen(s);
        snprintf(part, sizeof part, "%.*s", (int)n, s);
        add_restore(part);
        pad = pad ? strchr(pad, '>') : NULL;
        s = pad ? pad + 1 : NULL;
    }
}

/* ---- signals ---- */

static volatile sig_atomic_t asked_to_end;

static void note_signal(int number)
{
    int saved = errno;
    asked_to_end = asked_to_end || (number != SIGWINCH && number != SIGCONT && number != SIGTSTP);
    char c = number == SIGWINCH ? 'W' : number == SIGCONT ? 'C' : number == SIGTSTP ? 'S' : 'T';
    ssize_t ignored = write(term.pipe[1], &c, 1);
    (void)ignored;
    errno = saved;
}

static void crash(int number)
{
    if (term.emergency)
        term.emergency();
    give_back();
    static const char text[] = "\r\nSteady Quill stopped because of a mistake of its own.\r\n";
    send_now(text, sizeof text - 1);
    signal(number, SIG_DFL);
    raise(number);
}

static void exhausted(void)
{
    if (term.emergency)
        term.emergency();
    give_back();
    static const char text[] = "\r\nSteady Quill stopped: the system has no memory left.\r\n";
    send_now(text, sizeof text - 1);
    _exit(1);
}

static void handle(int number, void (*handler)(int), int flags)
{
    struct sigaction a = {.sa_handler = handler, .sa_flags = flags};
    sigemptyset(&a.sa_mask);
    sigaction(number, &a, NULL);
}

static void handle_signals(void)
{
    /* A stack overflow must be survived by its handler: it gets a stack of its own. */
    static char spare_stack[64 * 1024];
    stack_t stack = {.ss_sp = spare_stack, .ss_size = sizeof spare_stack};
    sigaltstack(&stack, NULL);
    static const int crashes[] = {SIGSEGV, SIGBUS, SIGILL, SIGFPE, SIGABRT};
    for (size_t i = 0; i < sizeof crashes / sizeof *crashes; i++)
        handle(crashes[i], crash, (int)SA_RESETHAND | SA_ONSTACK);
    static const int noted[] = {SIGWINCH, SIGTERM, SIGHUP, SIGINT, SIGQUIT, SIGCONT, SIGTSTP};
    for (size_t i = 0; i < sizeof noted / sizeof *noted; i++)
        handle(noted[i], note_signal, SA_RESTART);
    signal(SIGPIPE, SIG_IGN);
    mem_on_exhaustion(exhausted);
    atexit(give_back);
}

int terminal_signals(void)
{
    return term.pipe[0];
}

bool terminal_ends(void)
{
    return asked_to_end != 0;
}

/* ---- taking over ---- */

static void take_over(void)
{
    tcsetattr(term.fd, TCSANOW, &term.ours);
    if (term.shared >= 0)
        fcntl(term.fd, F_SETFL, term.shared | O_NONBLOCK);
    term.taken = true;
    term.cursor_known = false;
    send_bytes(take_modes, term.private_modes ? sizeof take_modes - 1 : 0);
    if (term.mouse)
        send_bytes(mouse_on, sizeof mouse_on - 1);
}

void terminal_retake(void)
{
    take_over();
}

/* Consoles and their forebears: no font or no way for more than ASCII. */
static bool plain_console(const char *name)
{
    static const char *const plain[] = {"linux", "vt", "ansi", "cons", "dumb"};
    for (size_t i = 0; i < sizeof plain / sizeof *plain; i++)
        if (strncmp(name, plain[i], strlen(plain[i])) == 0)
            return true;
    return false;
}

/* Memory that curses writes to as if it were the terminal. */
static FILE *open_canvas(void)
{
    int fd = system_memory_file("screen");
    return fd >= 0 ? fdopen(fd, "r+") : NULL;
}

/* curses writes to memory, which has no size: it is told the terminal's by the variables that it reads for
 * that, and later by resizeterm(). What they said before counts for nothing, and may be anything. */
static void tell_size(bool begin)
{
    static const char *const names[2] = {"LINES", "COLUMNS"};
    char number[16];
    struct winsize w = {0};
    bool known = ioctl(term.fd, TIOCGWINSZ, &w) == 0 && w.ws_row && w.ws_col;
    for (int i = 0; i < 2; i++) {
        int n = !known ? (i ? 80 : 24) : i ? w.ws_col : w.ws_row;
        snprintf(number, sizeof number, "%d", n < SIDE_MOST ? n : SIDE_MOST);
        if (begin)
            setenv(names[i], number, 1);
        else
            unsetenv(names[i]);
    }
}

/* Until ncurses has come back from endwin() once, it writes at every movement of the cursor: forty times for
 * a screen. After that, a frame is one write. What it writes until then is not meant for anybody. */
static void write_at_once(void)
{
    endwin();
    lseek(fileno(term.canvas), 0, SEEK_SET);
}

/* The terminal that controls us. Without one (a rescue shell, su -c, setsid) it is what standard input,
 * output or errors are; where that may not be opened once more, as it is another user's, the descriptor is
 * shared. */
static int open_terminal(int flags, bool *shared)
{
    int fd = open("/dev/tty", flags);
    *shared = false;
    for (int i = 0; fd < 0 && i <= STDERR_FILENO; i++) {
        bool is_one = isatty(i); /* which has no name where there is no /dev */
        const char *name = is_one ? ttyname(i) : NULL;
        fd = name ? open(name, flags) : -1;
        *shared = is_one && fd < 0;
        if (*shared)
            fd = fcntl(i, F_DUPFD_CLOEXEC, STDERR_FILENO + 1);
    }
    return fd;
}

static bool find_terminal(Err *e)
{
    bool shared;
    term.fd = open_terminal(O_RDWR | O_CLOEXEC | O_NOCTTY | O_NONBLOCK, &shared);
    if (term.fd < 0 || tcgetattr(term.fd, &term.before) != 0)
        return err_set(e, "There is no terminal to type at");
    term.shared = shared ? fcntl(term.fd, F_GETFL) : -1;
    term.alone = tcgetsid(term.fd) != getsid(0);
    return true;
}

/* Finds the description of the terminal; where TERM names none, one that will do, and says so in `doubt`.
 * What somebody calls by a new name nearly always understands what an xterm does. */
static const char *describe(char *doubt, size_t n, Err *e)
{
    static const char *const usual[] = {"xterm", "vt100", "ansi", "linux"};
    const char *name = getenv("TERM");
    bool says = name && *name && strcmp(name, "dumb") != 0 && strcmp(name, "unknown") != 0;
    int code;
    *doubt = 0;
    if (says && setupterm(name, term.fd, &code) == 0)
        return name;
    if (name && *name)
        snprintf(doubt, n, "Unknown terminal (TERM=%s): using what most terminals understand", name);
    else
        snprintf(doubt, n, "TERM is not set: using what most terminals understand");
    for (size_t i = says ? 0 : 1; i < sizeof usual / sizeof *usual; i++)
        if (setupterm(usual[i], term.fd, &code) == 0)
            return usual[i];
    err_set(e, "No description of any terminal is installed here (terminfo); nothing can be shown");
    return NULL;
}

bool terminal_open(Terminal *t, Err *e)
{
    if (!find_terminal(e))
        return false;
    if (pipe(term.pipe) != 0)
        return err_set(e, "Cannot start: %s", err_os(errno));
    for (int i = 0; i < 2; i++) {
        fcntl(term.pipe[i], F_SETFL, O_NONBLOCK);
        fcntl(term.pipe[i], F_SETFD, FD_CLOEXEC);
    }
    term.canvas = open_canvas();
    if (!term.canvas)
        return err_set(e, "Cannot start: %s", err_os(errno));
    tell_size(true);
    const char *name = describe(t->doubt, sizeof t->doubt, e);
    if (!name)
        return false;
    term.ours = term.before;
    cfmakeraw(&term.ours);
    /* In the order in which an exit needs them: our modes off, plain letters, the old screen. */
    term.private_modes = !plain_console(name) || strcmp(name, "linux") == 0;
    term.plain = plain_console(name);
    if (term.private_modes)
        add_restore(give_modes);
    if (!term.plain)
        add_restore("\033[0 q");
    add_capability("sgr0");
    add_capability("cnorm");
    add_capability("rmkx");
    add_capability("rmcup");
    handle_signals();
    term.curses = newterm(name, term.canvas, term.canvas);
    tell_size(false);
    if (!term.curses)
        return err_set(e, "The terminal cannot be used (TERM=%s)", name);
    raw();
    noecho();
    nonl();
    typeahead(-1);
    write_at_once();
    take_over();
    t->fd = term.fd;
    t->alone = term.alone;
    t->ascii = strcmp(nl_langinfo(CODESET), "UTF-8") != 0 || plain_console(name);
    return true;
}

void terminal_emergency(void (*handler)(void))
{
    term.emergency = handler;
}

void terminal_close(Terminal *t)
{
    if (term.curses)
        endwin();
    flush_all();
    give_back();
    bytes_free(&term.pending);
    t->fd = -1;
}

bool terminal_suspend(Terminal *t)
{
    if (t->alone)
        return false;
    endwin();
    flush_all();
    give_back();
    kill(0, SIGSTOP);
    take_over();
    clearok(curscr, TRUE);
    refresh();
    return true;
}

/* The child's side. `in` and `out` replace the terminal, -1: they do not. The terminal is opened once more,
 * as ours does not wait. */
static void become(char *const argv[], int in, int out)
{
    bool shared;
    int tty = open_terminal(O_RDWR | O_CLOEXEC | O_NOCTTY, &shared);
    for (int fd = 0; fd < 3; fd++)
        dup2(tty, fd);
    if (in >= 0)
        dup2(in, 0);
    if (out >= 0)
        dup2(out, 1);
    execvp(argv[0], argv);
    _exit(127);
}

typedef struct Lent {
    struct sigaction interrupt, stop;
} Lent;

/* The terminal belongs to somebody else for a while. */
static void lend(Lent *l, const char *text)
{
    struct sigaction ignore = {.sa_handler = SIG_IGN};
    endwin();
    flush_all();
    give_back();
    send_now(text, strlen(text));
    sigaction(SIGINT, &ignore, &l->interrupt);
    sigaction(SIGTSTP, &ignore, &l->stop);
}

static void take_back(const Terminal *t, const Lent *l)
{
    /* They may have left the terminal to a group of their own. */
    struct sigaction ttou, ignore = {.sa_handler = SIG_IGN};
    sigaction(SIGTTOU, &ignore, &ttou);
    tcsetpgrp(t->fd, getpgrp());
    sigaction(SIGTTOU, &ttou, NULL);
    sigaction(SIGINT, &l->interrupt, NULL);
    sigaction(SIGTSTP, &l->stop, NULL);
    take_over();
    clearok(curscr, TRUE);
    refresh();
}

static void wait_for(pid_t child)
{
    int status;
    while (child > 0 && waitpid(child, &status, 0) < 0 && errno == EINTR)
        continue;
}

void terminal_lend(Terminal *t, const char *about, void (*use)(int terminal, void *ctx), void *ctx)
{
    Lent lent;
    lend(&lent, about);
    use(t->fd, ctx);
    take_back(t, &lent);
}

bool terminal_secret(int terminal, const char *question, char *out, size_t cap)
{
    struct termios before, quiet;
    size_t n = 0;
    char c = 0;
    if (tcgetattr(terminal, &before) != 0)
        return false;
    quiet = before;
    quiet.c_lflag &= ~(tcflag_t)(ECHO | ISIG);
    quiet.c_lflag |= ICANON;
    tcsetattr(terminal, TCSAFLUSH, &quiet); /* before it is asked: nobody can be too quick for it */
    send_now(question, strlen(question));
    bool ok = true;
    while (ok && c != '\n') {
        struct pollfd fd = {.fd = terminal, .events = POLLIN};
        ssize_t got = poll(&fd, 1, -1) == 1 ? read(terminal, &c, 1) : 0;
        if (got < 0 && (errno == EAGAIN || errno == EINTR))
            continue;
        ok = got == 1 && c != 3 && !terminal_ends(); /* Ctrl+C */
        if (ok && n + 1 < cap)
            out[n++] = c;
    }
    out[n] = 0;
    tcsetattr(terminal, TCSAFLUSH, &before);
    send_now("\r\n", 2);
    return ok;
}

void terminal_shell(Terminal *t)
{
    const char *shell = getenv("SHELL");
    char *argv[] = {(char *)(shell && shell[0] == '/' ? shell : "/bin/sh"), NULL};
    Lent lent;
    lend(&lent, "\r\nSteady Quill waits. Type exit, or press Ctrl+D, to come back.\r\n");
    pid_t child = programs_fork();
    if (child == 0)
        become(argv, -1, -1);
    wait_for(child);
    take_back(t, &lent);
}

bool terminal_ask(Terminal *t, const char *about, char *const argv[],
                  bool (*talk)(int to, int from, void *ctx), void *ctx)
{
    int to[2], from[2];
    if (!system_pipe(to, false))
        return false;
    if (!system_pipe(from, false)) {
        close(to[0]);
        close(to[1]);
        return false;
    }
    Lent lent;
    lend(&lent, about);
    pid_t child = programs_fork();
    if (child == 0)
        become(argv, to[0], from[1]);
    close(to[0]);
    close(from[1]);
    bool ok = talk(to[1], from[0], ctx);
    wait_for(child);
    take_back(t, &lent);
    return ok;
}

void terminal_size(const Terminal *t, int *rows, int *cols)
{
    struct winsize w = {0};
    *rows = LINES;
    *cols = COLS;
    if (ioctl(t->fd, TIOCGWINSZ, &w) != 0 || w.ws_row == 0 || w.ws_col == 0)
        return;
    /* More than any screen has is a mistake, and curses counts in shorts. */
    *rows = w.ws_row < SIDE_MOST ? w.ws_row : SIDE_MOST;
    *cols = w.ws_col < SIDE_MOST ? w.ws_col : SIDE_MOST;
    if (*rows != LINES || *cols != COLS)
        resizeterm(*rows, *cols);
}

bool terminal_answers(void)
{
    return !term.plain && term.private_modes;
}

void terminal_mouse(bool on)
{
    if (!term.private_modes || on == term.mouse)
        return;
    term.mouse = on;
    if (on)
        send_bytes(mouse_on, sizeof mouse_on - 1);
    else
        send_bytes(mouse_off, sizeof mouse_off - 1);
}

void terminal_cursor(bool bar)
{
    if (term.cursor_known && term.bar == bar)
        return;
    term.cursor_known = true;
    term.bar = bar;
    terminal_send(bar ? "\033[6 q" : "\033[2 q", 5);
}

void terminal_send(const char *bytes, size_t n)
{
    if (term.taken && !term.plain)
        send_bytes(bytes, n);
}

void terminal_raw(const char *bytes, size_t n)
{
    if (term.taken)
        send_bytes(bytes, n);
}

size_t terminal_discard(const Terminal *t)
{
    char bytes[4096];
    size_t all = 0;
    for (ssize_t n; (n = read(t->fd, bytes, sizeof bytes)) > 0;)
        all += (size_t)n;
    return all;
}
