/* Saves on trial: the guard keeps or puts back, whatever becomes of the editor. */
#include "check.h"
#include "files/disk.h"
#include "files/save.h"
#include "kept/trial.h"
#include "kept/trial_folder.h"
#include "kept/trial_guard.h"
#include "kept/trial_there.h"

#include <poll.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

static char program[400]; /* this one, which also plays the guard */

__attribute__((constructor)) static void play(int argc, char **argv)
{
    ssize_t n = readlink("/proc/self/exe", program, sizeof program - 1);
    program[n > 0 ? n : 0] = 0;
    if (argc == 3 && strcmp(argv[1], TRIAL_ROLE) == 0)
        exit(trial_guard(argv[2]));
}

static Text text_of(const char *s)
{
    Text t = {0};
    text_insert(&t, 0, s, strlen(s));
    return t;
}

static const char *old_text = "Port 22\n", *new_text = "Port 2222\n";

static void be_at_home(void)
{
    setenv("HOME", check_folder(), 1);
    unsetenv("XDG_STATE_HOME");
}

static Trial *begin(bool existed, const char *command, unsigned seconds)
{
    Err e = {""};
    Text old = text_of(existed ? old_text : ""), fresh = text_of(new_text);
    be_at_home();
    if (existed)
        check_put("sshd", old_text);
    else
        unlink(check_path("sshd"));
    Trial *t = trial_begin(command, seconds, program, &e);
    TrialFile f = {.path = check_path("sshd"), .old = old, .existed = existed, .fresh = fresh};
    if (t && !trial_add(t, &f, &e)) {
        trial_drop(t);
        t = NULL;
    }
    check_result(t != NULL, __FILE__, __LINE__, "%s", e.text);
    text_drop(&old);
    text_drop(&fresh);
    return t;
}

static void save_new(void)
{
    Text t = text_of(new_text);
    DiskState disk;
    Err e;
    CHECK(save_file(check_path("sshd"), t, NULL, &disk, &e));
    text_drop(&t);
}

static TrialFate end_of(Trial *t, Err *words)
{
    for (int i = 0; i < 1500; i++) {
        TrialFate fate = trial_look(t, words);
        if (fate != TRIAL_RUNS)
            return fate;
        poll(NULL, 0, 10);
    }
    return TRIAL_RUNS;
}

/* The command's status, once it has ended. */
static int ran(Trial *t, Bytes *output)
{
    Err words;
    int status = -2;
    for (int i = 0; i < 1000 && !trial_ran(t, &status, output); i++, poll(NULL, 0, 10))
        trial_look(t, &words);
    return status;
}

static bool no_trials_left(void)
{
    for (int i = 0; i < 300; i++, poll(NULL, 0, 10))
        if (check_shell("test -z \"$(ls \"$F\"/.local/state/steady-quill/trials)\""))
            return true;
    return false;
}

TEST(kept_and_taken_back)
{
    char command[300];
    Err words;
    Bytes output = {0};
    snprintf(command, sizeof command, "echo again >>'%s'", check_path("effects"));
    Trial *t = begin(true, command, 60);
    save_new();
    trial_saved(t);
    CHECK(trial_left(t) > 50000 && trial_left(t) <= 60000);
    CHECK_INT(trial_look(t, &words), TRIAL_RUNS);
    CHECK_INT(ran(t, &output), 0);
    trial_keep(t);
    CHECK_INT(end_of(t, &words), TRIAL_KEPT);
    check_holds("sshd", new_text);
    trial_free(t);
    CHECK(no_trials_left());
    check_holds("effects", "again\n"); /* the guard ran it, for the new version */

    t = begin(true, command, 60); /* at once */
    chmod(check_path("sshd"), 0640);
    save_new();
    trial_saved(t);
    CHECK_INT(ran(t, &output), 0);
    trial_take_back(t);
    CHECK_INT(end_of(t, &words), TRIAL_TAKEN_BACK);
    CHECK_STR(words.text, "");
    check_holds("sshd", old_text);
    check_holds("effects", "again\nagain\nagain\n"); /* and for the old one */
    struct stat st;
    CHECK(stat(check_path("sshd"), &st) == 0 && (st.st_mode & 07777) == 0640);
    trial_free(t);
    CHECK(no_trials_left());

    t = begin(true, "exit 3", 1); /* by the time, with a command that fails */
    save_new();
    trial_saved(t);
    CHECK_INT(end_of(t, &words), TRIAL_TAKEN_BACK);
    CHECK(strstr(words.text, "ended with status 3") != NULL);
    check_holds("sshd", old_text);
    trial_free(t);

    t = begin(false, "", 1); /* one that was not there */
    save_new();
    trial_saved(t);
    CHECK_INT(end_of(t, &words), TRIAL_TAKEN_BACK);
    CHECK(access(check_path("sshd"), F_OK) != 0);
    trial_free(t);
    CHECK(no_trials_left());
    bytes_free(&output);
}

