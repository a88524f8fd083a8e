#include "screen/loop.h"

#include "base/bytes.h"
#include "base/glyph.h"
#include "base/paths.h"
#include "base/programs.h"
#include "base/system.h"
#include "files/privileged.h"
#include "hosts/hosts.h"
#include "screen/clipboard.h"
#include "screen/incoming.h"
#include "screen/ground.h"
#include "screen/painter.h"
#include "screen/pulse.h"
#include "screen/terminal.h"
#include "session/root_check.h"

#include <errno.h>
#include <poll.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { READ_SIZE = 64 * 1024 };

/* What a terminal description names its keys; the decoder knows the usual ones without it. */
static void learn_keys(Decoder *d)
{
    static const struct {
        const char *name;
        Key key;
    } known[] = {
        {"kcuu1", {.code = K_UP}},
        {"kcud1", {.code = K_DOWN}},
        {"kcuf1", {.code = K_RIGHT}},
        {"kcub1", {.code = K_LEFT}},
        {"khome", {.code = K_HOME}},
        {"kend", {.code = K_END}},
        {"kpp", {.code = K_PAGE_UP}},
        {"knp", {.code = K_PAGE_DOWN}},
        {"kich1", {.code = K_INSERT}},
        {"kdch1", {.code = K_DELETE}},
        {"kcbt", {.code = K_TAB, .mods = MOD_SHIFT}},
        {"kLFT", {.code = K_LEFT, .mods = MOD_SHIFT}},
        {"kRIT", {.code = K_RIGHT, .mods = MOD_SHIFT}},
        {"kri", {.code = K_UP, .mods = MOD_SHIFT}},
        {"kind", {.code = K_DOWN, .mods = MOD_SHIFT}},
    };
    for (size_t i = 0; i < sizeof known / sizeof *known; i++) {
        const char *s = terminal_capability(known[i].name);
        if (s)
            decoder_learn(d, s, known[i].key);
    }
    for (int i = 0; i < 12; i++) {
        char name[8];
        snprintf(name, sizeof name, "kf%d", i + 1);
        const char *s = terminal_capability(name);
        if (s)
            decoder_learn(d, s, (Key){.code = (KeyCode)(K_F1 + i)});
    }
}

static void resize(Editor *ed, const Terminal *t)
{
    int rows, cols;
    terminal_size(t, &rows, &cols);
    app_resize(ed, rows, cols);
    ed->frame.ascii = t->ascii;
}

/* False when the program was asked to end. */
static bool take_signals(Editor *ed, const Terminal *t)
{
    char c;
    while (read(terminal_signals(), &c, 1) == 1) {
        if (c == 'T')
            return false;
        resize(ed, t);
        ed->host.redraw = true; /* terminals move and drop rows in their own ways */
        if (c == 'S')
            ed->host.suspend = true;
        if (c == 'C')
            terminal_retake();
    }
    return true;
}

static unsigned long long taken; /* bytes from the terminal */

static void hand_out(Editor *ed, Decoder *d, const Terminal *t)
{
    Input in;
    uint64_t now = system_now_ms();
    while (!ed->host.leave && !app_plays(ed) && decoder_next(d, now, &in)) {
        if (in.kind == INPUT_GROUND)
            ground_answered(ed, in.ground);
        else
            app_input(ed, &in, now);
        if (ed->host.discard_input) {
            ed->host.discard_input = false;
            decoder_discard(d);
            taken += terminal_discard(t);
        }
    }
}

/* Each only once, after what was said about the clip itself. */
static void tell_fate(Editor *ed, ClipFate fate)
{
    static bool told[CLIP_DOUBTFUL + 1];
    char before[NOTICE_MOST + 3];
    size_t n = strlen(ed->notices.text);
    const char *between = n == 0 ? "" : ed->notices.text[n - 1] == '.' ? " " : ". ";
    snprintf(before, sizeof before, "%s%s", ed->notices.text, between);
    if (fate == CLIP_GIVEN || told[fate])
        return;
    told[fate] = true;
    bool in_tmux = getenv("TMUX") && programs_has("tmux"); /* so its buffer has it */
    if (fate == CLIP_TOO_LONG)
        warn(ed, "%sThat is too long for the terminal's clipboard: it can be pasted in this editor only%s",
             before, in_tmux ? ", and in tmux" : "");
    else if (in_tmux)
        say(ed, "%sCopied to tmux as well. For the desktop: set -g set-clipboard on", before);
    else
        say(ed, "%sThe desktop may not get it: marking with Shift and the mouse does", before);
}

