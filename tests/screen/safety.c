/* Nothing is lost: after being killed, with others about, as the wrong user. */
#include "check.h"
#include "drive.h"

#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

/* ---- brought back ---- */

static void broken_off(const char *file, const char *keys, int how)
{
    Pty *p = pty_edit(file, NULL);
    pty_do(p, keys);
    CHECK(pty_rest(p)); /* the journal has it */
    kill(pty_pid(p), how);
    pty_end(p);
}

TEST(unsaved_work_is_offered_after_a_kill)
{
    check_put("fares.ini", "adult = 4\nchild = 2\n");
    broken_off("fares.ini", "; new<Enter><Ctrl+End>dog = 1<Enter>", SIGKILL);
    check_holds("fares.ini", "adult = 4\nchild = 2\n");
    Pty *p = pty_edit("fares.ini", NULL);
    SHOWS(p, "There is unsaved work on fares.ini, of ");
    SHOWS(p, "t Take it   v View it   s Set it aside for 7 days   Esc Later");
    pty_do(p, "<wait>v");
    SHOWS(p, "the unsaved work");
    SHOWS(p, "Change 2 of 2");
    pty_do(p, "<Esc>");
    SHOWS(p, "There is unsaved work");
    pty_do(p, "<wait>t");
    SHOWS(p, "The unsaved work is back");
    SHOWS(p, "; new");
    SHOWS(p, "dog = 1");
    /* and broken off once more before it is saved */
    pty_do(p, "x");
    CHECK(pty_rest(p));
    kill(pty_pid(p), SIGKILL);
    pty_end(p);
    p = pty_edit("fares.ini", NULL);
    SHOWS(p, "There is unsaved work");
    pty_do(p, "<wait>t<wait><Ctrl+S>");
    SHOWS(p, "Saved fares.ini");
    LEAVE(p);
    size_t n;
    CHECK(strstr(check_read(check_path("fares.ini"), &n), "dog = 1\n") != NULL);
    p = pty_edit("fares.ini", NULL); /* now there is nothing to offer */
    CHECK(pty_rest(p));
    CHECK(pty_find(p, "unsaved work") < 0);
    LEAVE(p);
}

/* A dead editor whose parent does not ask after it is dead all the same. */
TEST(the_dead_that_nobody_buries)
{
    check_put("fares.ini", "adult = 4\n");
    Pty *dead = pty_edit("fares.ini", NULL);
    pty_do(dead, "child = 2<Enter>");
    CHECK(pty_rest(dead));
    kill(pty_pid(dead), SIGKILL);
    siginfo_t info; /* it has ended, and stays to be asked after */
    CHECK(waitid(P_PID, (id_t)pty_pid(dead), &info, WEXITED | WNOWAIT) == 0);
    Pty *p = pty_edit("fares.ini", NULL);
    SHOWS(p, "There is unsaved work on fares.ini");
    pty_do(p, "<wait>t");
    SHOWS(p, "child = 2");
    LEAVE(p);
    pty_end(dead);
}

TEST(signals_and_lost_terminals_keep_work)
{
    static const int signals[] = {SIGTERM, SIGHUP, SIGSEGV};
    for (size_t i = 0; i < sizeof signals / sizeof *signals; i++) {
        char name[20];
        snprintf(name, sizeof name, "signal-%d", signals[i]);
        check_case(name);
        check_put(name, "a\n");
        Pty *p = pty_edit(name, NULL);
        pty_do(p, "grey heron ");
        if (signals[i] == SIGSEGV)
            CHECK(pty_rest(p));
        kill(pty_pid(p), signals[i]);
        CHECK(pty_ended(p));
        CHECK(pty_restored(p));
        CHECK(pty_end(p) != 0);
        check_holds(name, "a\n");
        p = pty_edit(name, NULL);
        SHOWS(p, "There is unsaved work");
        pty_do(p, "<wait>t");
        SHOWS(p, "grey heron a");
        LEAVE(p);
    }
}

