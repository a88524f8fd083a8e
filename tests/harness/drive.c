#include "check.h"
#include "drive.h"
#include "base/bytes.h"
#include "base/glyph.h"
#include "base/system.h"
#include "input/key.h"

#include <errno.h>
#include <fcntl.h>
#include <poll.h>
#include <pty.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <termios.h>
#include <unistd.h>
#include <utmp.h>
#include <vterm.h>

enum { PATIENCE = 20000, MAX_ENV = 16, MAX_ARGS = 64, PULSE_FD = 19 };

/* A program that runs under another one (UNDER, blank-separated words such as "valgrind -q") needs more time:
 * all waits are that many times as long (SLOWER). */
static uint64_t slower(int ms)
{
    const char *times = getenv("SLOWER");
    return (uint64_t)ms * (times ? strtoul(times, NULL, 10) : 1);
}

struct Pty {
    int fd, watch; /* watch: the slave side, to look at its settings */
    pid_t pid;
    int rows, cols;
    VTerm *vt;
    VTermScreen *screen;
    struct termios before;
    bool alternate;
    Bytes raw;
    unsigned long long typed; /* bytes sent */
    int pulse;                /* where the program tells that it sleeps; -1: it has ended */
    Bytes told;               /* the line that is being read there */
    bool ours, tells;         /* is it our program? has it told anything yet? */
    struct {
        unsigned long long taken, sent;
        int timer, half;
    } told_last;
    char row[4096];
};

static struct {
    char name[32], value[256];
    bool set;
} environment[MAX_ENV];
static size_t n_environment;
static char environment_folder[64];

void pty_env(const char *name, const char *value)
{
    if (strcmp(environment_folder, check_folder()) != 0) { /* a new test begins without */
        n_environment = 0;
        snprintf(environment_folder, sizeof environment_folder, "%s", check_folder());
    }
    snprintf(environment[n_environment].name, 32, "%s", name);
    snprintf(environment[n_environment].value, 256, "%s", value ? value : "");
    environment[n_environment++].set = value != NULL;
}

bool pty_make_sudo(void)
{
    char command[900];
    mkdir(check_path("bin"), 0755);
    mkdir(check_path("harbour"), 0755);
    check_put("bin/sudo", "#!/bin/sh\nn=$(ls tries* 2>/dev/null | wc -l); touch tries$n\n"
                          "printf \"password $n: \" >/dev/tty; read -r word </dev/tty\n"
                          "[ \"$word\" = harbour ] || { echo 'sorry' >&2; exit 1; }\n"
                          "HOME=$PWD/harbour exec bin/raise --reuid=0 --regid=0 --clear-groups \"$@\"\n");
    /* A copy of the program: the folder it is built in may be closed to others. This one is as /tmp is, so
     * that root trusts what is below it. */
    snprintf(
        command, sizeof command,
        "cd '%s' && cp '" SQUILL "' . && cp \"$(command -v setpriv)\" bin/raise && chmod 755 bin/sudo && "
        "chown -R 65534:65534 . && chown 0:0 . bin/raise harbour && chmod 1777 . && chmod 4755 bin/raise && "
        "[ \"$(setpriv --reuid=65534 --regid=65534 --clear-groups bin/raise --reuid=0 --regid=0 "
        "--clear-groups id -u)\" = 0 ]",
        check_folder());
    if (geteuid() == 0 && system(command) == 0)
        return true;
    fprintf(stderr, "not tried: nothing may become root here\n");
    return false;
}

const char *pty_as_nobody(const char *files)
{
    static char line[900];
    snprintf(line, sizeof line,
             "PATH='%s/bin':$PATH exec setpriv --reuid=65534 --regid=65534 --clear-groups '%s/squill' %s",
             check_folder(), check_folder(), files);
    return line;
}

static void child(const char *program, const char *const *args)
{
    const char *argv[MAX_ARGS] = {0}, *under = getenv("UNDER");
    size_t n = 0;
    for (char *w = strtok(strdup(under ? under : ""), " "); w && n < MAX_ARGS / 2; w = strtok(NULL, " "))
        argv[n++] = w;
    argv[n++] = program;
    for (size_t i = 0; args && args[i] && n < MAX_ARGS - 1; i++)
        argv[n++] = args[i];
    setenv("HOME", check_folder(), 1);
    setenv("TMPDIR", check_folder(), 1);
    setenv("TERM", "xterm-256color", 1);
    setenv("LC_ALL", "C.UTF-8", 1);
    unsetenv("NO_COLOR");
    unsetenv("XDG_CONFIG_HOME");
    unsetenv("XDG_STATE_HOME");
    unsetenv("TMUX");
    char number[8];
    snprintf(number, sizeof number, "%d", PULSE_FD);
    setenv("SQUILL_PULSE_FD", number, 1);
    for (size_t i = 0; i < n_environment; i++)
        if (environment[i].set)
            setenv(environment[i].name, environment[i].value, 1);
        else
            unsetenv(environment[i].name);
    if (chdir(check_folder()) == 0)
        execvp(argv[0], (char *const *)argv);
    _exit(127);
}

