/* A broken configuration is noticed before it reaches the disk; checkers that hang or talk nonsense harm
 * nothing. */
#include "check.h"
#include "drive.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

/* A stand-in for a program of the system, first in the path. */
static void stand_in(const char *name, const char *script)
{
    char path[100], search[400];
    mkdir(check_path("bin"), 0755);
    snprintf(path, sizeof path, "bin/%s", name);
    check_put(path, script);
    chmod(check_path(path), 0755);
    snprintf(search, sizeof search, "%s:/usr/bin:/bin", check_path("bin"));
    pty_env("PATH", search);
}

static const struct {
    const char *name, *right, *keys, *says, *wrong; /* the keys make it wrong */
} risky[] = {
    {"sudoers", "mira ALL=(ALL) ALL\n", "<Ctrl+End>kai ALL=(ALL", "sudoers, line 2: syntax error (visudo)",
     "mira ALL=(ALL) ALL\nkai ALL=(ALL\n"},
    {"fstab", "UUID=4 / ext4 defaults 0 1\n", "<Ctrl+End>/dev/sdb1 mnt ext4",
     "fstab, line 2: “mnt” is no mount point", "UUID=4 / ext4 defaults 0 1\n/dev/sdb1 mnt ext4\n"},
    {"night.crontab", "0 3 * * * /usr/bin/tide\n", "<Delete>75", "night.crontab, line 1: “75” is no minute",
     "75 3 * * * /usr/bin/tide\n"},
    {"passwd", "mira:x:1000:1000::/home/mira:/bin/sh\n", "<Ctrl+End>kai:x:1001:users::/home/kai:/bin/sh",
     "“users” is no group id", "mira:x:1000:1000::/home/mira:/bin/sh\nkai:x:1001:users::/home/kai:/bin/sh\n"},
};

TEST(broken_files_do_not_reach_the_disk)
{
    for (size_t i = 0; i < sizeof risky / sizeof *risky; i++) {
        check_case(risky[i].name);
        check_put(risky[i].name, risky[i].right);
        Pty *p = pty_edit(risky[i].name, NULL);
        pty_do(p, risky[i].keys);
        pty_do(p, "<Ctrl+S>");
        SHOWS(p, risky[i].says);
        SHOWS(p, "s Save anyway");
        check_holds(risky[i].name, risky[i].right);
        pty_do(p, "<wait>g");
        HIDES(p, "s Save anyway");
        check_holds(risky[i].name, risky[i].right);
        pty_do(p, "<wait><Ctrl+S>");
        SHOWS(p, "s Save anyway");
        pty_do(p, "<wait>v");
        SHOWS(p, "the last save");
        pty_do(p, "<Esc>");
        SHOWS(p, "s Save anyway");
        pty_do(p, "<wait>s");
        SHOWS(p, "Saved");
        check_holds(risky[i].name, risky[i].wrong);
        LEAVE(p);
    }
}

/* The same when leaving saves, and without a screen. */
TEST(leaving_and_batches_are_checked_too)
{
    check_put("fstab", "UUID=4 / ext4 defaults 0 1\n");
    Pty *p = pty_edit("fstab", NULL);
    pty_do(p, "<Ctrl+End>/dev/sdb1 mnt ext4<Ctrl+Q>");
    SHOWS(p, "s Save and leave");
    pty_do(p, "<wait>s");
    SHOWS(p, "s Save anyway");
    pty_do(p, "<wait><Esc>");
    check_holds("fstab", "UUID=4 / ext4 defaults 0 1\n");
    LEAVE(p);
    char command[600];
    snprintf(command, sizeof command,
             "cd '%s' && '%s' --plain --do 'replace-all defaults \"\"; replace-all / /mnt/x; "
             "replace-all /mnt/x mnt; save' fstab >said 2>&1",
             check_folder(), SQUILL);
    CHECK(system(command) != 0);
    size_t n;
    CHECK(strstr(check_read(check_path("said"), &n), "fstab was not saved: line 1: “mnt” is no mount point"));
    check_holds("fstab", "UUID=4 / ext4 defaults 0 1\n");
}