/* The program is asked to end before it could read what was typed. */
TEST(keys_before_the_end_are_taken)
{
    check_put("a.ini", "a\n");
    Pty *p = pty_edit("a.ini", NULL);
    kill(pty_pid(p), SIGSTOP);
    pty_send(p, "curlew ", 7);
    CHECK(pty_arrived(p));
    kill(pty_pid(p), SIGTERM);
    kill(pty_pid(p), SIGCONT);
    CHECK_INT(pty_end(p), 1);
    p = pty_edit("a.ini", NULL);
    SHOWS(p, "There is unsaved work");
    pty_do(p, "<wait>t");
    SHOWS(p, "curlew a");
    LEAVE(p);
}

TEST(dropped_work_can_be_had_again)
{
    check_put("a.ini", "a\n");
    Pty *p = pty_edit("a.ini", NULL);
    pty_do(p, "tern <Ctrl+Q>");
    SHOWS(p, "d Drop them");
    pty_do(p, "<wait>d");
    CHECK_INT(pty_end(p), 0);
    p = pty_edit("a.ini", NULL); /* it was on purpose, so it is not offered */
    CHECK(pty_rest(p));
    CHECK(pty_find(p, "unsaved work") < 0);
    pty_do(p, "curlew<Esc>fz<wait>z<wait><wait><wait><wait><wait><Esc>fv");
    SHOWS(p, "Recover work:");
    SHOWS(p, "1 of 2");
    SHOWS(p, "dropped");
    pty_do(p, "<Down><Enter>");
    SHOWS(p, "tern a");
    LEAVE(p);
    /* an unnamed text */
    p = pty_edit(NULL, NULL);
    pty_do(p, "no name");
    CHECK(pty_rest(p));
    kill(pty_pid(p), SIGKILL);
    pty_end(p);
    const char *args[] = {"--recover", NULL};
    p = pty_start(SQUILL, 24, 100, args);
    SHOWS(p, "(no name yet)");
    SHOWS(p, "broken off");
    pty_do(p, "no name<Enter>");
    SHOWS(p, "The unsaved work is back");
    LEAVE(p);
}

TEST(turned_off_nothing_is_kept)
{
    check_put("a.ini", "a\n");
    broken_off("a.ini", "<Ctrl+P>set keep_recovery false<Enter>secret", SIGKILL);
    const char *plain[] = {"--plain", "a.ini", NULL};
    Pty *p = pty_start(SQUILL, 24, 100, plain);
    SHOWS(p, "Line 1 of 1");
    pty_do(p, "secret");
    CHECK(pty_rest(p));
    kill(pty_pid(p), SIGKILL);
    pty_end(p);
    p = pty_edit("a.ini", NULL);
    CHECK(pty_rest(p));
    CHECK(pty_find(p, "unsaved work") < 0);
    LEAVE(p);
    struct stat st;
    if (stat(check_path(".local/state/steady-quill/recovery.db"), &st) == 0)
        CHECK_INT(st.st_mode & 0777, 0600);
    CHECK(stat(check_path(".local/state/steady-quill"), &st) == 0 && (st.st_mode & 0777) == 0700);
}

/* ---- others ---- */

TEST(two_on_one_file)
{
    check_put("berths.yaml", "a\n");
    Pty *p = pty_edit("berths.yaml", NULL), *q = pty_edit("berths.yaml", NULL);
    SHOWS(q, " has berths.yaml open since ");
    SHOWS(q, "l Look only   e Edit anyway   Esc Close");
    pty_do(q, "<wait>l");
    SHOWS(q, "look only");
    LEAVE(q);
    q = pty_edit("berths.yaml", NULL);
    SHOWS(q, "open since");
    pty_do(q, "<wait>e<wait>mine <Ctrl+S>");
    SHOWS(q, "Saved berths.yaml");
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "berths.yaml changed on disk at");
    pty_do(p, "<wait><Esc>");
    check_holds("berths.yaml", "mine a\n");
    LEAVE(q);
    kill(pty_pid(p), SIGKILL); /* a dead one stops nobody */
    pty_end(p);
    p = pty_edit("berths.yaml", NULL);
    CHECK(pty_rest(p));
    CHECK(pty_find(p, "open since") < 0);
    SHOWS(p, "unsaved work");
    pty_do(p, "<wait>s");
    SHOWS(p, "Set aside");
    LEAVE(p);
}

