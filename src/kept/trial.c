#include "kept/trial.h"

#include "base/folder.h"
#include "base/mem.h"
#include "base/own_folder.h"
#include "base/paths.h"
#include "base/programs.h"
#include "base/system.h"
#include "files/job_task.h"
#include "files/save.h"
#include "files/write.h"
#include "kept/earlier.h"
#include "kept/store.h"

#include <errno.h>
#include <poll.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

enum {
    READY_MS = 5000,      /* that the guard may take to begin */
    COMMAND_SECONDS = 60, /* that its command may take */
    TRY_AGAIN_MS = 2000,  /* between tries to put the old version back */
    TRIES = 300,
    FIELD_MOST = 64 * 1024 /* bytes of a path or a command */
};

/* What editor and guard say to each other, a letter each. */
enum {
    SAY_SAVED = 's',
    SAY_KEEP = 'k',
    SAY_BACK = 't',
    SAY_READY = 'r',
    SAY_KEPT = 'K',
    SAY_TAKEN = 'T',
    SAY_NEVER = 'N',
    SAY_CHANGED = 'C',
    SAY_FAILED = 'F'
};

struct Trial {
    char *folder;
    pid_t guard;
    int to, from; /* -1: closed */
    unsigned seconds;
    uint64_t since; /* ms on the clock that also counts a machine's sleep; 0: not saved yet */
    TrialFate fate;
    Bytes words; /* that came after the fate */
};

/* Goes on while the machine sleeps, and is not set by anybody. */
static uint64_t awake_ms(void)
{
#ifdef CLOCK_BOOTTIME
    struct timespec t;
    if (clock_gettime(CLOCK_BOOTTIME, &t) == 0)
        return (uint64_t)t.tv_sec * 1000 + (uint64_t)t.tv_nsec / 1000000;
#endif
    return system_now_ms();
}

/* ---- the folder of a trial ---- */

static char *trials_folder(Err *e)
{
    char *state = own_folder_of_state(e);
    char *folder = state ? path_in(state, "trials") : NULL;
    if (folder && !folder_make(folder)) {
        err_set(e, "Cannot make %s: %s", folder, err_os(errno));
        free(folder);
        folder = NULL;
    }
    free(state);
    return folder;
}

static bool put_file(const char *folder, const char *name, Text t)
{
    char *path = path_in(folder, name);
    int fd = open(path, O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0600);
    bool ok = fd >= 0 && write_text(fd, t) && write_sync(fd);
    if (fd >= 0 && close(fd) != 0)
        ok = false;
    free(path);
    return ok;
}

static bool put_string(const char *folder, const char *name, const char *s)
{
    Text t = {0};
    bool ok = text_insert(&t, 0, s, strlen(s)) && put_file(folder, name, t);
    text_drop(&t);
    return ok;
}

/* NULL when it is not there. */
static char *get_string(const char *folder, const char *name)
{
    char *path = path_in(folder, name), *s = NULL;
    int fd = open(path, O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK);
    if (fd >= 0) {
        s = mem_get(FIELD_MOST + 1);
        ssize_t n = system_read_full(fd, s, FIELD_MOST);
        s[n > 0 ? n : 0] = 0;
        close(fd);
    }
    free(path);
    return s;
}

static bool write_folder(const char *folder, const TrialWish *w)
{
    char facts[200];
    snprintf(facts, sizeof facts, "1 %u %d %016llx %016llx\n", w->seconds, w->existed,
             (unsigned long long)store_hash(w->old), (unsigned long long)store_hash(w->fresh));
    bool ok = strlen(w->path) < FIELD_MOST && strlen(w->command) < FIELD_MOST;
    ok = ok && put_file(folder, "old", w->old) && put_string(folder, "path", w->path);
    ok = ok && put_string(folder, "command", w->command) && put_string(folder, "facts", facts);
    if (ok)
        write_sync_folder(folder);
    return ok;
}

/* ---- the editor's side ---- */

static void be_guard(const char *program, const char *folder, int from, int to)
{
    setsid(); /* no hang-up of the terminal reaches it */
    int nothing = open("/dev/null", O_RDWR);
    dup2(from, 0);
    dup2(to, 1);
    dup2(nothing, 2);
    if (chdir("/") != 0)
        _exit(1);
    execl(program, program, TRIAL_ROLE, folder, (char *)NULL);
    _exit(127);
}

