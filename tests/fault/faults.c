/* Every system call of saving, of the journal and of the notes about use fails once, or the process
 * dies before or after it: the file holds the old or the new version, whole. */
#include "check.h"
#include "kept/journal.h"
#include "files/in_use.h"
#include "kept/recoverable.h"

#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <sys/xattr.h>
#include <unistd.h>

static const char *const kinds[] = {"eio",    "enospc", "eintr",       "eacces",
                                    "edquot", "short",  "kill-before", "kill-after"};
enum { KINDS = sizeof kinds / sizeof *kinds, FIRST_KILL = 6, LINES = 9000, MANY_LINES = 230000 };

/* What the person is told of each. */
static const char *const told[FIRST_KILL] = {"Input/output error",           "the disk is full",
                                             "Interrupted system call",      "no permission",
                                             "share of the disk is used up", ""};

/* Without ROUNDS each call gets so many of the kinds, other ones than its neighbours. */
static bool skipped(long n, size_t k, size_t kinds_each)
{
    return !getenv("ROUNDS") && (size_t)(n * 3 + (long)KINDS - (long)k) % KINDS >= kinds_each;
}

static const char *program; /* this one, which also plays the part of the program under test */
static long failed_calls, kills, stayed, written, copied;

/* Runs a command with the n-th call failing; its status as shells give it. */
static int run(const char *command, long n, const char *kind)
{
    check_folder(); /* made here, not by the child */
    pid_t child = fork();
    if (child == 0) {
        char number[24];
        if (chdir(check_folder()) != 0)
            _exit(99);
        snprintf(number, sizeof number, "%ld", n);
        setenv("HOME", check_folder(), 1);
        setenv("FAULT_COUNT", check_path("calls"), 1);
        if (kind) {
            setenv("FAULT_AT", number, 1);
            setenv("FAULT_KIND", kind, 1);
            unsetenv("FAULT_COUNT");
        }
        execl("/bin/sh", "sh", "-c", command, (char *)NULL);
        _exit(98);
    }
    int status;
    waitpid(child, &status, 0);
    return WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
}

static long count_calls(const char *command)
{
    size_t n;
    run(command, 0, NULL);
    const char *text = check_read(check_path("calls"), &n);
    return text ? atol(text) : 0;
}

/* A text of some blocks: each line has `word` in it. */
static char *text_with(const char *word, int lines, size_t *n)
{
    char *s = malloc((size_t)lines * 60);
    *n = 0;
    for (int i = 0; i < lines; i++)
        *n += (size_t)sprintf(s + *n, "berth %d of Harrow Bay is %s since noon\n", i, word);
    return s;
}

static bool holds(const char *path, const char *want, size_t n_want)
{
    static char bytes[MANY_LINES * 60];
    FILE *f = fopen(path, "rb");
    size_t n = f ? fread(bytes, 1, sizeof bytes, f) : 0;
    if (f)
        fclose(f);
    return f && n == n_want && memcmp(bytes, want, n) == 0;
}

/* Is there a file in the folder, left over by a save in place, with the whole new version? */
static bool copy_is_there(const char *want, size_t n_want)
{
    char command[400], name[300] = "";
    snprintf(command, sizeof command, "ls -A '%s' | grep -e unfinished -e safe-copy", check_folder());
    FILE *f = popen(command, "r");
    bool found = false;
    while (f && !found && fgets(name, sizeof name, f)) {
        name[strcspn(name, "\n")] = 0;
        found = holds(check_path(name), want, n_want);
    }
    if (f)
        pclose(f);
    return found;
}

static void clean(void)
{
    char command[300];
    snprintf(command, sizeof command, "cd '%s' && rm -rf ./* ./.[!.]*", check_folder());
    if (system(command) != 0)
        return;
}

#define SAVE "LD_PRELOAD=" SHIM " " SQUILL " --plain --do 'replace-all open shut; save' a.conf 2>said >&2"
#define SAVE_AS_SET "LD_PRELOAD=" SHIM " " SQUILL " --do 'replace-all open shut; save' a.conf 2>said >&2"
#define SETTINGS "mkdir -p .config/steady-quill; cat >.config/steady-quill/settings.lua; "

typedef struct Situation {
    const char *name, *prepare, *command;
    bool in_place;
    int lines; /* many: it is read by threads */
} Situation;

static const Situation saves[] = {
    {"beside", "true", SAVE, false, LINES},
    {"hard link", "ln a.conf b.conf", SAVE, true, LINES},
    {"symbolic link", "mv a.conf real.conf; ln -s real.conf a.conf", SAVE, false, LINES},
    {"attributes and a backup", "echo 'backup = \"one\"' | { " SETTINGS "}", SAVE_AS_SET, false, LINES},
    {"numbered backup in place", "echo 'backup = \"numbered\"' | { " SETTINGS "}; ln a.conf b.conf",
     SAVE_AS_SET, true, LINES},
    {"large", "true", SAVE, false, MANY_LINES},
    {"root's helper",
     "{ printf 'steady-quill 4 %s 1 0 %s %s 1 0\\n' $(stat -c %s a.conf) \"$(stat -c '%d %i' .)\""
     " \"$(stat -c '%d %i %s %.9Y %.9Z' a.conf | tr . ' ')\"; sed s/open/shut/ a.conf; } >input",
     "LD_PRELOAD=" SHIM " " SQUILL " --save-from-pipe \"$PWD/a.conf\" <input >said", false, LINES},
};