TEST(settings_say_what_is_checked)
{
    mkdir(check_path(".config"), 0755);
    mkdir(check_path(".config/steady-quill"), 0755);
    check_put(".config/steady-quill/settings.lua", "check_before_save = \"none\"\n");
    check_put("fstab", "x\n");
    Pty *p = pty_edit("fstab", NULL);
    pty_do(p, "y<Ctrl+S>");
    SHOWS(p, "Saved fstab");
    LEAVE(p);
    check_put(".config/steady-quill/settings.lua",
              "check_before_save = \"all\"\ncheck_off = \"fstab, yaml\"\n");
    check_put("a.json", "{\n");
    p = pty_edit("a.json", "fstab");
    pty_do(p, "<Ctrl+End>x<Ctrl+S>");
    SHOWS(p, "s Save anyway");
    pty_do(p, "<wait>s<wait><Ctrl+PageDown>z<Ctrl+S>");
    SHOWS(p, "Saved fstab");
    pty_do(p, "<F2>");
    SHOWS(p, "There is no checker for the kind fstab, or the setting check_off switches it off");
    LEAVE(p);
}

/* One that does not come to an end, or gives far too much, or speaks in escapes: the file is saved after a
 * while, or on a person's word. */
TEST(odd_checkers_do_no_harm)
{
    static const struct {
        const char *name, *script;
    } odd[] = {
        {"hangs", "#!/bin/sh\nexec sleep 600\n"},
        {"reads nothing", "#!/bin/sh\nexec 0<&-\nexit 0\n"},
    };
    mkdir(check_path(".config"), 0755);
    mkdir(check_path(".config/steady-quill"), 0755);
    check_put(".config/steady-quill/settings.lua", "command_seconds = 1\n");
    for (size_t i = 0; i < sizeof odd / sizeof *odd; i++) {
        check_case(odd[i].name);
        stand_in("visudo", odd[i].script);
        check_put("sudoers", "mira ALL=(ALL) ALL\n");
        Pty *p = pty_edit("sudoers", NULL);
        pty_do(p, "# x<Enter><Ctrl+S>");
        SHOWS(p, "Saved sudoers");
        check_holds("sudoers", "# x\nmira ALL=(ALL) ALL\n");
        LEAVE(p);
    }
    check_case("floods"); /* that is no answer, and not taken for one */
    stand_in("visudo", "#!/bin/sh\nexec yes 'stdout is all there is'\n");
    check_put("sudoers", "mira ALL=(ALL) ALL\n");
    Pty *p = pty_edit("sudoers", NULL);
    pty_do(p, "# x<Enter><Ctrl+S>");
    SHOWS(p, "Nobody can say whether sudoers is right: visudo said more than anybody reads.");
    check_holds("sudoers", "mira ALL=(ALL) ALL\n");
    pty_do(p, "<wait>s");
    SHOWS(p, "Saved sudoers");
    LEAVE(p);
    check_case("is killed"); /* nor is that */
    stand_in("visudo", "#!/bin/sh\nkill -9 $$\n");
    check_put("sudoers", "mira ALL=(ALL) ALL\n");
    p = pty_edit("sudoers", NULL);
    pty_do(p, "<F2>");
    SHOWS(p, "Nobody can say whether sudoers is right: visudo was ended by signal 9");
    pty_do(p, "<wait><wait><wait># x<Enter><Ctrl+S>");
    SHOWS(p, "Nobody can say whether sudoers is right: visudo was ended by signal 9.");
    check_holds("sudoers", "mira ALL=(ALL) ALL\n");
    pty_do(p, "<wait>s");
    SHOWS(p, "Saved sudoers");
    LEAVE(p);
    check_case("escapes");
    stand_in("visudo", "#!/bin/sh\nprintf 'stdin:1:1: \\033]0;harm\\007\\033[2J odd\\n'\nexit 1\n");
    p = pty_edit("sudoers", NULL);
    pty_do(p, "<F2>");
    SHOWS(p, "1 problem in sudoers");
    size_t n;
    CHECK(!strstr(pty_raw(p, &n), "\033]0;harm"));
    LEAVE(p);
}