static bool start_guard(Trial *t, const char *program, Err *e)
{
    int to[2] = {-1, -1}, from[2] = {-1, -1};
    char own[4096];
    if (!program && !system_own_path(own, sizeof own))
        return err_set(e, "This program cannot be found, so nobody could guard the trial");
    bool ok = system_pipe(to, false) && system_pipe(from, false);
    t->guard = ok ? programs_fork() : -1;
    if (t->guard == 0)
        be_guard(program ? program : own, t->folder, to[0], from[1]);
    int code = errno;
    if (to[0] >= 0)
        close(to[0]);
    if (from[1] >= 0)
        close(from[1]);
    t->to = to[1];
    t->from = from[0];
    return t->guard > 0 || err_set(e, "The guard of the trial cannot be begun: %s", err_os(code));
}

static bool is_ready(const Trial *t)
{
    struct pollfd fd = {.fd = t->from, .events = POLLIN};
    char c = 0;
    return poll(&fd, 1, READY_MS) == 1 && read(t->from, &c, 1) == 1 && c == SAY_READY;
}

static void say_to(const Trial *t, char what)
{
    ssize_t ignored = t->to >= 0 ? write(t->to, &what, 1) : 0;
    (void)ignored;
}

Trial *trial_begin(const TrialWish *w, Err *e)
{
    char *trials = trials_folder(e);
    if (!trials)
        return NULL;
    Trial *t = mem_get(sizeof *t);
    t->to = t->from = -1;
    t->seconds = w->seconds;
    Bytes name = {0};
    bytes_printf(&name, "%s/trial-XXXXXX", trials);
    free(trials);
    t->folder = mkdtemp(name.at) ? name.at : NULL;
    if (!t->folder) {
        err_set(e, "Cannot make a folder for the trial: %s", err_os(errno));
        bytes_free(&name);
    } else if (!write_folder(t->folder, w)) {
        err_set(e, "The old version cannot be laid aside: %s", err_os(errno));
    } else if (start_guard(t, w->program, e)) {
        if (is_ready(t))
            return t;
        kill(t->guard, SIGKILL);
        err_set(e, "The guard of the trial did not begin; nothing was saved");
    }
    if (t->folder)
        folder_remove(t->folder);
    trial_free(t);
    return NULL;
}

void trial_saved(Trial *t)
{
    t->since = awake_ms();
    say_to(t, SAY_SAVED);
}

void trial_keep(Trial *t)
{
    say_to(t, SAY_KEEP);
}

void trial_take_back(Trial *t)
{
    say_to(t, SAY_BACK);
}

unsigned trial_left(const Trial *t)
{
    uint64_t all = (uint64_t)t->seconds * 1000, gone = t->since ? awake_ms() - t->since : 0;
    return gone < all ? (unsigned)(all - gone) : 0;
}

int trial_fd(const Trial *t)
{
    return t->from;
}

static TrialFate fate_of(char letter)
{
    switch (letter) {
    case SAY_KEPT:
        return TRIAL_KEPT;
    case SAY_TAKEN:
        return TRIAL_TAKEN_BACK;
    case SAY_NEVER:
        return TRIAL_NEVER_SAVED;
    case SAY_CHANGED:
        return TRIAL_CHANGED;
    case SAY_FAILED:
        return TRIAL_FAILED;
    default:
        return TRIAL_LOST;
    }
}

/* All that the guard says comes in one piece: a letter, and words. */
TrialFate trial_look(Trial *t, Err *words)
{
    struct pollfd fd = {.fd = t->from, .events = POLLIN};
    char said[600];
    words->text[0] = 0;
    if (t->fate == TRIAL_RUNS && t->from >= 0 && poll(&fd, 1, 0) == 1) {
        ssize_t n = read(t->from, said, sizeof said - 1);
        said[n > 0 ? n : 0] = 0;
        t->fate = n > 0 ? fate_of(said[0]) : TRIAL_LOST;
        bytes_clear(&t->words);
        bytes_add_str(&t->words, n > 1 ? said + 1 : "");
        if (t->fate != TRIAL_LOST) /* the person is told of it now, and no later one need be */
            folder_remove(t->folder);
    }
    err_set(words, "%s", bytes_str(&t->words));
    return t->fate;
}

