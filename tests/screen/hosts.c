/* Files of other hosts, by a real sshd that is run for each connection in the place of a network. */
#include "check.h"
#include "drive.h"

#include <pwd.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

/* With the program as $S. */
static int run(const char *line)
{
    setenv("S", SQUILL, 1);
    return check_shell_said(line);
}

#define SSHD "/usr/sbin/sshd"

/* Hosts tern and gull, which let us in by a key, locked, whose key has a passphrase, and far, which nobody
 * can reach. False, which is said, where there is no sshd. */
static bool begin(void)
{
    if (access(SSHD, X_OK) != 0) {
        check_skip("sshd is not installed");
        return false;
    }
    if (geteuid() == 0)
        mkdir("/run/sshd", 0755); /* where it wants to be alone */
    CHECK_INT(
        run("mkdir -p .config/steady-quill files; chmod 755 . files;"
            "for k in host key locked; do ssh-keygen -q -t ed25519 -N \"$([ $k != locked ] || echo quay)\" "
            "-f $k; done;"
            "cat key.pub locked.pub >keys;"
            "printf '%s\\n' \"HostKey $PWD/host\" \"AuthorizedKeysFile $PWD/keys\" 'StrictModes no' 'UsePAM "
            "no'"
            " 'PasswordAuthentication no' 'KbdInteractiveAuthentication no' 'PermitRootLogin yes' 'PidFile "
            "none'"
            " 'Subsystem sftp internal-sftp' >sshd_config;"
            "printf '%s\\n' 'Host tern gull locked' \"ProxyCommand " SSHD
            " -i -f $PWD/sshd_config 2>/dev/null\""
            " 'IdentitiesOnly yes' \"UserKnownHostsFile $PWD/known\" 'HostKeyAlias harrow' 'LogLevel ERROR'"
            " 'Host far' 'ProxyCommand false' 'Host tern gull' \"IdentityFile $PWD/key\" "
            "'StrictHostKeyChecking no'"
            " 'Host locked' \"IdentityFile $PWD/locked\" 'StrictHostKeyChecking ask' >ssh_config;"
            "echo \"ssh_program = \\\"ssh -F $PWD/ssh_config\\\"\" >.config/steady-quill/settings.lua"),
        0);
    return true;
}

static const char *place(const char *host, const char *name)
{
    static char places[4][600];
    static int next;
    next = (next + 1) % 4;
    snprintf(places[next], sizeof *places, "ssh://%s%s", host, check_path(name));
    return places[next];
}

/* Ends what is connected now, as a network does. */
static void cut(void)
{
    run("for p in $(pgrep -f \"$PWD/ssh_config\"); do kill $p; done");
}

static int times_shown(Pty *p, const char *words)
{
    int n = 0;
    for (int row = 0; row < 24; row++)
        n += strstr(pty_row(p, row), words) != NULL;
    return n;
}

TEST(ssh_asks_and_the_line_is_cut)
{
    if (!begin())
        return;
    check_put("files/motd", "Ferries to Harrow Bay\n");
    chmod(check_path("files/motd"), 0640);
    Pty *p = pty_edit(place("locked", "files/motd"), NULL);
    pty_others(p, "");
    SHOWS(p, "ssh is asked to connect to locked");
    SHOWS(p, "Are you sure you want to continue connecting");
    pty_others(p, "yes\n");
    SHOWS(p, "Enter passphrase");
    pty_others(p, "quay\n");
    SHOWS(p, "Ferries to Harrow Bay");
    SHOWS(p, "locked: /");
    pty_do(p, "All <Ctrl+S>");
    SHOWS(p, "Saved motd");
    check_holds("files/motd", "All Ferries to Harrow Bay\n");
    struct stat st;
    CHECK(stat(check_path("files/motd"), &st) == 0 && (st.st_mode & 07777) == 0640);
    cut();
    pty_do(p, "of us: <Ctrl+S>");
    SHOWS(p, "To be asked by ssh, save or");
    pty_do(p, "x");
    SHOWS(p, "All of us: xFerries");
    check_holds("files/motd", "All Ferries to Harrow Bay\n");
    pty_do(p, "<Backspace><Ctrl+S>");
    UNTIL(p, times_shown(p, "Enter passphrase") == 2);
    pty_others(p, "quay\n");
    SHOWS(p, "Saved motd");
    check_holds("files/motd", "All of us: Ferries to Harrow Bay\n");
    LEAVE(p);
}