/* One checker alone is switched off; that is not taken for a text without mistakes. */
TEST(a_checker_is_switched_off)
{
    mkdir(check_path(".config"), 0755);
    mkdir(check_path(".config/steady-quill"), 0755);
    check_put(".config/steady-quill/settings.lua", "check_off = \"yaml, visudo\"\n");
    check_put("sudoers", "mira ALL=(ALL\n");
    Pty *p = pty_edit("sudoers", NULL);
    pty_do(p, "<F2>");
    SHOWS(p, "not checked: no checker is meant for it, or the setting check_off switches it off");
    LEAVE(p);
}

/* Esc goes on without the program that is asked: by hand, and before a save. */
TEST(a_slow_checker_is_left_out)
{
    stand_in("visudo", "#!/bin/sh\nexec sleep 600\n");
    check_put("sudoers", "mira ALL=(ALL) ALL\n");
    Pty *p = pty_edit("sudoers", NULL);
    pty_do(p, "<F2>");
    SHOWS(p, "Checking");
    pty_do(p, "<wait><Esc>");
    SHOWS(p, "sudoers was not checked: visudo was stopped");
    pty_do(p, "<wait><wait><wait># x<Enter><Ctrl+S>");
    SHOWS(p, "Checking sudoers before it is saved");
    pty_do(p, "<wait><Esc>");
    SHOWS(p, "not checked: visudo was stopped");
    check_holds("sudoers", "# x\nmira ALL=(ALL) ALL\n");
    LEAVE(p);
}

/* Without its checker it is saved, and that is said. */
TEST(without_its_checker)
{
    mkdir(check_path(".config"), 0755);
    mkdir(check_path(".config/steady-quill"), 0755);
    mkdir(check_path(".config/steady-quill/kinds"), 0755);
    check_put(".config/steady-quill/kinds/quay.lua",
              "name = \"quay\"\nnames = { \"quay.conf\" }\nrisky = true\nparts = {}\n"
              "check = { { run = { \"no-such-quay\", \"FILE\" }, like = \"x\" } }\n");
    check_put("quay.conf", "berth 2\n");
    Pty *p = pty_edit("quay.conf", NULL);
    pty_do(p, "# x<Enter><Ctrl+S>");
    SHOWS(p, "not checked: no-such-quay is not installed");
    check_holds("quay.conf", "# x\nberth 2\n");
    LEAVE(p);
}

/* One that speaks of a copy of the file: it does not reach the disk either. */
TEST(a_broken_sshd_config_is_stopped)
{
    stand_in("sshd",
             "#!/bin/sh\ngrep -n Prot $3 | sed \"s|^\\([0-9]*\\):.*|$3: line \\1: Bad configuration option: "
             "Prot|\"\n");
    check_put("sshd_config", "Port 22\n");
    Pty *p = pty_edit("sshd_config", NULL);
    pty_do(p, "<Ctrl+End>Prot x<Ctrl+S>");
    SHOWS(p, "sshd_config, line 2: Bad configuration option: Prot (sshd)");
    check_holds("sshd_config", "Port 22\n");
    pty_do(p, "<wait><Esc><wait><wait><wait><Ctrl+W><Ctrl+W>Protection<Home><Ctrl+K><Ctrl+S>");
    SHOWS(p, "Saved sshd_config");
    LEAVE(p);
}

