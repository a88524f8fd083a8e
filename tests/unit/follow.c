/* Following what grows: files that are added to, cut, written again and rotated in any order, and pipes. */
#include "check.h"
#include "sessions.h"
#include "base/mem.h"
#include "files/follow.h"
#include "session/following.h"
#include "session/plan.h"
#include "session/session_files.h"
#include "session/session_run.h"

#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* Adds to a file by its own descriptor, as a program that keeps its log open. */
static void add(int fd, const char *text)
{
    CHECK(write(fd, text, strlen(text)) == (ssize_t)strlen(text));
}

static int open_log(int flags)
{
    int fd = open(check_path("night.log"), O_WRONLY | O_CREAT | O_APPEND | flags, 0644);
    CHECK(fd >= 0);
    return fd;
}

/* Takes all there is, and as letters what was told beside it: e emptied, r replaced, g gone, a appeared. */
static void drain(Follow *f, Bytes *out, Bytes *told)
{
    static const char letters[] = {[FOLLOW_EMPTIED] = 'e',  [FOLLOW_REPLACED] = 'r', [FOLLOW_GONE] = 'g',
                                   [FOLLOW_APPEARED] = 'a', [FOLLOW_ENDED] = '.',    [FOLLOW_FAILED] = '!'};
    Err e;
    for (int i = 0; i < 10000; i++) {
        FollowNews news = follow_step(f, out, 7 + check_random(100), &e);
        if (news == FOLLOW_NOTHING)
            return;
        if (news != FOLLOW_MORE)
            bytes_add(told, &letters[news], 1);
    }
    CHECK(false);
}

static void got(Follow *f, Bytes *out, const char *want, const char *want_told)
{
    Bytes told = {0};
    bytes_clear(out);
    drain(f, out, &told);
    CHECK_STR(bytes_str(out), want);
    CHECK_STR(bytes_str(&told), want_told);
    bytes_free(&told);
}

TEST(what_is_added_comes_once)
{
    Bytes out = {0};
    check_put("night.log", "one\n");
    DiskState disk = disk_look(check_path("night.log"));
    Follow *f = follow_begin(check_path("night.log"), 4, &disk, true);
    got(f, &out, "", "");
    int fd = open_log(0);
    add(fd, "two\n");
    got(f, &out, "two\n", "");
    got(f, &out, "", "");
    /* Rotated: its writer goes on with the old one for a while. */
    CHECK(check_shell("cd \"$F\" && mv night.log night.log.1"));
    add(fd, "three\n");
    got(f, &out, "three\n", "g");
    int fresh = open_log(0);
    add(fresh, "five\n");
    add(fd, "four\n");
    got(f, &out, "four\nfive\n", "r");
    add(fd, "late\n");
    got(f, &out, "late\n", "");
    close(fd);
    /* Cut to nothing, and written on. */
    CHECK(ftruncate(fresh, 0) == 0);
    add(fresh, "six\n");
    got(f, &out, "six\n", "e");
    /* Written again, longer than what was read. */
    CHECK(ftruncate(fresh, 0) == 0);
    add(fresh, "seven and eight\n");
    got(f, &out, "seven and eight\n", "e");
    close(fresh);
    /* Another one put in its place at once. */
    CHECK(check_shell("cd \"$F\" && echo nine >new && mv new night.log"));
    got(f, &out, "nine\n", "r");
    CHECK(check_shell("rm \"$F\"/night.log"));
    got(f, &out, "", "g");
    CHECK(check_shell("mkdir \"$F\"/night.log"));
    got(f, &out, "", "");
    CHECK(check_shell("cd \"$F\" && rmdir night.log && echo ten >night.log"));
    got(f, &out, "ten\n", "r");
    follow_end(f);
    bytes_free(&out);
}

