/* The terminal is taken over and given back; the command line; sizes. */
#include "check.h"
#include "drive.h"

#include <signal.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/wait.h>
#include <unistd.h>

static Pty *start(int rows, int cols, const char *arg)
{
    const char *args[] = {arg, NULL};
    return pty_start(SQUILL, rows, cols, args);
}

TEST(restored_at_every_exit)
{
    static const struct {
        const char *name;
        int signal; /* 0: Ctrl+Q */
        int status;
    } ways[] = {{"leave", 0, 0},
                {"segv", SIGSEGV, 128 + SIGSEGV},
                {"abort", SIGABRT, 128 + SIGABRT},
                {"term", SIGTERM, 1},
                {"hup", SIGHUP, 1},
                {"int", SIGINT, 1}};
    check_write(check_path("x.txt"), "text\n", 5);
    for (size_t i = 0; i < sizeof ways / sizeof *ways; i++) {
        check_case(ways[i].name);
        Pty *p = start(24, 80, "x.txt");
        SHOWS(p, "Ctrl+Q Leave");
        CHECK(pty_alternate(p));
        CHECK(!pty_restored(p));
        if (ways[i].signal)
            kill(pty_pid(p), ways[i].signal);
        else
            pty_do(p, "<Ctrl+Q>");
        CHECK(pty_ended(p));
        CHECK(pty_restored(p));
        CHECK(!pty_alternate(p));
        size_t n;
        const char *raw = pty_raw(p, &n);
        CHECK(memmem(raw, n, "\033[?2004l", 8) != NULL);
        CHECK_INT(pty_end(p), ways[i].status);
    }
}

TEST(suspend_and_resume_by_the_shell)
{
    check_write(check_path("x.txt"), "text\n", 5);
    Pty *p = start(24, 80, "x.txt");
    SHOWS(p, "Line 1 of 1");
    kill(pty_pid(p), SIGTSTP);
    UNTIL(p, pty_restored(p) && !pty_alternate(p));
    kill(pty_pid(p), SIGCONT);
    UNTIL(p, pty_alternate(p));
    kill(pty_pid(p), SIGSTOP);
    kill(pty_pid(p), SIGCONT);
    pty_do(p, "more <Ctrl+S>");
    SHOWS(p, "more text");
    SHOWS(p, "Saved");
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
}

TEST(every_size)
{
    static const int sizes[][2] = {{24, 80}, {40, 126}, {15, 40},  {5, 20}, {3, 10},
                                   {2, 5},   {1, 1},    {60, 200}, {24, 80}};
    char text[4000] = "";
    for (int i = 1; i <= 100; i++)
        sprintf(text + strlen(text), "row %d of the tide table\n", i);
    check_write(check_path("rows.txt"), text, strlen(text));
    Pty *p = start(24, 80, "rows.txt");
    SHOWS(p, "row 1 of");
    pty_do(p, "<PageDown><PageDown>");
    for (size_t i = 0; i < sizeof sizes / sizeof *sizes; i++) {
        pty_resize(p, sizes[i][0], sizes[i][1]);
        pty_do(p, "<Down><Up>");
        if (sizes[i][1] >= 40) {
            SHOWS(p, "Line 39 of 100");
            SHOWS(p, "Ctrl+Q Leave");
        }
    }
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
}

TEST(places_on_the_command_line)
{
    check_write(check_path("p.txt"), "one\ntwo words\nthree\n", 20);
    check_write(check_path("odd:2"), "odd name\n", 9);
    static const struct {
        const char *args[4];
        const char *shows;
    } cases[] = {
        {{"+2", "p.txt"}, "Line 2 of 3 · Column 1"},
        {{"+2:5", "p.txt"}, "Line 2 of 3 · Column 5"},
        {{"p.txt:3"}, "Line 3 of 3 · Column 1"},
        {{"p.txt:2:4:"}, "Line 2 of 3 · Column 4"},
        {{"+99", "p.txt"}, "there is no line 99"},
        {{"odd:2"}, "odd name"},
        {{"--", "-l"}, "/-l"},
        {{"p.txt", "."}, "Open: "},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].shows);
        Pty *p = pty_start(SQUILL, 24, 90, cases[i].args);
        SHOWS(p, cases[i].shows);
        pty_do(p, "<Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
    }
}

