#include "kept/trial_guard.h"

#include "base/folder.h"
#include "base/mem.h"
#include "base/programs.h"
#include "base/system.h"
#include "files/job_task.h"
#include "files/load.h"
#include "files/save.h"
#include "kept/earlier.h"
#include "kept/store.h"
#include "kept/trial_folder.h"

#include <errno.h>
#include <poll.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

enum {
    COMMAND_SECONDS = 60, /* that its command may take */
    TRY_AGAIN_MS = 2000,  /* between tries to put old versions back */
    TRIES = 300,
    LOOK_MS = 500 /* as clocks and stopped processes are what they are */
};

typedef struct Guarded {
    TrialFacts facts;
    Text old;
    TrialFate fate;
} Guarded;

typedef struct Guard {
    const char *folder;
    char *command;
    unsigned seconds;
    Guarded files[TRIAL_FILES_MOST];
    size_t n;
    bool listens; /* the editor may still say something */
    bool saved;
    uint64_t since;
    Tasks tasks;
    JobTask job;
    bool runs;
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

/* The editor may be gone, or may not listen: it is not waited for. */
static void tell(const Bytes *line)
{
    Bytes all = {0};
    bytes_add_str(&all, TRIAL_MARK);
    bytes_add(&all, bytes_str(line), line->len);
    for (size_t i = 0; i < all.len; i++)
        all.at[i] = all.at[i] == '\n' ? TRIAL_LINE : all.at[i];
    bytes_add_str(&all, "\n");
    struct pollfd fd = {.fd = 1, .events = POLLOUT};
    ssize_t ignored = poll(&fd, 1, 0) == 1 ? write(1, all.at, all.len) : 0;
    (void)ignored;
    bytes_free(&all);
}

static void tell_letter(char what, const char *words)
{
    Bytes line = {0};
    bytes_printf(&line, "%c%s", what, words);
    tell(&line);
    bytes_free(&line);
}

/* ---- the command ---- */

static bool start_command(Guard *g, Err *e)
{
    char *const words[] = {(char *)"/bin/sh", (char *)"-c", g->command, NULL};
    JobSpec spec = {.words = words, .output_most = 1 << 20};
    return job_start_program(&g->job.job, &spec, e);
}

static void first_run_ended(void *ctx, JobEnd how)
{
    Guard *g = ctx;
    const Job *j = &g->job.job;
    Bytes line = {0}, output = {0};
    bytes_add(&output, bytes_str(&j->said), j->said.len);
    bytes_add(&output, bytes_str(&j->output), j->output.len);
    if (how == JOB_ENDED)
        bytes_printf(&line, "%c%d ", SAY_RAN, j->status);
    else
        bytes_printf(&line, "%c- ", SAY_RAN);
    bytes_add(&line, bytes_str(&output), output.len < TRIAL_OUTPUT_MOST ? output.len : TRIAL_OUTPUT_MOST);
    tell(&line);
    bytes_free(&line);
    bytes_free(&output);
    job_task_free(&g->job);
    g->runs = false;
}

static void run_first(Guard *g)
{
    Err e = {""};
    if (!*g->command) {
        tell_letter(SAY_RAN, "0 ");
    } else if (start_command(g, &e)) {
        g->runs = true;
        job_task_begin(&g->job, &g->tasks, COMMAND_SECONDS, "it", NULL, first_run_ended, g);
    } else {
        Bytes words = {0};
        bytes_printf(&words, "127 %s", e.text);
        tell_letter(SAY_RAN, words.at);
        bytes_free(&words);
    }
}

static void nothing(void *ctx, JobEnd how)
{
    (void)ctx, (void)how;
}

/* With the old versions in their places; what went wrong goes to e. */
static void run_again(Guard *g, Err *e)
{
    e->text[0] = 0;
    if (!*g->command || !start_command(g, e))
        return;
    job_task_begin(&g->job, &g->tasks, COMMAND_SECONDS, NULL, NULL, nothing, NULL);
    if (!job_task_wait(&g->job, COMMAND_SECONDS * 1000, (Stop){0}))
        err_set(e, "“%.100s” did not end", g->command);
    else if (g->job.job.status != 0)
        err_set(e, "“%.100s” ended with status %d", g->command, g->job.job.status);
    job_task_free(&g->job);
}

/* ---- taking back ---- */

/* What is at the path now. */
static TrialFate look(const Guarded *f, DiskState *disk)
{
    Text now = {0};
    Err ignored;
    if (!load_file(f->facts.path, &now, disk, &ignored))
        return TRIAL_CHANGED;
    uint64_t hash = store_hash(now);
    text_drop(&now);
    if (!disk->exists)
        return f->facts.existed ? TRIAL_CHANGED : TRIAL_NEVER_SAVED;
    if (hash == f->facts.fresh_hash)
        return TRIAL_RUNS;
    return f->facts.existed && hash == f->facts.old_hash ? TRIAL_NEVER_SAVED : TRIAL_CHANGED;
}

static bool remove_new(const Guarded *f, const DiskState *disk, Err *e)
{
    if (!disk_is(f->facts.path, disk))
        return err_set(e, "it changed just now");
    return unlink(f->facts.path) == 0 || err_set(e, "%s", err_os(errno));
}

/* False: it is to be tried again. */
static bool put_back(Guarded *f, Err *e)
{
    DiskState disk, saved;
    Err ignored;
    f->fate = look(f, &disk);
    if (f->fate != TRIAL_RUNS)
        return true;
    SaveWish wish = {.only = &disk};
    earlier_keep(f->facts.path, true, &ignored); /* the version on trial stays available */
    if (f->facts.existed ? save_file(f->facts.path, f->old, &wish, &saved, e) : remove_new(f, &disk, e))
        f->fate = TRIAL_TAKEN_BACK;
    return f->fate == TRIAL_TAKEN_BACK;
}

/* Puts the old versions back, however often that must be tried; then all of it takes effect again. */
static void take_back(Guard *g, Err *e)
{
    size_t back = 0;
    if (g->runs)
        job_task_free(&g->job);
    g->runs = false;
    for (int i = 0; i < TRIES; i++) {
        size_t open = 0;
        for (size_t k = g->n; k-- > 0;)
            open += g->files[k].fate == TRIAL_RUNS && !put_back(&g->files[k], e);
        if (!open)
            break;
        poll(NULL, 0, TRY_AGAIN_MS);
    }
    for (size_t k = 0; k < g->n; k++) {
        if (g->files[k].fate == TRIAL_RUNS)
            g->files[k].fate = TRIAL_FAILED;
        back += g->files[k].fate == TRIAL_TAKEN_BACK;
    }
    if (back)
        run_again(g, e);
}

/* Writes down what was done, for the next who starts an editor, and tells the one that may still be there. */
static void report(const Guard *g, const char *words)
{
    Bytes fates = {0}, line = {0};
    bool news = false, failed = false;
    char *helped = trial_folder_get(g->folder, "helped");
    for (size_t i = 0; i < g->n; i++) {
        TrialFate fate = g->files[i].fate;
        bytes_add(&fates, (char[]){trial_letter_of(fate)}, 1);
        news = news || (fate != TRIAL_KEPT && fate != TRIAL_NEVER_SAVED);
        failed = failed || fate == TRIAL_FAILED;
    }
    if (helped && !failed) /* whoever root helped has a note of it, and sees what lies there */
        news = false;
    free(helped);
    bytes_printf(&line, "%s %lld\n", bytes_str(&fates), (long long)time(NULL));
    if (news)
        trial_folder_put(g->folder, "result", line.at);
    else
        folder_remove(g->folder);
    bytes_clear(&line);
    bytes_printf(&line, "%s %.500s", bytes_str(&fates), words);
    tell(&line);
    bytes_free(&line);
    bytes_free(&fates);
}

/* ---- the watch ---- */

/* The next file that the editor has laid down; false when there is none. */
static bool take_in(Guard *g)
{
    Guarded *f = &g->files[g->n];
    if (g->n == TRIAL_FILES_MOST || !trial_folder_read(g->folder, g->n, &f->facts, &f->old) ||
        f->facts.path[0] != '/')
        return false;
    f->fate = TRIAL_RUNS;
    g->n++;
    return true;
}

/* What the editor says; SAY_KEEP or SAY_BACK end the watch. */
static char take_word(Guard *g, char c)
{
    char lives[60];
    if (c == SAY_ADD && take_in(g)) {
        tell_letter(SAY_READY, "");
    } else if (c == SAY_SAVED && !g->saved) {
        snprintf(lives, sizeof lives, "%ld %lld", (long)getpid(), programs_born(getpid()));
        tell_letter(SAY_LIVES, lives);
        g->since = trial_now_ms();
        g->saved = true;
        run_first(g);
    } else if (c == SAY_STOP && g->runs) {
        tasks_cancel(&g->tasks);
    }
    return c;
}

/* Until it is told something, or the time is over. The editor may be gone long before. */
static char watch(Guard *g)
{
    g->since = trial_now_ms();
    while (!asked_to_end && trial_now_ms() - g->since < (uint64_t)g->seconds * 1000) {
        struct pollfd fds[1 + TASK_FDS] = {{.fd = g->listens ? 0 : -1, .events = POLLIN}};
        size_t n = 1 + tasks_fds(&g->tasks, fds + 1, TASK_FDS);
        int wait = task_sooner(LOOK_MS, tasks_wait(&g->tasks));
        bool heard = poll(fds, n, wait) > 0 && fds[0].revents;
        tasks_poll(&g->tasks);
        char c = 0;
        if (heard && read(0, &c, 1) != 1)
            g->listens = false;
        else if (heard && (take_word(g, c) == SAY_KEEP || c == SAY_BACK))
            return c;
        else if (!g->saved && g->listens) /* questions take their time */
            g->since = trial_now_ms();
    }
    return SAY_BACK;
}

static bool begin(Guard *g)
{
    char *seconds = trial_folder_get(g->folder, "seconds");
    g->command = trial_folder_get(g->folder, "command");
    g->seconds = seconds ? (unsigned)atoi(seconds) : 0;
    free(seconds);
    while (take_in(g))
        continue;
    return g->command && g->seconds && trial_folder_sign(g->folder, getpid(), programs_born(getpid()));
}

int trial_guard(const char *folder)
{
    Guard *g = mem_get(sizeof *g);
    Err e = {""};
    be_deaf();
    g->folder = folder;
    g->listens = true;
    bool ok = begin(g);
    if (ok && !g->n) /* the editor adds them and waits for this; root's helper has added its own */
        tell_letter(SAY_READY, "");
    if (ok && watch(g) == SAY_KEEP) {
        for (size_t i = 0; i < g->n; i++)
            g->files[i].fate = TRIAL_KEPT;
    } else if (ok) {
        take_back(g, &e);
    }
    if (ok)
        report(g, e.text);
    if (g->runs) /* what is kept may take effect to its end */
        job_task_wait(&g->job, COMMAND_SECONDS * 1000, (Stop){0});
    for (size_t i = 0; i < g->n; i++) {
        text_drop(&g->files[i].old);
        free(g->files[i].facts.path);
    }
    free(g->command);
    free(g);
    return ok ? 0 : 1;
}

/* ---- root's side ---- */

typedef struct Helper {
    const RootRules *rules;
    const char *seconds, *command;
    char *folder;
    pid_t guard;
} Helper;

static bool is_signed(const Helper *h)
{
    enum { TRIES_MOST = 500, EACH_MS = 10 };
    char *words = NULL;
    for (int i = 0; i < TRIES_MOST && programs_live(h->guard); i++, poll(NULL, 0, EACH_MS))
        if ((words = trial_folder_get(h->folder, "guard")))
            break;
    free(words);
    return words != NULL;
}

static bool lay_down(Helper *h, const char *path, Text fresh, Err *e)
{
    char until[40];
    DiskState disk;
    Text old = {0};
    if (!load_file(path, &old, &disk, e))
        return false;
    TrialFile f = {.path = path, .old = old, .existed = disk.exists, .fresh = fresh};
    h->folder = trial_folder_make(e);
    snprintf(until, sizeof until, "%lld", (long long)time(NULL) + 20);
    bool ok = h->folder && trial_folder_add(h->folder, 0, &f, true, e);
    ok = ok && ((trial_folder_put(h->folder, "until", until) && trial_folder_put(h->folder, "helped", "") &&
                 trial_folder_put(h->folder, "command", h->command) &&
                 trial_folder_put(h->folder, "seconds", h->seconds)) ||
                err_set(e, "the trial cannot be written down: %s", err_os(errno)));
    text_drop(&old);
    return ok;
}

/* The guard is there before the file is saved. */
static bool begin_guard(const char *path, Text fresh, void *ctx, Err *e)
{
    Helper *h = ctx;
    Err why = {""};
    char own[4096], *words[] = {own, (char *)TRIAL_ROLE, NULL, NULL};
    bool ok = system_own_path(own, sizeof own) && lay_down(h, path, fresh, &why);
    if (ok && h->rules->before && !h->rules->before(path, fresh, h->rules->ctx, e))
        ok = false;
    words[2] = h->folder;
    if (ok && (h->guard = trial_start(words, STDIN_FILENO, STDOUT_FILENO)) > 0 && is_signed(h))
        return true;
    return err_set(e, "Nothing was saved: %s", why.text[0] ? why.text : "no guard could be begun for it");
}

int trial_helper(const char *path, const char *seconds, const char *command, const RootRules *rules)
{
    enum { SECONDS_MOST = 3600 };
    Helper h = {.rules = rules, .seconds = seconds, .command = command};
    RootRules own = {rules->backup_keep, rules->backup_folder, begin_guard, &h};
    char *end;
    long n = strtol(seconds, &end, 10);
    if (n < 1 || n > SECONDS_MOST || *end) {
        puts("Nothing was saved: a trial takes from 1 to 3600 seconds");
        return 1;
    }
    int status = privileged_helper(path, &own);
    if (status != 0 && h.guard > 0)
        kill(h.guard, SIGKILL);
    if (status != 0 && h.folder)
        folder_remove(h.folder);
    free(h.folder);
    return status;
}
