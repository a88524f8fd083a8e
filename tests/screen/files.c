/* Several files and panes, other forms of files, the shell, differences. */
#include "check.h"
#include "drive.h"

#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

/* ---- one file, keys in, file out ---- */

static const struct {
    const char *name, *before, *keys, *after;
} cases[] = {
    {"run", "a\nb\n", "<Down><Ctrl+P>run-command echo quay<Enter>", "a\nquay\nb\n"},
    {"run by the route", "a\n", "<Esc>trprintf pier<Enter>", "piera\n"},
    {"run is a step", "a\n", "<Esc>trecho x<Enter><wait><Ctrl+Z>", "a\n"},
    {"run knows the file", "", "<Esc>trbasename \"$SQUILL_FILE\"<Enter>", "work.txt\n"},
    {"filter the mark", "c\nb\na\nz\n", "<Shift+Down><Shift+Down><Shift+Down><Esc>txsort<Enter>",
     "a\nb\nc\nz\n"},
    {"filter all", "b\na\n", "<Esc>txsort<Enter>", "a\nb\n"},
    {"filter that fails, backed out", "b\na\n", "<Esc>txsort; exit 3<Enter><wait><wait><Esc>", "b\na\n"},
    {"filter that fails, taken", "b\na\n", "<Esc>txsort; exit 3<Enter><wait><wait>r", "a\nb\n"},
    {"filter to nothing is shown first", "b\na\n", "<Esc>txtrue<Enter><wait><wait><Esc>", "b\na\n"},
    {"insert file", "a\nb\n", "<Down><Ctrl+P>insert-file other.txt<Enter>", "a\nother\nb\n"},
    {"insert file by the list", "a\n", "<Esc>fioth<Enter>", "other\na\n"},
    {"line ends to crlf", "a\nb\n", "<Ctrl+P>line-ends crlf<Enter>", "a\r\nb\r\n"},
    {"line ends to lf", "a\r\nb\n", "<Esc>fp<Down><Down><Down><Enter>lf<Enter>", "a\nb\n"},
    {"last line end off and on", "a\n", "<Esc>fplast<Enter><Esc>fplast<Enter><Esc>fplast<Enter>", "a"},
    {"indentation", "a\n", "<Ctrl+P>indentation tabs 8<Enter><Tab>", "\ta\n"},
    {"latin-1 stays", "caf\xe9 Harrow Bay\n", "x", "xcaf\xe9 Harrow Bay\n"},
    {"latin-1 typed", "caf\xe9 Harrow Bay\n", "\xc3\xa8",
     "\xe8"
     "caf\xe9 Harrow Bay\n"},
    {"latin-1 to utf-8", "caf\xe9 Harrow Bay\n", "<Ctrl+P>encoding utf-8<Enter>", "caf\xc3\xa9 Harrow Bay\n"},
    {"utf-8 to latin-1", "caf\xc3\xa9\n", "<Ctrl+P>encoding iso-8859-1<Enter>", "caf\xe9\n"},
    {"byte-order mark stays",
     "\xef\xbb\xbf"
     "a\n",
     "x", "\xef\xbb\xbfxa\n"},
    {"utf-16 typed",
     "\xff\xfe"
     "a",
     "b",
     "\xff\xfe"
     "b"},
    {"take back a change", "a\nb\nc\nd\ne\nf\ng\nh\ni\n", "X<Ctrl+End>Y<F9>n<wait>t<Esc>",
     "Xa\nb\nc\nd\ne\nf\ng\nh\ni\n"},
    {"take back what was removed", "a\nb\nc\n", "<Down><Ctrl+X><F9>t<Esc>", "a\nb\nc\n"},
    {"next change", "a\nb\nc\n", "<Down><Down>X<Ctrl+Home><wait><Esc>gcY", "a\nb\nYXc\n"},
    {"panes share the text", "a\nb\n", "<Esc>vsX<F6><Down>Y<Esc>vaZ", "Xa\nbYZ\n"},
    {"reload drops, undo brings back", "a\n", "x<Esc>fz<wait>z<wait><Ctrl+Z>", "xa\n"},
};