/* Runs a shell line without a terminal; returns its status and puts what it said in `out`. */
static int shell(const char *line, char *out, size_t cap)
{
    char whole[1024];
    snprintf(whole, sizeof whole, "cd %s && { %s; } 2>&1", check_folder(), line);
    FILE *f = popen(whole, "r");
    size_t n = f ? fread(out, 1, cap - 1, f) : 0;
    out[n] = 0;
    return f ? WEXITSTATUS(pclose(f)) : -1;
}

TEST(command_line_without_a_screen)
{
    static const struct {
        const char *line, *says;
        int status;
    } cases[] = {
        {SQUILL " --version", "Steady Quill ", 0},
        {SQUILL " --help", "Ctrl+Q leaves", 0},
        {SQUILL " --help | awk 'length > 80' | grep . || echo narrow", "narrow", 0},
        {"SSH_CONNECTION=1 " SQUILL " x </dev/null", "ssh -t HOST squill FILE", 2},
        {SQUILL " --nonsense", "--help", 2},
        {SQUILL " x </dev/null", "not a terminal", 2},
        {"echo x | " SQUILL " -", "not a terminal", 2},
        {"yes berth | head -c 20000 >a.txt; ulimit -f 8; " SQUILL
         " --plain --do 'replace-all berth quay; save' a.txt; s=$?; grep -q quay a.txt || exit $s",
         "the file would become too large", 1},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char out[4096];
        check_case(cases[i].line);
        CHECK_INT(shell(cases[i].line, out, sizeof out), cases[i].status);
        check_result(strstr(out, cases[i].says) != NULL, __FILE__, __LINE__, "said: %s", out);
    }
}

/* Not even what is said before there is a screen. */
TEST(names_are_not_sent_raw)
{
    static const char *const cases[][2] = {
        {"/dev/null/evil\033[31m", "/dev/null/evil\\x1b[31m"},
        {"--evil\033]0;title\007", "--evil\\x1b]0;title\\x07 is no option"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        const char *args[] = {cases[i][0], NULL};
        size_t n;
        check_case(cases[i][1]);
        Pty *p = pty_start(SQUILL, 24, 100, args);
        SHOWS(p, cases[i][1]);
        const char *raw = pty_raw(p, &n);
        CHECK(memmem(raw, n, "evil\033", 5) == NULL);
        CHECK_INT(pty_end(p), 2);
    }
}

/* Names with places, as compilers and people write them. */
TEST(places_in_names)
{
    static const struct {
        const char *args[3], *says;
    } cases[] = {
        {{"quay.c:3"}, "Line 3 of 4 · Column 1"},
        {{"quay.c:3:2"}, "Line 3 of 4 · Column 2"},
        {{"quay.c:3:2: error: berth was not declared"}, "Line 3 of 4 · Column 2"},
        {{"quay.c:3:"}, "Line 3 of 4 · Column 1"},
        {{"a:7:5"}, "Line 5 of 6 · Column 1"},
        {{"a:7"}, "Line 1 of 6"},
        {{"+2", "quay.c"}, "Line 2 of 4"},
        {{"+2:3", "quay.c"}, "Line 2 of 4 · Column 3"},
        {{"+", "quay.c"}, "+ is not understood: before a name stands +LINE"},
        {{"+/berth", "quay.c"}, "+/berth is not understood"},
    };
    check_put("quay.c", "one\ntwo\nthree\nfour\n");
    check_put("a", "no\n");
    check_put("a:7", "1\n2\n3\n4\n5\n6\n");
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        const char *args[] = {cases[i].args[0], cases[i].args[1], NULL};
        check_case(args[0]);
        Pty *p = pty_start(SQUILL, 24, 120, args);
        SHOWS(p, cases[i].says);
        LEAVE(p);
    }
}

TEST(what_cannot_be_opened)
{
    static const char *const cases[][2] = {{"/dev/null", "is a device"}, {"/dev/tty", "is a device"}};
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i][1]);
        Pty *p = start(24, 80, cases[i][0]);
        SHOWS(p, cases[i][1]);
        CHECK_INT(pty_end(p), 2);
    }
}