/* What a program checks only as root is asked for; the text goes to it and its answer comes back. */
TEST(checked_as_root)
{
    const char *args[] = {"-c", pty_as_nobody("nftables.conf"), NULL};
    stand_in("nft", "#!/bin/sh\necho \"$3:2:3-4: Error: berth $(id -u): $(tr '\\n' '~' <\"$3\")\"\nexit 1\n");
    check_put("nftables.conf", "table x {\n  Prot\n}\n");
    if (!pty_make_sudo()) {
        check_skip("only root can make a stand-in for sudo");
        return;
    }
    Pty *p = pty_start("/bin/sh", 24, 100, args);
    SHOWS(p, "Prot");
    pty_do(p, "<F2>");
    SHOWS(p, "nft checks nftables.conf only as root.");
    pty_do(p, "<Esc>");
    SHOWS(p, "nftables.conf was not checked: nft works for root only");
    pty_do(p, "<wait><wait><wait><F2>");
    SHOWS(p, "r Check as root");
    pty_do(p, "<wait>");
    pty_send(p, "r", 1);
    SHOWS(p, "password 0:");
    pty_others(p, "wrong\r");
    SHOWS(p, "It was not checked: becoming root was refused or cancelled");
    pty_do(p, "<Down># \xc3\xa4 <wait><F2>");
    SHOWS(p, "r Check as root");
    pty_do(p, "<wait>");
    pty_send(p, "r", 1);
    SHOWS(p, "password 1:");
    pty_others(p, "harbour\r");
    SHOWS(p, "1 problem in nftables.conf; the first is in line 2: berth 0: table x {~# \xc3\xa4   Prot~}~");
    SHOWS(p, "!# \xc3\xa4   Prot");
    check_holds("nftables.conf", "table x {\n  Prot\n}\n");
    pty_do(p, "<Ctrl+S>"); /* what is known stops it */
    SHOWS(p, "s Save anyway");
    pty_do(p, "<wait>s");
    SHOWS(p, "Saved nftables.conf");
    pty_do(p, "<wait><End>x<Ctrl+S>"); /* saving itself does not ask for root; what was found still stands */
    SHOWS(p, "s Save anyway");
    pty_do(p, "<wait>s");
    SHOWS(p, "not checked: nft works for root only");
    LEAVE(p);
}

/* The text is in no list of processes, and in no place that others can look into; nothing is left behind, and
 * nothing is written elsewhere. */
TEST(checkers_get_the_text_in_private)
{
    stand_in(
        "sshd",
        "#!/bin/sh\necho \"in lists: $(ps -eo args | grep -c [s]ecretword)\"; ls -ld $(dirname $3)\n"
        "echo x >$HOME/written && echo it writes; chmod 777 $HOME/sshd_config && echo it changes rights\n"
        "echo \"copy: $(tr '\\n' '~' <$3)\"; pwd; echo x >here && ls here\n"
        "echo \"$3: line 2: Bad configuration option: Prot\"\nexit 255\n");
    check_put("sshd_config", "Port 22\nProt secretword\n");
    Pty *p = pty_edit("sshd_config", NULL);
    pty_do(p, "<F2>");
    SHOWS(p, "Bad configuration option: Prot");
    SHOWS(p, "2 !Prot");
    pty_do(p, "<wait><Esc>tball that<Enter>");
    SHOWS(p, "sshd said:");
    SHOWS(p, "in lists: 0");
    SHOWS(p, "drwx------");
    SHOWS(p, "copy: Port 22~Prot secretword~");
    SHOWS(p, "here");
    HIDES(p, "it writes");
    HIDES(p, "it changes rights");
    pty_do(p, "<Esc>");
    LEAVE(p);
    CHECK(access(check_path("written"), F_OK) != 0);
    char command[400];
    snprintf(command, sizeof command, "ls -d '%s'/squill-check-* >/dev/null 2>&1", check_folder());
    CHECK(system(command) != 0);
}

/* What was found by a program stays until it finds something else, whatever is typed elsewhere. */
TEST(findings_stay)
{
    stand_in("sshd", "#!/bin/sh\necho \"$3: line 2: Bad configuration option: Prot\"\nexit 255\n");
    check_put("sshd_config", "Port 22\nProt x\n");
    Pty *p = pty_edit("sshd_config", NULL);
    pty_do(p, "<F2>");
    SHOWS(p, "2 !Prot");
    pty_do(p, "# x<Enter><wait><wait><wait><wait>");
    SHOWS(p, "3 !Prot");
    SHOWS(p, "1 problem");
    pty_do(p, "<Down><Delete>");
    HIDES(p, "1 problem");
    LEAVE(p);
}