TEST(keys_in_file_out)
{
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].name);
        check_put("work.txt", cases[i].before);
        if (cases[i].before[0] == '\xff') /* zeros cannot stand in a string */
            check_write(check_path("work.txt"),
                        "\xff\xfe"
                        "a\0",
                        4);
        check_put("other.txt", "other\n");
        Pty *p = pty_edit_at(24, 100, "work.txt", NULL);
        pty_do(p, cases[i].keys);
        pty_do(p, "<wait><wait><Ctrl+S>");
        SHOWS(p, "Saved work.txt");
        pty_do(p, "<Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
        if (cases[i].before[0] == '\xff') {
            size_t n;
            char *bytes = check_read(check_path("work.txt"), &n);
            CHECK_BYTES(bytes, n,
                        "\xff\xfe"
                        "b\0a\0",
                        6);
        } else {
            check_holds("work.txt", cases[i].after);
        }
    }
}

/* ---- encodings ---- */

TEST(encodings_are_told_and_refused_with_the_place)
{
    check_put("fares.txt", "Zuschl\xe4ge f\xfcr die F\xe4hre\n");
    Pty *p = pty_edit_at(24, 100, "fares.txt", NULL);
    SHOWS(p, "Zuschläge für die Fähre");
    SHOWS(p, "which is a guess");
    pty_do(p, "<Down>x \xe6\xbc\xa2<Ctrl+S>");
    SHOWS(p, "“漢” in line 2 cannot be written as");
    check_holds("fares.txt", "Zuschl\xe4ge f\xfcr die F\xe4hre\n");
    pty_do(p, "<wait><Ctrl+P>encoding utf-8<Enter><wait><Ctrl+S>");
    SHOWS(p, "Saved fares.txt");
    check_holds("fares.txt", "Zuschläge für die Fähre\nx 漢\n");
    LEAVE(p);
}

/* ---- several files ---- */

TEST(open_files_and_switching)
{
    check_put("one.ini", "first\n");
    check_put("two.ini", "second\n");
    CHECK(symlink("one.ini", check_path("link.ini")) == 0);
    const char *args[] = {"one.ini", "two.ini", "link.ini", NULL};
    Pty *p = pty_start(SQUILL, 24, 100, args);
    SHOWS(p, "first");
    pty_do(p, "x<Esc>ff");
    SHOWS(p, "Open files:");
    SHOWS(p, "1 of 2"); /* the link is the same text */
    SHOWS(p, "1 line, 7 bytes, ini, changed");
    pty_do(p, "two<Enter>");
    SHOWS(p, "second");
    pty_do(p, "<Ctrl+PageDown>");
    SHOWS(p, "xfirst");
    /* closing asks */
    pty_do(p, "<Esc>fc");
    SHOWS(p, "s Save and close");
    pty_do(p, "<wait>s");
    SHOWS(p, "Closed one.ini");
    SHOWS(p, "second");
    check_holds("one.ini", "xfirst\n");
    pty_do(p, "<Esc>fc");
    SHOWS(p, "no name yet");
    LEAVE(p);
}

TEST(opening_by_the_list)
{
    mkdir(check_path("berths"), 0755);
    check_put("berths/north.txt", "north\n");
    check_put("quay.txt", "quay\n");
    Pty *p = pty_edit_at(24, 100, "quay.txt", NULL);
    pty_do(p, "<Ctrl+O>");
    SHOWS(p, "berths/");
    pty_do(p, "ber<Enter>");
    SHOWS(p, "north.txt");
    SHOWS(p, "the folder above");
    pty_do(p, "<Enter>");
    SHOWS(p, "berths/north.txt");
    SHOWS(p, "north");
    pty_do(p, "<Ctrl+O>");
    SHOWS(p, "quay.txt");
    SHOWS(p, "open");
    pty_do(p, "qu<Enter>");
    SHOWS(p, "/quay.txt");
    pty_do(p, "<Ctrl+O>plan.txt");
    SHOWS(p, "begin a new file of this name");
    pty_do(p, "<Enter>");
    SHOWS(p, "new");
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "Saved plan.txt");
    LEAVE(p);
    p = pty_edit_at(24, 100, "berths", NULL); /* a folder is a list */
    SHOWS(p, "north.txt");
    pty_do(p, "nor<Enter>");
    SHOWS(p, "berths/north.txt");
    LEAVE(p);
}