/* Without a word from the terminal: said in a line, and nobody who types is asked anything. */
TEST(changed_on_disk_is_noticed_by_itself)
{
    check_put("a.ini", "a\n");
    Pty *p = pty_edit("a.ini", NULL);
    CHECK(pty_rest(p));
    check_put("a.ini", "a\nb\n");
    SHOWS(p, "a.ini changed on disk at");
    SHOWS(p, "Esc f z reloads it");
    pty_do(p, "typed on"); /* all of it */
    SHOWS(p, "typed ona");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "o Overwrite");
    pty_do(p, "<wait>o");
    SHOWS(p, "Saved a.ini");
    CHECK(pty_rest(p));
    check_put("n", "another file\n"); /* another one takes its place */
    CHECK(rename(check_path("n"), check_path("a.ini")) == 0);
    SHOWS(p, "a.ini changed on disk at");
    pty_do(p, "<Esc>fz<wait>");
    SHOWS(p, "another file");
    CHECK(pty_rest(p));
    unlink(check_path("a.ini"));
    SHOWS(p, "a.ini is no longer there");
    pty_do(p, "<Ctrl+S><wait>w");
    SHOWS(p, "Saved a.ini");
    LEAVE(p);
}

TEST(changed_on_disk_is_noticed_on_focus)
{
    check_put("a.ini", "a\n");
    Pty *p = pty_edit("a.ini", NULL);
    check_put("a.ini", "a\nb\n");
    pty_send(p, "\033[I", 3);
    SHOWS(p, "a.ini changed on disk at");
    pty_do(p, "<wait>v");
    SHOWS(p, "1 line removed");
    pty_do(p, "<Esc><wait>z");
    SHOWS(p, "a.ini is as it is on disk: 2 lines");
    check_write(check_path("a.ini"), "a\nb\n", 4); /* touched, but the same */
    pty_send(p, "\033[I", 3);
    CHECK(pty_rest(p));
    CHECK(pty_find(p, "changed on disk") < 0);
    unlink(check_path("a.ini"));
    pty_send(p, "\033[I", 3);
    SHOWS(p, "a.ini is no longer there");
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "w Write it again");
    pty_do(p, "<wait>w");
    SHOWS(p, "Saved a.ini");
    check_holds("a.ini", "xa\nb\n");
    pty_do(p, "<Ctrl+P>set auto_reload true<Enter>");
    check_put("a.ini", "by itself\n");
    pty_send(p, "\033[I", 3);
    SHOWS(p, "by itself");
    LEAVE(p);
}

/* ---- folders ---- */

TEST(a_folder_that_is_not_there)
{
    Pty *p = pty_edit("deep/down/a.txt", NULL);
    SHOWS(p, "deep/down yet; saving offers to make it");
    pty_do(p, "berth<Enter><Ctrl+S>");
    SHOWS(p, "There is no folder ");
    pty_do(p, "<wait><Esc>");
    CHECK(access(check_path("deep"), F_OK) != 0);
    pty_do(p, "<wait><wait><wait><Ctrl+S><wait>y");
    SHOWS(p, "Saved a.txt: 1 line");
    check_holds("deep/down/a.txt", "berth\n");
    LEAVE(p);
    /* a home that is not there is not made */
    char home[300];
    snprintf(home, sizeof home, "%s/nobody", check_folder());
    const char *args[] = {"-c", "HOME=$PWD/nobody exec \"$SQUILL\" deep/down/a.txt", NULL};
    pty_env("SQUILL", SQUILL);
    p = pty_start("/bin/sh", 24, 100, args);
    SHOWS(p, "berth");
    pty_do(p, "x<wait><Ctrl+S>");
    SHOWS(p, "Saved a.txt");
    LEAVE(p);
    CHECK(access(home, F_OK) != 0);
}

/* ---- rights ---- */

