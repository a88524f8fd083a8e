/* Following a log on the screen, and a pipe. */
#include "check.h"
#include "drive.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static Pty *follow_at(int rows, int cols, const char *file)
{
    return pty_start(SQUILL, rows, cols, (const char *const[]){"--follow", file, NULL});
}

static void make_log(int lines)
{
    char line[100];
    snprintf(line, sizeof line, "cd \"$F\" && seq %d | sed 's/^/berth /' >night.log", lines);
    CHECK(check_shell(line));
}

TEST(the_screen_goes_along)
{
    make_log(100);
    Pty *p = pty_edit("night.log", NULL);
    pty_do(p, "<Esc>vf");
    SHOWS(p, "Following night.log; Esc v f ends that");
    SHOWS(p, "night.log  following");
    SHOWS(p, "berth 100");
    CHECK(check_shell("echo quay 101 >>\"$F\"/night.log"));
    SHOWS(p, "quay 101");
    CHECK(check_shell("cd \"$F\" && seq 102 300 | sed 's/^/quay /' >>night.log"));
    SHOWS(p, "quay 300");
    HIDES(p, "quay 250");
    /* It stays where a person goes, and says so; and goes on at the end. */
    pty_do(p, "<PageUp>");
    SHOWS(p, "following, held");
    SHOWS(p, "Ctrl+End Go on at the end");
    CHECK(check_shell("echo quay 301 >>\"$F\"/night.log"));
    SHOWS(p, "of 301");
    HIDES(p, "quay 301");
    pty_do(p, "<Ctrl+End>");
    SHOWS(p, "quay 301");
    HIDES(p, "held");
    /* Nothing can be changed meanwhile; afterwards it can. */
    pty_do(p, "x");
    SHOWS(p, "night.log is being followed, and look-only meanwhile; Esc v f ends that");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "look only and was not saved");
    pty_do(p, "<Esc>vf");
    SHOWS(p, "not followed any more; it can be changed again");
    pty_do(p, "x");
    SHOWS(p, "changed");
    pty_do(p, "<Esc>vf");
    SHOWS(p, "It has changes that are not saved; save them first, then follow it");
    LEAVE(p);
}

TEST(matches_as_they_come)
{
    make_log(50);
    Pty *p = follow_at(24, 100, "night.log");
    SHOWS(p, "berth 50");
    pty_do(p, "<Ctrl+F>rth 5<Enter><Ctrl+End>");
    CHECK(check_shell("cd \"$F\" && seq 51 55 | sed 's/^/berth /' >>night.log"));
    SHOWS(p, "5 new matches");
    SHOWS(p, "berth 55");
    int row = pty_find(p, "berth 55");
    const char *look = pty_look(p, row, (int)(strstr(pty_row(p, row), "rth 5") - pty_row(p, row)));
    CHECK(*look != 0); /* marked */
    pty_do(p, "<Up>");
    HIDES(p, "new match");
    CHECK(check_shell("echo berth 5 >>\"$F\"/night.log"));
    SHOWS(p, "1 new match");
    LEAVE(p);
}

TEST(rotation_and_what_is_not_there_yet)
{
    Pty *p = follow_at(24, 80, "night.log");
    SHOWS(p, "night.log is not there yet; it is followed when it comes");
    SHOWS(p, "waited for");
    CHECK(check_shell("echo first >\"$F\"/night.log"));
    SHOWS(p, "first");
    SHOWS(p, "night.log is there since");
    CHECK(check_shell("cd \"$F\" && mv night.log night.log.1 && echo late >>night.log.1"));
    SHOWS(p, "late");
    SHOWS(p, "is gone since");
    CHECK(check_shell("echo second >\"$F\"/night.log"));
    SHOWS(p, "Another file has been night.log since");
    SHOWS(p, "second");
    CHECK(check_shell("cd \"$F\" && : >night.log && echo third >>night.log"));
    SHOWS(p, "third");
    SHOWS(p, "was emptied at");
    SHOWS(p, "first"); /* what was there stays to be read */
    pty_do(p, "<Esc>vf");
    HIDES(p, "first");
    SHOWS(p, "third");
    LEAVE(p);
}

/* Marks, bookmarks, lists and other names work on what is followed. */
TEST(what_is_done_with_it_meanwhile)
{
    make_log(30);
    Pty *p = follow_at(24, 100, "night.log");
    SHOWS(p, "berth 30");
    pty_do(p, "<Ctrl+F>berth 2<Enter><Esc>sl");
    SHOWS(p, "of 11");
    CHECK(check_shell("echo berth 200 >>\"$F\"/night.log")); /* while the list is there */
    pty_do(p, "<Enter><Esc>gk<Ctrl+End>");
    SHOWS(p, "berth 200");
    pty_do(p, "<Esc>gn");
    SHOWS(p, "Line 2 of 31");
    pty_do(p, "<Ctrl+T><Down><Ctrl+C><Esc>fa<Ctrl+U>copy.log<Enter>");
    SHOWS(p, "Saved copy.log: 31 lines");
    HIDES(p, "following"); /* what grows is the other one */
    CHECK(check_shell("echo late >>\"$F\"/night.log"));
    pty_do(p, "<Ctrl+End>x");
    SHOWS(p, "changed");
    HIDES(p, "late");
    LEAVE(p);
}

/* Two of them in panes, and one for good by the setting. */
TEST(two_at_once)
{
    CHECK(check_shell("cd \"$F\" && echo a1 >a.log && echo b1 >b.log && mkdir -p .config/steady-quill && "
                      "echo 'follow_name = false' >.config/steady-quill/settings.lua"));
    Pty *p = pty_start(SQUILL, 24, 80, (const char *const[]){"--follow", "a.log", "b.log", NULL});
    pty_do(p, "<Esc>vs<Esc>ff<Down><Enter>");
    SHOWS(p, "b1");
    CHECK(check_shell("cd \"$F\" && echo a2 >>a.log && echo b2 >>b.log"));
    SHOWS(p, "a2");
    SHOWS(p, "b2");
    CHECK(check_shell("cd \"$F\" && mv a.log a.old && echo other >a.log && echo a3 >>a.old"));
    SHOWS(p, "a3");
    HIDES(p, "other");
    LEAVE(p);
}

TEST(a_pipe)
{
    CHECK(check_shell("mkfifo \"$F\"/pipe"));
    Pty *p = pty_start("/bin/sh", 12, 30,
                       (const char *const[]){"-c", "{ echo one; cat pipe; } | " SQUILL " --follow -", NULL});
    SHOWS(p, "one");
    CHECK(check_shell("{ echo two; sleep 1; echo three; } >\"$F\"/pipe"));
    SHOWS(p, "three");
    SHOWS(p, "The pipe has ended");
    pty_do(p, "x");
    SHOWS(p, "x");
    LEAVE(p);
}
