/* What form a file has on disk, large files while they are read, and questions around saving, as a person
 * meets them on the screen. */
#include "check.h"
#include "drive.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static void settings(const char *lines)
{
    mkdir(check_path(".config"), 0700);
    mkdir(check_path(".config/steady-quill"), 0700);
    check_put(".config/steady-quill/settings.lua", lines);
}

/* ---- properties: one file, keys in, file out ---- */

static const struct {
    const char *name, *before, *keys, *shows, *after;
} cases[] = {
    {"line ends to crlf", "a\nb\n", "<Esc>fpLine e<Enter><End><Enter>", "2 line ends changed to crlf",
     "a\r\nb\r\n"},
    {"line ends to lf", "a\r\nb\r\nc", "<Esc>fpLine e<Enter><Home><Enter>", "changed to lf", "a\nb\nc"},
    {"mixed line ends", "a\r\nb\n", "<Esc>fpLine e<Enter><Home><Enter>", "1 line end changed", "a\nb\n"},
    {"line ends stay", "a\r\nb\n", "<Esc>fpLine e<Enter><Esc>x", "mixed", "xa\r\nb\n"},
    {"no last line end", "a\nb\n", "<Esc>fpLast<Enter>", "has no line end now", "a\nb"},
    {"a last line end", "a\nb", "<Esc>fpLast<Enter>", "with a line end now", "a\nb\n"},
    {"a last line end of that kind", "a\r\nb", "<Esc>fpLast<Enter>", "line end now", "a\r\nb\r\n"},
    {"encoding to save in", "caf\xc3\xa9\n", "<Esc>fpEncoding to<Enter>iso-8859-1<Enter>", "iso-8859-1",
     "caf\xe9\n"},
    {"an encoding it does not fit", "\xe6\xbc\xa2 quay\n", "<Esc>fpEncoding to<Enter>iso-8859-1<Enter>",
     "iso-8859-1", "\xe6\xbc\xa2 quay\n"},
    {"read as another encoding", "\xb1\xb3 quay\n", "<Esc>fpRead<Enter>iso-8859-2<Enter>",
     "\xc4\x85\xc5\x82 quay", "\xb1\xb3 quay\n"},
    {"read as and change", "\xb1\xb3\n", "<Esc>fpRead<Enter>iso-8859-2<Enter><wait>x", "\xc4\x85\xc5\x82",
     "x\xb1\xb3\n"},
    {"indentation by tabs", "a\n", "<Esc>fpIndent<Enter>tabs 8<Enter><wait><Tab>", "tabs 8", "\ta\n"},
    {"indentation by two", "a\n", "<Esc>fpIndent<Enter>spaces 2<Enter><wait><Tab>", "spaces 2", "  a\n"},
    {"no such indentation", "a\n", "<Esc>fpIndent<Enter>rows 2<Enter>", "Type for example “spaces 4”", "a\n"},
    {"kind", "a\n", "<Esc>fpKind<Enter>yaml<Enter>", "yaml", "a\n"},
    {"look only", "a\n", "<Esc>fpLook<Enter><wait>x", "look only", "a\n"},
    {"only shown", "a\n", "<Esc>fpPermissions<Enter>", "That is only shown here", "a\n"},
    {"encoding by a command", "\xc3\xa9\n", "<Ctrl+P>encoding windows-1252<Enter>", "windows-1252", "\xe9\n"},
};

TEST(properties_change_the_file)
{
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].name);
        check_put("fares.txt", cases[i].before);
        Pty *p = pty_edit("fares.txt", NULL);
        pty_do(p, cases[i].keys);
        SHOWS(p, cases[i].shows);
        pty_do(p, "<wait><wait><Ctrl+S><wait>");
        check_holds("fares.txt", cases[i].after);
        LEAVE(p);
    }
}

