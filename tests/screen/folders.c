/* A whole folder at once: finding in it on the screen and from the shell, and --do below it. */
#include "check.h"
#include "drive.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>

/* A folder of the quay: three files with berths, one without, one that is binary. */
static void make_quay(void)
{
    CHECK(check_shell(
        "cd \"$F\" && mkdir -p quay/north && printf '[berths]\\ndefault = 3\\n' >quay/kiosk.ini && "
        "printf 'tide 1\\nberth 4 is open\\nberth 5 is shut\\n' >quay/north/tides.log && "
        "printf 'no such\\n' >quay/motd && printf 'berth\\0' >quay/binary && "
        "printf 'say berth 7\\n' >quay/zoo.sh"));
}

static void find_berths(Pty *p)
{
    pty_do(p, "<Esc>so");
    SHOWS(p, "Find in a folder: ");
    pty_do(p, "berth<Enter>");
    SHOWS(p, "In the folder: ");
}

TEST(find_in_a_folder)
{
    make_quay();
    Pty *p = pty_edit("quay/motd", NULL);
    find_berths(p);
    SHOWS(p, "/quay/ "); /* the file's own */
    pty_do(p, "<Enter>");
    SHOWS(p, "4 lines in 3 of 4 files. Passed over: 1 binary");
    SHOWS(p, "kiosk.ini:1");
    SHOWS(p, "▸ kiosk.ini:1");
    SHOWS(p, "default = 3"); /* the text above shows the place */
    pty_do(p, "<Down><Down>");
    SHOWS(p, "▸ north/tides.log:3");
    SHOWS(p, "tide 1");
    pty_do(p, "north 4");
    SHOWS(p, "1 of 1");
    pty_do(p, "<Enter>");
    SHOWS(p, "Line 2 of 3 · Column 1");
    pty_do(p, "<Ctrl+N>");
    SHOWS(p, "Result 3 of 4: north/tides.log, line 3");
    pty_do(p, "<Ctrl+N>");
    SHOWS(p, "Result 4 of 4: zoo.sh, line 1");
    pty_do(p, "<Ctrl+N>");
    SHOWS(p, "That was the last result; on at 1 of 4: kiosk.ini, line 1");
    pty_do(p, "<Ctrl+B>");
    SHOWS(p, "That was the first result; on at 4 of 4");
    /* The list is one key away again, where it was; and Esc leads back. */
    pty_do(p, "<Esc>sj");
    SHOWS(p, "▸ zoo.sh:1");
    pty_do(p, "<Up>");
    SHOWS(p, "▸ north/tides.log:3");
    pty_do(p, "<Esc>");
    SHOWS(p, "zoo.sh");
    HIDES(p, "▸");
    /* An ordinary search goes through the text again. */
    pty_do(p, "<Ctrl+F>7<Enter><Ctrl+N>");
    SHOWS(p, "The only match");
    LEAVE(p);
}

/* What stands on the screen counts; and what was looked at only is not open afterwards. */
TEST(open_texts_and_looks)
{
    make_quay();
    Pty *p = pty_edit("quay/zoo.sh", NULL);
    pty_do(p, "x<Enter>");
    find_berths(p);
    pty_do(p, "<Enter>");
    SHOWS(p, "zoo.sh:2");
    pty_do(p, "<Down>");
    SHOWS(p, "look only");
    pty_do(p, "<Esc>");
    SHOWS(p, "changed");
    pty_do(p, "<Esc>fb");
    HIDES(p, "kiosk.ini"); /* it was looked at only */
    LEAVE(p);
}

TEST(options_names_and_mistakes)
{
    make_quay();
    CHECK(check_shell("cd \"$F\"/quay && echo '*.log' >.gitignore"));
    Pty *p = pty_edit("quay/motd", NULL);
    pty_do(p, "<Esc>soBERTH<Tab>");
    SHOWS(p, "Ignored files too: off");
    pty_do(p, "ci<Tab>");
    SHOWS(p, "exact case · ignored files too");
    pty_do(p, "<Enter><Enter>");
    SHOWS(p, "0 lines in 0 of 5 files");
    SHOWS(p, "No line matches");
    pty_do(p, "<Esc>");
    pty_do(p, "<Esc>so<Tab>c<Tab><Enter>");
    SHOWS(p, "In the folder: "); /* the last one again */
    pty_do(p, "*.ini,*.log<Enter>");
    SHOWS(p, "3 lines in 2 of 2 files");
    pty_do(p, "<Esc>");
    pty_do(p, "<Esc>so<Tab>i<Tab><Enter><Enter>");
    SHOWS(p, "1 line in 1 of 1 file. Passed over: 1 ignored");
    pty_do(p, "<Esc>");
    pty_do(p, "<Esc>so<Ctrl+U>berth<Enter><Ctrl+U>nowhere<Enter>");
    SHOWS(p, "There is no folder");
    SHOWS(p, "In the folder: nowhere");
    pty_do(p, "<Esc>");
    pty_do(p, "<Esc>so<Tab>x<Tab><Ctrl+U>berth(<Enter>");
    SHOWS(p, "missing closing parenthesis");
    pty_do(p, "<Esc>sj");
    SHOWS(p, "1 line in 1 of 1 file");
    LEAVE(p);
}