/* A failure in words nobody foresaw is one; what was said is there to be read. */
TEST(unforeseen_words_are_a_failure)
{
    stand_in("sshd", "#!/bin/sh\necho tide too low; echo berth is closed\nexit 255\n");
    check_put("sshd_config", "Port 22\n");
    Pty *p = pty_edit("sshd_config", NULL);
    pty_do(p, "<F2>");
    SHOWS(p, "sshd_config: sshd found it wrong: berth is closed; more: Esc t b");
    pty_do(p, "<wait><wait><wait># x<Enter><Ctrl+S>");
    SHOWS(p, "sshd_config: sshd found it wrong: berth is closed");
    SHOWS(p, "w What was said");
    pty_do(p, "<wait>w");
    SHOWS(p, "tide too low");
    pty_do(p, "<Esc>");
    check_holds("sshd_config", "Port 22\n");
    LEAVE(p);
}

/* Typed on and on while it is checked, it is not saved unchecked without a word. */
TEST(typing_does_not_wear_out_the_check)
{
    stand_in("sshd", "#!/bin/sh\nsleep 0.5\nexit 0\n");
    check_put("sshd_config", "Port 22\n");
    Pty *p = pty_edit("sshd_config", NULL);
    pty_do(p, "#<Ctrl+S>");
    for (int i = 0; i < 30 && pty_find(p, "was changed each time") < 0; i++)
        pty_do(p, "x<wait>");
    SHOWS(p, "sshd_config was changed each time while it was checked.");
    check_holds("sshd_config", "Port 22\n");
    pty_do(p, "<wait>c");
    SHOWS(p, "Saved sshd_config");
    LEAVE(p);
}

/* What another program gives to be edited is what it stands for. */
TEST(copies_of_callers_are_known)
{
    char name[60] = "/tmp/fstab.XXXXXXXX";
    snprintf(name, sizeof name, "/tmp/fstab.%08lx", 0xa0000000ul + (unsigned long)getpid());
    FILE *f = fopen(name, "w");
    CHECK(f && fputs("UUID=4 / ext4 defaults 0 1\n", f) > 0 && fclose(f) == 0);
    Pty *p = pty_edit(name, NULL);
    SHOWS(p, "/etc/fstab, a copy for sudo -e");
    pty_do(p, "<Ctrl+End>/dev/sdb1 mnt ext4<Ctrl+S>");
    SHOWS(p, "fstab, line ");
    SHOWS(p, "s Save anyway");
    pty_do(p, "<wait><Esc>");
    LEAVE(p);
    unlink(name);
}

/* While nobody types, what needs no other program is checked by itself; keys do not wait for it. */
TEST(checked_by_itself)
{
    check_put("a.json", "{\n  \"a\": 1\n}\n");
    Pty *p = pty_edit("a.json", NULL);
    pty_do(p, "<Down><End>,");
    SHOWS(p, "1 problem");
    SHOWS(p, "3 !}");
    pty_do(p, "<Backspace>");
    HIDES(p, "1 problem");
    HIDES(p, "3 !}");
    LEAVE(p);
}

/* ---- the manual ---- */

static const char man_program[] =
    "#!/bin/sh\n"
    "for p; do page=$section_; section_=$p; done\n"
    "case \"$*\" in\n"
    "*' 8 pam_tide') echo 'PAM_TIDE(8)'; echo '     nullok    Also on an empty berth.' ;;\n"
    "*' 5 sshd_config' | *' 5 exports') printf 'SSHD_CONFIG(5)\\n\\nP\\bPO\\bOR\\bRT\\bTS\\bS\\n     Port is "
    "what a port "
    "is.\\n\\n"
    "     Port     Says on which port it listens.\\n\\n     _\\bP_\\be_\\br_\\bm_\\bi_\\bt\\n             "
    "Who may "
    "\\033[31mcome\\033[0m in; see Tide.\\n' ;;\n"
    "*' 1 tide') echo 'TIDE(1)'; echo 'tells the tides' ;;\n"
    "*' 1 slow') exec sleep 600 ;;\n"
    "*) echo nothing; exit 16 ;;\n"
    "esac\n";