TEST(saving_as_root)
{
    /* Somebody who may not write the file. */
    const char *folder = check_folder();
    char command[1200];
    check_put("root.conf", "berth = 3\n");
    if (!pty_make_sudo()) {
        check_skip("only root can make a stand-in for sudo");
        return;
    }
    CHECK(chown(check_path("root.conf"), 0, 0) == 0 && chmod(check_path("root.conf"), 0644) == 0);
    pty_env("LOGNAME", "kai");
    const char *args[] = {"-c", pty_as_nobody("root.conf"), NULL};
    Pty *p = pty_start("/bin/sh", 24, 100, args);
    SHOWS(p, "No permission to write");
    SHOWS(p, "saving will ask sudo");
    pty_do(p, "# <Ctrl+S>");
    SHOWS(p, "No permission to write root.conf; sudo can.");
    pty_do(p, "<wait>");
    pty_send(p, "r", 1);
    SHOWS(p, "Steady Quill: only root may write ");
    SHOWS(p, "password 0:");
    pty_others(p, "wrong\r");
    SHOWS(p, "It was not saved: becoming root was refused or cancelled");
    SHOWS(p, "# berth = 3");
    check_holds("root.conf", "berth = 3\n");
    /* An upgrade puts another file in the program's place. */
    snprintf(command, sizeof command, "cd '%s' && cp squill newer && mv newer squill", folder);
    CHECK(system(command) == 0);
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "sudo can.");
    pty_do(p, "<wait>");
    pty_send(p, "r", 1);
    SHOWS(p, "password 1:");
    pty_others(p, "harbour\r");
    SHOWS(p, "Saved root.conf: 1 line, 12 bytes");
    check_holds("root.conf", "# berth = 3\n");
    struct stat st;
    CHECK(stat(check_path("root.conf"), &st) == 0 && st.st_uid == 0 && (st.st_mode & 07777) == 0644);
    pty_do(p, "<Esc>fh"); /* kept with the person and, by the helper, with root */
    SHOWS(p, "kai, 10 bytes, 1 line differs");
    snprintf(command, sizeof command, "grep -lrx 'berth = 3' '%s/harbour/.local/state/steady-quill/earlier'",
             folder);
    CHECK(system(command) == 0);
    pty_do(p, "<Esc>");
    LEAVE(p);
    /* a new file where only root may make one, and one that only root may read */
    snprintf(
        command, sizeof command,
        "cd '%s' && mkdir closed && echo secret >closed/key && chmod 600 closed/key && chown -R 0:0 closed",
        folder);
    CHECK(system(command) == 0);
    pty_as_nobody("closed/key closed/new.conf");
    p = pty_start("/bin/sh", 24, 120, args);
    SHOWS(p, "new.conf; editing is fine, saving will ask sudo");
    pty_do(p, "berth = 4<Enter><Ctrl+S>");
    SHOWS(p, "No permission to write new.conf; sudo can.");
    pty_do(p, "<wait>");
    pty_send(p, "r", 1);
    SHOWS(p, "password 2:");
    pty_others(p, "harbour\r");
    SHOWS(p, "Saved new.conf: 1 line, 10 bytes");
    check_holds("closed/new.conf", "berth = 4\n");
    pty_do(p, "<wait><wait><wait><wait><wait><Ctrl+S>"); /* nothing to save asks nothing */
    SHOWS(p, "new.conf has no changes");
    LEAVE(p);
}

TEST(the_helper_writes_only_what_came_whole)
{
    static const struct {
        const char *name, *input, *answer;
    } cases[] = {
        {"nothing", "", "only for Steady Quill itself"},
        {"no head", "hello\n", "only for Steady Quill itself"},
        {"too short", "steady-quill 4 20 0 0 1 1 0 0 0 0 0 0 0 0 0\nhalf", "did not arrive whole"},
        {"without end", "steady-quill 4 99999999999999999 0 0 1 1 0 0 0 0 0 0 0 0 0\nx",
         "only for Steady Quill itself"},
        {"exchanged", "steady-quill 4 4 1 0 1 1 5 5 0 0 0 0 0 0 0\nfull", "the file was replaced meanwhile"},
        {"not there before", "steady-quill 4 4 0 0 1 1 0 0 0 0 0 0 0 1 0\nfull",
         "the file was replaced meanwhile"},
    };
    check_put("a.conf", "old\n");
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char command[1000];
        size_t n;
        check_case(cases[i].name);
        check_put("input", cases[i].input);
        snprintf(command, sizeof command,
                 "cd '%s' && '" SQUILL "' --save-from-pipe \"$PWD/a.conf\" <input >answer", check_folder());
        CHECK(system(command) != 0);
        CHECK(strstr(check_read(check_path("answer"), &n), cases[i].answer) != NULL);
        check_holds("a.conf", "old\n");
    }
}

