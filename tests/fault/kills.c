/* Random typing and saving, ended by kill -9 at a random moment: what was typed more than a
 * second before is there. ROUNDS says how often; make torture has many. */
#include "check.h"
#include "base/system.h"
#include "drive.h"

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
    while (system_now_ms() < until && n_typed + 20 < LETTERS) {
        unsigned burst = check_random(12) + 1;
        char keys[16];
        size_t n = 0;
        if (check_random(20) == 0)
            pty_do(p, "<Ctrl+S>");
        for (; n < burst; n++) {
            keys[n] = check_random(6) ? (char)('a' + check_random(26)) : check_random(3) ? ' ' : '\r';
            when[n_typed] = system_now_ms();
            typed[n_typed++] = keys[n] == '\r' ? '\n' : keys[n];
        }
        pty_send(p, keys, n);
        pty_pause(p, (int)check_random(80));
    }
}

static const char *const args[] = {"night.log", NULL};

static void prepare(void)
{
    /* Indentation would make more of what is typed than was typed. */
    static const char settings[] = "auto_indent = false\n";
    mkdir(check_path(".config"), 0700);
    mkdir(check_path(".config/steady-quill"), 0700);
    check_put(".config/steady-quill/settings.lua", settings);
}

static Pty *begin(void)
{
    check_put("night.log", "");
    n_typed = 0;
    memset(typed, 0, sizeof typed);
    Pty *p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "F1 Help");
    return p;
}

/* How many letters were safe at that moment. */
static size_t letters_safe(uint64_t ended)
{
    size_t safe = 0;
    while (safe < n_typed && when[safe] + BOUND < ended)
        safe++;
    return safe;
}

/* How many bytes are what was typed. The line end that the file had when it was saved stays its last: it
 * counts. */
static size_t same_as_typed(const char *is, size_t n)
{
    size_t same = 0;
    while (same < n && same < n_typed && is[same] == typed[same])
        same++;
    return same + 1 == n && is[same] == '\n' ? n : same;
}

/* Opens the file again, takes what is offered, saves it, and looks at it. */
static void check_return(int round, size_t safe)
{
    size_t n;
    Pty *p = pty_start(SQUILL, 24, 80, args);
    for (int k = 0; k < 400 && pty_find(p, " Later") < 0 && pty_find(p, "F1 Help") < 0; k++)
        pty_pause(p, 25);
    pty_do(p, "<Ctrl+L><wait>"); /* with the first key at the latest it is asked */
    if (pty_find(p, "unsaved work") >= 0) {
        pty_do(p, "<wait>t");
        SHOWS(p, "The unsaved work is back");
    }
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Saved night.log");
    LEAVE(p);
    const char *is = check_read(check_path("night.log"), &n);
    size_t same = same_as_typed(is, n);
    check_result(same == n, __FILE__, __LINE__,
                 "round %d: other text came back, from byte %zu of %zu, %zu typed", round, same, n, n_typed);
    check_result(n >= safe, __FILE__, __LINE__, "round %d: %zu letters of %zu that were safe", round, n,
                 safe);
}

TEST(random_kills)
{
    size_t letters = 0;
    int n = check_rounds(4);
    prepare();
    for (int i = 0; i < n; i++) {
        Pty *p = begin();
        type_randomly(p, system_now_ms() + 300 + check_random(2500));
        size_t safe = letters_safe(system_now_ms());
        kill(pty_pid(p), SIGKILL);
        pty_end(p);
        check_return(i, safe);
        letters += safe;
    }
    fprintf(stderr, "%d kills, %zu letters that had to be there\n", n, letters);
}

/* ---- large files, which are written while typing goes on ---- */

enum { LARGE = 18 * 1000 * 1000 };

static void put_large(void)
{
    char *big = malloc(LARGE);
    memset(big, 'a', LARGE);
    for (size_t i = 99; i < LARGE; i += 100)
        big[i] = '\n';
    check_write(check_path("night.log"), big, LARGE);
    free(big);
}

/* The next run, with everything taken that is offered, saved. */
static const char *taken_and_saved(int round, size_t *n)
{
    Pty *p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "night.log");
    pty_do(p, "<Ctrl+L>");
    for (int k = 0; k < 2; k++) { /* unsaved work, and a save that was broken off */
        if (pty_find(p, "There is unsaved work") < 0 && pty_find(p, "was broken off") < 0)
            break;
        pty_do(p, "<wait>t");
        pty_do(p, "<Ctrl+L>");
    }
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Saved night.log");
    LEAVE(p);
    check_case(NULL);
    const char *is = check_read(check_path("night.log"), n);
    check_result(*n >= LARGE && is[*n - 1] == '\n' && is[LARGE / 2 - LARGE / 2 % 100 + 50] == 'a', __FILE__,
                 __LINE__, "round %d: the file is not whole", round);
    return is;
}