/* What the command prints, how it ends, and that it can be stopped. */
TEST(the_command)
{
    static const struct {
        const char *command;
        int status;
        const char *output;
    } cases[] = {{"echo quay; echo berth >&2; exit 4", 4, "berth\nquay\n"},
                 {"printf 'a\\0b\\001c\\n'", 0, "a b\nc\n"},
                 {"cat", 0, ""},
                 {"", 0, ""},
                 {"/none/such", 127, NULL},
                 {"kill -9 $$", 137, ""}};
    Bytes output = {0};
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Trial *t = begin(true, cases[i].command, 60);
        save_new();
        trial_saved(t);
        CHECK_INT(ran(t, &output), cases[i].status);
        if (cases[i].output)
            CHECK_STR(bytes_str(&output), cases[i].output);
        trial_drop(t);
        CHECK(no_trials_left());
    }
    Trial *t = begin(true, "sleep 30", 60);
    save_new();
    trial_saved(t);
    trial_stop_command(t);
    CHECK_INT(ran(t, &output), -1);
    trial_drop(t);
    bytes_free(&output);
    CHECK(no_trials_left());
}

/* All of them, whatever became of one. */
TEST(several_files)
{
    Err e, words;
    be_at_home();
    static const char *const names[] = {"one", "two", "three", "four"};
    for (int keep = 0; keep < 2; keep++) {
        Trial *t = trial_begin("", 60, program, &e);
        CHECK(t != NULL);
        for (size_t i = 0; i < 4; i++) {
            Text old = text_of(old_text), fresh = text_of(new_text);
            check_put(names[i], old_text);
            TrialFile f = {.path = check_path(names[i]), .old = old, .existed = true, .fresh = fresh};
            CHECK(trial_add(t, &f, &e));
            text_drop(&old);
            text_drop(&fresh);
            if (i < 3) /* the last one is never saved */
                check_put(names[i], new_text);
        }
        trial_saved(t);
        check_put("two", "Port 80\n"); /* by somebody else */
        if (keep)
            trial_keep(t);
        else
            trial_take_back(t);
        CHECK_INT(end_of(t, &words), keep ? TRIAL_KEPT : TRIAL_CHANGED);
        CHECK_INT(trial_look_at(t, 0), keep ? TRIAL_KEPT : TRIAL_TAKEN_BACK);
        CHECK_INT(trial_look_at(t, 1), keep ? TRIAL_KEPT : TRIAL_CHANGED);
        CHECK_INT(trial_look_at(t, 3), keep ? TRIAL_KEPT : TRIAL_NEVER_SAVED);
        check_holds("one", keep ? new_text : old_text);
        check_holds("two", "Port 80\n");
        check_holds("three", keep ? new_text : old_text);
        check_holds("four", old_text);
        trial_free(t);
        CHECK(no_trials_left());
    }
}

