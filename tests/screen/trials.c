/* Saving on trial, on the screen. */
#include "check.h"
#include "drive.h"

#include <signal.h>
#include <stdio.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static const char old_text[] = "Port 22\n";

static Pty *changed(int rows, int cols)
{
    check_put("sshd", old_text);
    check_put("effects", "");
    Pty *p = pty_edit_at(rows, cols, "sshd", NULL);
    pty_do(p, "<End>22");
    return p;
}

TEST(it_is_kept)
{
    Pty *p = changed(24, 100);
    pty_do(p, "<Esc>fw");
    SHOWS(p, "It takes effect by:");
    pty_do(p, "<Ctrl+U>echo tried<Enter>");
    SHOWS(p, "Save sshd, run “echo tried”, and take both back in 60 s unless you keep it?");
    check_holds("sshd", old_text);
    pty_do(p, "<wait>s");
    SHOWS(p, "What it said");
    SHOWS(p, "tried");
    SHOWS(p, "on trial 0:5");
    check_holds("sshd", "Port 2222\n");
    pty_do(p, "<Esc>");
    /* Working goes on, but the file cannot be saved again before it is decided. */
    pty_do(p, "<End>2<Ctrl+S>");
    SHOWS(p, "sshd is on trial: keep it or have it taken back first");
    SHOWS(p, "Esc f w Keep or take back");
    pty_do(p, "<Backspace><Esc>fw");
    SHOWS(p, "k Keep it");
    pty_do(p, "<wait>k");
    SHOWS(p, "sshd is kept");
    HIDES(p, "on trial");
    check_holds("sshd", "Port 2222\n");
    pty_do(p, "3<Esc>fw"); /* the command of this file is known the next time */
    SHOWS(p, "It takes effect by: echo tried");
    pty_do(p, "<Esc>");
    LEAVE(p);
}

TEST(it_is_taken_back)
{
    Pty *p = changed(12, 30);
    pty_do(p, "<Ctrl+P>save-on-trial 5 true<Enter>");
    SHOWS(p, "s Save on trial");
    pty_do(p, "<wait>s");
    SHOWS(p, "on trial 0:0");
    check_holds("sshd", "Port 2222\n");
    SHOWS(p, "was taken back at"); /* nobody kept it */
    SHOWS(p, "Port 2222");
    SHOWS(p, "changed");
    check_holds("sshd", old_text);
    pty_leave(p);
    p = changed(24, 100);
    pty_do(p, "<Ctrl+P>save-on-trial 60 false<Enter>");
    SHOWS(p, "run “false”");
    pty_do(p, "<wait>s");
    SHOWS(p, "“false” failed. sshd is taken back in");
    pty_do(p, "<wait>t");
    SHOWS(p, "sshd was taken back at");
    check_holds("sshd", old_text);
    pty_do(p, "<Ctrl+S>"); /* saving as always is still possible */
    SHOWS(p, "Saved sshd");
    check_holds("sshd", "Port 2222\n");
    LEAVE(p);
}

TEST(leaving_and_dying)
{
    Pty *p = changed(24, 100);
    pty_do(p, "<Ctrl+P>save-on-trial 60 true<Enter>");
    SHOWS(p, "run “true”");
    pty_do(p, "<wait>s");
    SHOWS(p, "Done: true");
    pty_do(p, "<Ctrl+Q>");
    SHOWS(p, "sshd is on trial, and taken back in");
    pty_do(p, "<wait>k");
    CHECK_INT(pty_end(p), 0);
    check_holds("sshd", "Port 2222\n");
    p = changed(24, 100);
    pty_do(p, "<Ctrl+P>save-on-trial 5 true<Enter>");
    SHOWS(p, "run “true”");
    pty_do(p, "<wait>s");
    SHOWS(p, "Done: true");
    kill(pty_pid(p), SIGKILL); /* the terminal and the connection go with it */
    pty_end(p);
    check_holds("sshd", "Port 2222\n");
    for (int i = 0;
         i < 1000 && !check_shell("grep -qx 'Port 22' \"$F\"/sshd && ls "
                                  "\"$F\"/.local/state/steady-quill/trials/*/result >/dev/null 2>&1");
         i++)
        usleep(10000);
    check_holds("sshd", old_text);
    p = pty_edit_at(24, 120, "effects", NULL);
    SHOWS(p, "sshd was taken back at");
    SHOWS(p, "The version on trial is among its earlier saves");
    LEAVE(p);
    p = pty_edit_at(24, 100, "sshd", NULL);
    pty_do(p, "<Esc><wait><Esc>fh");
    SHOWS(p, "1 of 1");
    pty_do(p, "<Esc>");
    pty_leave(p);
}