TEST(properties_tell_all)
{
    check_put("fares.txt", "adult 4\nchild 2\n");
    CHECK(chmod(check_path("fares.txt"), 0640) == 0 &&
          link(check_path("fares.txt"), check_path("same.txt")) == 0);
    Pty *p = pty_edit_at(30, 100, "fares.txt", NULL);
    pty_do(p, "<Esc>fp");
    SHOWS(p, "rw-r----- (0640)");
    SHOWS(p, "2 links");
    SHOWS(p, "2 lines, 16");
    SHOWS(p, "has a line end");
    SHOWS(p, "/fares.txt");
    pty_do(p, "<Esc>");
    LEAVE(p);
}

/* ---- large files ---- */

enum { LARGE = 90 * 1000 * 1000, WIDTH = 100 };

static void put_large(const char *name)
{
    static char line[WIDTH + 1];
    FILE *f = fopen(check_path(name), "w");
    for (int i = 0; f && i < LARGE / WIDTH; i++) {
        snprintf(line, sizeof line, "%07d %-91s\n", i + 1, "tide level 2.4 m, ramp up, berth open");
        fwrite(line, 1, WIDTH, f);
    }
    CHECK(f && fclose(f) == 0);
}

TEST(large_files)
{
    put_large("tide.log");
    Pty *p = pty_edit("tide.log", NULL);
    SHOWS(p, "0000001 tide");
    pty_do(p, "<Ctrl+End>");
    SHOWS(p, "After line 900000 of 900000");
    pty_do(p, "<Up>x<Ctrl+S>");
    SHOWS(p, "Saved tide.log: 900000 lines");
    LEAVE(p);
    struct stat st;
    CHECK(stat(check_path("tide.log"), &st) == 0);
    CHECK_INT(st.st_size, LARGE + 1);
    p = pty_edit("tide.log:654321", NULL); /* far after what is there at once */
    SHOWS(p, "0654321 tide");
    SHOWS(p, "Line 654321 of 900000");
    LEAVE(p);
    p = pty_edit("+1000000", "tide.log");
    SHOWS(p, "there is no line 1000000");
    LEAVE(p);
}

/* Reading is stopped: what is there can be looked at, and never gets in the way of the whole file. */
TEST(a_large_file_is_stopped)
{
    put_large("tide.log");
    for (int round = 0; round < 6; round++) {
        const char *args[] = {"tide.log", NULL};
        Pty *p = pty_start(SQUILL, 24, 100, args);
        for (int i = 0; i < 400 && pty_find(p, "0000001 tide") < 0; i++)
            pty_pause(p, 1);
        pty_send(p, "\033", 1);
        pty_idle(p);
        bool stopped = pty_find(p, "was stopped at") >= 0;
        if (stopped) {
            SHOWS(p, "tide.log  incomplete");
            pty_do(p, "x<Ctrl+S>");
        }
        LEAVE(p);
        struct stat st;
        CHECK(stat(check_path("tide.log"), &st) == 0 && st.st_size == LARGE);
        if (stopped)
            return;
    }
    check_skip("this machine reads faster than a key comes");
}

/* ---- the last line ---- */

TEST(the_last_line_is_asked_about)
{
    static const struct {
        const char *setting, *keys, *after;
    } ways[] = {
        {"keep", "<wait>", "xone\ntwo"},    {"add", "<wait>", "xone\ntwo\n"},
        {"ask", "<wait>a", "xone\ntwo\n"},  {"ask", "<wait>k", "xone\ntwo"},
        {"ask", "<wait><Esc>", "one\ntwo"},
    };
    for (size_t i = 0; i < sizeof ways / sizeof *ways; i++) {
        char line[100];
        check_case(ways[i].keys);
        snprintf(line, sizeof line, "last_newline = \"%s\"\n", ways[i].setting);
        settings(line);
        check_put("berths.yaml", "one\ntwo");
        Pty *p = pty_edit("berths.yaml", NULL);
        pty_do(p, "x<Ctrl+S>");
        pty_do(p, ways[i].keys);
        check_holds("berths.yaml", ways[i].after);
        LEAVE(p);
    }
}