TEST(a_host_that_comes_back)
{
    if (!begin())
        return;
    check_put("files/motd", "Ferries\n");
    Pty *p = pty_edit(place("tern", "files/motd"), NULL);
    SHOWS(p, "Ferries");
    run("mv key away");
    cut();
    pty_do(p, "All <Ctrl+S>");
    SHOWS(p, "tern cannot be reached");
    run("mv away key");
    pty_do(p, "the ");
    SHOWS(p, "All the Ferries");
    LEAVE(p);
}

TEST(folders_and_completion_there)
{
    if (!begin())
        return;
    check_put("files/berth 1.ini", "north\n");
    check_put("files/berth 2.ini", "south\n");
    run("mkdir files/logs; ln -s logs files/old");
    char folder[700];
    snprintf(folder, sizeof folder, "%s/", place("tern", "files"));
    Pty *p = pty_edit(folder, NULL);
    SHOWS(p, "berth 2.ini");
    SHOWS(p, "old/");
    pty_do(p, "berth<Tab>");
    SHOWS(p, "berth%20");
    pty_do(p, "2<Enter>");
    SHOWS(p, "south");
    SHOWS(p, "berth 2.ini");
    pty_do(p, "<Esc>fi");
    pty_do(p, place("gull", "files/berth%201.ini"));
    pty_do(p, "<Enter>");
    SHOWS(p, "Inserted berth 1.ini: 1 line");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Saved berth 2.ini");
    check_holds("files/berth 2.ini", "north\nsouth\n");
    check_put("files/berth 2.ini", "west\nnorth\nsouth\n");
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "changed on disk");
    pty_do(p, "<wait>v");
    SHOWS(p, "west");
    pty_do(p, "<Esc><wait>o");
    SHOWS(p, "Saved berth 2.ini");
    check_holds("files/berth 2.ini", "north\nxsouth\n");
    LEAVE(p);
}

TEST(many_hosts_in_one_command)
{
    static const struct {
        const char *name, *line;
        int status;
        const char *said;
    } cases[] = {
        {"each says how it went", "$S --do 'replace-all a b; save' ssh://{tern,gull,far}$PWD/files/motd", 1,
         "far cannot be reached"},
        {"those that can be are done", "$S --do 'replace-all a b; save' ssh://{tern,far,gull}$PWD/files/motd",
         1, "gull"},
        {"side by side",
         "$S --jobs 3 --do 'replace-all a b; save' ssh://tern$PWD/files/motd ssh://gull$PWD/files/other", 0,
         "other: Replaced 1 place in 1 line; Saved other: 1 line, 2 bytes"},
        {"as a patch", "$S --dry-run --do 'replace-all a b; save' ssh://tern$PWD/files/motd", 0, "-a\n+b\n"},
        {"a new one is none", "$S --do save ssh://tern$PWD/files/none", 1, "There is no file"},
        {"no host", "$S --do save ssh://tern:x/none", 1, "“x” is no port of tern"},
        {"in the way of copying programs", "$S --do save tern:$PWD/files/motd", 1,
         "on the host it is called ssh://tern/"},
        {"not on this machine",
         "echo 'ssh_program = \"\"' >.config/steady-quill/settings.lua; $S --do save "
         "ssh://tern$PWD/files/motd",
         1, "files of other hosts are not used here (setting ssh_program)"},
    };
    if (!begin())
        return;
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char line[1000];
        check_case(cases[i].name);
        check_put("files/motd", "a\n");
        check_put("files/other", "a\n");
        snprintf(line, sizeof line, "bash -c '%s'", "eval \"$LINE\"");
        setenv("LINE", cases[i].line, 1);
        setenv("S", SQUILL, 1);
        CHECK_INT(run(line), cases[i].status);
        check_result(check_said(cases[i].said), __FILE__, __LINE__, "it said: %s",
                     check_read(check_path("said"), &(size_t){0}));
    }
    check_case(NULL);
}