TEST(one_that_is_not_there_and_one_that_is_kept)
{
    Bytes out = {0};
    DiskState none = {0};
    Follow *f = follow_begin(check_path("night.log"), 0, &none, true);
    got(f, &out, "", "");
    CHECK(!follow_state(f));
    check_put("night.log", "one\n");
    got(f, &out, "one\n", "a");
    CHECK(follow_state(f) != NULL);
    follow_end(f);
    DiskState disk = disk_look(check_path("night.log"));
    f = follow_begin(check_path("night.log"), 4, &disk, false); /* whatever its name */
    CHECK(check_shell("cd \"$F\" && mv night.log old && echo other >night.log && echo two >>old"));
    got(f, &out, "two\n", "");
    follow_end(f);
    /* Replaced between reading and following. */
    CHECK(check_shell("cd \"$F\" && rm night.log && echo whole >night.log"));
    f = follow_begin(check_path("night.log"), 4, &disk, true);
    got(f, &out, "whole\n", "");
    follow_end(f);
    bytes_free(&out);
}

/* Idle, nobody wakes up; what happens wakes. */
TEST(it_is_told)
{
    struct pollfd fd;
    Bytes out = {0};
    check_put("night.log", "one\n");
    DiskState disk = disk_look(check_path("night.log"));
    Follow *f = follow_begin(check_path("night.log"), 4, &disk, true);
    got(f, &out, "", "");
    if (follow_wait(f) >= 0) {
        check_skip("this system does not tell of changes");
        follow_end(f);
        return;
    }
    CHECK(follow_fds(f, &fd) == 1 && poll(&fd, 1, 0) == 0);
    static const char *const events[] = {"echo two >>night.log", "mv night.log old",
                                         "echo three >>old",     "echo four >night.log",
                                         ": >night.log",         "echo five >x && mv x night.log"};
    for (size_t i = 0; i < sizeof events / sizeof *events; i++) {
        char line[200];
        check_case(events[i]);
        snprintf(line, sizeof line, "cd \"$F\" && %s", events[i]);
        CHECK(check_shell(line));
        bool blind = follow_wait(f) >= 0; /* the old one still counts for some seconds */
        follow_fds(f, &fd);
        CHECK(blind || poll(&fd, 1, 5000) == 1);
        Bytes told = {0};
        drain(f, &out, &told);
        bytes_free(&told);
    }
    follow_end(f);
    bytes_free(&out);
}

/* Random orders of writing, cutting and rotating; after each step all that was written was told, once. */
TEST(random_rotation)
{
    for (int round = check_rounds(60); round > 0 && !check_failed(); round--) {
        Bytes out = {0}, want = {0}, told = {0};
        CHECK(check_shell("rm -f \"$F\"/*"));
        DiskState none = {0};
        int fd = check_random(2) ? open_log(0) : -1, old = -1, number = 0;
        Follow *f = follow_begin(check_path("night.log"), 0, &none, true);
        for (int i = 0; i < 40; i++) {
            char text[40], names[80];
            snprintf(text, sizeof text, "%s line %d\n", check_random(2) ? "a" : "somewhat longer", ++number);
            switch (check_random(8)) {
            case 0: /* cut; what was in it must have been read */
                drain(f, &out, &told);
                if (fd >= 0)
                    CHECK(ftruncate(fd, 0) == 0);
                if (fd >= 0 && check_random(2)) {
                    add(fd, text);
                    bytes_add_str(&want, text);
                }
                drain(f, &out, &told);
                break;
            case 1: /* renamed, and nothing new yet */
                if (fd < 0)
                    break;
                drain(f, &out, &told);
                if (old >= 0)
                    close(old);
                snprintf(names, sizeof names, "cd \"$F\" && mv night.log night.log.%d", number);
                CHECK(check_shell(names));
                old = fd;
                fd = -1;
                if (check_random(2))
                    drain(f, &out, &told);
                break;
            case 2: /* to the old one, by one who does not know; in order, that one comes first */
                if (old < 0)
                    break;
                drain(f, &out, &told);
                add(old, text);
                bytes_add_str(&want, text);
                drain(f, &out, &told);
                break;
            default:
                if (fd < 0) {
                    drain(f, &out, &told);
                    fd = open_log(0);
                }
                add(fd, text);
                bytes_add_str(&want, text);
            }
        }
        drain(f, &out, &told);
        CHECK_STR(bytes_str(&out), bytes_str(&want));
        follow_end(f);
        if (fd >= 0)
            close(fd);
        if (old >= 0)
            close(old);
        bytes_free(&out);
        bytes_free(&want);
        bytes_free(&told);
    }
}