/* ---- what cannot be put together, and what was broken off ---- */

/* A file that is too large for its text to be stored is its own base; somebody changed it since. */
TEST(work_whose_base_is_gone)
{
    enum { SIZE = 17 * 1000 * 1000 };
    char *big = malloc(SIZE);
    memset(big, 'a', SIZE);
    for (size_t i = 99; i < SIZE; i += 100)
        big[i] = '\n';
    check_write(check_path("tide.log"), big, SIZE);
    broken_off("tide.log", "grey heron ", SIGKILL);
    check_write(check_path("tide.log"), big, SIZE - 100);
    free(big);
    Pty *p = pty_edit("tide.log", NULL);
    SHOWS(p, "There is unsaved work on tide.log");
    pty_do(p, "<wait>t");
    SHOWS(p, "It cannot be put together: ");
    SHOWS(p, "v View what was typed");
    pty_do(p, "<wait>v");
    SHOWS(p, "---- at byte 1, instead of 0 bytes:");
    SHOWS(p, "grey heron");
    LEAVE(p);
    p = pty_edit("tide.log", NULL); /* it is still there, and asked once more */
    SHOWS(p, "There is unsaved work on tide.log");
    pty_do(p, "<wait>s");
    SHOWS(p, "Set aside");
    LEAVE(p);
}

TEST(a_save_that_was_broken_off)
{
    struct stat st;
    char copy[120];
    check_put("berths.yaml", "half of the n");
    CHECK(stat(check_path("berths.yaml"), &st) == 0);
    snprintf(copy, sizeof copy, ".berths.yaml.%lx-%lx.7fffffff.0-safe-copy.bak", (unsigned long)st.st_dev,
             (unsigned long)st.st_ino);
    check_put(copy, "the whole new version\n");
    Pty *p = pty_edit("berths.yaml", NULL);
    SHOWS(p, "A save of berths.yaml was broken off; it may be half written.");
    SHOWS(p, "t Take the whole version   v View it   r Remove it   Esc Later");
    pty_do(p, "<wait>v");
    SHOWS(p, "the whole version");
    pty_do(p, "t");
    SHOWS(p, "The whole version is here; saving makes it the file");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Saved berths.yaml");
    check_holds("berths.yaml", "the whole new version\n");
    CHECK(access(check_path(copy), F_OK) != 0);
    LEAVE(p);
}

/* Typed after the save began, and closed: it is asked about, and nothing is gone. */
TEST(closing_while_a_save_goes_on)
{
    enum { SIZE = 40 * 1000 * 1000 };
    size_t n;
    char *big = malloc(SIZE);
    memset(big, 'a', SIZE);
    for (size_t i = 99; i < SIZE; i += 100)
        big[i] = '\n';
    check_write(check_path("tide.log"), big, SIZE);
    free(big);
    Pty *p = pty_edit("tide.log", NULL);
    SHOWS(p, "Line 1 of 400000");
    pty_do(p, "first <Ctrl+S>second <Esc>fcthird ");
    for (int i = 0; i < 2; i++) { /* the letters after the route may come before or after the question */
        SHOWS(p, "tide.log has changes that are not saved");
        pty_do(p, "<wait><Esc>");
        HIDES(p, "has changes that");
        pty_do(p, "<wait><wait><wait><Esc>fc"); /* not a second Esc */
    }
    SHOWS(p, "has changes that are not saved");
    pty_do(p, "<wait>s");
    SHOWS(p, "Closed tide.log");
    const char *is = check_read(check_path("tide.log"), &n);
    CHECK(n >= SIZE + 13 && memcmp(is, "first second ", 13) == 0);
    LEAVE(p);
}

