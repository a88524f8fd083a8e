/* Commands of the shell beside the program. */
#include "check.h"
#include "base/programs.h"
#include "base/system.h"
#include "files/job.h"

#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

static void wait_for_end(Job *j)
{
    struct pollfd fds[JOB_FDS];
    for (uint64_t limit = system_now_ms() + 20000; !job_poll(j) && system_now_ms() < limit;) {
        size_t n = job_fds(j, fds);
        poll(fds, n, 20);
    }
    CHECK(j->ended);
}

static Job run(const char *command, const char *input, const char *path)
{
    Job j;
    Err e = {""};
    Text t = {0};
    setenv("SHELL", "/bin/sh", 1);
    CHECK(text_insert(&t, 0, input, strlen(input)));
    CHECK(job_start(&j, command, t, path, &e));
    text_drop(&t);
    wait_for_end(&j);
    return j;
}

TEST(commands_and_what_they_give)
{
    static const struct {
        const char *command, *input, *output, *said;
        int status;
    } cases[] = {
        {"echo berth three", "", "berth three\n", "", 0},
        {"cat", "high tide\nlow tide", "high tide\nlow tide", "", 0},
        {"sort -r", "a\nb\n", "b\na\n", "", 0},
        {"echo oops >&2; exit 3", "", "", "oops\n", 3},
        {"printf 'a\\000b' | wc -c", "", "3\n", "", 0},
        {"head -n 1", "one\ntwo\n", "one\n", "", 0}, /* does not want all of it */
        {"exit 0", "nobody reads this", "", "", 0},  /* nor any */
        {"kill -9 $$", "", "", "", 128 + SIGKILL},
        {"kill -TERM $$", "", "", "", 128 + SIGTERM}, /* no handler of ours is in its way */
        {"no-such-program-at-all 2>/dev/null", "", "", "", 127},
        {"echo \"$SQUILL_FILE\"", "", "/harrow/two words.ini\n", "", 0},
        {"echo \"$TERM\"", "", "dumb\n", "", 0},
        {"[ -t 0 ] || [ -t 1 ] || [ -t 2 ] || echo none", "", "none\n", "", 0},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].command);
        Job j = run(cases[i].command, cases[i].input, "/harrow/two words.ini");
        CHECK_INT(j.status, cases[i].status);
        CHECK_STR(bytes_str(&j.output), cases[i].output);
        CHECK_STR(bytes_str(&j.said), cases[i].said);
        CHECK(!j.too_much);
        job_free(&j);
    }
}

TEST(much_input_and_output_at_once)
{
    enum { SIZE = 3 * 1000 * 1000 };
    char *text = malloc(SIZE + 1);
    for (size_t i = 0; i < SIZE; i++)
        text[i] = i % 61 == 60 ? '\n' : (char)('a' + check_random(26));
    text[SIZE] = 0;
    Job j = run("cat; echo end >&2", text, NULL);
    CHECK_BYTES(bytes_str(&j.output), j.output.len, text, SIZE);
    CHECK_STR(bytes_str(&j.said), "end\n");
    job_free(&j);
    j = run("echo \"[$SQUILL_FILE]\"; yes oops | head -c 300000 >&2", "", NULL);
    CHECK_STR(bytes_str(&j.output), "[]\n"); /* a text without a name */
    CHECK_INT(j.said.len, JOB_ERRORS_MOST);
    CHECK_INT(j.status, 0);
    job_free(&j);
    free(text);
}

TEST(endless_output_is_stopped)
{
    Job j = run("yes", "", NULL);
    CHECK(j.too_much);
    CHECK_INT(j.output.len, JOB_OUTPUT_MOST);
    CHECK(j.status == 128 + SIGTERM || j.status == 128 + SIGKILL || j.status == 128 + SIGPIPE);
    job_free(&j);
}

/* Stopping ends what the command started too, also when it does not want to. */
TEST(stopping)
{
    static const char *const commands[] = {"sleep 300", "sleep 300 & sleep 300; wait",
                                           "trap '' TERM; sleep 300", "trap 'sleep 300' TERM; sleep 300"};
    for (size_t i = 0; i < sizeof commands / sizeof *commands; i++) {
        Job j;
        Err e = {""};
        check_case(commands[i]);
        CHECK(job_start(&j, commands[i], (Text){0}, NULL, &e));
        struct timespec moment = {0, 50 * 1000 * 1000};
        nanosleep(&moment, NULL);
        CHECK(!job_poll(&j));
        pid_t group = j.pid;
        uint64_t begin = system_now_ms();
        job_stop(&j);
        CHECK(system_now_ms() - begin < 5000);
        CHECK(j.ended && j.status > 128);
        for (int k = 0; k < 200 && kill(-group, 0) == 0; k++)
            nanosleep(&moment, NULL);
        CHECK(kill(-group, 0) != 0);
        job_free(&j);
    }
}

/* Stopped in the moment in which it begins, it does not run a handler of ours. */
static volatile sig_atomic_t handled;

static void handler(int s)
{
    (void)s;
    handled = 1;
    if (write(2, "handled\n", 8) < 0)
        handled = 2;
}

TEST(no_handler_runs_in_a_child)
{
    int ends[2];
    char byte;
    CHECK(pipe(ends) == 0);
    signal(SIGTERM, handler);
    for (int i = 0; i < 200; i++) {
        pid_t child = programs_fork();
        if (child == 0) {
            for (;;)
                if (handled && write(ends[1], "h", 1) > 0)
                    _exit(1);
        }
        kill(child, SIGTERM);
        int status = 0;
        waitpid(child, &status, 0);
        CHECK(WIFSIGNALED(status) && WTERMSIG(status) == SIGTERM);
    }
    signal(SIGTERM, SIG_DFL);
    CHECK(!handled);
    close(ends[1]);
    CHECK_INT(read(ends[0], &byte, 1), 0);
    close(ends[0]);
}