/* ---- lists ---- */

TEST(the_list_of_open_files_closes_them)
{
    check_put("a.txt", "one\n");
    check_put("b.txt", "two\n");
    Pty *p = pty_edit("a.txt", "b.txt");
    pty_do(p, "<Esc>ff");
    SHOWS(p, "Open files");
    pty_do(p, "<Down><Delete>");
    SHOWS(p, "Closed b.txt");
    pty_do(p, "<Esc><wait><wait><wait>x<Esc>ff<Delete>"); /* one with changes asks */
    SHOWS(p, "has changes that are not saved");
    pty_do(p, "<wait>s");
    SHOWS(p, "Closed a.txt");
    check_holds("a.txt", "xone\n");
    LEAVE(p);
}

TEST(files_opened_lately_are_offered)
{
    mkdir(check_path("quay"), 0700);
    check_put("quay/tides.txt", "high\n");
    check_put("a.txt", "one\n");
    Pty *p = pty_edit("quay/tides.txt", NULL);
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "Saved");
    LEAVE(p);
    p = pty_edit("a.txt", NULL);
    pty_do(p, "<Ctrl+O>");
    SHOWS(p, "lately, in");
    pty_do(p, "tides<Enter>");
    SHOWS(p, "xhigh");
    LEAVE(p);
}

TEST(what_can_be_recovered_is_listed)
{
    const char *args[] = {"-c", SQUILL " --recover | cat; echo that was all", NULL};
    Pty *p = pty_start("/bin/sh", 24, 120, args);
    SHOWS(p, "that was all");
    CHECK_INT(pty_end(p), 0);
    check_put("a.txt", "one\n");
    p = pty_edit("a.txt", NULL);
    pty_do(p, "dropped words ");
    CHECK(pty_rest(p));
    LEAVE(p);
    p = pty_start("/bin/sh", 24, 120, args);
    SHOWS(p, "a.txt");
    SHOWS(p, "that was all");
    CHECK_INT(pty_end(p), 0);
    const char *recover[] = {"--recover", NULL};
    p = pty_start(SQUILL, 24, 120, recover);
    SHOWS(p, "a.txt");
    pty_do(p, "<Enter>");
    SHOWS(p, "dropped words one");
    LEAVE(p);
}

/* ---- settings in the panel ---- */

TEST(values_are_typed_in_the_panel)
{
    check_put("a.txt", "one\n");
    Pty *p = pty_edit("a.txt", NULL);
    pty_do(p, "<Esc>hstab_width<Enter>");
    SHOWS(p, "tab_width:");
    pty_do(p, "99<Enter>");
    SHOWS(p, "1 to 16");
    pty_do(p, "<Enter>3<Enter>");
    SHOWS(p, "tab_width = 3");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Kept 1 setting");
    pty_do(p, "<Esc>");
    LEAVE(p);
    check_holds(".config/steady-quill/settings.lua", "tab_width = 3\n");
    p = pty_edit("a.txt", NULL);
    pty_do(p, "<Esc>hstab_width<Enter>5<Enter><Ctrl+S>"); /* in the line that is there */
    SHOWS(p, "Kept 1 setting");
    LEAVE(p);
    check_holds(".config/steady-quill/settings.lua", "tab_width = 5\n");
}

/* ---- commands of the shell ---- */

TEST(file_names_are_completed_in_commands)
{
    check_put("announcements.sh", "echo berth three is open\n");
    check_put("a.txt", "one\n");
    Pty *p = pty_edit("a.txt", NULL);
    pty_do(p, "<Esc>trcat announ<Tab>");
    SHOWS(p, "cat announcements.sh");
    pty_do(p, "<Enter>");
    SHOWS(p, "echo berth three is open");
    pty_do(p, "<Ctrl+S><wait>");
    check_holds("a.txt", "echo berth three is open\none\n");
    LEAVE(p);
}

/* ---- the clipboard of the system, by a stand-in for its helper ---- */