typedef struct Versions {
    char *old, *fresh;
    size_t n_old, n_fresh;
} Versions;

static bool has_attribute; /* file systems need not have them */

static void lay_out(const Situation *s, const Versions *v)
{
    clean();
    check_write(check_path("a.conf"), v->old, v->n_old);
    CHECK(chmod(check_path("a.conf"), 0640) == 0);
    has_attribute = setxattr(check_path("a.conf"), "user.quay", "north", 5, 0) == 0;
    run(s->prepare, 0, NULL);
}

/* What is not its bytes is as it was. */
static bool is_dressed(void)
{
    struct stat st;
    char value[8];
    const char *path = check_path("a.conf");
    return stat(path, &st) == 0 && (st.st_mode & 07777) == 0640 &&
           (!has_attribute || getxattr(path, "user.quay", value, sizeof value) == 5);
}

/* What was said of a call that failed: what is wrong, and nothing is left lying about without a word. */
static void check_words(size_t k, bool stays)
{
    size_t n;
    const char *said = check_read(check_path("said"), &n);
    check_result(n > 20 && strstr(said, told[k]), __FILE__, __LINE__, "it said: %s", said);
    if (stays && !strstr(said, "safe-copy"))
        CHECK_INT(run("ls -A | grep -q -e unfinished -e safe-copy", 0, NULL), 1);
}

static void fail_once(const Situation *s, const Versions *v, long n, size_t k)
{
    lay_out(s, v);
    int status = run(s->command, n, kinds[k]);
    const char *path = check_path("a.conf");
    bool is_old = holds(path, v->old, v->n_old), is_new = holds(path, v->fresh, v->n_fresh);
    bool copy = !is_old && !is_new && s->in_place && copy_is_there(v->fresh, v->n_fresh);
    CHECK(is_old || is_new || copy);
    CHECK(status != 0 || is_new);
    CHECK(is_dressed());
    if (k < FIRST_KILL && status != 0)
        check_words(k, is_old);
    stayed += is_old;
    written += is_new;
    copied += copy;
    kills += k >= FIRST_KILL;
    failed_calls += k < FIRST_KILL;
}

TEST(saving)
{
    for (size_t i = 0; i < sizeof saves / sizeof *saves; i++) {
        const Situation *s = &saves[i];
        Versions v;
        v.old = text_with("open", s->lines, &v.n_old);
        v.fresh = text_with("shut", s->lines, &v.n_fresh);
        lay_out(s, &v);
        long calls = count_calls(s->command);
        check_case(s->name);
        CHECK(calls > 10);
        CHECK(holds(check_path("a.conf"), v.fresh, v.n_fresh));
        long step = s->lines == MANY_LINES && !getenv("ROUNDS") ? 3 : 1;
        for (long n = 1; n <= calls; n += step)
            for (size_t k = 0; k < KINDS; k++) {
                char name[100];
                snprintf(name, sizeof name, "%s, call %ld of %ld, %s", s->name, n, calls, kinds[k]);
                check_case(name);
                if (!skipped(n, k, i == 0 ? 2 : 1))
                    fail_once(s, &v, n, k);
            }
        free(v.old);
        free(v.fresh);
    }
    fprintf(stderr, "%ld calls failed, %ld kills: old %ld, new %ld, new in a copy %ld\n", failed_calls, kills,
            stayed, written, copied);
}

/* ---- the journal ---- */

enum { VERSIONS = 6 };

static void version(int i, char out[200])
{
    *out = 0;
    for (int k = 0; k <= i; k++)
        sprintf(out + strlen(out), "version %d of the night's log\n", k);
}

/* The part of the program under test: several versions go to the journal, one by one. */
static int play_journal(void)
{
    Err e = {""};
    DiskState disk = {0};
    char words[200];
    InUse use = {.fd = -1};
    InUseBy by;
    size_t line = 0;
    in_use_take(&use, "night.log", &line, &by);
    Journal *j = journal_open(&e);
    Text t = {0};
    if (!j)
        j = journal_open(&e); /* as the editor does after a while */
    if (!j)
        return 3;
    int64_t id = journal_begin(j, "/harrow/night.log", &disk, t);
    for (int i = 0; i < VERSIONS; i++) {
        Text before = text_keep(t);
        version(i, words);
        text_insert(&t, text_len(t), words + text_len(t), strlen(words) - text_len(t));
        size_t bytes;
        if (i == 3) /* a save ended meanwhile, say: another row takes its place */
            id = journal_replace(j, id, false, "/harrow/night.log", NULL, &disk, before, t, &bytes);
        else
            journal_patch(j, id, before, t, &bytes);
        text_drop(&before);
        if (!journal_settle(j, 5000))
            return 4;
        snprintf(words, sizeof words, "settled.%d", i);
        if (symlink(words, words) != 0 && errno != EEXIST) /* a call that is left alone */
            return 5;
    }
    text_drop(&t);
    journal_close(j);
    in_use_end(&use);
    return 0;
}

