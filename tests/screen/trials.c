/* Saving on trial, on the screen. */
#include "check.h"
#include "drive.h"

#include <signal.h>
#include <stdio.h>
#include <string.h>
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
    snprintf(line, sizeof line, "Nonsense yes<Enter><Ctrl+P>save-on-trial 10 %s<Enter>", check_path("serve"));
    pty_do(p, line);
    SHOWS(p, "take both back in 10 s");
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