/* ---- backups ---- */

/* Where nothing may be renamed over the file, or must not be, the file itself is written. */
TEST(written_in_place)
{
    static const struct {
        const char *name, *before, *command, *says;
    } ways[] = {
        {"mounted", "unshare -rm true",
         "exec unshare -rm sh -c 'mount --bind other.txt x.txt; exec \"$SQUILL\" x.txt'",
         "in place, as it is mounted there"},
        {"other names", "ln other.txt second.txt", "ln -f other.txt x.txt; exec \"$SQUILL\" x.txt",
         "in place, as it has other names"},
        {"a setting", "rm -f second.txt; ln -sf other.txt x.txt", "exec \"$SQUILL\" x.txt",
         "in place, as the settings say"},
    };
    char command[400];
    pty_env("SQUILL", SQUILL);
    mkdir(check_path(".config"), 0700);
    mkdir(check_path(".config/steady-quill"), 0700);
    snprintf(command, sizeof command, "save_in_place = \"/nowhere, %s/*.txt\"\n", check_folder());
    check_put(".config/steady-quill/settings.lua", command);
    for (size_t i = 0; i < sizeof ways / sizeof *ways; i++) {
        struct stat before, after;
        const char *args[] = {"-c", ways[i].command, NULL};
        check_case(ways[i].name);
        check_put("other.txt", "berth\n");
        unlink(check_path("x.txt"));
        check_put("x.txt", "hidden\n");
        snprintf(command, sizeof command, "cd '%s' && %s 2>/dev/null", check_folder(), ways[i].before);
        if (system(command) != 0) /* a machine that lets nobody mount */
            continue;
        stat(check_path("other.txt"), &before);
        Pty *p = pty_start("/bin/sh", 24, 100, args);
        SHOWS(p, "berth");
        pty_do(p, "<End> 4<Ctrl+S>");
        SHOWS(p, ways[i].says);
        pty_do(p, "<Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
        check_holds("other.txt", "berth 4\n");
        stat(check_path("other.txt"), &after);
        CHECK(before.st_ino == after.st_ino);
    }
}

TEST(backups_on_request)
{
    check_put("a.ini", "0");
    Pty *p = pty_edit("a.ini", NULL);
    pty_do(p, "<Ctrl+P>set backup one<Enter>1<Ctrl+S>");
    SHOWS(p, "Saved a.ini: 1 line, 2 bytes");
    check_holds("a.ini.old", "0");
    pty_do(p, "<Ctrl+P>set backup numbered<Enter><Ctrl+P>set backup_keep 2<Enter>");
    for (int i = 0; i < 4; i++) {
        char said[60];
        snprintf(said, sizeof said, "1 line, %d bytes", 3 + i);
        pty_do(p, "x<Ctrl+S>");
        SHOWS(p, said);
    }
    check_holds("a.ini.old-4", "1xxx0");
    check_holds("a.ini.old-3", "1xx0");
    CHECK(access(check_path("a.ini.old-2"), F_OK) != 0);
    check_holds("a.ini", "1xxxx0");
    LEAVE(p);
}

/* ---- large files are written while typing goes on ---- */

TEST(saving_beside_typing)
{
    enum { SIZE = 30 * 1000 * 1000 };
    size_t n;
    char *big = malloc(SIZE + 16);
    memset(big, 'a', SIZE);
    for (size_t i = 99; i < SIZE; i += 100)
        big[i] = '\n';
    check_write(check_path("tide.log"), big, SIZE);
    Pty *p = pty_edit("tide.log", NULL);
    SHOWS(p, "Line 1 of 300000");
    pty_do(p, "first <Ctrl+S>second ");
    SHOWS(p, "Saved tide.log: 300000 lines, 30.0 MB");
    SHOWS(p, "changed");
    char *disk = check_read(check_path("tide.log"), &n);
    CHECK_INT(n, SIZE + 6);
    CHECK(memcmp(disk, "first aaaa", 10) == 0);
    pty_do(p, "<Ctrl+Z>"); /* back to what is on disk */
    HIDES(p, "changed");
    pty_do(p, "third <Ctrl+S>fourth <Ctrl+S><Ctrl+Q>"); /* the second one follows, and leaving that */
    CHECK_INT(pty_end(p), 0);
    disk = check_read(check_path("tide.log"), &n);
    CHECK_INT(n, SIZE + 6 + 6 + 7);
    CHECK(memcmp(disk, "first third fourth aaaa", 23) == 0);
    /* under another name, and where that cannot be */
    p = pty_edit("tide.log", NULL);
    pty_do(p,
           "<Esc>fa<Backspace><Backspace><Backspace><Backspace><Backspace><Backspace><Backspace><Backspace>");
    pty_do(p, "copy.log<Enter>x ");
    SHOWS(p, "Saved copy.log: 300000 lines");
    SHOWS(p, "copy.log  changed");
    pty_do(p, "<Ctrl+Z><Esc>fa<Backspace><Backspace><Backspace><Backspace><Backspace><Backspace><Backspace><"
              "Backspace>");
    pty_do(p, "no/such/folder.log<Enter>");
    SHOWS(p, "There is no folder ");
    pty_do(p, "<wait><Esc>");
    SHOWS(p, "/copy.log");
    LEAVE(p);
    check_read(check_path("copy.log"), &n);
    CHECK_INT(n, SIZE + 19);
    /* killed in the middle: old or new, and the work comes back */
    p = pty_edit("tide.log", NULL);
    pty_do(p, "fifth ");
    CHECK(pty_rest(p));
    pty_do(p, "<Ctrl+S>");
    kill(pty_pid(p), SIGKILL);
    pty_end(p);
    check_read(check_path("tide.log"), &n);
    CHECK(n == SIZE + 19 || n == SIZE + 25);
    free(big);
}

/* ---- earlier saves ---- */

static void keep_dir(void)
{
    mkdir(check_path("site"), 0755);
}

/* What a save replaces can be looked at, and taken back whole or change by change. */
TEST(earlier_saves_come_back)
{
    keep_dir();
    check_put("site/work.ini", "a\nb\nc\nd\ne\nf\ng\n");
    Pty *p = pty_edit("site/work.ini", NULL);
    pty_do(p, "<Esc>fh");
    SHOWS(p, "Nothing was saved here yet");
    pty_do(p, "<Esc>X<Ctrl+S>");
    SHOWS(p, "Saved work.ini");
    pty_do(p, "<Ctrl+End>Y<Ctrl+S>");
    SHOWS(p, "Saved work.ini");
    pty_do(p, "<Esc>fh");
    SHOWS(p, "14 bytes, 2 lines differ");
    SHOWS(p, "15 bytes, 1 line differs");
    pty_do(p, "<Down><Enter>");
    SHOWS(p, "until ");
    SHOWS(p, "r Restore all of it");
    pty_do(p, "r");
    SHOWS(p, "The text is as it was then");
    pty_do(p, "<Ctrl+S>");
    check_holds("site/work.ini", "a\nb\nc\nd\ne\nf\ng\n");
    pty_do(p, "<Esc>fh");
    SHOWS(p, "17 bytes, 2 lines differ");
    pty_do(p, "<Enter>t"); /* the first change alone */
    pty_do(p, "<Esc><wait><wait><wait><Ctrl+S>");
    SHOWS(p, "Saved work.ini");
    check_holds("site/work.ini", "Xa\nb\nc\nd\ne\nf\ng\n");
    LEAVE(p);
    p = pty_edit("site/work.ini", NULL); /* another day */
    pty_do(p, "<Esc>fh");
    SHOWS(p, "1 of 4");
    LEAVE(p);
}

/* They go with the file when it gets another name. */
TEST(earlier_saves_follow_a_new_name)
{
    keep_dir();
    check_put("site/work.ini", "a\n");
    Pty *p = pty_edit("site/work.ini", NULL);
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "Saved work.ini");
    pty_do(p, "<Ctrl+P>rename site/tides.ini<wait><Enter>");
    SHOWS(p, "is now called tides.ini");
    pty_do(p, "<Esc>fh");
    SHOWS(p, "2 bytes, 1 line differs");
    LEAVE(p);
}