static int on_property(VTermProp prop, VTermValue *value, void *user)
{
    if (prop == VTERM_PROP_ALTSCREEN)
        ((Pty *)user)->alternate = value->boolean;
    return 1;
}

Pty *pty_start(const char *program, int rows, int cols, const char *const *args)
{
    static const VTermScreenCallbacks callbacks = {.settermprop = on_property};
    Pty *p = calloc(1, sizeof *p);
    if (strcmp(environment_folder, check_folder()) != 0)
        n_environment = 0;
    struct winsize size = {.ws_row = (unsigned short)rows, .ws_col = (unsigned short)cols};
    int slave;
    p->rows = rows;
    p->cols = cols;
    bool ours = strcmp(program, SQUILL) == 0;
    for (size_t i = 0; args && args[i]; i++) /* a caller that hands its environment on */
        ours = ours || strstr(args[i], "$SQUILL");
    p->ours = ours && !getenv("UNDER");
    if (openpty(&p->fd, &slave, NULL, NULL, &size) != 0)
        abort();
    int pulse[2];
    if (pipe2(pulse, O_CLOEXEC | O_NONBLOCK) != 0)
        abort();
    p->pulse = pulse[0];
    fcntl(p->fd, F_SETFD, FD_CLOEXEC);
    tcgetattr(slave, &p->before);
    p->pid = fork();
    if (p->pid == 0) {
        dup2(pulse[1], PULSE_FD);
        login_tty(slave);
        child(program, args);
    }
    close(pulse[1]);
    fcntl(slave, F_SETFD, FD_CLOEXEC);
    p->watch = slave;
    p->vt = vterm_new(rows, cols);
    vterm_set_utf8(p->vt, 1);
    p->screen = vterm_obtain_screen(p->vt);
    vterm_screen_set_callbacks(p->screen, &callbacks, p);
    vterm_screen_enable_altscreen(p->screen, 1);
    vterm_screen_reset(p->screen, 1);
    return p;
}

/* What the program tells of itself. */
static void take_pulse(Pty *p)
{
    char buffer[4096];
    ssize_t n = read(p->pulse, buffer, sizeof buffer);
    if (n == 0 || (n < 0 && errno != EAGAIN && errno != EINTR)) {
        close(p->pulse);
        p->pulse = -1;
        p->tells = false;
    }
    for (ssize_t i = 0; i < n; i++) {
        if (buffer[i] != '\n') {
            bytes_add(&p->told, &buffer[i], 1);
            continue;
        }
        p->tells = sscanf(bytes_str(&p->told), "%llu %llu %d %d", &p->told_last.taken, &p->told_last.sent,
                          &p->told_last.timer, &p->told_last.half) == 4;
        bytes_clear(&p->told);
    }
}

/* Takes in what has come; waits up to `ms` for the first of it. False at the end of output. */
static bool take_in(Pty *p, int ms)
{
    struct pollfd fds[2] = {{.fd = p->fd, .events = POLLIN}, {.fd = p->pulse, .events = POLLIN}};
    char buffer[65536];
    if (poll(fds, 2, ms) <= 0)
        return true;
    if (fds[1].revents)
        take_pulse(p);
    if (!fds[0].revents)
        return true;
    ssize_t n = read(p->fd, buffer, sizeof buffer);
    if (n <= 0)
        return false;
    vterm_input_write(p->vt, buffer, (size_t)n);
    bytes_add(&p->raw, buffer, (size_t)n);
    n = (ssize_t)vterm_output_read(p->vt, buffer, sizeof buffer);
    if (n > 0 && write(p->fd, buffer, (size_t)n) != n)
        return false;
    p->typed += n > 0 ? (unsigned long long)n : 0;
    return true;
}

static void dump(Pty *p);

static bool sleeps(const Pty *p, bool without_timer)
{
    return p->told_last.taken == p->typed && !p->told_last.half && p->raw.len >= p->told_last.sent &&
           (!without_timer || p->told_last.timer < 0);
}