TEST(leaving_with_several)
{
    check_put("a.txt", "a\n");
    check_put("b.txt", "b\n");
    check_put("c.txt", "c\n");
    const char *args[] = {"a.txt", "b.txt", "c.txt", NULL};
    Pty *p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "a.txt");
    pty_do(p, "1<Ctrl+PageDown>2<Ctrl+PageDown>3<Ctrl+Q>");
    SHOWS(p, "a.txt has changes that are not saved, and so have others");
    pty_do(p, "<wait>v");
    SHOWS(p, "the last save");
    SHOWS(p, "1 line replaced by 1");
    pty_do(p, "<Esc><wait><wait><wait>d");
    SHOWS(p, "b.txt has changes that are not saved, and so has another file");
    pty_do(p, "<wait><Esc><wait><wait><wait>"); /* staying forgets what was dropped */
    pty_do(p, "<Ctrl+Q>");
    SHOWS(p, "a.txt has changes");
    pty_do(p, "<wait>a");
    CHECK_INT(pty_end(p), 0);
    check_holds("a.txt", "1a\n");
    check_holds("b.txt", "2b\n");
    check_holds("c.txt", "3c\n");
    p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "a.txt");
    pty_do(p, "1<Ctrl+PageDown>2<Esc>fe");
    SHOWS(p, "Saved 2 files");
    pty_do(p, "4<Ctrl+Q>");
    SHOWS(p, "b.txt has changes");
    pty_do(p, "<wait><Esc><wait><wait><wait><Ctrl+PageDown>5<Ctrl+Q>");
    SHOWS(p, "and so has another file");
    pty_do(p, "<wait>n");
    CHECK_INT(pty_end(p), 0);
    check_holds("b.txt", "22b\n");
    check_holds("c.txt", "3c\n");
}

TEST(save_as_rename_reload)
{
    check_put("kiosk.txt", "a\n");
    check_put("taken.ini", "b\n");
    Pty *p = pty_edit_at(24, 100, "kiosk.txt", NULL);
    pty_do(p, "<Esc>fa");
    SHOWS(p, "/kiosk.txt"); /* the name is filled in */
    pty_do(p, "<Ctrl+U>taken.ini<Enter>");
    SHOWS(p, "There is a");
    pty_do(p, "<wait>a<Ctrl+U>copy.ini<Enter>");
    SHOWS(p, "Saved copy.ini");
    check_holds("taken.ini", "b\n");
    pty_do(p, "<Esc>fm<Ctrl+U>berth.sh<Enter>");
    SHOWS(p, "copy.ini is now called berth.sh");
    CHECK(access(check_path("copy.ini"), F_OK) != 0);
    check_holds("berth.sh", "a\n");
    pty_do(p, "<wait><wait><wait><wait><wait><Right>");
    SHOWS(p, "shell ·");
    /* somebody else writes it */
    check_put("berth.sh", "a\nmore\n");
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "berth.sh changed on disk");
    pty_do(p, "<wait>v");
    SHOWS(p, "the file on disk");
    SHOWS(p, "more");
    pty_do(p, "<Esc>");
    SHOWS(p, "berth.sh changed on disk");
    pty_do(p, "<wait>z");
    SHOWS(p, "berth.sh is as it is on disk: 2 lines");
    pty_do(p, "y<Ctrl+S>");
    SHOWS(p, "Saved berth.sh");
    LEAVE(p);
}

/* ---- panes ---- */