/* A service of its own that refuses what was saved: it is back with the old version. */
TEST(a_real_service)
{
    if (access("/usr/sbin/sshd", X_OK) != 0 || !check_shell("command -v ssh-keygen ssh-keyscan >/dev/null")) {
        check_skip("no sshd is installed");
        return;
    }
    char config[600], serve[900];
    unsigned port = 20000 + (unsigned)getpid() % 20000;
    CHECK(check_shell("test \"$(id -u)\" != 0 || mkdir -p /run/sshd"));
    CHECK(check_shell("cd \"$F\" && ssh-keygen -q -t ed25519 -N '' -f hostkey"));
    snprintf(config, sizeof config, "Port %u\nListenAddress 127.0.0.1\nHostKey %s\nPidFile %s\nUsePAM no\n",
             port, check_path("hostkey"), check_path("pid"));
    check_put("sshd_config", config);
    snprintf(
        serve, sizeof serve,
        "#!/bin/sh\ncd '%s'\n[ -e pid ] && kill $(cat pid) && sleep .3\nrm -f pid\nexec /usr/sbin/sshd -f "
        "'%s'\n",
        check_folder(), check_path("sshd_config"));
    check_put("serve", serve);
    CHECK(check_shell("chmod 755 \"$F\"/serve && \"$F\"/serve"));
    char scan[200];
    snprintf(scan, sizeof scan, "ssh-keyscan -T 2 -p %u 127.0.0.1 2>/dev/null | grep -q ed25519", port);
    for (int i = 0; i < 100 && !check_shell(scan); i++)
        usleep(50000);
    CHECK(check_shell(scan));
    char line[400];
    Pty *p = pty_edit_at(24, 100, "sshd_config", NULL);
    snprintf(line, sizeof line, "Nonsense yes<Enter><Ctrl+P>save-on-trial 6 %s<Enter>", check_path("serve"));
    pty_do(p, line);
    SHOWS(p, "take both back in 6 s");
    pty_do(p, "<wait>s<wait>");
    if (pty_find(p, "Save anyway") >= 0) /* sshd was asked about it before */
        pty_do(p, "<wait>s");
    SHOWS(p, "failed. sshd_config is taken back in");
    CHECK(!check_shell(scan)); /* locked out, */
    pty_do(p, "<Esc>");
    SHOWS(p, "sshd_config was taken back at");
    for (int i = 0; i < 100 && !check_shell(scan); i++)
        usleep(50000);
    CHECK(check_shell(scan)); /* and in again */
    check_holds("sshd_config", config);
    check_shell("kill $(cat \"$F\"/pid)");
    pty_leave(p);
}

TEST(what_cannot_be_tried)
{
    check_put("sshd", old_text);
    Pty *p = pty_edit("sshd", NULL);
    pty_do(p, "<Esc>fw");
    SHOWS(p, "It has no changes; there is nothing to try");
    pty_do(p, "x<Ctrl+P>save-on-trial 0 true<Enter>");
    SHOWS(p, "A trial takes from 1 to 3600 seconds");
    pty_do(p, "<Esc>fn<Esc>fw");
    SHOWS(p, "This text has no name yet");
    pty_leave(p);
}