static void serve_clipboard(Editor *ed, bool arrived)
{
    if (ed->host.send_clip && ed->config.settings.system_clipboard && ed->shelf.n)
        tell_fate(ed, clipboard_send(ed->shelf.clips[0].text));
    ed->host.send_clip = false;
    if (arrived)
        clipboard_take(ed);
    if (ed->host.fetch_clip) {
        ed->host.fetching = true;
        clipboard_fetch(ed);
    }
    ed->host.fetch_clip = false;
}

typedef struct RootTalk {
    RootWish w;
    Err e;
} RootTalk;

static bool talk_to_root(int to, int from, void *ctx)
{
    RootTalk *r = ctx;
    if (r->w.on_trial) { /* its guard stays at the other end */
        r->w.to = fcntl(to, F_DUPFD_CLOEXEC, 3);
        r->w.from = fcntl(from, F_DUPFD_CLOEXEC, 3);
    }
    bool ok = privileged_talk(to, from, r->w.bytes, &r->w.wish, &r->e);
    if (!ok && r->w.on_trial) {
        close(r->w.to);
        close(r->w.from);
    }
    return ok;
}

/* What stands above a question for a password: a line with a name in it, which may hold anything. */
static void about_words(const char *format, const char *path, const char *program, Bytes *out)
{
    Bytes line = {0};
    Glyph g;
    bytes_printf(&line, format, path, program);
    bytes_add_str(out, "\r\nSteady Quill: ");
    for (size_t at = 0; at < line.len; at += g.bytes) {
        glyph_read(line.at + at, line.len - at, &g);
        if (g.n_codes && line.at[at] != '\n' && line.at[at] != '\t')
            bytes_add(out, line.at + at, g.bytes);
        else
            bytes_add_str(out, g.escape[0] ? g.escape : " ");
    }
    bytes_add_str(out, "\r\n");
    bytes_free(&line);
}

/* False when there is nothing for root to do. */
static bool save_as_root(Editor *ed, Terminal *t)
{
    RootTalk r = {.e = {"It was not saved: no pipe could be made"}};
    char *argv[PRIVILEGED_ARGS], *words = NULL;
    if (!app_root_begin(ed, &r.w))
        return false;
    r.w.wish.only = &r.w.only;
    const char *const saved[] = {"--save-from-pipe", r.w.path, NULL};
    const char *const tried[] = {"--trial-from-pipe", r.w.path, r.w.seconds, r.w.command, NULL};
    const char *const *args = r.w.on_trial ? tried : saved;
    Bytes about = {0};
    bool ok = privileged_command(ed->config.settings.root_program, args, argv, &words, &r.e);
    if (ok)
        about_words("only root may write %s, so it is saved by %s", r.w.path, path_base(argv[0]), &about);
    ok = ok && terminal_ask(t, about.at, argv, talk_to_root, &r);
    bytes_free(&about);
    free(words);
    app_root_end(ed, &r.w, ok, r.e.text);
    return true;
}

typedef struct RootCheck {
    OpenFile *file;
    Err e;
} RootCheck;

static bool talk_of_check(int to, int from, void *ctx)
{
    RootCheck *r = ctx;
    return root_check_talk(to, from, r->file, &r->e);
}

/* False when there is nothing for root to check. */
static bool check_as_root(Editor *ed, Terminal *t)
{
    RootCheck r = {session_file(ed->session, ed->host.check_as_root), {"No pipe could be made"}};
    char *argv[PRIVILEGED_ARGS], *words = NULL;
    const char *args[ROOT_CHECK_ARGS];
    ed->host.check_as_root = 0;
    if (!r.file)
        return false;
    root_check_args(r.file, args);
    Bytes about = {0};
    bool ok = privileged_command(ed->config.settings.root_program, args, argv, &words, &r.e);
    if (ok)
        about_words("%s is checked as root, by %s", openfile_name(r.file), path_base(argv[0]), &about);
    ok = ok && terminal_ask(t, about.at, argv, talk_of_check, &r);
    bytes_free(&about);
    free(words);
    app_root_checked(ed, r.file, ok ? NULL : r.e.text);
    return true;
}