TEST(panes)
{
    check_put("kiosk.ini", "a\nb\nc\nd\ne\nf\ng\nh\ni\nj\nk\nl\nm\nn\no\np\n");
    check_put("tide.log", "level\n");
    Pty *p = pty_edit_at(24, 80, "kiosk.ini", "tide.log");
    pty_do(p, "<Esc>vs");
    SHOWS(p, "▸kiosk.ini · Line 1 of 16");
    CHECK_INT(pty_find(p, " kiosk.ini · Line 1"), 11);
    pty_do(p, "<Ctrl+End>Z");
    SHOWS(p, "▸kiosk.ini, changed");
    SHOWS(p, "  1  a"); /* the other one scrolls by itself */
    pty_do(p, "<Esc>fx");
    SHOWS(p, "level");
    pty_do(p, "<F6>");
    SHOWS(p, "▸kiosk.ini, changed · Line 1 of");
    /* copying between them */
    pty_do(p, "<Shift+Right><Ctrl+C><F6><Ctrl+V>");
    SHOWS(p, "alevel");
    pty_do(p, "<Esc>vs");
    pty_do(p, "<Esc>vs");
    SHOWS(p, "There is no room here");
    pty_resize(p, 8, 40); /* too small for all: the one with the cursor */
    SHOWS(p, "alevel");
    HIDES(p, "kiosk.ini");
    pty_resize(p, 24, 80);
    SHOWS(p, " kiosk.ini, changed");
    pty_do(p, "<Esc>va");
    HIDES(p, "▸");
    pty_do(p, "<Esc>ve");
    SHOWS(p, "│");
    pty_send(p, "\033[<0;5;2M\033[<0;5;2m", 18); /* a click goes to the left one */
    pty_do(p, "<Esc>fx<wait><wait><wait><wait><wait><Right>");
    SHOWS(p, "▸kiosk.ini");
    pty_do(p, "<Esc>8v+");
    CHECK(strstr(pty_row(p, 3), "│") - pty_row(p, 3) > 45);
    pty_do(p, "<Esc>vc");
    HIDES(p, "│");
    LEAVE(p);
}

/* ---- the shell ---- */

TEST(commands_that_run_long_and_fail)
{
    check_put("a.txt", "a\n");
    Pty *p = pty_edit_at(24, 80, "a.txt", NULL);
    pty_do(p, "<Esc>trsleep 30<Enter>");
    SHOWS(p, "Running “sleep 30”");
    pty_do(p, "x");
    SHOWS(p, "Esc stops it");
    pty_do(p, "<Esc>");
    SHOWS(p, "“sleep 30” was stopped; nothing was changed");
    pty_do(p, "<wait><wait><wait><Esc>trls /no-such-place<Enter>");
    SHOWS(p, "ended with status 2: ls: cannot access");
    pty_do(p, "<wait><wait><wait><wait><wait><Esc>trecho half; exit 4<Enter>");
    SHOWS(p, "“echo half; exit 4” ended with status 4");
    SHOWS(p, "i Insert its output");
    pty_do(p, "i");
    SHOWS(p, " half");
    pty_do(p, "<Ctrl+P>set command_seconds 1<Enter><Esc>tryes<Enter>");
    SHOWS(p, "was stopped; nothing was changed"); /* for its size or its time */
    pty_do(p, "<wait><wait><wait><wait><wait><Esc>trprintf '\\033]0;bad\\007'<Enter>");
    SHOWS(p, "\\x1b]0;bad\\x07");
    LEAVE(p);
}

TEST(a_shell_and_back)
{
    check_put("a.txt", "a\n");
    pty_env("SHELL", "/bin/sh");
    Pty *p = pty_edit_at(24, 80, "a.txt", NULL);
    pty_do(p, "x<Esc>f");
    pty_send(p, "t", 1);
    SHOWS(p, "come back");
    CHECK(pty_restored(p));
    pty_others(p, "echo b >> a.txt; exit\n");
    SHOWS(p, "a.txt has changed on disk");
    SHOWS(p, "xa");
    LEAVE(p);
    pty_env("SHELL", NULL);
}

