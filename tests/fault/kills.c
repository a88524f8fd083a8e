/* Random typing and saving, ended by kill -9 at a random moment: what was typed more than a
 * second before is there. ROUNDS says how often; make torture has many. */
#include "check.h"
#include "drive.h"
#include "sys.h"

#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

enum { BOUND = 1000, LETTERS = 4000 };

static char typed[LETTERS + 1];
static uint64_t when[LETTERS];
static size_t n_typed;

static void type_randomly(Pty *p, uint64_t until)
{
    while (sys_now_ms() < until && n_typed + 20 < LETTERS) {
        unsigned burst = check_random(12) + 1;
        char keys[16];
        size_t n = 0;
        if (check_random(20) == 0)
            pty_do(p, "<Ctrl+S>");
        for (; n < burst; n++) {
            keys[n] = check_random(6) ? (char)('a' + check_random(26)) : check_random(3) ? ' ' : '\r';
            when[n_typed] = sys_now_ms();
            typed[n_typed++] = keys[n] == '\r' ? '\n' : keys[n];
        }
        pty_send(p, keys, n);
        pty_pause(p, (int)check_random(80));
    }
}

TEST(random_kills)
{
    const char *wanted = getenv("ROUNDS");
    int rounds = wanted ? atoi(wanted) : 4;
    const char *args[] = {"night.log", NULL};
    size_t letters = 0;
    mkdir(check_path(".config"), 0700);
    mkdir(check_path(".config/steady-quill"), 0700);
    for (int i = 0; i < rounds; i++) {
        check_write(check_path("night.log"), "", 0);
        /* Indentation would make more of what is typed than was typed. */
        char settings[] = "auto_indent = false\n";
        check_write(check_path(".config/steady-quill/settings.lua"), settings, sizeof settings - 1);
        n_typed = 0;
        memset(typed, 0, sizeof typed);
        Pty *p = pty_start(SQUILL, 24, 80, args);
        SHOWS(p, "F1 Help");
        type_randomly(p, sys_now_ms() + 300 + check_random(2500));
        uint64_t killed = sys_now_ms();
        kill(pty_pid(p), SIGKILL);
        pty_end(p);
        size_t safe = 0, n;
        while (safe < n_typed && when[safe] + BOUND < killed)
            safe++;
        p = pty_start(SQUILL, 24, 80, args);
        for (int k = 0; k < 400 && pty_find(p, " Later") < 0 && pty_find(p, "F1 Help") < 0; k++)
            pty_pause(p, 25);
        if (pty_find(p, "unsaved work") >= 0) {
            pty_do(p, "<wait>k");
            SHOWS(p, "The unsaved work is back");
        }
        pty_do(p, "<Ctrl+S>");
        SHOWS(p, "Saved night.log");
        CHECK_INT(pty_leave(p), 0);
        const char *is = check_read(check_path("night.log"), &n);
        check_result(n <= n_typed && memcmp(is, typed, n) == 0, __FILE__, __LINE__,
                     "round %d: other text came back", i);
        check_result(n >= safe, __FILE__, __LINE__, "round %d: %zu letters of %zu that were safe", i, n,
                     safe);
        letters += safe;
    }
    fprintf(stderr, "%d kills, %zu letters that had to be there\n", rounds, letters);
}