TEST(the_manual_at_the_cursor)
{
    stand_in("man", man_program);
    check_put("sshd_config", "Port 22\nPermit kiosk\nTide high\nHarbour x\n");
    Pty *p = pty_edit("sshd_config", NULL);
    pty_do(p, "<Esc>hm");
    SHOWS(p, "Manual: sshd_config(5)");
    SHOWS(p, "Says on which port it listens");
    SHOWS(p, "Line 6 of 9");
    pty_do(p, "<Esc><Down><Esc>hm"); /* after letters struck over each other, without colours of its own */
    SHOWS(p, "     Permit");
    SHOWS(p, "Who may come in");
    SHOWS(p, "Line 8 of 9");
    pty_do(p, "<wait><wait><wait><Esc><Down><Esc>hm");
    SHOWS(p, "see Tide");
    pty_do(p, "<wait><wait><wait><Esc><Down><Esc>hm");
    SHOWS(p, "sshd_config(5) has no entry “Harbour”; this is its beginning");
    pty_do(p, "<wait><wait><wait><Esc>");
    LEAVE(p);
}

/* The words that it has entries for complete what was begun; a slow one is not waited for. */
TEST(words_from_the_manual)
{
    stand_in("man", man_program);
    check_put("exports", "");
    Pty *p = pty_edit("exports", NULL);
    pty_do(p, "Per<Ctrl+Space>");
    SHOWS(p, "1▎ Permit");
    pty_do(p, "<wait><Enter>Po<Ctrl+Space>");
    SHOWS(p, "2▎ Port");
    LEAVE(p);
    stand_in("man", "#!/bin/sh\nexec sleep 600\n");
    p = pty_edit("exports", NULL);
    pty_do(p, "Per<Ctrl+Space>");
    SHOWS(p, "No completion found");
    pty_do(p, "<Ctrl+Space>");
    LEAVE(p);
}

/* The page of the module that the line names. */
TEST(the_manual_of_a_module)
{
    stand_in("man", man_program);
    check_put("tides", "auth required pam_tide.so nullok\n");
    Pty *p = pty_edit("--kind=pam", "tides");
    pty_do(p, "<End><Left><Esc>hm");
    SHOWS(p, "Manual: pam_tide(8)");
    SHOWS(p, "Also on an empty berth");
    pty_do(p, "<wait><wait><wait><Esc>");
    LEAVE(p);
}

/* What the kind says may stand there; a sign that is there already is not typed twice. */
TEST(what_the_place_wants)
{
    check_put("tide.service", "[Service]\n\nUser=x\n");
    Pty *p = pty_edit("tide.service", NULL);
    pty_do(p, "<Down>notifya<Ctrl+Space>=m<Ctrl+Space><wait>");
    SHOWS(p, "2▎ NotifyAccess=main");
    pty_do(p, "<Enter>Type<Ctrl+Space><wait>one<Ctrl+Space>");
    SHOWS(p, "3▎ Type=oneshot");
    pty_do(p, "<Enter>[Timer]<Enter>OnCal<Ctrl+Space><wait>da<Ctrl+Space>");
    SHOWS(p, "5▎ OnCalendar=daily");
    pty_do(p, "<Ctrl+Z><Ctrl+Z><Ctrl+Z>");
    LEAVE(p);
}

TEST(the_manual_of_commands)
{
    stand_in("man", man_program);
    check_put("a.sh", "tide --now\nslow\nno-such-thing\n");
    Pty *p = pty_edit("a.sh", NULL);
    pty_do(p, "<Esc>hm");
    SHOWS(p, "tells the tides");
    pty_do(p, "<Esc><Down><Esc>hm");
    SHOWS(p, "Looking into slow(1)");
    pty_do(p, "x<Ctrl+Z><wait><wait><wait><Esc>");
    SHOWS(p, "The manual is not looked at any more");
    pty_do(p, "<wait><wait><wait><Down><Esc>hm");
    SHOWS(p, "is not installed here");
    check_put("fares.txt", "-- ;;\n");
    LEAVE(p);
    p = pty_edit("fares.txt", NULL);
    pty_do(p, "<Esc>hm");
    SHOWS(p, "There is no word here that the manual could have");
    LEAVE(p);
}