TEST(standard_input)
{
    const char *args[] = {"-c", "echo from a pipe | " SQUILL " -", NULL};
    Pty *p = pty_start("/bin/sh", 24, 80, args);
    SHOWS(p, "from a pipe");
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "Save as:");
    pty_do(p, "kept.txt<Enter>");
    SHOWS(p, "Saved kept.txt");
    check_holds("kept.txt", "xfrom a pipe\n");
    LEAVE(p);
    const char *piped[] = {"-c", "echo a | " SQUILL " - | cat", NULL};
    p = pty_start("/bin/sh", 24, 80, piped);
    SHOWS(p, "standard output is not a terminal");
    pty_end(p);
}

/* ---- .editorconfig ---- */

TEST(editorconfig_is_followed)
{
    check_put(".editorconfig",
              "root = true\n[*.py]\nindent_style = tab\n[*.ini]\nindent_size = 2\nindent_style = space\n"
              "trim_trailing_whitespace = true\ninsert_final_newline = true\nend_of_line = crlf\n");
    check_put("kiosk.ini", "a  \n  b\t\nlast");
    Pty *p = pty_edit_at(24, 100, "kiosk.ini", NULL);
    SHOWS(p, "spaces 2");
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "trimmed 2 lines");
    check_holds("kiosk.ini", "xa\n  b\nlast\n"); /* its line ends stay */
    pty_do(p, "<Esc>fp");
    SHOWS(p, "lf; .editorconfig asks for crlf");
    SHOWS(p, "spaces 2, from .editorconfig");
    pty_do(p, "<Esc><wait><wait><wait><Ctrl+O>fresh.ini<Enter>a<Enter><Ctrl+S>");
    SHOWS(p, "Saved fresh.ini");
    check_holds("fresh.ini", "a\r\n"); /* a new file gets them */
    LEAVE(p);
}

/* ---- odd names, many files ---- */

TEST(odd_names)
{
    static const struct {
        const char *name, *shown;
    } names[] = {
        {"two words.txt", "two words.txt"},
        {"line\nend.txt", "line\\nend.txt"},
        {"esc\033[31m.txt", "esc\\x1b[31m.txt"},
        {"bad\xff.txt", "bad\\xff.txt"},
        {"-dash.txt", "-dash.txt"},
        {"colon:12", "colon:12"},
        {"+3", "+3"},
        {"~", "~"},
        {"$(touch harm).txt", "$(touch harm).txt"},
    };
    for (size_t i = 0; i < sizeof names / sizeof *names; i++) {
        char path[100];
        check_case(names[i].shown);
        snprintf(path, sizeof path, "./%s", names[i].name);
        check_put(names[i].name, "old\n");
        Pty *p = pty_edit_at(24, 160, path, NULL);
        SHOWS(p, names[i].shown);
        pty_do(p, "x<Esc>ff");
        SHOWS(p, names[i].shown);
        pty_do(p, "<Esc><wait><wait><wait><Ctrl+S>");
        SHOWS(p, "Saved");
        check_holds(names[i].name, "xold\n");
        LEAVE(p);
    }
    CHECK(access(check_path("harm"), F_OK) != 0);
}

TEST(all_of_etc_at_once)
{
    const char *args[] = {"-c", "exec " SQUILL " --look $(find /etc -maxdepth 2 -type f -size -64k)", NULL};
    Pty *p = pty_start("/bin/sh", 24, 80, args);
    SHOWS(p, "look only");
    pty_do(p, "<wait><wait><Esc>ff");
    SHOWS(p, "Open files:");
    int row = pty_find(p, "Open files:");
    const char *count = row >= 0 ? strstr(pty_row(p, row), " of ") : NULL;
    CHECK(count && atoi(count + 4) > 30);
    pty_do(p, "passwd<Enter>");
    SHOWS(p, "/passwd");
    LEAVE(p);
}