/* The guard of another host, run by the shell of this one. */
TEST(a_guard_in_the_shell)
{
    enum { KEEP, BACK, OTHERS, NO_FILE };
    static const struct {
        int what;
        TrialFate fate;
        const char *ends; /* NULL: there is no file */
    } cases[] = {{KEEP, TRIAL_KEPT, "Port 2222\n"},
                 {BACK, TRIAL_TAKEN_BACK, "Port 22\n"},
                 {OTHERS, TRIAL_CHANGED, "Port 80\n"},
                 {NO_FILE, TRIAL_TAKEN_BACK, NULL}};
    be_at_home();
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        bool existed = cases[i].what != NO_FILE;
        Text old = text_of(existed ? old_text : ""), fresh = text_of(new_text);
        Bytes line = {0}, output = {0};
        Err e = {""};
        struct stat st;
        if (existed)
            check_put("sshd", old_text);
        else
            unlink(check_path("sshd"));
        if (existed)
            chmod(check_path("sshd"), 0640);
        trial_there_line(check_path("sshd"), "echo \"it's\"; exit 3", 60, &line);
        char *words[] = {(char *)"/bin/sh", (char *)"-c", line.at, NULL};
        Trial *t = trial_begin_there(words, 60, &e);
        CHECK(t != NULL);
        for (int k = 0; k < 500 && !trial_is_ready(t); k++)
            poll(NULL, 0, 10);
        TrialFile f = {.path = check_path("sshd"), .old = old, .existed = existed, .fresh = fresh};
        check_result(trial_add(t, &f, &e), __FILE__, __LINE__, "%s", e.text);
        check_put("sshd", new_text);
        trial_saved(t);
        CHECK_INT(ran(t, &output), 3);
        CHECK_STR(bytes_str(&output), "it's\n");
        if (cases[i].what == OTHERS)
            check_put("sshd", "Port 80\n");
        if (cases[i].what == KEEP)
            trial_keep(t);
        else
            trial_take_back(t);
        CHECK_INT(end_of(t, &e), cases[i].fate);
        if (cases[i].fate == TRIAL_TAKEN_BACK)
            CHECK(strstr(e.text, "ended with status 3") != NULL);
        if (cases[i].ends)
            check_holds("sshd", cases[i].ends);
        else
            CHECK(access(check_path("sshd"), F_OK) != 0);
        CHECK(!existed || (stat(check_path("sshd"), &st) == 0 && (st.st_mode & 07777) == 0640));
        CHECK(no_trials_left());
        trial_free(t);
        text_drop(&old);
        text_drop(&fresh);
        bytes_free(&line);
        bytes_free(&output);
    }
    /* One that is not as it was read, before anything is saved. */
    Bytes line = {0};
    Err e = {""};
    Text old = text_of("Port 1\n"), fresh = text_of(new_text);
    check_put("sshd", old_text);
    trial_there_line(check_path("sshd"), "", 60, &line);
    char *words[] = {(char *)"/bin/sh", (char *)"-c", line.at, NULL};
    Trial *t = trial_begin_there(words, 60, &e);
    for (int k = 0; t && k < 500 && !trial_is_ready(t); k++)
        poll(NULL, 0, 10);
    TrialFile f = {.path = check_path("sshd"), .old = old, .existed = true, .fresh = fresh};
    CHECK(t && !trial_add(t, &f, &e));
    CHECK_STR(e.text, "it changed there just now");
    trial_drop(t);
    CHECK(no_trials_left());
    text_drop(&old);
    text_drop(&fresh);
    bytes_free(&line);
}

/* As cksum(1) has it, which the guard of another host uses. */
TEST(sums)
{
    for (int i = check_rounds(20); i > 0; i--) {
        char bytes[9000], sum[TRIAL_SUM_MAX];
        size_t n = i == 1 ? 0 : check_random(sizeof bytes), len;
        for (size_t k = 0; k < n; k++)
            bytes[k] = (char)check_random(256);
        Text t = {0};
        text_insert(&t, 0, bytes, n);
        trial_there_sum(&t, sum);
        text_drop(&t);
        check_write(check_path("bytes"), bytes, n);
        CHECK_INT(check_shell_said("cksum <\"$F\"/bytes | tr -d '\\n'"), 0);
        CHECK_STR(check_read(check_path("said"), &len), sum);
    }
}

TEST(what_is_left_alone)
{
    Err words;
    Trial *t = begin(true, "", 1); /* never saved */
    trial_take_back(t);
    CHECK_INT(end_of(t, &words), TRIAL_NEVER_SAVED);
    check_holds("sshd", old_text);
    trial_free(t);
    t = begin(true, "", 1); /* somebody else wrote it */
    save_new();
    trial_saved(t);
    check_put("sshd", "Port 80\n");
    CHECK_INT(end_of(t, &words), TRIAL_CHANGED);
    check_holds("sshd", "Port 80\n");
    trial_free(t);
    t = begin(true, "", 1); /* it is gone */
    save_new();
    trial_saved(t);
    unlink(check_path("sshd"));
    CHECK_INT(end_of(t, &words), TRIAL_CHANGED);
    CHECK(access(check_path("sshd"), F_OK) != 0);
    trial_free(t);
    CHECK(no_trials_left());
}

typedef struct Told {
    size_t n;
    TrialFate fate;
    char path[400];
} Told;