static bool wait_until_asleep(Pty *p, bool without_timer)
{
    while (p->ours && !p->tells && p->pulse >= 0 && take_in(p, 20))
        continue;
    for (uint64_t until = system_now_ms() + slower(PATIENCE); p->tells && !sleeps(p, without_timer);)
        if (!take_in(p, 20)) { /* it has ended */
            p->tells = false;
        } else if (system_now_ms() >= until) {
            dump(p);
            return check_result(false, __FILE__, __LINE__,
                                "it took %llu of %llu bytes and never came to rest", p->told_last.taken,
                                p->typed),
                   false;
        }
    return true;
}

bool pty_idle(Pty *p)
{
    return wait_until_asleep(p, false);
}

bool pty_rest(Pty *p)
{
    return wait_until_asleep(p, true);
}

void pty_pause(Pty *p, int ms)
{
    uint64_t until = system_now_ms() + slower(ms);
    for (uint64_t now; (now = system_now_ms()) < until;)
        if (!take_in(p, (int)(until - now)))
            usleep(1000);
}

void pty_send(Pty *p, const void *bytes, size_t n)
{
    const char *at = bytes;
    fcntl(p->fd, F_SETFL, O_NONBLOCK);
    for (uint64_t until = system_now_ms() + slower(PATIENCE); n && system_now_ms() < until;) {
        ssize_t done = write(p->fd, at, n);
        if (done > 0) {
            at += done;
            n -= (size_t)done;
            p->typed += (unsigned long long)done;
        } else {
            take_in(p, 10);
        }
    }
    fcntl(p->fd, F_SETFL, 0);
    check_result(n == 0, __FILE__, __LINE__, "the program does not read its keys");
}

/* What xterm sends for a key. */
static void encode(Key k, Bytes *out)
{
    static const struct {
        KeyCode code;
        char final;
        int number;
    } specials[] = {
        {K_UP, 'A', 0},       {K_DOWN, 'B', 0},      {K_RIGHT, 'C', 0},   {K_LEFT, 'D', 0},
        {K_HOME, 'H', 0},     {K_END, 'F', 0},       {K_INSERT, '~', 2},  {K_DELETE, '~', 3},
        {K_PAGE_UP, '~', 5},  {K_PAGE_DOWN, '~', 6}, {K_F1, 'P', 0},      {K_F1 + 1, 'Q', 0},
        {K_F1 + 2, 'R', 0},   {K_F1 + 3, 'S', 0},    {K_F1 + 4, '~', 15}, {K_F1 + 5, '~', 17},
        {K_F1 + 6, '~', 18},  {K_F1 + 7, '~', 19},   {K_F1 + 8, '~', 20}, {K_F1 + 9, '~', 21},
        {K_F1 + 10, '~', 23}, {K_F12, '~', 24},
    };
    for (size_t i = 0; i < sizeof specials / sizeof *specials; i++) {
        if (specials[i].code != k.code)
            continue;
        if (specials[i].number && k.mods)
            bytes_printf(out, "\033[%d;%u~", specials[i].number, k.mods + 1);
        else if (specials[i].number)
            bytes_printf(out, "\033[%d~", specials[i].number);
        else if (k.mods)
            bytes_printf(out, "\033[1;%u%c", k.mods + 1, specials[i].final);
        else
            bytes_printf(out, k.code >= K_F1 ? "\033O%c" : "\033[%c", specials[i].final);
        return;
    }
    char utf8[4];
    if (k.code == K_TAB && (k.mods & MOD_SHIFT)) {
        bytes_add_str(out, "\033[Z");
        return;
    }
    if (k.mods & MOD_ALT)
        bytes_add(out, "\033", 1);
    if (k.code == K_CHAR && (k.mods & MOD_CTRL)) {
        utf8[0] = (char)(k.ch & 0x1f);
        bytes_add(out, utf8, 1);
    } else if (k.code == K_CHAR) {
        bytes_add(out, utf8, utf8_write(k.ch, utf8));
    } else {
        bytes_add(out,
                  k.code == K_ENTER ? "\r"
                  : k.code == K_TAB ? "\t"
                  : k.code == K_ESC ? "\033"
                                    : "\177",
                  1);
    }
}

Pty *pty_edit_at(int rows, int cols, const char *a, const char *b)
{
    const char *args[] = {a, b, NULL};
    Pty *p = pty_start(SQUILL, rows, cols, args);
    check_result(pty_shows(p, "Esc "), __FILE__, __LINE__, "the editor did not come up");
    pty_idle(p);
    return p;
}