/* What does not come to an end is shown while it is read, and Esc stops it. */
TEST(endless_sources)
{
    static const char *const lines[] = {"yes 'the tide log' | " SQUILL " -", SQUILL " /proc/self/pagemap",
                                        "(echo the tide log; sleep 6) | " SQUILL " -"};
    for (size_t i = 0; i < sizeof lines / sizeof *lines; i++) {
        check_case(lines[i]);
        const char *args[] = {"-c", lines[i], NULL};
        Pty *p = pty_start("/bin/sh", 24, 100, args);
        if (i == 1) { /* how fast that is differs: its bound may be reached before a key comes */
            bool ends = false, reads = false;
            for (int k = 0; k < 400 && !ends && !reads; k++) {
                pty_pause(p, 10);
                ends = pty_find(p, "come to an end") >= 0;
                reads = pty_find(p, "is still being read") >= 0;
            }
            CHECK(ends || reads);
            pty_send(p, "\x11", 1); /* its line is measured all the time, so it never comes to rest */
            CHECK(pty_ended(p));
            kill(pty_pid(p), SIGKILL);
            pty_end(p);
            continue;
        }
        SHOWS(p, "is still being read");
        SHOWS(p, "the tide log");
        pty_send(p, "x", 1); /* it is busy all the time */
        SHOWS(p, "Esc stops that");
        pty_send(p, "\033", 1);
        SHOWS(p, "Reading was stopped");
        pty_do(p, "<Ctrl+Q>");
        int status = pty_gone(p) ? 0 : -1;
        for (int k = 0; k < 300 && i != 2 && (status = pty_gone(p) ? 0 : -1) < 0; k++)
            pty_pause(p, 10);
        CHECK(i == 2 || status == 0);
        kill(pty_pid(p), SIGKILL);
        pty_end(p);
    }
}

/* What is typed before a pipe has been read to its end waits for it; leaving such a text asks, as nothing of
 * it is on disk. */
TEST(keys_before_a_pipe_ends)
{
    const char *args[] = {
        "-c", "{ echo from; while [ ! -e go ]; do sleep 0.05; done; echo a pipe; } | " SQUILL " -", NULL};
    Pty *p = pty_start("/bin/sh", 24, 80, args);
    SHOWS(p, "from");
    pty_do(p, "ab<Down>c");
    SHOWS(p, "4 keys typed ahead, for when this text is read");
    check_put("go", "");
    SHOWS(p, "abfrom");
    SHOWS(p, "a cpipe");
    HIDES(p, "typed ahead");
    pty_do(p, "<Ctrl+Z><Ctrl+Z><Ctrl+Q>");
    SHOWS(p, "This text has changes that are not saved");
    pty_do(p, "<wait>d");
    CHECK_INT(pty_end(p), 0);
    /* Leaving does not wait. */
    unlink(check_path("go"));
    p = pty_start("/bin/sh", 24, 80, args);
    SHOWS(p, "from");
    pty_do(p, "x<Ctrl+Q>");
    SHOWS(p, "not saved");
    check_put("go", "");
    pty_do(p, "<wait>d");
    CHECK_INT(pty_end(p), 0);
}

/* A file that is put into the text comes as opening would show it. */
TEST(what_is_inserted_is_decoded)
{
    check_put("a.txt", "one\r\ntwo\r\n");
    check_write(check_path("latin.txt"),
                "caf\xe9 f\xfcr alle, \xfc"
                "ber Nacht\nneu\n",
                30);
    check_write(check_path("wide.txt"),
                "\xff\xfe"
                "h\0i\0\n\0",
                8);
    Pty *p = pty_edit("a.txt", NULL);
    pty_do(p, "<Ctrl+P>insert-file latin.txt<Enter>");
    SHOWS(p, "Inserted latin.txt");
    pty_do(p, "<Ctrl+P>insert-file wide.txt<Enter>");
    SHOWS(p, "Inserted wide.txt");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Saved a.txt");
    LEAVE(p);
    check_holds("a.txt", "caf\xc3\xa9 f\xc3\xbcr alle, \xc3\xbc"
                         "ber Nacht\r\nneu\r\nhi\r\none\r\ntwo\r\n");
}