TEST(find_from_the_shell)
{
    make_quay();
    Pty *p = pty_start(SQUILL, 12, 30, (const char *const[]){"--find", "berth", "quay", NULL});
    SHOWS(p, "▸ kiosk.ini:1");
    pty_do(p, "<End><Enter>");
    SHOWS(p, "say berth 7");
    LEAVE(p);
    p = pty_start(SQUILL, 24, 100,
                  (const char *const[]){"--find", "berth", "quay/zoo.sh", "quay/north", NULL});
    SHOWS(p, "3 lines in 2 of 2 files");
    pty_do(p, "<Enter>");
    LEAVE(p);
    p = pty_start(SQUILL, 24, 100, (const char *const[]){"--find", "berth", "nowhere", NULL});
    SHOWS(p, "There is no folder nowhere");
    CHECK_INT(pty_end(p), 2);
    p = pty_start(SQUILL, 24, 100, (const char *const[]){"--find", "berth", "ssh://tern/etc", NULL});
    SHOWS(p, "this machine's folders only");
    CHECK_INT(pty_end(p), 2);
    CHECK(check_shell_said(SQUILL " --below quay") == 2);
    CHECK(check_shell_said(SQUILL " --find berth --do save quay") == 2);
}

static void replace_berths(Pty *p, const char *with)
{
    pty_do(p, "<Esc>sp");
    SHOWS(p, "Replace in a folder: ");
    pty_do(p, "berth<Enter>");
    SHOWS(p, "Replace “berth” with");
    pty_do(p, with);
    pty_do(p, "<Enter>");
    SHOWS(p, "In the folder: ");
    pty_do(p, "<Enter>");
    SHOWS(p, "4 lines in 3 of 4 files. Passed over: 1 binary");
}

TEST(replace_in_a_folder)
{
    make_quay();
    Pty *p = pty_edit("quay/zoo.sh", "quay/motd");
    replace_berths(p, "quay");
    SHOWS(p, "▸ [x] kiosk.ini:1");
    SHOWS(p, "[quays]");
    SHOWS(p, "[berths]"); /* the text above, as it is */
    pty_do(p, "<Down><Tab>");
    SHOWS(p, "▸ [ ] north/tides.log:2");
    pty_do(p, "<Enter>");
    SHOWS(p, "Replace 3 places in 3 files, and save?");
    pty_do(p, "<Esc>");
    check_holds("quay/kiosk.ini", "[berths]\ndefault = 3\n"); /* nothing is written before it is agreed to */
    pty_do(p, "<Shift+Tab>");
    pty_do(p, "<Shift+Tab><Tab>");
    pty_do(p, "<Enter>");
    SHOWS(p, "Replace 3 places in 3 files");
    pty_do(p, "<wait>s");
    SHOWS(p, "Replaced 3 places in 3 files");
    check_holds("quay/kiosk.ini", "[quays]\ndefault = 3\n");
    check_holds("quay/north/tides.log", "tide 1\nquay 4 is open\nberth 5 is shut\n");
    check_holds("quay/zoo.sh", "say quay 7\n");
    check_holds("quay/motd", "no such\n");
    /* The open one has it as one step; the others have earlier saves, and are not open. */
    SHOWS(p, "say quay 7");
    pty_do(p, "<Ctrl+Z>");
    SHOWS(p, "say berth 7");
    pty_do(p, "<Ctrl+Y><Esc>ff");
    HIDES(p, "kiosk.ini");
    pty_do(p, "<Esc>");
    LEAVE(p);
    p = pty_edit("quay/kiosk.ini", NULL);
    pty_do(p, "<Esc>fh");
    SHOWS(p, "1 of 1");
    pty_do(p, "<Esc>");
    LEAVE(p);
}

TEST(replacing_with_neighbours)
{
    make_quay();
    Pty *p = pty_edit("quay/zoo.sh", "quay/kiosk.ini");
    pty_do(p, "# berth <Enter>"); /* it has changes of its own */
    pty_do(p, "<Esc>fn");         /* and what follows is begun from another text */
    pty_do(p, "<Esc>spberth<Enter>quay<Enter><Ctrl+U>quay<Enter>");
    SHOWS(p, "5 lines in 3 of 4 files. Passed over: 1 binary"); /* the end of the search */
    CHECK(check_shell("cd \"$F\"/quay/north && echo berth 9 >>tides.log"));
    pty_do(p, "<Enter>");
    SHOWS(p, "Replace 5 places in 3 files");
    pty_do(p, "<wait>s");
    SHOWS(p, "Not replaced: ");
    SHOWS(p, "it changed since it was searched");
    SHOWS(p, "Replaced 3 places in 2 files; 1 had unsaved changes and is still to be saved; 1 file not");
    check_holds("quay/zoo.sh", "say berth 7\n");
    check_holds("quay/kiosk.ini", "[quays]\ndefault = 3\n");
    check_holds("quay/north/tides.log", "tide 1\nberth 4 is open\nberth 5 is shut\nberth 9\n");
    pty_do(p, "<Enter>");
    SHOWS(p, "tide 1");
    pty_do(p, "<Esc>sj");
    SHOWS(p, "Not replaced: "); /* they stay listed */
    pty_do(p, "<Esc><wait><Esc>ff<Down>zoo<Enter>");
    SHOWS(p, "# quay");
    SHOWS(p, "say quay 7");
    pty_do(p, "<Ctrl+Z>");
    SHOWS(p, "say berth 7");
    SHOWS(p, "# berth");
    pty_leave(p);
}

