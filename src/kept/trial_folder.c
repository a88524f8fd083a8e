#include "kept/trial_folder.h"

#include "base/folder.h"
#include "base/mem.h"
#include "base/own_folder.h"
#include "base/paths.h"
#include "base/programs.h"
#include "base/system.h"
#include "files/load.h"
#include "files/location.h"
#include "files/write.h"
#include "kept/earlier.h"
#include "kept/store.h"

#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

enum { FIELD_MOST = 64 * 1024 /* bytes of a path or a command */ };

static const char letters[] = {
    [TRIAL_RUNS] = SAY_FAILED,       [TRIAL_KEPT] = SAY_KEPT,       [TRIAL_TAKEN_BACK] = SAY_TAKEN,
    [TRIAL_NEVER_SAVED] = SAY_NEVER, [TRIAL_CHANGED] = SAY_CHANGED, [TRIAL_FAILED] = SAY_FAILED,
    [TRIAL_LOST] = SAY_FAILED,       [TRIAL_AWAY] = SAY_FAILED};

char trial_letter_of(TrialFate fate)
{
    return letters[fate];
}

TrialFate trial_fate_of(char letter)
{
    for (TrialFate f = TRIAL_KEPT; f < TRIAL_LOST; f++)
        if (letters[f] == letter)
            return f;
    return TRIAL_LOST;
}

uint64_t trial_now_ms(void)
{
#ifdef CLOCK_BOOTTIME
    struct timespec t;
    if (clock_gettime(CLOCK_BOOTTIME, &t) == 0)
        return (uint64_t)t.tv_sec * 1000 + (uint64_t)t.tv_nsec / 1000000;
#endif
    return system_now_ms();
}

/* ---- one folder ---- */

char *trial_folder_make(Err *e)
{
    char *state = own_folder_of_state(e), *folder = NULL;
    char *trials = state ? path_in(state, "trials") : NULL;
    if (trials && !folder_make(trials)) {
        err_set(e, "Cannot make %s: %s", trials, err_os(errno));
    } else if (trials) {
        folder = path_in(trials, "trial-XXXXXX");
        if (!mkdtemp(folder)) {
            err_set(e, "Cannot make a folder for the trial: %s", err_os(errno));
            free(folder);
            folder = NULL;
        }
    }
    free(trials);
    free(state);
    return folder;
}

static bool put_text(const char *folder, const char *name, Text t)
{
    char *path = path_in(folder, name);
    int fd = open(path, O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0600);
    bool ok = fd >= 0 && write_text(fd, t) && write_sync(fd);
    if (fd >= 0 && close(fd) != 0)
        ok = false;
    free(path);
    return ok;
}

bool trial_folder_put(const char *folder, const char *name, const char *words)
{
    Text t = {0};
    bool ok =
        strlen(words) < FIELD_MOST && text_insert(&t, 0, words, strlen(words)) && put_text(folder, name, t);
    text_drop(&t);
    return ok;
}

char *trial_folder_get(const char *folder, const char *name)
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

static char *part(const char *folder, size_t number)
{
    char name[24];
    snprintf(name, sizeof name, "%zu", number);
    return path_in(folder, name);
}

bool trial_folder_add(const char *folder, size_t number, const TrialFile *f, bool guarded_here, Err *e)
{
    char facts[80], *in = part(folder, number);
    snprintf(facts, sizeof facts, "1 %d %016llx %016llx\n", f->existed,
             (unsigned long long)store_hash(f->old), (unsigned long long)store_hash(f->fresh));
    bool ok =
        folder_make(in) && trial_folder_put(in, "path", f->path) && trial_folder_put(in, "facts", facts);
    ok = ok && put_text(in, guarded_here ? "old" : "fresh", guarded_here ? f->old : f->fresh);
    if (!ok)
        err_set(e, "the old version cannot be laid aside: %s", err_os(errno));
    else
        write_sync_folder(in);
    free(in);
    return ok;
}