/* A name typed to its end is what Enter opens, and none stands in the list twice. */
TEST(a_name_typed_to_its_end)
{
    check_put("my-notes.txt", "x\n");
    check_put("berth.conf.bak", "old\n");
    Pty *p = pty_edit("my-notes.txt", NULL);
    pty_do(p, "<Ctrl+O>notes.txt<Enter>");
    SHOWS(p, "notes.txt  2 of 2  new");
    pty_do(p, "<Ctrl+O>berth.conf<Enter>");
    SHOWS(p, "berth.conf  3 of 3  new");
    pty_do(p, "<Ctrl+O>my-n<Enter>");
    SHOWS(p, "my-notes.txt  1 of 3");
    pty_do(p, "<Ctrl+PageDown><Ctrl+O>my-notes.txt");
    SHOWS(p, "my-notes.txt");
    int times = 0;
    for (int row = 1; row < 22; row++)
        times += strstr(pty_row(p, row), "my-notes.txt") && !strstr(pty_row(p, row), "Open");
    CHECK_INT(times, 1);
    pty_do(p, "<Esc>");
    LEAVE(p);
}

/* Bytes that are no text are looked at only, until a person says otherwise. */
TEST(what_is_no_text)
{
    check_write(check_path("tide.bin"), "berth\0three\n", 12);
    Pty *p = pty_edit("tide.bin", NULL);
    SHOWS(p, "tide.bin is look-only, as it is no text (zero bytes). Esc f l changes that");
    SHOWS(p, "look only");
    pty_do(p, "x<Esc>fl<Ctrl+End>y<Ctrl+S>");
    SHOWS(p, "Saved tide.bin");
    LEAVE(p);
    size_t n;
    char *bytes = check_read(check_path("tide.bin"), &n);
    CHECK_BYTES(bytes, n, "berth\0three\ny\n", 14);
}

/* Of several files, what was said of each can be read afterwards. */
TEST(what_was_said)
{
    check_put("a.txt", "a\n");
    check_put("b.txt", "b\n");
    Pty *p = pty_edit("a.txt", "b.txt");
    pty_do(p, "x<Ctrl+PageDown>y<Esc>fe");
    SHOWS(p, "Saved");
    pty_do(p, "<Esc>hg");
    SHOWS(p, "What was said");
    SHOWS(p, "Saved a.txt: 1 line");
    SHOWS(p, "Saved b.txt: 1 line");
    pty_do(p, "<Esc>");
    LEAVE(p);
}

TEST(what_is_printed_must_arrive)
{
    static const char *const options[] = {"--print kinds", "--help", "--version", "--recover"};
    for (size_t i = 0; i < sizeof options / sizeof *options; i++) {
        char command[300];
        check_case(options[i]);
        snprintf(command, sizeof command, "cd '%s' && " SQUILL " %s >/dev/full 2>said", check_folder(),
                 options[i]);
        int status = system(command);
        size_t n;
        if (strcmp(options[i], "--recover") != 0) /* nothing is printed where there is nothing */
            CHECK(WEXITSTATUS(status) == 1 &&
                  strstr(check_read(check_path("said"), &n), "could not be written"));
    }
}

/* A search while a text still arrives goes on with what comes, also when Enter was pressed early. */
TEST(finding_in_what_still_arrives)
{
    const char *args[] = {
        "-c",
        "{ echo from; while [ ! -e go ]; do sleep 0.05; done; echo far; echo the needle; } | " SQUILL " -",
        NULL};
    Pty *p = pty_start("/bin/sh", 24, 80, args);
    SHOWS(p, "from");
    pty_do(p, "<Ctrl+F>needle");
    SHOWS(p, "not yet; goes on as it arrives");
    pty_do(p, "<Enter>");
    SHOWS(p, "No match yet; the search goes on as the text arrives. Esc stops it");
    check_put("go", "");
    SHOWS(p, "Line 3 of 3");
    pty_do(p, "<Ctrl+Q>");
    SHOWS(p, "not saved");
    pty_do(p, "<wait>d");
    CHECK_INT(pty_end(p), 0);
    unlink(check_path("go"));
    p = pty_start("/bin/sh", 24, 80, args); /* what is not there is not there in the end */
    SHOWS(p, "from");
    pty_do(p, "<Ctrl+F>thimble");
    SHOWS(p, "not yet; goes on as it arrives");
    check_put("go", "");
    SHOWS(p, "no match");
    pty_do(p, "<Esc><Ctrl+Q><wait>d");
    CHECK_INT(pty_end(p), 0);
}