Pty *pty_edit(const char *a, const char *b)
{
    return pty_edit_at(24, 100, a, b);
}

void pty_do(Pty *p, const char *script)
{
    Bytes out = {0};
    while (*script) {
        size_t n = strcspn(script, "<");
        if (n) {
            bytes_add(&out, script, n);
            script += n;
            continue;
        }
        n = strcspn(++script, ">");
        Key k = {.code = K_CHAR, .ch = '<'};
        bool wait = strncmp(script, "wait>", 5) == 0;
        bool known = wait || strncmp(script, "lt>", 3) == 0 || key_parse(script, n, &k);
        check_result(known, __FILE__, __LINE__, "no such key: %.*s", (int)n, script);
        if (!wait)
            encode(k, &out);
        if (wait || k.code == K_ESC) { /* an Esc is one only when nothing follows at once */
            pty_send(p, bytes_str(&out), out.len);
            bytes_clear(&out);
            if (wait || !p->tells)
                pty_pause(p, wait ? 400 : 90);
            pty_idle(p);
        }
        script += n + 1;
    }
    pty_send(p, bytes_str(&out), out.len);
    pty_idle(p);
    bytes_free(&out);
}

void pty_claim_size(Pty *p, int rows, int cols)
{
    struct winsize size = {.ws_row = (unsigned short)rows, .ws_col = (unsigned short)cols};
    ioctl(p->fd, TIOCSWINSZ, &size);
}

void pty_resize(Pty *p, int rows, int cols)
{
    struct winsize size = {.ws_row = (unsigned short)rows, .ws_col = (unsigned short)cols};
    p->rows = rows;
    p->cols = cols;
    vterm_set_size(p->vt, rows, cols);
    ioctl(p->fd, TIOCSWINSZ, &size);
}

const char *pty_row(Pty *p, int row)
{
    size_t n = 0, used = 0;
    for (int col = 0; col < p->cols; col++) {
        VTermScreenCell cell;
        vterm_screen_get_cell(p->screen, (VTermPos){row, col}, &cell);
        if (!cell.chars[0] || cell.chars[0] == (uint32_t)-1) {
            if (cell.chars[0] == 0)
                p->row[n++] = ' ';
            continue;
        }
        for (int i = 0; i < VTERM_MAX_CHARS_PER_CELL && cell.chars[i] && n + 8 < sizeof p->row; i++)
            n += utf8_write(cell.chars[i], p->row + n);
        used = cell.chars[0] == ' ' ? used : n;
    }
    p->row[used] = 0;
    return p->row;
}

int pty_find(Pty *p, const char *text)
{
    for (int row = 0; row < p->rows; row++)
        if (strstr(pty_row(p, row), text))
            return row;
    return -1;
}

static void dump(Pty *p)
{
    for (int row = 0; row < p->rows; row++)
        fprintf(stderr, "  |%s\n", pty_row(p, row));
}

static bool wait_for(Pty *p, const char *text, bool wanted)
{
    uint64_t until = system_now_ms() + slower(PATIENCE);
    while ((pty_find(p, text) >= 0) != wanted) {
        if (system_now_ms() >= until || !take_in(p, 50)) {
            if ((pty_find(p, text) >= 0) == wanted)
                return true;
            dump(p);
            return false;
        }
    }
    return true;
}

bool pty_shows(Pty *p, const char *text)
{
    return wait_for(p, text, true);
}

bool pty_hides(Pty *p, const char *text)
{
    return wait_for(p, text, false);
}

void pty_cursor(Pty *p, int *row, int *col)
{
    VTermPos at;
    if (!p->tells)
        pty_pause(p, 60);
    pty_idle(p);
    vterm_state_get_cursorpos(vterm_obtain_state(p->vt), &at);
    *row = at.row;
    *col = at.col;
}

int pty_ground(Pty *p, int row, int col)
{
    VTermScreenCell cell;
    if (!p->tells)
        pty_pause(p, 80);
    pty_idle(p);
    vterm_screen_get_cell(p->screen, (VTermPos){row, col}, &cell);
    if (VTERM_COLOR_IS_DEFAULT_BG(&cell.bg))
        return -1;
    return VTERM_COLOR_IS_INDEXED(&cell.bg) ? cell.bg.indexed.idx : -2;
}