TEST(standard_input_is_a_text)
{
    const char *args[] = {"-c", "printf 'from\\na pipe' | " SQUILL " -", NULL};
    Pty *p = pty_start("/bin/sh", 24, 80, args);
    SHOWS(p, "a pipe");
    SHOWS(p, "(no name yet)");
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "Save as:");
    pty_do(p, "piped.txt<Enter>");
    SHOWS(p, "Saved piped.txt");
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
    size_t n;
    char *bytes = check_read(check_path("piped.txt"), &n);
    CHECK_BYTES(bytes, n, "xfrom\na pipe", 12);
}

TEST(other_terminals)
{
    static const char *const terms[] = {"linux", "vt100", "screen-256color", "xterm", "tmux-256color"};
    check_write(check_path("x.txt"), "caf\xc3\xa9 \xe6\xbc\xa2\n", 10);
    for (size_t i = 0; i < sizeof terms / sizeof *terms; i++) {
        check_case(terms[i]);
        pty_env("TERM", terms[i]);
        Pty *p = start(24, 80, "x.txt");
        SHOWS(p, "Line 1 of 1");
        SHOWS(p, "caf\xc3\xa9");
        pty_do(p, "<Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
    }
    check_case("C locale");
    pty_env("LC_ALL", "C");
    Pty *p = start(24, 80, "x.txt");
    SHOWS(p, "caf\\u{e9} \\u{6f22}");
    SHOWS(p, "Line 1 of 1 | Column 1");
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
}

/* Machines without a locale, or with the name of one that they do not have, show UTF-8 all the same. */
TEST(locales_that_are_missing)
{
    static const char *const names[] = {NULL, "", "xx_XX.UTF-8", "xx_XX.utf8"};
    check_write(check_path("x.txt"), "caf\xc3\xa9\n", 6);
    for (size_t i = 0; i < sizeof names / sizeof *names; i++) {
        check_case(names[i] ? names[i] : "none");
        pty_env("LC_ALL", names[i]);
        pty_env("LC_CTYPE", NULL);
        pty_env("LANG", NULL);
        Pty *p = start(24, 80, "x.txt");
        SHOWS(p, "caf\xc3\xa9");
        LEAVE(p);
    }
}

/* What is typed there comes in the locale's own bytes, of one or of several. */
TEST(locales_of_other_encodings)
{
    static const struct {
        const char *locale, *encoding, *typed, *holds;
    } cases[] = {{"de_DE", "ISO-8859-1", "\xfc\xe4", "x\xc3\xbc\xc3\xa4\n"},
                 {"ja_JP", "EUC-JP", "\xc6\xfc", "x\xe6\x97\xa5\n"}};
    pty_env("LOCPATH", check_folder());
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char command[400];
        check_case(cases[i].encoding);
        check_put("x.txt", "x\n");
        snprintf(command, sizeof command, "localedef -i %s -f %s '%s' 2>/dev/null", cases[i].locale,
                 cases[i].encoding, check_path(cases[i].locale));
        CHECK_INT(system(command), 0);
        pty_env("LC_ALL", cases[i].locale);
        Pty *p = start(24, 80, "x.txt");
        SHOWS(p, "Line 1 of 1");
        pty_do(p, "<End>");
        for (size_t k = 0; k < strlen(cases[i].typed); k++) { /* however the reads cut it */
            pty_send(p, cases[i].typed + k, 1);
            pty_idle(p);
        }
        pty_do(p, "<Ctrl+S>");
        SHOWS(p, "Saved x.txt");
        LEAVE(p);
        check_holds("x.txt", cases[i].holds);
    }
}

/* In the C locale, typed, pasted and read letters are written as they came, with any C library. */
TEST(letters_in_the_c_locale)
{
    static const char *const names[] = {"C", "POSIX", "C.UTF-8"};
    for (size_t i = 0; i < sizeof names / sizeof *names; i++) {
        check_case(names[i]);
        check_put("x.txt", "caf\xc3\xa9\n");
        pty_env("LC_ALL", names[i]);
        Pty *p = start(24, 80, "x.txt");
        SHOWS(p, "Line 1 of 1");
        pty_send(p, "\xc3", 1); /* cut by reads, too */
        pty_idle(p);
        pty_send(p, "\xa4", 1);
        pty_idle(p);
        pty_send(p, "\xe6\xbc\xa2", 3);
        pty_idle(p);
        pty_send(p, "\033[200~\xc3\xb6\xc3\xbc\033[201~", 16);
        pty_idle(p);
        pty_do(p, "<Ctrl+S>");
        SHOWS(p, "Saved x.txt");
        LEAVE(p);
        check_holds("x.txt", "\xc3\xa4\xe6\xbc\xa2\xc3\xb6\xc3\xbc"
                             "caf\xc3\xa9\n");
    }
}