/* One finds no room on the disk: the others are done, and it is open with its changes. */
TEST(replacing_without_room)
{
    make_quay();
    CHECK(check_shell("cd \"$F\"/quay && { echo berth; seq 20000; } >large.txt"));
    const char *args[] = {"-c", "ulimit -f 100; exec " SQUILL " --plain quay/motd", NULL};
    Pty *p = pty_start("/bin/sh", 24, 100, args);
    SHOWS(p, "no such");
    pty_do(p, "<Esc>spberth<Enter>pier<Enter><Enter>");
    SHOWS(p, "5 lines in 4 of 5 files. Passed over: "); /* the end of the search */
    pty_do(p, "<Enter>");
    SHOWS(p, "Replace 5 places in 4 files");
    pty_do(p, "<wait>s");
    SHOWS(p, "Not replaced: ");
    SHOWS(p, "it was not saved, and is open with the changes");
    SHOWS(p, "Replaced 4 places in 3 files; 1 file not");
    check_holds("quay/zoo.sh", "say pier 7\n");
    CHECK(check_shell("head -n 1 \"$F\"/quay/large.txt | grep -q berth"));
    pty_do(p, "<Enter>");
    SHOWS(p, "large.txt");
    SHOWS(p, "pier");
    SHOWS(p, "changed");
    pty_leave(p);
}

/* Only root may write one of them: that is asked as always, and the rest goes on. */
TEST(replacing_as_root)
{
    make_quay();
    if (!pty_make_sudo()) {
        check_skip("only root can make a stand-in for sudo");
        return;
    }
    CHECK(check_shell(
        "cd \"$F\" && chown -R nobody quay && chown 0:0 quay/kiosk.ini quay && chmod 755 quay && chmod 644 "
        "quay/kiosk.ini"));
    pty_env("LOGNAME", "kai");
    const char *args[] = {"-c", pty_as_nobody("quay/motd"), NULL};
    Pty *p = pty_start("/bin/sh", 24, 100, args);
    SHOWS(p, "no such");
    replace_berths(p, "pier");
    pty_do(p, "<Enter>");
    SHOWS(p, "Replace 4 places in 3 files");
    pty_do(p, "<wait>s");
    SHOWS(p, "No permission to write kiosk.ini; sudo can.");
    pty_do(p, "<wait>");
    pty_send(p, "r", 1);
    SHOWS(p, "password 0:");
    pty_others(p, "harbour\r");
    SHOWS(p, "Replaced 4 places in 3 files");
    check_holds("quay/kiosk.ini", "[piers]\ndefault = 3\n");
    check_holds("quay/north/tides.log", "tide 1\npier 4 is open\npier 5 is shut\n");
    check_holds("quay/zoo.sh", "say pier 7\n");
    LEAVE(p);
}

TEST(commands_below_a_folder)
{
    make_quay();
    CHECK_INT(check_shell_said(SQUILL " --do 'replace-all berth quay; save' --below quay"), 0);
    CHECK(check_said("quay/kiosk.ini: Replaced 1 place"));
    CHECK(check_said("quay/north/tides.log: Replaced 2 places"));
    CHECK(check_said("4 text files below quay"));
    CHECK(!check_said("motd"));
    check_holds("quay/north/tides.log", "tide 1\nquay 4 is open\nquay 5 is shut\n");
    check_holds("quay/motd", "no such\n");
    CHECK_INT(check_shell_said(
                  SQUILL " --dry-run --do 'replace-all quay pier; save' --below 'quay/*.ini' quay/zoo.sh"),
              0);
    CHECK(check_said("+[piers]"));
    CHECK(check_said("1 text file below"));
    CHECK(!check_said("tides"));
    check_holds("quay/kiosk.ini", "[quays]\ndefault = 3\n");
    CHECK_INT(check_shell_said(SQUILL " --do save --below nowhere"), 1);
    CHECK(check_said("There is no folder nowhere"));
    CHECK_INT(check_shell_said(SQUILL " --do save --below ssh://tern/etc"), 1);
    CHECK(check_said("this machine only"));
}