TEST(several_files)
{
    check_put("other", "Berth 3\n");
    check_put("sshd", old_text);
    Pty *p = pty_edit_at(24, 100, "sshd", "other");
    pty_do(p, "<End>22<Ctrl+P>next-file<Enter><End>7<Ctrl+P>save-on-trial 60 true<Enter>");
    SHOWS(p, "e Every changed file (2)");
    pty_do(p, "<wait>e");
    SHOWS(p, "Done: true");
    check_holds("sshd", "Port 2222\n");
    check_holds("other", "Berth 37\n");
    pty_do(p, "<Esc>fw");
    SHOWS(p, "2 files are taken back in");
    pty_do(p, "<wait>t");
    SHOWS(p, "2 files were taken back at");
    check_holds("sshd", old_text);
    check_holds("other", "Berth 3\n");
    pty_leave(p);
}

/* On a terminal somebody is asked; without one nobody can say that it works. */
TEST(without_a_screen)
{
    const char *args[] = {"--do", "replace-all 22 2222; save-on-trial 20 'cat sshd; false'", "sshd", NULL};
    static const struct {
        const char *answer, *says;
        bool kept;
    } cases[] = {{"y\r", "sshd is kept", true}, {"n\r", "sshd: failed: sshd was taken back at", false}};
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_put("sshd", old_text);
        Pty *p = pty_start(SQUILL, 24, 100, args);
        SHOWS(p, "cat sshd; false ended with status 1:");
        SHOWS(p, "Type y and Enter to keep it; it is taken back in 20 s:");
        check_holds("sshd", "Port 2222\n");
        pty_others(p, cases[i].answer);
        SHOWS(p, cases[i].says);
        CHECK_INT(pty_end(p), cases[i].kept ? 0 : 1);
        check_holds("sshd", cases[i].kept ? "Port 2222\n" : old_text);
    }
    check_put("sshd", old_text);
    CHECK(check_shell_said("S=" SQUILL "; command -v setsid >/dev/null && setsid -w $S --do 'replace-all 22 "
                           "2222; save-on-trial 20 true' sshd </dev/null") != 0);
    CHECK(check_said("was taken back at"));
    check_holds("sshd", old_text);
}

static Pty *root_trial(const char *command)
{
    char line[300];
    const char *args[] = {"-c", pty_as_nobody("sshd"), NULL};
    Pty *p = pty_start("/bin/sh", 24, 100, args);
    SHOWS(p, "No permission to write");
    pty_do(p, "<End>22");
    snprintf(line, sizeof line, "<Ctrl+P>save-on-trial %s<Enter>", command);
    pty_do(p, line);
    SHOWS(p, "s Save on trial");
    pty_do(p, "<wait>s");
    SHOWS(p, "r Save as root");
    pty_do(p, "<wait>");
    pty_send(p, "r", 1);
    return p;
}

