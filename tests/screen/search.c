/* Finding and replacing on the screen and by --do. */
#include "check.h"
#include "drive.h"
#include "find_cases.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>

static Pty *start(const char *text)
{
    check_put("quay.txt", text);
    return pty_edit("quay.txt", NULL);
}

static void options(Pty *p, const char *flags)
{
    pty_do(p, "<Tab>");
    for (; *flags; flags++)
        pty_do(p, *flags == 'e'   ? "x"
                  : *flags == 'w' ? "w"
                  : *flags == 'x' ? "c"
                  : *flags == 'i' ? "cc"
                                  : "f");
    pty_do(p, "<Tab>");
}

TEST(replace_all_by_the_prompt)
{
    for (size_t i = 0; i < N_FIND_CASES; i++) {
        const Case *c = &cases[i];
        char report[64];
        size_t n;
        if (c->count == 0)
            continue;
        check_case(c->what);
        Pty *p = start(c->text);
        pty_do(p, "<Ctrl+R>");
        SHOWS(p, "Replace:");
        options(p, c->flags);
        pty_send(p, c->what, strlen(c->what));
        pty_do(p, "<Enter>");
        SHOWS(p, "with:");
        pty_send(p, c->with, strlen(c->with));
        pty_do(p, "<Enter>");
        SHOWS(p, "Replace this one");
        pty_do(p, "a");
        snprintf(report, sizeof report, "Replaced %zu place", c->count);
        SHOWS(p, report);
        pty_do(p, "<Ctrl+S>");
        SHOWS(p, "Saved");
        /* A last line end that the file had is put back by saving, as a step of its own. */
        size_t was = strlen(c->text), is = strlen(c->result);
        bool put_back = was && c->text[was - 1] == '\n' && is && c->result[is - 1] != '\n';
        char want[200];
        snprintf(want, sizeof want, "%s%s", c->result,
                 !put_back                 ? ""
                 : strstr(c->text, "\r\n") ? "\r\n"
                                           : "\n");
        char *bytes = check_read(check_path("quay.txt"), &n);
        CHECK_BYTES(bytes, n, want, strlen(want));
        pty_do(p, put_back ? "<Ctrl+Z><Ctrl+Z><Ctrl+S>" : "<Ctrl+Z><Ctrl+S>");
        bytes = check_read(check_path("quay.txt"), &n);
        CHECK_BYTES(bytes, n, c->text, strlen(c->text));
        pty_do(p, "<Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
    }
}

TEST(see_them_first)
{
    Pty *p = start("berth 1\nquay\nberth 2, berth 3\n");
    pty_do(p, "<Ctrl+R>berth<Enter>pier<Enter><wait>v");
    SHOWS(p, "What would stand there");
    SHOWS(p, "pier 2, pier 3");
    SHOWS(p, "1 of 2");
    pty_do(p, "<Down><Enter>");
    SHOWS(p, "Replace this one");
    pty_do(p, "<wait>r<wait>k");
    SHOWS(p, "Replaced 1 place in 1 line");
    SHOWS(p, "pier 2, berth 3");
    SHOWS(p, "berth 1");
    LEAVE(p);
}

TEST(only_in_the_mark)
{
    Pty *p = start("a a\na a\na a\n");
    pty_do(p, "<Down><Shift+Down><Ctrl+R>a<Tab>m<Tab><Enter>b<Enter><wait>a");
    SHOWS(p, "Replaced 2 places in 1 line");
    CHECK_STR(pty_row(p, 1), "  1  a a");
    CHECK_STR(pty_row(p, 2), "  2▎ b b");
    CHECK_STR(pty_row(p, 3), "  3  a a");
    LEAVE(p);
}

TEST(matches_of_all_texts)
{
    check_write(check_path("b.txt"), "no\nberth 7\n", 11);
    check_write(check_path("a.txt"), "berth 1\nberth 2\n", 16);
    const char *args[] = {"a.txt", "b.txt", NULL};
    Pty *p = pty_start(SQUILL, 24, 100, args);
    SHOWS(p, "berth 1");
    pty_do(p, "<Ctrl+F>berth<Enter><Esc>se");
    SHOWS(p, "b.txt, line 2");
    SHOWS(p, "1 of 3");
    pty_do(p, "<Down><Down><Enter>");
    SHOWS(p, "/b.txt");
    SHOWS(p, "Line 2 of 2");
    LEAVE(p);
}

TEST(many_matches_and_typing_on)
{
    size_t size = 12 * 1000 * 1000, n = 0;
    char *text = malloc(size + 100);
    while (n < size)
        n += (size_t)sprintf(text + n, "tide row %zu of the log\n", n);
    check_write(check_path("quay.txt"), text, n);
    free(text);
    const char *args[] = {"quay.txt", NULL};
    Pty *p = pty_start(SQUILL, 24, 100, args);
    SHOWS(p, "Line 1 of");
    pty_do(p, "<Ctrl+F>tide");
    SHOWS(p, "1 of ");
    pty_do(p, "<Enter>x");
    SHOWS(p, "changed");
    pty_do(p, "<Ctrl+F><Tab>x<Tab>(a+)+z|tide$"); /* nothing, slowly */
    SHOWS(p, "no match");
    pty_do(p, "<Esc>");
    LEAVE(p);
}

/* Runs squill without a terminal; returns the status and puts all it said in `out`. */
static int run(const char *arguments, char *out, size_t cap)
{
    char line[1024];
    snprintf(line, sizeof line, "cd %s && HOME=%s " SQUILL " %s 2>&1 </dev/null", check_folder(),
             check_folder(), arguments);
    FILE *f = popen(line, "r");
    size_t n = f ? fread(out, 1, cap - 1, f) : 0;
    out[n] = 0;
    return f ? WEXITSTATUS(pclose(f)) : -1;
}

TEST(without_a_screen)
{
    static const struct {
        const char *arguments;
        int status;
        const char *says, *after; /* after: of kiosk.ini */
    } runs[] = {
        {"--do 'replace-all volume loudness; save' kiosk.ini", 0,
         "kiosk.ini: Replaced 2 places in 2 lines; Saved kiosk.ini: 3 lines",
         "loudness = 6\nnight_loudness = 2\nvoice = calm\n"},
        {"--do 'replace-all volume loudness' kiosk.ini", 0, "not saved", NULL},
        {"--do 'replace-all -w volume loudness; save' kiosk.ini", 0, "Replaced 1 place",
         "loudness = 6\nnight_volume = 2\nvoice = calm\n"},
        {"--do 'replace-all -x \"(\\w+) = (\\d)\" \"$1=$2\"; save' kiosk.ini", 0, "Replaced 2 places",
         "volume=6\nnight_volume=2\nvoice = calm\n"},
        {"--do 'replace-all \"voice = calm\" \"voice; = loud\"; save' kiosk.ini", 0, "Saved",
         "volume = 6\nnight_volume = 2\nvoice; = loud\n"},
        {"--do 'go-line 2; duplicate-lines; save' kiosk.ini", 0, "Saved",
         "volume = 6\nnight_volume = 2\nnight_volume = 2\nvoice = calm\n"},
        {"--do 'replace-all nothing x; save' kiosk.ini", 0, "Nothing was replaced; stays as it is", NULL},
        {"--do 'replace-all -x \"(\" x; save' kiosk.ini", 1, "failed: missing closing parenthesis", NULL},
        {"--do 'replace-all volume x; fly; save' kiosk.ini", 1, "failed: There is no command “fly”", NULL},
        {"--do 'find; save' kiosk.ini", 1, "find needs the words to look for", NULL},
        {"--do 'open; save' kiosk.ini", 1, "asks for something", NULL},
        {"--do 'save' none.ini", 1, "There is no file none.ini", NULL},
        {"--do 'replace-all volume x; save' none.ini kiosk.ini", 1, "kiosk.ini: Replaced",
         "x = 6\nnight_x = 2\nvoice = calm\n"},
        {"--dry-run --do 'replace-all volume x; save' kiosk.ini", 0,
         "-volume = 6\n-night_volume = 2\n+x = 6\n+night_x = 2\n voice = calm\n", NULL},
        {"--dry-run kiosk.ini", 2, "--dry-run goes with --do", NULL},
        {"--do 'save'", 2, "needs the names of files", NULL},
    };
    static const char before[] = "volume = 6\nnight_volume = 2\nvoice = calm\n";
    for (size_t i = 0; i < sizeof runs / sizeof *runs; i++) {
        char out[4096];
        check_case(runs[i].arguments);
        check_write(check_path("kiosk.ini"), before, sizeof before - 1);
        CHECK_INT(run(runs[i].arguments, out, sizeof out), runs[i].status);
        check_result(strstr(out, runs[i].says) != NULL, __FILE__, __LINE__, "it said: %s", out);
        check_holds("kiosk.ini", runs[i].after ? runs[i].after : before);
    }
    /* what is not changed is not touched */
    struct stat a, b;
    char out[1000];
    CHECK(stat(check_path("kiosk.ini"), &a) == 0);
    run("--do 'replace-all nothing x; save' kiosk.ini", out, sizeof out);
    CHECK(stat(check_path("kiosk.ini"), &b) == 0 && a.st_ino == b.st_ino &&
          a.st_mtim.tv_nsec == b.st_mtim.tv_nsec);
    /* somebody has it open */
    const char *args[] = {"kiosk.ini", NULL};
    Pty *p = pty_start(SQUILL, 24, 100, args);
    SHOWS(p, "Line 1 of 3");
    pty_idle(p); /* it says so after its first screen */
    CHECK_INT(run("--do 'replace-all volume x; save' kiosk.ini", out, sizeof out), 0);
    check_result(strstr(out, "has it open") && strstr(out, "Replaced 2"), __FILE__, __LINE__, "it said: %s",
                 out);
    LEAVE(p);
    run("--do 'replace-all night day; save' kiosk.ini", out, sizeof out);
    CHECK(strstr(out, "has it open") == NULL);
}