/* A server that lets nobody write, and a stand-in for sudo there that wants the word "quay": what it asks for
 * is asked for here, on the terminal. */
TEST(root_there)
{
    if (!begin())
        return;
    check_put("ssh", "#!/bin/sh\n"
                     "for s in /usr/lib/openssh /usr/libexec/openssh; do [ -x $s/sftp-server ] && "
                     "server=$s/sftp-server; done\n"
                     "for last; do :; done\n"
                     "case $last in\n"
                     "sftp) exec $server -R ;;\n"
                     "*) PATH=$HOME:$PATH exec sh -c \"$last\" ;;\n"
                     "esac\n");
    check_put("sudo", "#!/bin/sh\n"
                      "[ $1 != -n ] || { echo 'sudo: a password is required' >&2; exit 1; }\n"
                      "read -r word\n"
                      "[ \"$word\" = quay ] || { echo 'Sorry, try again.' >&2; sleep 20; }\n"
                      "shift 3; exec \"$@\"\n");
    CHECK_INT(
        run("chmod 755 ssh sudo; echo \"ssh_program = \\\"$PWD/ssh\\\"\" >.config/steady-quill/settings.lua"),
        0);
    check_put("files/kiosk.ini", "[network]\n");
    Pty *p = pty_edit(place("tern", "files/kiosk.ini"), NULL);
    SHOWS(p, "[network]");
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "No permission to write kiosk.ini; root there can.");
    pty_do(p, "<wait>r");
    SHOWS(p, "Password for sudo there:");
    pty_others(p, "wrong\n");
    SHOWS(p, "the password was not right");
    check_holds("files/kiosk.ini", "[network]\n");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "root there can.");
    pty_do(p, "<wait>r");
    UNTIL(p, times_shown(p, "Password for sudo there:") == 2);
    pty_others(p, "quay\n");
    SHOWS(p, "Saved kiosk.ini");
    check_holds("files/kiosk.ini", "x[network]\n");
    LEAVE(p);
}

/* The checker of the machine that has the file is asked, if that is allowed; here by a stand-in, which wants
 * the copy under the file's name. */
TEST(checkers_there)
{
    if (!begin())
        return;
    check_put("sshd", "#!/bin/sh\n"
                      "for f; do :; done\n"
                      "[ \"${f##*/}\" = sshd_config ] || exit 3\n"
                      "grep -q Prt \"$f\" || exit 0\n"
                      "echo \"$f: line 2: Bad configuration option: Prt\" >&2\n"
                      "echo \"$f: terminating, 1 bad configuration options\" >&2; exit 255\n");
    check_put("ssh", "#!/bin/sh\n"
                     "for last; do :; done\n"
                     "case $last in\n"
                     "sftp) for s in /usr/lib/openssh /usr/libexec/openssh; do\n"
                     "[ -x $s/sftp-server ] && exec $s/sftp-server; done ;;\n"
                     "*) [ ! -e \"$HOME/cut\" ] || { echo 'Connection reset'; exit 255; }; TMPDIR=$HOME/t "
                     "PATH=$HOME:$PATH "
                     "sh -c \"$last\" ;;\n"
                     "esac\n");
    mkdir(check_path("t"), 0700);
    CHECK(check_shell("chmod 755 ssh sshd; { echo \"ssh_program = \\\"$F/ssh\\\"\"; echo 'check_on_hosts = "
                      "\"gull, tern\"'; } "
                      ">.config/steady-quill/settings.lua"));
    check_put("files/sshd_config", "Port 22\nPrt 4\n");
    Pty *p = pty_edit(place("tern", "files/sshd_config"), NULL);
    SHOWS(p, "Prt 4");
    pty_do(p, "<F2>");
    SHOWS(p, "line 2: Bad configuration option: Prt");
    pty_do(p, "<Ctrl+End><Backspace><Ctrl+Left><Ctrl+Left>o<Backspace><Delete><Delete><Delete>Port<F2>");
    SHOWS(p, "No problem was found in sshd_config (sshd, settings)");
    check_put("cut", "");
    pty_do(p, "<F2>");
    SHOWS(p, "sshd could not be asked there: Connection reset");
    CHECK(check_shell("rm cut"));
    LEAVE(p);
    p = pty_edit(place("heron", "files/sshd_config"), NULL);
    SHOWS(p, "Port 22");
    pty_do(p, "<F2>");
    SHOWS(p, "May the checkers of heron look at a copy of sshd_config there, until you leave?");
    pty_do(p, "<wait><Esc>");
    SHOWS(p, "as the file lies on another machine");
    pty_do(p, "<F2>");
    SHOWS(p, "May the checkers of heron");
    pty_do(p, "<wait>c");
    SHOWS(p, "line 2: Bad configuration option: Prt");
    LEAVE(p);
    CHECK(check_shell("rmdir t")); /* nothing is left there */
}