/* What somebody else wrote there counts too; what others may not read is left out, and so is what is switched
 * off. */
TEST(earlier_saves_are_not_everything)
{
    keep_dir();
    check_put("site/work.ini", "mine\n");
    pty_env("LOGNAME", "kai");
    Pty *p = pty_edit("site/work.ini", NULL);
    check_put("site/work.ini", "theirs\n");
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "o Overwrite");
    pty_do(p, "<wait>o");
    SHOWS(p, "Saved work.ini");
    pty_do(p, "<Esc>fh");
    SHOWS(p, "kai, 7 bytes");
    SHOWS(p, "kai, 5 bytes");
    pty_do(p, "<Enter>");
    SHOWS(p, "theirs");
    pty_do(p, "<wait><Esc><wait><wait><wait><Esc>fh<Down><Enter>");
    SHOWS(p, "1 - mine");
    LEAVE(p);
    check_put("site/secret.ini", "s\n");
    chmod(check_path("site/secret.ini"), 0600);
    p = pty_edit("site/secret.ini", NULL);
    pty_do(p, "x<Ctrl+S><Esc>fh");
    SHOWS(p, "Nothing was saved here yet");
    LEAVE(p);
    mkdir(check_path(".config"), 0755);
    mkdir(check_path(".config/steady-quill"), 0755);
    check_put(".config/steady-quill/settings.lua", "keep_earlier = false\n");
    check_put("site/other.ini", "o\n");
    p = pty_edit("site/other.ini", NULL);
    pty_do(p, "x<Ctrl+S><Esc>fh");
    SHOWS(p, "Nothing was saved here yet");
    LEAVE(p);
}