/* Inside a multiplexer its own buffer gets it too; what may not arrive is said, once. */
TEST(the_clipboard_says_the_truth)
{
    char path[400], *large = malloc(100001);
    mkdir(check_path("bin"), 0700);
    check_put("bin/tmux", "#!/bin/sh\n[ \"$*\" = 'load-buffer -' ] && cat >\"$HOME/buffer\"\n");
    chmod(check_path("bin/tmux"), 0700);
    snprintf(path, sizeof path, "%s:/usr/bin:/bin", check_path("bin"));
    memset(large, 'x', 100000);
    large[99999] = '\n';
    large[100000] = 0;
    check_put("large.txt", large);
    check_put("a.txt", "one\ntwo\n");
    pty_env("DISPLAY", NULL);
    pty_env("WAYLAND_DISPLAY", NULL);
    Pty *p = pty_edit("large.txt", NULL);
    pty_do(p, "<Ctrl+C>");
    SHOWS(p, "too long for the terminal's clipboard:");
    LEAVE(p);
    pty_env("PATH", path);
    pty_env("TMUX", "harrow,1,0");
    p = pty_edit_at(24, 110, "a.txt", NULL);
    pty_do(p, "<Ctrl+C>");
    SHOWS(p, "Copied 1 line");
    SHOWS(p, "Copied to tmux as well.");
    struct stat st;
    UNTIL(p, stat(check_path("buffer"), &st) == 0 && st.st_size == 4);
    check_holds("buffer", "one\n");
    pty_do(p, "<Ctrl+Home><Ctrl+C>");
    SHOWS(p, "Copied 1 line");
    LEAVE(p);
    pty_env("TMUX", NULL);
    pty_env("STY", "1.harrow");
    p = pty_edit_at(24, 110, "a.txt", NULL);
    pty_do(p, "<Ctrl+C>");
    SHOWS(p, "The desktop may not get it");
    pty_send(p, "\033[<2;5;5M\033[<2;5;5m", 18); /* the right button */
    SHOWS(p, "With Shift held, the terminal's own menu");
    LEAVE(p);
    pty_env("STY", NULL);
    pty_env("PATH", NULL);
    free(large);
}

TEST(the_clipboard_helper)
{
    char path[400];
    mkdir(check_path("bin"), 0700);
    check_put("bin/wl-copy", "#!/bin/sh\ncat >\"$HOME/clip\"\n");
    check_put("bin/wl-paste", "#!/bin/sh\nprintf 'from outside\\033[31m'\n");
    chmod(check_path("bin/wl-copy"), 0700);
    chmod(check_path("bin/wl-paste"), 0700);
    snprintf(path, sizeof path, "%s:/usr/bin:/bin", check_path("bin"));
    pty_env("PATH", path);
    pty_env("WAYLAND_DISPLAY", "harrow-0");
    settings("system_clipboard = true\n");
    check_put("a.txt", "one\ntwo\n");
    Pty *p = pty_edit("a.txt", NULL);
    pty_do(p, "<Shift+Down><Ctrl+C>");
    struct stat st;
    UNTIL(p, stat(check_path("clip"), &st) == 0 && st.st_size == 4);
    check_holds("clip", "one\n");
    pty_do(p, "<Ctrl+P>paste-from-system<Enter>");
    SHOWS(p, "from outside\\x1b[31m");
    /* One that gives nothing more, and does not end, is not waited for. */
    check_put("bin/wl-paste",
              "#!/bin/sh\ntrap '' TERM\nprintf 'lives on'; exec >/dev/null; sleep 5; sleep 5; sleep 5\n");
    pty_do(p, "<Ctrl+P>paste-from-system<Enter>");
    SHOWS(p, "lives on");
    pty_do(p, "!");
    SHOWS(p, "lives on!");
    LEAVE(p);
    pty_env("PATH", NULL);
    pty_env("WAYLAND_DISPLAY", NULL);
}