typedef struct HostTalk {
    HostAsks asks;
    Connection *connection;
    Err e;
} HostTalk;

static void talk_to_host(int terminal, void *ctx)
{
    HostTalk *h = ctx;
    char secret[256] = "";
    if (h->asks.root && !terminal_secret(terminal, "Password for sudo there: ", secret, sizeof secret)) {
        err_set(&h->e, "no password was given");
        return;
    }
    h->connection = connection_begin(h->asks.words, terminal, &h->e);
    if (h->connection && h->asks.root)
        connection_say(h->connection, secret, "try again");
    explicit_bzero(secret, sizeof secret);
    if (!h->connection || connection_greet(h->connection, NULL, &h->e))
        return;
    connection_drop(h->connection);
    h->connection = NULL;
}

/* A password, a key that nobody knows yet: ssh asks for it itself. False when there is nothing to ask. */
static bool connect_host(Terminal *t)
{
    HostTalk h = {.e = {""}};
    if (!hosts_ask(&h.asks))
        return false;
    Bytes about = {0};
    about_words("ssh is asked to connect to %s, as it may have to ask you (%s)", h.asks.name, h.asks.why.text,
                &about);
    terminal_lend(t, about.at, talk_to_host, &h);
    bytes_free(&about);
    hosts_asked(&h.asks, h.connection, &h.e);
    return true;
}

/* Hands one read to the decoder; `whole`: no sequence is under way. */
static void take_in(Editor *ed, Decoder *d, const char *bytes, size_t n, bool whole, bool at_once)
{
    static char text[READ_SIZE * INCOMING_GROWS];
    ed->burst = whole && incoming_is_burst(bytes, n, ed->burst && at_once);
    taken += n;
    decoder_feed(d, text, incoming_utf8(bytes, n, text), system_now_ms());
}

/* While something takes long, keys are taken in for later, but for an Esc at their end: that stops it. */
typedef struct Keyboard {
    Editor *ed;
    int fd;
    Decoder *decoder;
    char *buffer;
    uint64_t since; /* when the present round began */
    bool told;      /* that something takes long, in this round */
} Keyboard;

/* Says so in the place of the hints, in the picture as it was painted last: what is shown is at work. */
static void tell_busy(Keyboard *k)
{
    enum { LONG = 400 /* ms */ };
    Frame *f = &k->ed->frame;
    if (k->told || system_now_ms() - k->since < LONG || f->rows < 1)
        return;
    k->told = true;
    int at = frame_text(f, f->rows - 1, 0, f->cols, ST_MESSAGE, " Still at work.   Esc stops it");
    while (at < f->cols)
        at = frame_text(f, f->rows - 1, at, f->cols, ST_MESSAGE, " ");
    painter_show(f, false);
    terminal_flush();
}

static bool esc_pressed(void *ctx)
{
    Keyboard *k = ctx;
    if (terminal_ends())
        return true;
    tell_busy(k);
    struct pollfd fd = {.fd = k->fd, .events = POLLIN};
    ssize_t n = poll(&fd, 1, 0) == 1 ? read(k->fd, k->buffer, READ_SIZE) : 0;
    if (n <= 0)
        return false;
    bool esc = k->buffer[n - 1] == '\033';
    take_in(k->ed, k->decoder, k->buffer, (size_t)n - esc, false, true);
    taken += esc;
    return esc;
}

static bool pulse; /* a test wants to know when we sleep */

