#include "screen/clipboard.h"

#include "base/mem.h"
#include "base/programs.h"
#include "screen/terminal.h"

#include <errno.h>
#include <fcntl.h>
#include <poll.h>
#include <signal.h>
#include <stdlib.h>
#include <string.h>
#include <sys/wait.h>
#include <unistd.h>

enum {
    SEQUENCE_BYTES = 72 * 1024,      /* terminals take no longer clips in a sequence */
    HELPER_BYTES = 64 * 1024 * 1024, /* helpers fail beyond this */
};

/* Programs that hold the clipboard of a desktop; used where its variable is set. */
typedef struct Helper {
    const char *variable; /* NULL: always */
    const char *copy[6], *paste[6];
} Helper;

static const Helper helpers[] = {
    {"WAYLAND_DISPLAY", {"wl-copy"}, {"wl-paste", "-n"}},
    {"DISPLAY", {"xclip", "-selection", "clipboard", "-in"}, {"xclip", "-selection", "clipboard", "-out"}},
    {"DISPLAY", {"xsel", "--clipboard", "--input"}, {"xsel", "--clipboard", "--output"}},
    {NULL, {"pbcopy"}, {"pbpaste"}},
};

/* Inside a multiplexer, what is cut or copied can be pasted in its other windows too. */
static const Helper tmux = {"TMUX", {"tmux", "load-buffer", "-"}, {NULL}};

static const Helper *helper(void)
{
    for (size_t i = 0; i < sizeof helpers / sizeof *helpers; i++) {
        const char *value = helpers[i].variable ? getenv(helpers[i].variable) : "";
        bool wanted = value && (*value || !helpers[i].variable);
        if (wanted && programs_has(helpers[i].copy[0]))
            return &helpers[i];
    }
    return NULL;
}

/* ---- through the terminal ---- */

static void base64(const unsigned char *in, size_t n, Bytes *out)
{
    static const char digits[] = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    for (size_t i = 0; i < n; i += 3) {
        unsigned v =
            (unsigned)in[i] << 16 | (i + 1 < n ? (unsigned)in[i + 1] << 8 : 0) | (i + 2 < n ? in[i + 2] : 0);
        char four[4] = {digits[v >> 18], digits[v >> 12 & 63], i + 1 < n ? digits[v >> 6 & 63] : '=',
                        i + 2 < n ? digits[v & 63] : '='};
        bytes_add(out, four, 4);
    }
}

static void send_sequence(const Bytes *clip)
{
    Bytes code = {0}, out = {0};
    base64((const unsigned char *)bytes_str(clip), clip->len, &code);
    bytes_printf(&out, "\033]52;c;%s\a", bytes_str(&code));
    /* A multiplexer may keep it to itself: once more, wrapped, for the terminal outside. */
    if (getenv("TMUX"))
        bytes_printf(&out, "\033Ptmux;\033\033]52;c;%s\a\033\\", bytes_str(&code));
    terminal_send(out.at, out.len);
    bytes_free(&code);
    bytes_free(&out);
}

/* ---- through a helper ---- */

static void silence(int keep)
{
    int null = open("/dev/null", O_RDWR);
    for (int fd = 0; fd < 3; fd++)
        if (fd != keep)
            dup2(null, fd);
    setsid();
}

/* A grandchild feeds the helper, so that a slow one keeps nobody and leaves no zombie. */
static void send_to(const Helper *h, const Bytes *clip)
{
    pid_t child = programs_fork();
    if (child == 0) {
        int ends[2];
        if (fork() != 0 || pipe(ends) != 0)
            _exit(0);
        if (fork() == 0) {
            dup2(ends[0], 0);
            close(ends[1]);
            silence(0);
            execvp(h->copy[0], (char *const *)h->copy);
            _exit(127);
        }
        close(ends[0]);
        silence(-1);
        for (size_t at = 0; at < clip->len;) {
            ssize_t n = write(ends[1], clip->at + at, clip->len - at);
            if (n < 0 && errno != EINTR)
                break;
            at += n > 0 ? (size_t)n : 0;
        }
        _exit(0);
    }
    if (child > 0)
        waitpid(child, NULL, 0);
}