void trial_free(Trial *t)
{
    if (!t)
        return;
    if (t->to >= 0)
        close(t->to);
    if (t->from >= 0)
        close(t->from);
    bytes_free(&t->words);
    free(t->folder);
    free(t);
}

/* ---- the guard ---- */

typedef struct Guard {
    const char *folder;
    char *path, *command;
    Text old;
    bool existed;
    unsigned seconds;
    unsigned long long old_hash, fresh_hash;
} Guard;

static volatile sig_atomic_t asked_to_end;

static void end_asked(int number)
{
    (void)number;
    asked_to_end = 1;
}

static void be_deaf(void)
{
    static const int deaf[] = {SIGHUP, SIGINT, SIGQUIT, SIGPIPE, SIGTSTP, SIGTTIN, SIGTTOU};
    struct sigaction a = {.sa_handler = SIG_IGN}, end = {.sa_handler = end_asked};
    for (size_t i = 0; i < sizeof deaf / sizeof *deaf; i++)
        sigaction(deaf[i], &a, NULL);
    sigaction(SIGTERM, &end, NULL); /* the machine goes down: nobody would be there after it */
}

/* Who guards, so that a folder whose guard has died is told from one that is guarded. */
static bool sign(const Guard *g)
{
    char words[80];
    snprintf(words, sizeof words, "%ld %lld", (long)getpid(), programs_born(getpid()));
    return put_string(g->folder, "guard", words);
}

static bool is_guarded(const char *folder)
{
    long pid;
    long long born;
    char *words = get_string(folder, "guard");
    bool lives = words && sscanf(words, "%ld %lld", &pid, &born) == 2 && pid > 0 &&
                 programs_live((pid_t)pid) && programs_born((pid_t)pid) == born;
    free(words);
    return lives;
}

static bool read_folder(Guard *g)
{
    DiskState disk;
    Err e;
    int existed = 0;
    char *facts = get_string(g->folder, "facts"), *old = path_in(g->folder, "old");
    g->path = get_string(g->folder, "path");
    g->command = get_string(g->folder, "command");
    bool ok = facts && g->path && g->command && g->path[0] == '/' &&
              sscanf(facts, "1 %u %d %llx %llx", &g->seconds, &existed, &g->old_hash, &g->fresh_hash) == 4;
    ok = ok && load_file(old, &g->old, &disk, &e) && disk.exists && store_hash(g->old) == g->old_hash;
    g->existed = existed;
    free(facts);
    free(old);
    return ok;
}

/* What is at the path now. */
static TrialFate look(const Guard *g, DiskState *disk)
{
    Text now = {0};
    Err e;
    if (!load_file(g->path, &now, disk, &e))
        return TRIAL_CHANGED;
    uint64_t hash = store_hash(now);
    text_drop(&now);
    if (!disk->exists)
        return g->existed ? TRIAL_CHANGED : TRIAL_NEVER_SAVED;
    if (hash == g->fresh_hash)
        return TRIAL_RUNS;
    return g->existed && hash == g->old_hash ? TRIAL_NEVER_SAVED : TRIAL_CHANGED;
}

static bool remove_new(const Guard *g, const DiskState *disk, Err *e)
{
    if (!disk_is(g->path, disk))
        return err_set(e, "it changed just now");
    return unlink(g->path) == 0 || err_set(e, "%s", err_os(errno));
}

static void nothing(void *ctx, JobEnd how)
{
    (void)ctx, (void)how;
}

/* Runs the command; what went wrong goes to e. */
static void run_command(const Guard *g, Err *e)
{
    char *const words[] = {(char *)"/bin/sh", (char *)"-c", g->command, NULL};
    JobSpec spec = {.words = words, .folder = "/"};
    JobTask t = {0};
    Tasks tasks = {0};
    e->text[0] = 0;
    if (!*g->command || !job_start_program(&t.job, &spec, e))
        return;
    job_task_begin(&t, &tasks, COMMAND_SECONDS, NULL, NULL, nothing, NULL);
    if (!job_task_wait(&t, COMMAND_SECONDS * 1000, (Stop){0}))
        err_set(e, "“%.100s” did not end", g->command);
    else if (t.job.status != 0)
        err_set(e, "“%.100s” ended with status %d", g->command, t.job.status);
    job_task_free(&t);
}