/* ---- in a session ---- */

static const FollowWish by_name = {true, 1000};

static void turn(Session *s, const OpenFile *f, const char *want)
{
    char *is = NULL;
    for (int i = 0; i < 3000; i++) {
        tasks_poll(&s->tasks);
        free(is);
        is = text_string(doc_text(f->doc), 0, text_len(doc_text(f->doc)));
        if (strcmp(is, want) == 0)
            break;
        usleep(10000);
    }
    CHECK_STR(is, want);
    free(is);
}

TEST(a_text_grows)
{
    Err e;
    check_put("night.log", "one\n");
    Session *s = sessions_start(NULL);
    OpenFile *f = session_open(s, check_path("night.log"), &e);
    CHECK(f && !following_hindered(f));
    /* What can be undone stays so, and what came is a step of its own. */
    CHECK(doc_replace(f->doc, 0, 0, "zero\n", 5, STEP_WHOLE, 0));
    CHECK(following_hindered(f) != NULL);
    plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
    for (int i = 0; i < 3000 && (openfile_changed(f) || f->writing); i++, usleep(10000)) {
        tasks_poll(&s->tasks);
        plans_step(s);
    }
    CHECK(!following_hindered(f));
    following_begin(s, f, &by_name);
    CHECK(f->look_only && f->following);
    CHECK(check_shell("printf 'two\\nth\\303' >>\"$F\"/night.log"));
    turn(s, f, "zero\none\ntwo\nth"); /* half a letter waits */
    CHECK(check_shell("printf '\\244e\\n' >>\"$F\"/night.log"));
    turn(s, f,
         "zero\none\ntwo\nth\xc3\xa4"
         "e\n");
    CHECK(!openfile_changed(f));
    CHECK(!following_end(f));
    CHECK(!f->look_only && !f->following);
    size_t cursor;
    CHECK(doc_undo(f->doc, &cursor));
    turn(s, f, "zero\none\n");
    CHECK(doc_undo(f->doc, &cursor));
    turn(s, f, "one\n");
    CHECK(doc_redo(f->doc, &cursor) && doc_redo(f->doc, &cursor));
    turn(s, f,
         "zero\none\ntwo\nth\xc3\xa4"
         "e\n");
    session_free(s);
}

TEST(a_rotated_text_is_the_file_again_afterwards)
{
    Err e;
    check_put("night.log", "one\n");
    Session *s = sessions_start(NULL);
    OpenFile *f = session_open(s, check_path("night.log"), &e);
    following_begin(s, f, &by_name);
    CHECK(check_shell("cd \"$F\" && mv night.log old && echo two >night.log"));
    turn(s, f, "one\ntwo\n");
    CHECK(following_end(f));
    plan_reload_now(s, f);
    turn(s, f, "two\n");
    session_free(s);
}

TEST(a_pipe_without_an_end)
{
    int ends[2];
    CHECK(pipe(ends) == 0);
    Session *s = sessions_start(NULL);
    OpenFile *f = session_add(s, (Text){0});
    f->piped = true;
    following_pipe(s, f, ends[0], &by_name);
    char line[101] = "";
    for (int i = 0; i < 100; i++) {
        snprintf(line, sizeof line, "%098d\n", i);
        add(ends[1], line);
    }
    for (int i = 0; i < 3000; i++, usleep(10000)) {
        tasks_poll(&s->tasks);
        Text t = doc_text(f->doc);
        char last[100] = "";
        if (text_len(t) >= 99)
            text_read(t, text_len(t) - 99, last, 99);
        if (strcmp(last, line) == 0)
            break;
    }
    Text t = doc_text(f->doc);
    CHECK(text_len(t) >= 1000 - 99 && text_len(t) <= 1200 && text_len(t) % 99 == 0);
    CHECK(strstr(sessions_notices.text, "Only the last 1.0 kB of what comes are kept") != NULL);
    close(ends[1]);
    for (int i = 0; i < 3000 && f->following; i++, usleep(10000))
        tasks_poll(&s->tasks);
    CHECK(!f->following && !f->look_only);
    session_free(s);
}