/* One round; false when the terminal is gone or the program was asked to end. */
static bool wait_and_handle(Editor *ed, Keyboard *k, Terminal *t, char *buffer)
{
    Decoder *d = k->decoder;
    short keys = app_plays(ed) ? 0 : POLLIN; /* they wait, but for Esc, which stops it */
    short events = (short)(terminal_waits() ? keys | POLLOUT : keys);
    struct pollfd fds[3 + APP_FDS] = {{.fd = t->fd, .events = events},
                                      {.fd = terminal_signals(), .events = POLLIN},
                                      {.fd = clipboard_fd(), .events = POLLIN}}; /* -1: ignored */
    size_t n_fds = 3 + app_fds(ed, fds + 3);
    uint64_t now = system_now_ms();
    int half = decoder_wait(d, now), wait = task_sooner(half, app_wait(ed, now));
    bool pause = wait != 0 && poll(fds, n_fds, 0) == 0;
    if (pulse && pause)
        pulse_sleeps(taken, terminal_sent(), wait, half >= 0);
    if (poll(fds, n_fds, wait) < 0 && errno != EINTR)
        return false;
    k->since = system_now_ms();
    k->told = false;
    bool ends = (fds[1].revents & POLLIN) && !take_signals(ed, t); /* with what was typed before that */
    terminal_flush();
    if (fds[0].revents & (POLLIN | POLLHUP | POLLERR)) {
        ssize_t n = read(t->fd, buffer, READ_SIZE);
        if (n == 0 || (n < 0 && errno != EINTR && errno != EAGAIN))
            return false;
        if (t->alone)
            resize(ed, t);
        if (n > 0)
            take_in(ed, d, buffer, (size_t)n, half < 0, !pause);
    }
    hand_out(ed, d, t);
    serve_clipboard(ed, fds[2].revents != 0);
    app_tick(ed, system_now_ms());
    return !ends;
}

/* While more input waits, painting would only be overtaken: typing and pastes stay fast. */
static bool more_waits(const Terminal *t)
{
    struct pollfd fd = {.fd = t->fd, .events = POLLIN};
    return poll(&fd, 1, 0) == 1 && (fd.revents & POLLIN);
}

static Editor *running;

static void emergency(void)
{
    app_emergency(running);
}

int loop_run(Editor *ed, Err *e)
{
    Terminal t;
    if (!terminal_open(&t, e))
        return 2;
    static char buffer[READ_SIZE];
    pulse = pulse_begin();
    running = ed;
    terminal_emergency(emergency);
    Decoder *d = decoder_new((unsigned)ed->config.settings.esc_wait);
    learn_keys(d);
    Keyboard keyboard = {.ed = ed, .fd = t.fd, .decoder = d, .buffer = buffer, .since = system_now_ms()};
    ed->stop = (Stop){esc_pressed, &keyboard};
    hosts_may_ask(true);
    const Theme *theme = NULL;
    Ground ground = {0};
    resize(ed, &t);
    if (t.doubt[0])
        warn(ed, "%s", t.doubt);
    bool asked_to_end = false;
    unsigned unpainted = 0;
    app_tick(ed, system_now_ms());
    while (!ed->host.leave && !asked_to_end) {
        if (!terminal_waits() && (!more_waits(&t) || ++unpainted > 20)) {
            Ground now = ground_now(ed);
            if (theme != ed->theme || memcmp(&now, &ground, sizeof now) != 0) {
                ground = now;
                painter_theme(theme = ed->theme, ground.white, ground.stays);
            }
            terminal_mouse(ed->config.settings.mouse && !ed->bare);
            painter_show(app_paint(ed), ed->host.redraw);
            terminal_cursor(!ed->overtype);
            ground_ask(ed);
            terminal_flush();
            ed->host.redraw = false;
            unpainted = 0;
        }
        asked_to_end = !wait_and_handle(ed, &keyboard, &t, buffer);
        bool lent = save_as_root(ed, &t), checked = check_as_root(ed, &t), asked = connect_host(&t);
        ed->host.redraw = lent || checked || asked || ed->host.redraw;
        if (ed->host.shell) {
            ed->host.shell = false;
            terminal_shell(&t);
            resize(ed, &t);
            ed->host.redraw = true;
            app_returned(ed);
        }
        if (ed->host.suspend) {
            ed->host.suspend = false;
            if (!terminal_suspend(&t))
                warn(ed, "There is no shell behind this terminal that could bring the editor back");
            resize(ed, &t);
            ed->host.redraw = true;
        }
    }
    hosts_may_ask(false);
    ed->stop = (Stop){0};
    decoder_free(d);
    ground_end(t.fd);
    terminal_close(&t);
    return asked_to_end ? 1 : ed->host.exit_status;
}