TEST(terminals_nobody_knows)
{
    static const struct {
        const char *term, *says;
    } kinds[] = {{"dumb", "Unknown terminal (TERM=dumb)"},
                 {"", "TERM is not set"},
                 {NULL, "TERM is not set"},
                 {"lantern-9", "Unknown terminal (TERM=lantern-9)"}};
    for (size_t i = 0; i < sizeof kinds / sizeof *kinds; i++) {
        check_case(kinds[i].term);
        check_put("x.txt", "berth\n");
        pty_env("TERM", kinds[i].term);
        Pty *p = start(24, 100, "x.txt");
        SHOWS(p, kinds[i].says);
        pty_do(p, "<End> 4<Ctrl+S>");
        SHOWS(p, "berth 4");
        pty_do(p, "<Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
        check_holds("x.txt", "berth 4\n");
    }
}

/* Whoever calls us, the keys come from the terminal. */
TEST(callers_of_every_kind)
{
    static const char keys[] = "<End> 4<Ctrl+S><Ctrl+Q>";
    static const struct {
        const char *name, *command, *keys, *text;
    } callers[] = {
        {"no controlling terminal", "exec setsid -w \"$SQUILL\" x.txt", keys, "berth 4\n"},
        {"only standard input is a terminal's", "exec setsid -w \"$SQUILL\" x.txt 2>/dev/null", keys,
         "berth 4\n"},
        {"xargs", "echo x.txt | xargs \"$SQUILL\"", keys, "berth 4\n"},
        {"a loop", "echo x.txt | while read f; do \"$SQUILL\" \"$f\"; done", keys, "berth 4\n"},
        {"nothing to read", "\"$SQUILL\" x.txt </dev/null", keys, "berth 4\n"},
        {"a pipe", "echo quay | \"$SQUILL\"", "<End> 4<Ctrl+S>x<Enter><Ctrl+Q>", "quay 4\n"},
    };
    pty_env("SQUILL", SQUILL);
    for (size_t i = 0; i < sizeof callers / sizeof *callers; i++) {
        const char *args[] = {"-c", callers[i].command, NULL};
        check_case(callers[i].name);
        check_put("x.txt", "berth\n");
        unlink(check_path("x"));
        Pty *p = pty_start("/bin/sh", 24, 100, args);
        SHOWS(p, "1  ");
        HIDES(p, "still being read");
        pty_do(p, callers[i].keys);
        CHECK(pty_ended(p));
        CHECK(pty_restored(p));
        CHECK_INT(pty_end(p), 0);
        check_holds(strstr(callers[i].keys, "Enter") ? "x" : "x.txt", callers[i].text);
    }
}

/* Names and contents that try to command the terminal are shown, not obeyed. */
TEST(hostile_names_and_bytes)
{
    const char *name = "evil\033]2;title\007\033[2J\n.txt";
    check_write(check_path(name),
                "\033[31mred\033]52;c;eA==\007\xc2\x9b"
                "5A\xe2\x80\xae.\n",
                30);
    Pty *p = start(24, 120, name);
    SHOWS(p, "\\x1b[31mred");
    SHOWS(p, "\\u{202e}");
    SHOWS(p, "evil\\x1b]2;title\\x07\\x1b[2J\\n.txt");
    size_t n;
    const char *raw = pty_raw(p, &n);
    for (const char *osc = raw; (osc = memmem(osc, n - (size_t)(osc - raw), "\033]", 2)); osc += 2)
        CHECK(strncmp(osc, "\033]104\007", 6) ==
                  0 || /* what resets the colours, by the terminal's description */
              strncmp(osc, "\033]11;?\033\\", 8) == 0); /* what we ask */
    CHECK(memmem(raw, n, "\xc2\x9b", 2) == NULL);
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
}

static void read_line(const char *path, char line[64])
{
    FILE *f = fopen(path, "r");
    line[0] = 0;
    CHECK(f && fgets(line, 64, f) != NULL);
    if (f)
        fclose(f);
}

TEST(idle_sleeps)
{
    check_write(check_path("x.txt"), "text\n", 5);
    Pty *p = start(24, 80, "x.txt");
    SHOWS(p, "Line 1 of 1");
    CHECK(pty_rest(p));
    size_t sent = pty_sent(p);
    char path[64], before[64] = "", after[64] = "";
    snprintf(path, sizeof path, "/proc/%d/schedstat", (int)pty_pid(p));
    if (access(path, R_OK) == 0) {
        do { /* it tells that it sleeps just before it does */
            read_line(path, before);
            pty_pause(p, 50);
            read_line(path, after);
        } while (strcmp(before, after) != 0);
        pty_pause(p, 1500);
        read_line(path, after);
        CHECK_STR(after, before); /* run time and number of wake-ups */
    }
    CHECK_INT(pty_sent(p), sent);
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
}

/* A letter in the middle of a line sends few bytes, and the terminal shows what we believe. */
TEST(typing_in_a_line_sends_little)
{
    static const char *const terminals[] = {"xterm-256color", "screen-256color", "linux", "vt100"};
    for (size_t i = 0; i < sizeof terminals / sizeof *terminals; i++) {
        check_case(terminals[i]);
        pty_env("TERM", terminals[i]);
        pty_env("COLORFGBG", "15;0"); /* its own ground can stay */
        Pty *p = start(24, 100, "quay.txt");
        pty_do(p, "berth three of Harrow Bay is open until the tide turns at the ramp");
        pty_do(p, "<Home><Ctrl+Right><Right>");
        size_t least = SIZE_MAX;
        for (const char *letter = "x\0w\0y\0"; *letter;
             letter += 2) { /* a busy machine may be late with others */
            size_t sent = pty_sent(p);
            pty_do(p, letter);
            least = pty_sent(p) - sent < least ? pty_sent(p) - sent : least;
        }
        if (i < 3)
            CHECK(least > 0 && least <= 64);
        pty_do(p, "z\xe6\xbc\xa2q<Backspace>r<Left><Left>s<Ctrl+Z>t");
        SHOWS(p, "berth xwyz");
        SHOWS(p, "three of Harrow Bay is open until the tide turns at the ramp");
        const char *row = pty_row(p, 1);
        CHECK(strstr(row, "berth xwyzt\xe6\xbc\xa2rthree of Harrow Bay") != NULL || i == 3);
        LEAVE(p);
    }
    pty_env("TERM", NULL);
}

/* A terminal that takes nothing (stopped, a line cut off) keeps nobody: work is kept, and asking to end is
 * obeyed. */
TEST(a_terminal_that_does_not_read)
{
    check_put("x.txt", "text\n");
    Pty *p = start(24, 80, "x.txt");
    SHOWS(p, "Line 1 of 1");
    CHECK(pty_rest(p));
    /* nobody reads the screen from here on */
    for (int i = 0; i < 400; i++)
        pty_feed(p, i % 2 ? "\033[6~" : "grey heron \r", i % 2 ? 4 : 12);
    usleep(1500 * 1000);
    kill(pty_pid(p), SIGTERM);
    for (int i = 0; i < 400 && !pty_gone(p); i++)
        usleep(10 * 1000);
    CHECK(pty_gone(p));
    CHECK_INT(pty_end(p), 1);
    p = start(24, 80, "x.txt");
    SHOWS(p, "There is unsaved work");
    pty_do(p, "<wait>t");
    SHOWS(p, "grey heron");
    LEAVE(p);
}

/* A terminal that claims to be larger than any is. */
TEST(a_size_that_nobody_has)
{
    check_put("x.txt", "text\n");
    pty_env("LINES", "100000");
    Pty *p = start(24, 80, "x.txt");
    SHOWS(p, "Line 1 of 1");
    pty_claim_size(p, 40000, 60000);
    pty_do(p, "x");
    pty_resize(p, 24, 80);
    pty_do(p, "y<Ctrl+L>");
    SHOWS(p, "xytext");
    LEAVE(p);
}