static void tell(const char *path, TrialFate fate, long long when, void *ctx)
{
    Told *t = ctx;
    t->n++;
    t->fate = fate;
    snprintf(t->path, sizeof t->path, "%s", path);
    CHECK(fate == TRIAL_LOST || when > 0);
}

/* The editor is killed at any moment of a trial: afterwards the old version is there, and the next one is
 * told. */
TEST(an_editor_that_is_killed)
{
    for (int i = check_rounds(6); i > 0 && !check_failed(); i--) {
        unsigned moment = check_random(5);
        be_at_home();
        check_put("sshd", old_text);
        pid_t child = fork();
        if (child == 0) {
            Trial *t = begin(true, "", 1);
            if (moment == 0)
                _exit(0);
            save_new();
            if (moment == 1)
                _exit(0);
            trial_saved(t);
            if (moment == 2)
                _exit(0);
            poll(NULL, 0, (int)check_random(900));
            kill(getpid(), SIGKILL);
        }
        int status;
        waitpid(child, &status, 0);
        for (int k = 0; k < 800; k++, poll(NULL, 0, 10)) {
            size_t n = 0;
            const char *is = check_read(check_path("sshd"), &n);
            CHECK(is && (strcmp(is, old_text) == 0 || strcmp(is, new_text) == 0));
            if (check_shell(moment ? "ls \"$F\"/.local/state/steady-quill/trials/*/result >/dev/null 2>&1"
                                   : "test -z \"$(ls \"$F\"/.local/state/steady-quill/trials)\""))
                break;
        }
        check_holds("sshd", old_text);
        Told told = {0};
        if (moment) {
            trial_each_result(tell, &told);
            CHECK_INT(told.n, 1);
            CHECK_INT(told.fate, TRIAL_TAKEN_BACK);
            CHECK_STR(told.path, check_path("sshd"));
            trial_each_result(tell, &told);
            CHECK_INT(told.n, 1); /* once */
        }
        CHECK(no_trials_left());
    }
}

/* Signals that end others do not end the guard; TERM, by which machines go down, has it act at once; and one
 * that was stopped acts when it goes on. */
TEST(signals)
{
    Err words;
    static const int deaf[] = {SIGHUP, SIGINT, SIGQUIT, SIGPIPE, SIGTSTP};
    Trial *t = begin(true, "", 60);
    save_new();
    trial_saved(t);
    char line[200];
    pid_t guard = 0;
    check_shell_said("cat \"$F\"/.local/state/steady-quill/trials/*/guard");
    size_t n;
    const char *said = check_read(check_path("said"), &n);
    guard = said ? (pid_t)atol(said) : 0;
    CHECK(guard > 1);
    if (guard <= 1)
        return;
    for (size_t i = 0; i < sizeof deaf / sizeof *deaf; i++)
        kill(guard, deaf[i]);
    poll(NULL, 0, 300);
    CHECK_INT(trial_look(t, &words), TRIAL_RUNS);
    kill(guard, SIGTERM);
    CHECK_INT(end_of(t, &words), TRIAL_TAKEN_BACK);
    check_holds("sshd", old_text);
    trial_free(t);
    t = begin(true, "", 1);
    save_new();
    trial_saved(t);
    check_shell_said("cat \"$F\"/.local/state/steady-quill/trials/*/guard");
    said = check_read(check_path("said"), &n);
    guard = said ? (pid_t)atol(said) : 0;
    kill(guard, SIGSTOP);
    poll(NULL, 0, 1500);
    check_holds("sshd", new_text);
    kill(guard, SIGCONT);
    CHECK_INT(end_of(t, &words), TRIAL_TAKEN_BACK);
    check_holds("sshd", old_text);
    trial_free(t);
    t = begin(true, "", 60); /* killed: it cannot act any more, and the next one is told */
    save_new();
    trial_saved(t);
    snprintf(line, sizeof line, "kill -9 $(cut -d' ' -f1 \"$F\"/.local/state/steady-quill/trials/*/guard)");
    CHECK(check_shell(line));
    CHECK_INT(end_of(t, &words), TRIAL_LOST);
    trial_free(t);
    while (waitpid(-1, NULL, WNOHANG) > 0)
        ;
    Told told = {0};
    trial_each_result(tell, &told);
    CHECK_INT(told.n, 1);
    CHECK_INT(told.fate, TRIAL_LOST);
    check_holds("sshd", new_text);
}