ClipFate clipboard_send(Text t)
{
    const Helper *h = helper();
    bool in_tmux = getenv("TMUX") != NULL, in_screen = getenv("STY") != NULL;
    size_t n = text_len(t);
    if (n > (h || in_tmux ? HELPER_BYTES : SEQUENCE_BYTES))
        return CLIP_TOO_LONG;
    Bytes clip = {0};
    text_bytes(t, 0, n, &clip);
    if (n <= SEQUENCE_BYTES)
        send_sequence(&clip);
    if (h)
        send_to(h, &clip);
    if (in_tmux && programs_has(tmux.copy[0]))
        send_to(&tmux, &clip);
    bytes_free(&clip);
    return h                      ? CLIP_GIVEN
           : n > SEQUENCE_BYTES   ? CLIP_TOO_LONG
           : in_tmux || in_screen ? CLIP_DOUBTFUL
                                  : CLIP_GIVEN;
}

/* ---- reading ---- */

static struct {
    int fd;
    pid_t pid;
    Bytes got;
} fetch = {.fd = -1};

int clipboard_fd(void)
{
    return fetch.fd;
}

void clipboard_fetch(Editor *ed)
{
    const Helper *h = helper();
    int ends[2];
    if (fetch.fd >= 0)
        return;
    if (!h) {
        app_fetched(ed, NULL, 0,
                    "The desktop's clipboard cannot be read from here; use the terminal's own paste");
        return;
    }
    if (pipe(ends) != 0)
        return;
    fetch.pid = programs_fork();
    if (fetch.pid < 0) {
        close(ends[0]);
        close(ends[1]);
        app_fetched(ed, NULL, 0, "The desktop's clipboard cannot be asked now: no process could be begun");
        return;
    }
    if (fetch.pid == 0) {
        dup2(ends[1], 1);
        close(ends[0]);
        silence(1);
        execvp(h->paste[0], (char *const *)h->paste);
        _exit(127);
    }
    close(ends[1]);
    fetch.fd = ends[0];
    fcntl(fetch.fd, F_SETFL, O_NONBLOCK);
    fcntl(fetch.fd, F_SETFD, FD_CLOEXEC);
}

/* The helper has closed its end, and should be at its own. One that lives on is asked to end, and taken note
 * of later: nobody waits for it. *status: 0 when that is not known. */
static void let_helper_go(int *status)
{
    enum { LOOKS = 20, LOOK = 5 /* ms */ };
    static pid_t lives_on[8];
    static unsigned n;
    *status = 0;
    for (unsigned i = 0; i < sizeof lives_on / sizeof *lives_on; i++)
        if (lives_on[i] > 0 && waitpid(lives_on[i], NULL, WNOHANG) != 0)
            lives_on[i] = 0;
    for (int i = 0; i < LOOKS; i++) {
        if (waitpid(fetch.pid, status, WNOHANG) != 0)
            return;
        poll(NULL, 0, LOOK);
    }
    kill(fetch.pid, SIGTERM);
    lives_on[n++ % (sizeof lives_on / sizeof *lives_on)] = fetch.pid;
}

void clipboard_take(Editor *ed)
{
    char buffer[65536];
    ssize_t n = 0;
    while (fetch.got.len < HELPER_BYTES && (n = read(fetch.fd, buffer, sizeof buffer)) > 0)
        bytes_add(&fetch.got, buffer, (size_t)n);
    if (n < 0 && (errno == EAGAIN || errno == EINTR))
        return;
    int status = 0;
    if (n != 0)
        kill(fetch.pid, SIGTERM);
    close(fetch.fd);
    fetch.fd = -1;
    let_helper_go(&status);
    const char *why =
        WIFEXITED(status) && WEXITSTATUS(status) == 0 ? NULL : "The desktop's clipboard gave nothing";
    app_fetched(ed, bytes_str(&fetch.got), fetch.got.len, why);
    bytes_free(&fetch.got);
}