/* A text whose file is gone from the disk is all there is of it: leaving asks, and what is dropped on purpose
 * can be had again. What changed there shows in the top line until it is dealt with. */
TEST(a_file_that_is_gone)
{
    check_put("pier.txt", "berth 3\n");
    Pty *p = pty_edit("pier.txt", NULL);
    unlink(check_path("pier.txt"));
    pty_do(p, "<Ctrl+Q>");
    SHOWS(p, "pier.txt is no longer on disk: it was removed or renamed.");
    pty_do(p, "<wait><Esc>");
    SHOWS(p, "no longer on disk");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "w Write it again");
    pty_do(p, "<wait>w");
    SHOWS(p, "Saved pier.txt");
    HIDES(p, "no longer on disk");
    check_holds("pier.txt", "berth 3\n");
    unlink(check_path("pier.txt"));
    pty_do(p, "<wait><Ctrl+Q><wait>d");
    CHECK_INT(pty_end(p), 0);
    CHECK(access(check_path("pier.txt"), F_OK) != 0);
    p = pty_start(SQUILL, 24, 100, (const char *[]){"--recover", NULL});
    SHOWS(p, "pier.txt");
    pty_do(p, "<Enter>");
    SHOWS(p, "berth 3");
    LEAVE(p);
    check_put("tide.txt", "low\n");
    p = pty_edit("tide.txt", NULL);
    pty_do(p, "<wait>");
    check_put("tide.txt", "high and higher\n");
    SHOWS(p, "tide.txt  changed on disk");
    pty_do(p, "<wait><wait><wait><Down>");
    SHOWS(p, "tide.txt  changed on disk");
    pty_do(p, "<Esc>fz");
    SHOWS(p, "high and higher");
    HIDES(p, "changed on disk");
    LEAVE(p);
}

/* As long as unsaved work cannot be kept, that shows, not only when it begins. */
TEST(a_journal_that_cannot_be_written)
{
    mkdir(check_path(".local"), 0755);
    check_put(".local/state", "no folder\n");
    check_put("pier.txt", "berth\n");
    Pty *p = pty_edit("pier.txt", NULL);
    pty_do(p, "x");
    SHOWS(p, "Unsaved work cannot be kept");
    pty_do(p, "<wait><wait><wait><wait><wait><wait>y<wait><wait>");
    SHOWS(p, "changed, not kept");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Saved pier.txt");
    HIDES(p, "not kept");
    LEAVE(p);
}