bool trial_folder_read(const char *folder, size_t number, TrialFacts *facts, Text *version)
{
    DiskState disk;
    Err ignored;
    unsigned long long old, fresh;
    int existed = 0;
    char *in = part(folder, number), *words = trial_folder_get(in, "facts");
    bool ok = words && sscanf(words, "1 %d %llx %llx", &existed, &old, &fresh) == 3;
    if (ok && version) {
        char *of_old = path_in(in, "old"), *of_fresh = path_in(in, "fresh");
        bool is_old = load_file(of_old, version, &disk, &ignored) && disk.exists;
        ok = (is_old || (load_file(of_fresh, version, &disk, &ignored) && disk.exists)) &&
             store_hash(*version) == (is_old ? old : fresh);
        free(of_old);
        free(of_fresh);
    }
    *facts = (TrialFacts){.existed = existed};
    if (ok) {
        facts->path = trial_folder_get(in, "path");
        facts->old_hash = old;
        facts->fresh_hash = fresh;
    }
    free(words);
    free(in);
    return ok && facts->path && facts->path[0];
}

pid_t trial_start(char *const words[], int from, int to)
{
    pid_t child = programs_fork();
    if (child != 0)
        return child;
    setsid(); /* no hang-up of the terminal reaches it */
    int nothing = open("/dev/null", O_RDWR);
    dup2(from, 0);
    dup2(to, 1);
    dup2(nothing, 2);
    if (chdir("/") == 0)
        execvp(words[0], words);
    _exit(127);
}

bool trial_folder_sign(const char *folder, pid_t pid, long long born)
{
    char words[80];
    snprintf(words, sizeof words, "%ld %lld", (long)pid, born);
    return trial_folder_put(folder, "guard", words);
}

static bool is_guarded(const char *folder)
{
    long pid;
    long long born, until;
    char *words = trial_folder_get(folder, "guard"), *time_out = trial_folder_get(folder, "until");
    bool lives = words && sscanf(words, "%ld %lld", &pid, &born) == 2 && pid > 0 &&
                 programs_live((pid_t)pid) && programs_born((pid_t)pid) == born;
    /* Who guards it elsewhere is not known; then this is what it has. */
    bool waits = !words && time_out && sscanf(time_out, "%lld", &until) == 1 && time(NULL) < until;
    free(words);
    free(time_out);
    return lives || waits;
}

/* ---- what was done meanwhile ---- */

typedef struct Results {
    void (*each)(const char *path, TrialFate fate, long long when, void *ctx);
    void *ctx;
    const char *trials;
} Results;

/* Somebody else guarded it, who tells nobody afterwards: what lies there now tells. */
static TrialFate judge(const TrialFacts *facts, long long *when)
{
    Text now = {0};
    DiskState disk;
    Err ignored;
    if (location_is_remote(facts->path))
        return TRIAL_AWAY;
    if (!load_file(facts->path, &now, &disk, &ignored))
        return TRIAL_LOST;
    uint64_t hash = store_hash(now);
    text_drop(&now);
    *when = disk.exists ? disk.file.changed.seconds : (long long)time(NULL);
    if (disk.exists && hash == facts->fresh_hash)
        return TRIAL_LOST;
    return disk.exists == facts->existed && (!disk.exists || hash == facts->old_hash) ? TRIAL_TAKEN_BACK
                                                                                      : TRIAL_CHANGED;
}

/* Tells of each file, by what the guard wrote down of all of them, if it did. */
static void tell_of(const Results *r, const char *folder, const char *result)
{
    TrialFacts facts;
    Text version = {0};
    Err ignored;
    char *fates = mem_string(result ? result : "");
    long long when = 0;
    size_t told = strcspn(fates, " ");
    if (fates[told])
        when = atoll(fates + told);
    for (size_t i = 0; trial_folder_read(folder, i, &facts, result ? NULL : &version); i++) {
        long long then = when;
        TrialFate fate = i < told ? trial_fate_of(fates[i]) : TRIAL_LOST;
        char *guard = trial_folder_get(folder, "away");
        if (!result && guard)
            fate = judge(&facts, &then);
        if (guard && fate != TRIAL_LOST)
            earlier_keep_bytes(facts.path, version, &ignored);
        if (fate != TRIAL_KEPT && fate != TRIAL_NEVER_SAVED)
            r->each(facts.path, fate, then, r->ctx);
        text_drop(&version);
        free(guard);
        free(facts.path);
    }
    free(fates);
}

static bool take_result(int fd, const char *name, void *ctx)
{
    (void)fd;
    const Results *r = ctx;
    char *folder = path_in(r->trials, name), *result = trial_folder_get(folder, "result");
    if (result || !is_guarded(folder)) { /* without a result: it was killed, or the machine went down */
        tell_of(r, folder, result);
        folder_remove(folder);
    }
    free(result);
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