/* Puts the old version back, however often that must be tried. */
static TrialFate take_back(const Guard *g, Err *e)
{
    for (int i = 0; i < TRIES; i++) {
        DiskState disk, saved;
        Err ignored;
        TrialFate fate = look(g, &disk);
        if (fate != TRIAL_RUNS)
            return fate;
        SaveWish wish = {.only = &disk};
        earlier_keep(g->path, true, &ignored); /* the version on trial stays available */
        if (g->existed ? save_file(g->path, g->old, &wish, &saved, e) : remove_new(g, &disk, e)) {
            run_command(g, e);
            return TRIAL_TAKEN_BACK;
        }
        poll(NULL, 0, TRY_AGAIN_MS);
    }
    return TRIAL_FAILED;
}

static const char letters[] = {
    [TRIAL_RUNS] = SAY_FAILED,       [TRIAL_KEPT] = SAY_KEPT,       [TRIAL_TAKEN_BACK] = SAY_TAKEN,
    [TRIAL_NEVER_SAVED] = SAY_NEVER, [TRIAL_CHANGED] = SAY_CHANGED, [TRIAL_FAILED] = SAY_FAILED,
    [TRIAL_LOST] = SAY_FAILED};

/* Writes down what was done, for the next who starts an editor, and tells the one that may still be there. */
static void report(const Guard *g, TrialFate fate, const char *words)
{
    Bytes said = {0}, result = {0};
    bytes_printf(&said, "%c%.500s", letters[fate], words);
    bytes_printf(&result, "%c %lld\n", letters[fate], (long long)time(NULL));
    if (fate == TRIAL_KEPT || fate == TRIAL_NEVER_SAVED)
        folder_remove(g->folder);
    else
        put_string(g->folder, "result", result.at);
    ssize_t ignored = write(1, said.at, said.len);
    (void)ignored;
    bytes_free(&said);
    bytes_free(&result);
}

/* Waits until it is told something, or the time is over. The editor may be gone long before. */
static char wait_for_word(const Guard *g)
{
    enum { LOOK_EACH = 500 /* ms, as clocks and stopped processes are what they are */ };
    uint64_t since = awake_ms();
    bool listens = true, saved = false;
    while (!asked_to_end && awake_ms() - since < (uint64_t)g->seconds * 1000) {
        struct pollfd fd = {.fd = listens ? 0 : -1, .events = POLLIN};
        char c;
        if (poll(&fd, 1, LOOK_EACH) != 1)
            since =
                saved || !listens ? since : awake_ms(); /* nothing is saved yet: questions take their time */
        else if (read(0, &c, 1) != 1)
            listens = false;
        else if (c == SAY_SAVED)
            since = awake_ms(), saved = true;
        else
            return c;
    }
    return SAY_BACK;
}

int trial_guard(const char *folder)
{
    Guard g = {.folder = folder};
    Err e = {""};
    be_deaf();
    if (!read_folder(&g) || !sign(&g))
        return 1;
    char ready = SAY_READY;
    if (write(1, &ready, 1) != 1)
        return 1;
    TrialFate fate = wait_for_word(&g) == SAY_KEEP ? TRIAL_KEPT : take_back(&g, &e);
    report(&g, fate, e.text);
    text_drop(&g.old);
    free(g.path);
    free(g.command);
    return 0;
}

/* ---- what was done meanwhile ---- */

typedef struct Results {
    void (*each)(const char *path, TrialFate fate, long long when, void *ctx);
    void *ctx;
    const char *trials;
} Results;

static bool take_result(int fd, const char *name, void *ctx)
{
    (void)fd;
    const Results *r = ctx;
    char letter;
    long long when;
    char *folder = path_in(r->trials, name);
    char *result = get_string(folder, "result"), *path = get_string(folder, "path");
    if (result && path && sscanf(result, "%c %lld", &letter, &when) == 2) {
        r->each(path, fate_of(letter), when, r->ctx);
        folder_remove(folder);
    } else if (path && !is_guarded(folder)) { /* it was killed, or the machine went down */
        r->each(path, TRIAL_LOST, 0, r->ctx);
        folder_remove(folder);
    }
    free(result);
    free(path);
    free(folder);
    return true;
}

void trial_each_result(void (*each)(const char *path, TrialFate fate, long long when, void *ctx), void *ctx)
{
    char *state = own_folder_of("STATE"), *trials = state ? path_in(state, "trials") : NULL;
    Results r = {each, ctx, trials};
    if (trials)
        folder_read(trials, take_result, &r);
    free(trials);
    free(state);
}