/* The guard is there, on the host: it outlives the line and the editor. */
TEST(on_trial_there)
{
    if (!begin())
        return;
    char line[600];
    snprintf(line, sizeof line, "<Ctrl+P>save-on-trial 60 cp %s %s; echo tried there<Enter>",
             check_path("files/port"), check_path("effect"));
    check_put("files/port", "Port 22\n");
    chmod(check_path("files/port"), 0640);
    Pty *p = pty_edit_at(24, 100, place("tern", "files/port"), NULL);
    SHOWS(p, "Port 22");
    pty_do(p, "<End>22");
    pty_do(p, line);
    SHOWS(p, "Save port, run");
    pty_do(p, "<wait>s");
    SHOWS(p, "tried there");
    SHOWS(p, "on trial 0:5");
    check_holds("files/port", "Port 2222\n");
    check_holds("effect", "Port 2222\n");
    pty_do(p, "<Esc><Esc>fw");
    SHOWS(p, "k Keep it");
    pty_do(p, "<wait>t");
    SHOWS(p, "port was taken back at");
    SHOWS(p, "changed");
    check_holds("files/port", "Port 22\n");
    check_holds("effect", "Port 22\n");
    struct stat st;
    CHECK(stat(check_path("files/port"), &st) == 0 && (st.st_mode & 07777) == 0640);
    pty_do(p, line); /* once more, and kept; saving asks nothing, as what was put back is known */
    SHOWS(p, "Save port, run");
    pty_do(p, "<wait>s");
    SHOWS(p, "tried there");
    pty_do(p, "<Esc><Esc>fw");
    SHOWS(p, "k Keep it");
    pty_do(p, "<wait>k");
    SHOWS(p, "port is kept");
    check_holds("files/port", "Port 2222\n");
    /* the line is cut, and the editor killed */
    pty_do(p, "<End>1<Ctrl+P>save-on-trial 3<Enter>");
    SHOWS(p, "It takes effect by");
    pty_do(p, "<Ctrl+U><Enter>");
    SHOWS(p, "and take it back in 3 s");
    pty_do(p, "<wait>s");
    SHOWS(p, "on trial 0:0");
    check_holds("files/port", "Port 22221\n");
    kill(pty_pid(p), SIGKILL);
    cut();
    pty_end(p);
    for (int i = 0; i < 1000 && !check_shell("grep -qx 'Port 2222' \"$F\"/files/port"); i++)
        usleep(10000);
    check_holds("files/port", "Port 2222\n");
    CHECK(check_shell("! ls -d \"$F\"/files/port.*"));
}
