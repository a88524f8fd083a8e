#include "kept/trial.h"

#include "base/folder.h"
#include "base/mem.h"
#include "base/programs.h"
#include "base/system.h"
#include "kept/trial_folder.h"
#include "kept/trial_there.h"

#include <errno.h>
#include <poll.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

enum {
    READY_MS = 5000,       /* that the guard may take to begin, or to take in a file */
    AFTER_SECONDS = 150,   /* that one elsewhere may take, when its time is over */
    SAID_MOST = 64 * 1024, /* bytes of a line from it */
};

struct Trial {
    char *folder;
    pid_t guard;  /* 0: none of ours */
    int to, from; /* -1: closed */
    bool away;    /* it is guarded from elsewhere, with a folder of its own there */
    bool on_host; /* and that is another host */
    bool ready;
    unsigned seconds;
    uint64_t since; /* on the clock of trial_now_ms; 0: not saved yet */
    size_t n;       /* files */
    Bytes said;     /* of a line that is not whole */
    bool ran, ran_told;
    int status;
    Bytes output;
    Bytes there; /* what a host's guard has found there */
    TrialFate fate, fates[TRIAL_FILES_MOST];
    Bytes words; /* that came after the fate */
    pid_t lives; /* the process that guards it elsewhere */
    long long born;
};

/* ---- what the guard says ---- */

/* A letter for each file; anything else is no answer. */
static void take_fates(Trial *t, const char *line)
{
    size_t n = strcspn(line, " ");
    if (n != t->n)
        return;
    for (size_t i = 0; i < n; i++)
        if (trial_fate_of(line[i]) == TRIAL_LOST)
            return;
    for (size_t i = 0; i < n; i++) {
        t->fates[i] = trial_fate_of(line[i]);
        t->fate = t->fates[i] > t->fate ? t->fates[i] : t->fate;
    }
    bytes_clear(&t->words);
    bytes_add_str(&t->words, line[n] ? line + n + 1 : "");
}

static void take_line(Trial *t, char *line)
{
    long pid;
    if (strncmp(line, TRIAL_MARK, strlen(TRIAL_MARK)) != 0)
        return;
    line += strlen(TRIAL_MARK);
    switch (line[0]) {
    case SAY_READY:
        t->ready = true;
        bytes_clear(&t->there);
        bytes_add_str(&t->there, line + 1);
        break;
    case SAY_LIVES:
        if (sscanf(line + 1, "%ld %lld", &pid, &t->born) == 2 && t->away && !t->on_host) {
            t->lives = (pid_t)pid;
            trial_folder_sign(t->folder, t->lives, t->born);
        }
        break;
    case SAY_RAN:
        t->ran = true;
        t->status = line[1] == '-' ? -1 : atoi(line + 1);
        for (char *p = line; *p; p++)
            *p = *p == TRIAL_LINE ? '\n' : *p;
        bytes_clear(&t->output);
        bytes_add_str(&t->output, strchr(line, ' ') ? strchr(line, ' ') + 1 : "");
        break;
    default:
        take_fates(t, line);
    }
}

/* Takes in what has come; false when nothing more will. */
static bool hear(Trial *t)
{
    char bytes[4096];
    struct pollfd fd = {.fd = t->from, .events = POLLIN};
    if (t->from < 0 || poll(&fd, 1, 0) != 1)
        return t->from >= 0;
    ssize_t n = read(t->from, bytes, sizeof bytes);
    if (n <= 0 || t->said.len > SAID_MOST)
        return false;
    for (ssize_t i = 0; i < n; i++) {
        if (bytes[i] != '\n') {
            bytes_add(&t->said, bytes[i] ? bytes + i : " ", 1);
            continue;
        }
        char *line = mem_string_n(bytes_str(&t->said), t->said.len);
        bytes_clear(&t->said);
        take_line(t, line);
        free(line);
    }
    return true;
}

/* For one of this machine, which is quick. */
static bool hears_ready(Trial *t)
{
    for (uint64_t until = system_now_ms() + READY_MS, now; !t->ready && (now = system_now_ms()) < until;) {
        struct pollfd fd = {.fd = t->from, .events = POLLIN};
        if (poll(&fd, 1, (int)(until - now)) == 1 && !hear(t))
            break;
    }
    return t->ready;
}

static void say(const Trial *t, const char *line)
{
    ssize_t ignored = t->to >= 0 ? write(t->to, line, strlen(line)) : 0;
    (void)ignored;
}

static void say_letter(const Trial *t, char what)
{
    say(t, (char[]){what, '\n', 0});
}

/* ---- beginning ---- */

static bool start_guard(Trial *t, char *const words[], Err *e)
{
    int to[2] = {-1, -1}, from[2] = {-1, -1};
    bool ok = system_pipe(to, false) && system_pipe(from, false);
    t->guard = ok ? trial_start(words, to[0], from[1]) : -1;
    int code = errno;
    if (to[0] >= 0)
        close(to[0]);
    if (from[1] >= 0)
        close(from[1]);
    t->to = to[1];
    t->from = from[0];
    return t->guard > 0 || err_set(e, "The guard of the trial cannot be begun: %s", err_os(code));
}

/* With a folder; its `until` keeps others from taking it for one whose guard has died. */
static Trial *new_trial(unsigned seconds, bool away, Err *e)
{
    Trial *t = mem_get(sizeof *t);
    char until[40];
    t->to = t->from = -1;
    t->seconds = seconds;
    t->away = away;
    t->folder = trial_folder_make(e);
    snprintf(until, sizeof until, "%lld", (long long)time(NULL) + (away ? seconds + AFTER_SECONDS : 20));
    if (t->folder && trial_folder_put(t->folder, "until", until) &&
        (!away || trial_folder_put(t->folder, "away", "")))
        return t;
    if (t->folder)
        err_set(e, "The old version cannot be laid aside: %s", err_os(errno));
    trial_free(t);
    return NULL;
}