void pty_theme(const char *name)
{
    char line[60];
    snprintf(line, sizeof line, "theme = \"%s\"\n", name);
    mkdir(check_path(".config"), 0755);
    mkdir(check_path(".config/steady-quill"), 0755);
    check_put(".config/steady-quill/settings.lua", line);
}

const char *pty_look(Pty *p, int row, int col)
{
    static char look[8];
    VTermScreenCell cell;
    size_t n = 0;
    if (!p->tells)
        pty_pause(p, 80);
    pty_idle(p); /* what is being painted comes to its end */
    vterm_screen_get_cell(p->screen, (VTermPos){row, col}, &cell);
    if (cell.attrs.bold)
        look[n++] = 'b';
    if (cell.attrs.underline)
        look[n++] = 'u';
    if (cell.attrs.reverse)
        look[n++] = 'r';
    if (!VTERM_COLOR_IS_DEFAULT_FG(&cell.fg))
        look[n++] = 'f';
    if (!VTERM_COLOR_IS_DEFAULT_BG(&cell.bg))
        look[n++] = 'g';
    look[n] = 0;
    return look;
}

bool pty_alternate(const Pty *p)
{
    return p->alternate;
}

size_t pty_sent(const Pty *p)
{
    return p->raw.len;
}

const char *pty_raw(const Pty *p, size_t *n)
{
    *n = p->raw.len;
    return bytes_str(&p->raw);
}

pid_t pty_pid(const Pty *p)
{
    return p->pid;
}

bool pty_restored(const Pty *p)
{
    struct termios now;
    tcgetattr(p->watch, &now);
    return now.c_iflag == p->before.c_iflag && now.c_oflag == p->before.c_oflag &&
           now.c_lflag == p->before.c_lflag;
}

void pty_others(Pty *p, const char *bytes)
{
    unsigned long long before = p->typed;
    pty_send(p, bytes, strlen(bytes));
    p->typed = before;
}

void pty_feed(Pty *p, const char *bytes, size_t n)
{
    struct pollfd fd = {.fd = p->fd, .events = POLLOUT};
    if (poll(&fd, 1, 1000) == 1 && write(p->fd, bytes, n) == (ssize_t)n)
        p->typed += n;
}

bool pty_arrived(Pty *p)
{
    int n = 0;
    for (uint64_t until = system_now_ms() + slower(PATIENCE); system_now_ms() < until; take_in(p, 5))
        if (ioctl(p->watch, FIONREAD, &n) == 0 && p->told_last.taken + (unsigned long long)n >= p->typed)
            return true;
    return false;
}

/* Has the process ended? It stays to be waited for. */
static bool has_ended(const Pty *p)
{
    siginfo_t info = {0};
    return waitid(P_PID, (id_t)p->pid, &info, WEXITED | WNOHANG | WNOWAIT) == 0 && info.si_pid == p->pid;
}

bool pty_gone(const Pty *p)
{
    return has_ended(p);
}

bool pty_ended(Pty *p)
{
    for (uint64_t until = system_now_ms() + slower(PATIENCE); !has_ended(p);)
        if (system_now_ms() >= until || (!take_in(p, 20) && usleep(2000) != 0))
            return false;
    while (take_in(p, 0) && poll(&(struct pollfd){.fd = p->fd, .events = POLLIN}, 1, 0) == 1)
        continue;
    p->tells = false;
    return true;
}

int pty_leave(Pty *p)
{
    pty_do(p, "<Esc><Esc><Ctrl+Q>");
    for (uint64_t until = system_now_ms() + slower(PATIENCE); system_now_ms() < until;) {
        if (has_ended(p))
            break;
        take_in(p, 20);
        if (pty_find(p, "has changes") < 0)
            continue;
        pty_pause(p, 400); /* letters count only then */
        pty_do(p, "d");    /* there may be another one */
    }
    return pty_end(p);
}

int pty_end(Pty *p)
{
    uint64_t until = system_now_ms() + slower(PATIENCE);
    int status = 0, result = -1;
    pid_t done = 0;
    while ((done = waitpid(p->pid, &status, WNOHANG)) == 0 && system_now_ms() < until)
        take_in(p, 10);
    if (done == p->pid) {
        result = WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
    } else {
        dump(p);
        kill(p->pid, SIGKILL);
        waitpid(p->pid, &status, 0);
    }
    close(p->watch);
    close(p->fd);
    if (p->pulse >= 0)
        close(p->pulse);
    bytes_free(&p->told);
    vterm_free(p->vt);
    bytes_free(&p->raw);
    free(p);
    return result;
}