/* What is there afterwards is one of the versions, or nothing. */
static int version_there(void)
{
    Err e = {""};
    Recoverable *r;
    char is[400] = "", words[200];
    int found = -1;
    setenv("HOME", check_folder(), 1);
    unsetenv("XDG_STATE_HOME");
    Journal *j = journal_open(&e);
    CHECK(j != NULL);
    size_t n = j ? recoverable_list(j, NULL, &r) : 0;
    CHECK(n <= 1);
    Text t = {0};
    if (n && recoverable_text(j, r[0].id, &t, &e)) {
        is[text_read(t, 0, is, sizeof is - 1)] = 0;
        for (int i = 0; i < VERSIONS; i++) {
            version(i, words);
            found = strcmp(words, is) == 0 ? i : found;
        }
        CHECK(found >= 0 || !*is);
        text_drop(&t);
    }
    if (n)
        recoverable_free(r, n);
    journal_close(j);
    return found;
}

/* The last version that was known to be on disk. */
static int settled(void)
{
    char name[20], aim[20];
    int i = 0;
    for (; i < VERSIONS; i++) {
        snprintf(name, sizeof name, "settled.%d", i);
        if (readlink(check_path(name), aim, sizeof aim) < 0)
            break;
    }
    return i - 1;
}

TEST(the_journal)
{
    char command[600];
    snprintf(command, sizeof command, "LD_PRELOAD=" SHIM " %s --play-journal", program);
    long calls = 0, step = getenv("ROUNDS") ? 1 : 7;
    failed_calls = kills = 0;
    for (long n = 0; n <= calls; n += n ? step : 1)
        for (size_t k = 0; k < KINDS; k++) {
            char name[80];
            snprintf(name, sizeof name, "call %ld of %ld, %s", n, calls, kinds[k]);
            check_case(name);
            clean();
            if (n == 0) {
                calls = count_calls(command);
                CHECK(calls > 50);
                CHECK_INT(version_there(), VERSIONS - 1);
                break;
            }
            int status = run(command, n, kinds[k]), there = version_there();
            if (k < FIRST_KILL) { /* it was tried again */
                CHECK_INT(status, 0);
                CHECK_INT(there, VERSIONS - 1);
            } else
                CHECK(there >= settled()); /* what was there is never gone */
            kills += k >= FIRST_KILL;
            failed_calls += k < FIRST_KILL;
        }
    fprintf(stderr, "%ld calls failed, %ld kills\n", failed_calls, kills);
}

__attribute__((constructor)) static void play(int argc, char **argv)
{
    static char self[400];
    ssize_t n = readlink("/proc/self/exe", self, sizeof self - 1);
    self[n > 0 ? n : 0] = 0;
    program = self;
    if (argc > 1 && strcmp(argv[1], "--play-journal") == 0)
        exit(play_journal());
}

/* ---- what stands in settings and in the state folder is never believed ---- */

TEST(garbage_in_settings_and_state)
{
    static const char *const bits[] = {"theme = ",
                                       "\"dark\"",
                                       "tab_width = 4\n",
                                       "key[\"F5\"] = ",
                                       "\"save\"\n",
                                       "while true do end\n",
                                       "\"",
                                       "[[",
                                       "]]",
                                       "\n",
                                       "\0\xff",
                                       "os.exit(1)\n",
                                       "x = string.rep('a', 1e9)\n",
                                       "hints",
                                       "= {}",
                                       "--",
                                       "function f() return f() end f()\n"};
    static const char *const files[] = {".config/steady-quill/settings.lua", ".config/steady-quill/keys.lua",
                                        ".local/state/steady-quill/state.db",
                                        ".local/state/steady-quill/recovery.db"};
    int rounds = getenv("ROUNDS") ? 5000 : 60;
    run("mkdir -p .config/steady-quill .local/state/steady-quill", 0, NULL);
    check_write(check_path("a.conf"), "berth = 3\n", 10);
    for (int i = 0; i < rounds; i++) {
        char text[600] = "";
        size_t n = 0;
        while (n < 400 && check_random(12)) {
            const char *bit = bits[check_random(sizeof bits / sizeof *bits)];
            size_t len = check_random(8) ? strlen(bit) : 2;
            memcpy(text + n, bit, len);
            n += len;
        }
        for (unsigned k = check_random(3); k > 0 && n; k--)
            text[check_random((unsigned)n)] = (char)check_random(256);
        check_write(check_path(files[check_random(4)]), text, n);
        CHECK_INT(run("timeout 20 " SQUILL " --do 'go-line 1' a.conf >said 2>&1", 0, NULL), 0);
        CHECK_INT(run("timeout 20 " SQUILL " --recover </dev/null 2>&1 | cat >said", 0, NULL), 0);
        CHECK(holds(check_path("a.conf"), "berth = 3\n", 10));
    }
}