static void forget(Trial *t)
{
    if (t->guard > 0)
        kill(t->guard, SIGKILL);
    folder_remove(t->folder);
    trial_free(t);
}

Trial *trial_begin(const char *command, unsigned seconds, const char *program, Err *e)
{
    char own[4096], number[24];
    Trial *t = new_trial(seconds, false, e);
    snprintf(number, sizeof number, "%u", seconds);
    if (!t)
        return NULL;
    bool ok = program || system_own_path(own, sizeof own) ||
              err_set(e, "This program cannot be found, so nobody could guard the trial");
    char *words[] = {program ? (char *)program : own, (char *)TRIAL_ROLE, t->folder, NULL};
    ok = ok && ((trial_folder_put(t->folder, "command", command) &&
                 trial_folder_put(t->folder, "seconds", number)) ||
                err_set(e, "The trial cannot be written down: %s", err_os(errno)));
    ok = ok && start_guard(t, words, e) &&
         (hears_ready(t) || err_set(e, "The guard of the trial did not begin; nothing was saved"));
    if (ok)
        return t;
    forget(t);
    return NULL;
}

Trial *trial_begin_there(char *const words[], unsigned seconds, Err *e)
{
    Trial *t = new_trial(seconds, true, e);
    if (t && (t->on_host = start_guard(t, words, e)))
        return t;
    if (t)
        forget(t);
    return NULL;
}

Trial *trial_begin_by_root(int to, int from, unsigned seconds, Err *e)
{
    Trial *t = new_trial(seconds, true, e);
    if (!t)
        return NULL; /* its guard takes the file back all the same */
    t->to = to;
    t->from = from;
    t->ready = true;
    return t;
}

bool trial_is_ready(Trial *t)
{
    if (!t->ready && !hear(t) && t->fate == TRIAL_RUNS)
        t->fate = TRIAL_LOST;
    return t->ready;
}

bool trial_add(Trial *t, const TrialFile *f, Err *e)
{
    if (t->n == TRIAL_FILES_MOST)
        return err_set(e, "more than %d files are too many for one trial", TRIAL_FILES_MOST);
    if (!trial_folder_add(t->folder, t->n, f, !t->away, e))
        return false;
    t->n++;
    if (t->on_host) {
        char sum[TRIAL_SUM_MAX], line[TRIAL_SUM_MAX + 3];
        trial_there_sum(f->existed ? &f->old : NULL, sum);
        if (strcmp(bytes_str(&t->there), sum) != 0)
            return err_set(e, "it changed there just now");
        trial_there_sum(&f->fresh, sum);
        snprintf(line, sizeof line, "%c %s\n", SAY_ADD, sum);
        say(t, line);
    } else if (!t->away) {
        t->ready = false;
        say_letter(t, SAY_ADD);
        return hears_ready(t) || err_set(e, "the guard of the trial does not answer");
    }
    return true;
}

/* ---- while it runs ---- */

void trial_saved(Trial *t)
{
    t->since = trial_now_ms();
    say_letter(t, SAY_SAVED);
}

bool trial_ran(Trial *t, int *status, Bytes *output)
{
    if (!t->ran || t->ran_told)
        return false;
    t->ran_told = true;
    *status = t->status;
    bytes_clear(output);
    bytes_add(output, bytes_str(&t->output), t->output.len);
    return true;
}

void trial_stop_command(Trial *t)
{
    say_letter(t, SAY_STOP);
}

void trial_keep(Trial *t)
{
    say_letter(t, SAY_KEEP);
}

void trial_take_back(Trial *t)
{
    say_letter(t, SAY_BACK);
}

unsigned trial_left(const Trial *t)
{
    uint64_t all = (uint64_t)t->seconds * 1000, gone = t->since ? trial_now_ms() - t->since : 0;
    return gone < all ? (unsigned)(all - gone) : 0;
}

int trial_fd(const Trial *t)
{
    return t->from;
}

TrialFate trial_look(Trial *t, Err *words)
{
    bool more = t->fate != TRIAL_RUNS || hear(t);
    if (!more && t->fate == TRIAL_RUNS) {
        t->fate = TRIAL_LOST;
        for (size_t i = 0; i < t->n; i++)
            t->fates[i] = TRIAL_LOST;
    } else if (t->fate != TRIAL_RUNS && t->fate != TRIAL_LOST) {
        folder_remove(t->folder); /* the person is told of it now, and no later one need be */
    }
    err_set(words, "%s", bytes_str(&t->words));
    return t->fate;
}

TrialFate trial_look_at(const Trial *t, size_t number)
{
    return number < t->n ? t->fates[number] : TRIAL_LOST;
}

bool trial_is_out_of_reach(const Trial *t)
{
    return t->fate == TRIAL_LOST && t->away &&
           (t->on_host || !t->lives || (programs_live(t->lives) && programs_born(t->lives) == t->born));
}

void trial_free(Trial *t)
{
    if (!t)
        return;
    if (t->guard > 0)
        waitpid(t->guard, NULL, WNOHANG);
    if (t->to >= 0)
        close(t->to);
    if (t->from >= 0)
        close(t->from);
    bytes_free(&t->said);
    bytes_free(&t->output);
    bytes_free(&t->there);
    bytes_free(&t->words);
    free(t->folder);
    free(t);
}

void trial_drop(Trial *t)
{
    if (t)
        trial_keep(t);
    if (t && t->away)
        folder_remove(t->folder);
    trial_free(t);
}