/* Letters typed before and during a save are there whenever the program dies; a file that was written in
 * place is whole. */
TEST(kills_around_a_save)
{
    int n = check_rounds(2), whole_copies = 0;
    prepare();
    for (int i = 0; i < 2 * n; i++) {
        size_t size;
        bool linked = i % 2;
        unlink(check_path("night.log"));
        unlink(check_path("linked.log"));
        put_large();
        if (linked)
            CHECK(link(check_path("night.log"), check_path("linked.log")) == 0);
        Pty *p = pty_start(SQUILL, 24, 80, args);
        SHOWS(p, "Line 1 of 180000");
        pty_do(p, "first ");
        CHECK(pty_rest(p));
        pty_send(p, "\023", 1);    /* saved, */
        pty_send(p, "second ", 7); /* and typed on */
        pty_pause(p, (int)check_random(i % 4 < 2 ? 80 : 400));
        kill(pty_pid(p), SIGKILL);
        pty_end(p);
        char command[200];
        snprintf(command, sizeof command, "ls -A '%s' | grep -q safe-copy", check_folder());
        whole_copies += system(command) == 0;
        const char *is = taken_and_saved(i, &size);
        check_result(memcmp(is, "first ", 6) == 0, __FILE__, __LINE__,
                     "round %d: what was typed before is gone", i);
        snprintf(command, sizeof command, "ls -A '%s' | grep -q -e unfinished -e safe-copy", check_folder());
        CHECK(system(command) != 0);
    }
    fprintf(stderr, "%d kills around a save, %d with a whole copy beside the file\n", 2 * n, whole_copies);
}

/* ---- the power fails ---- */

/* Runs a line of the shell with $F, the test's folder, and $D, the image of a disk beside it. */
static bool shell(const char *line)
{
    return system(line) == 0;
}

static void take_down(void)
{
    shell("umount -l \"$F\" 2>/dev/null; rm -f \"$D\" \"$D.cut\"");
}

/* What is on the disk is copied while nobody writes: a copy during which it changed is made again. */
static bool copy_disk(void)
{
    for (int i = 0; i < 20; i++)
        if (shell("a=$(stat -c %y \"$D\"); cp --sparse=always \"$D\" \"$D.cut\"; "
                  "[ \"$a\" = \"$(stat -c %y \"$D\")\" ]"))
            return true;
    return false;
}

/* A file system in an image: what had not been written to it when the power failed is gone. Needs root and
 * loop devices; elsewhere it is not tried. */
TEST(power_failures)
{
    size_t letters = 0;
    int n = check_rounds(3);
    char image[200];
    snprintf(image, sizeof image, "%s.disk", check_folder());
    setenv("F", check_folder(), 1);
    setenv("D", image, 1);
    if (!shell("truncate -s 32M \"$D\" && mkfs.ext4 -q -F \"$D\" 2>/dev/null && "
               "mount -o loop \"$D\" \"$F\" 2>/dev/null")) {
        check_skip("no loop device can be mounted here");
        take_down();
        return;
    }
    atexit(take_down);
    prepare();
    for (int i = 0; i < n; i++) {
        size_t size;
        Pty *p = begin();
        shell("sync -f \"$F\""); /* the empty file is not what is in question */
        type_randomly(p, system_now_ms() + 300 + check_random(2500));
        size_t safe = letters_safe(system_now_ms());
        kill(pty_pid(p), SIGSTOP);
        CHECK(copy_disk());
        kill(pty_pid(p), SIGKILL);
        pty_end(p);
        CHECK(shell("umount \"$F\" && mv \"$D.cut\" \"$D\" && mount -o loop \"$D\" \"$F\""));
        const char *is = check_read(check_path("night.log"), &size);
        check_result(is && same_as_typed(is, size) == size, __FILE__, __LINE__,
                     "round %d: the file is no version that was saved", i);
        check_return(i, safe);
        letters += safe;
    }
    fprintf(stderr, "%d power failures, %zu letters that had to be there\n", n, letters);
    take_down();
}