/* Through the same way as saving, asked once; guard and command are root's. */
TEST(as_root)
{
    char line[400];
    if (!pty_make_sudo()) {
        check_skip("only root can make a stand-in for sudo");
        return;
    }
    check_put("sshd", old_text);
    check_put("effect", "");
    CHECK(check_shell("chown 0:0 \"$F\"/sshd \"$F\"/effect; chmod 644 \"$F\"/sshd \"$F\"/effect"));
    snprintf(line, sizeof line, "60 id -u >>%s; echo \"[$LOGNAME]\"", check_path("effect"));
    pty_env("LOGNAME", "kai");
    Pty *p = root_trial(line);
    SHOWS(p, "password 0:");
    pty_others(p, "wrong\r");
    SHOWS(p, "It was not saved: becoming root was refused or cancelled");
    check_holds("sshd", old_text);
    pty_leave(p);
    check_shell("rm -rf \"$F\"/.local/state");
    p = root_trial(line);
    SHOWS(p, "password 1:");
    pty_others(p, "harbour\r");
    SHOWS(p, "on trial 0:5");
    SHOWS(p, "[]"); /* nothing of the person's environment */
    check_holds("effect", "0\n");
    check_holds("sshd", "Port 2222\n");
    pty_do(p, "<Esc><Esc>fw");
    SHOWS(p, "k Keep it");
    pty_do(p, "<wait>t");
    SHOWS(p, "sshd was taken back at");
    check_holds("sshd", old_text);
    check_holds("effect", "0\n0\n");
    CHECK(check_shell("test -z \"$(ls \"$F\"/harbour/.local/state/steady-quill/trials)\""));
    pty_leave(p);
    check_shell("rm -rf \"$F\"/.local/state");
    p = root_trial("3 true");
    SHOWS(p, "password 2:");
    pty_others(p, "harbour\r");
    SHOWS(p, "on trial 0:0");
    check_shell("kill -9 $(pgrep -f \"$F\"/squill.*sshd)");
    pty_end(p);
    for (int i = 0; i < 1000 && check_shell("pgrep -f 'guard-trial '\"$F\" >/dev/null"); i++)
        usleep(10000);
    check_holds("sshd", old_text);
    struct stat st;
    CHECK(stat(check_path("sshd"), &st) == 0 && st.st_uid == 0 && (st.st_mode & 07777) == 0644);
    const char *args[] = {"-c", pty_as_nobody("effect"), NULL};
    p = pty_start("/bin/sh", 24, 120, args);
    SHOWS(p, "sshd was taken back at");
    SHOWS(p, "The version on trial is among its earlier saves");
    pty_leave(p);
}

/* Starts a trial, kills the editor at a random moment, and waits for the guard's end. */
static void kill_at_a_moment(bool root, int passwords, bool keep)
{
    char line[400];
    Pty *p;
    check_put("sshd", old_text);
    check_put("effect", old_text);
    check_shell("rm -rf \"$F\"/.local/state");
    snprintf(line, sizeof line, "2 cp %s %s", check_path("sshd"), check_path("effect"));
    if (root) {
        check_shell("chown 0:0 \"$F\"/sshd \"$F\"/effect; chmod 644 \"$F\"/sshd \"$F\"/effect");
        p = root_trial(line);
        snprintf(line, sizeof line, "password %d:", passwords);
        SHOWS(p, line);
        pty_feed(p, "harbour\r", 8);
    } else {
        char all[500];
        snprintf(all, sizeof all, "<End>22<Ctrl+P>save-on-trial %s<Enter>", line);
        p = pty_edit_at(24, 100, "sshd", NULL);
        pty_do(p, all);
        SHOWS(p, "s Save on trial");
        pty_do(p, "<wait>");
        pty_feed(p, "s", 1);
    }
    usleep(1000 * check_random(keep ? 400 : 2600));
    if (keep)
        pty_feed(p, "\033fwk", 4);
    if (keep)
        usleep(1000 * check_random(600));
    kill(pty_pid(p), SIGKILL);
    pty_end(p);
    for (int k = 0; k < 1000 && check_shell("pgrep -f '[g]uard-trial '\"$F\" >/dev/null || pgrep -f "
                                            "'[t]rial-from-pipe '\"$F\" >/dev/null");
         k++)
        usleep(10000);
}

/* Afterwards there is the old version or, where it was kept, the new one, and what is in effect is what is in
 * the file. */
TEST(killed_at_any_moment)
{
    bool sudo = pty_make_sudo();
    int passwords = 0;
    for (int i = check_rounds(2); i > 0 && !check_failed(); i--) {
        bool keep = check_random(4) == 0, root = sudo && i % 2;
        kill_at_a_moment(root, passwords, keep);
        passwords += root;
        size_t n;
        const char *is = check_read(check_path("sshd"), &n);
        CHECK(is && (strcmp(is, old_text) == 0 || (keep && strcmp(is, "Port 2222\n") == 0)));
        CHECK(check_shell("cmp \"$F\"/sshd \"$F\"/effect"));
    }
}
