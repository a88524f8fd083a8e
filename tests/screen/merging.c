/* Two who changed the same file: both changes are kept, or a person decides line by line. */
#include "check.h"
#include "drive.h"

#include <stdio.h>
#include <string.h>

static const char base[] = "[display]\nbrightness = 80\nlanguage = en\n\n[network]\naddress = 10.20.0.17\n";

/* Opens the file, changes the brightness, and somebody else changes it meanwhile. */
static Pty *changed_by_both(int rows, int cols, const char *theirs)
{
    check_put("kiosk.ini", base);
    Pty *p = pty_edit_at(rows, cols, "kiosk.ini", NULL);
    pty_do(p, "<Down><End><Backspace><Backspace>95");
    check_put("kiosk.ini", theirs);
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "changed on disk");
    SHOWS(p, "m Merge both");
    pty_do(p, "<wait>m");
    return p;
}

TEST(changes_that_do_not_touch)
{
    Pty *p = changed_by_both(
        24, 80, "[display]\nbrightness = 80\nlanguage = fi\n\n[network]\naddress = 10.20.0.99\ndhcp = no\n");
    SHOWS(p, "Merged 2 changes of the other version; one undo takes that back");
    SHOWS(p, "brightness = 95");
    SHOWS(p, "language = fi");
    SHOWS(p, "dhcp = no");
    pty_do(p, "<Ctrl+Z>");
    SHOWS(p, "language = en");
    HIDES(p, "dhcp");
    SHOWS(p, "brightness = 95");
    pty_do(p, "<Ctrl+Y><Ctrl+S>");
    SHOWS(p, "Saved kiosk.ini"); /* what is on disk is known, so it is not asked about again */
    check_holds("kiosk.ini",
                "[display]\nbrightness = 95\nlanguage = fi\n\n[network]\naddress = 10.20.0.99\ndhcp = no\n");
    LEAVE(p);
}

TEST(lines_that_both_changed)
{
    static const struct {
        const char *keys, *lines;
    } cases[] = {
        {"m", "[display]\nbrightness = 95\nlanguage = en\n"},
        {"t", "[display]\nbrightness = 70\nlanguage = en\n"},
        {"b", "[display]\nbrightness = 95\nbrightness = 70\nlanguage = en\n"},
        {"o", "[display]\nbrightness = 80\nlanguage = en\n"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char want[300];
        check_case(cases[i].keys);
        Pty *p =
            changed_by_both(i ? 24 : 12, i ? 80 : 30,
                            "[display]\nbrightness = 70\nlanguage = en\n\n[network]\naddress = 10.20.0.17\n");
        SHOWS(p, "Both changed these lines");
        SHOWS(p, "=======");
        pty_do(p, cases[i].keys);
        SHOWS(p, "Nothing is marked any more");
        pty_do(p, "<Ctrl+S>");
        SHOWS(p, "Saved kiosk.ini");
        snprintf(want, sizeof want, "%s\n[network]\naddress = 10.20.0.17\n", cases[i].lines);
        check_holds("kiosk.ini", want);
        pty_do(p, "<Ctrl+Z>");
        SHOWS(p, "brightness = 95"); /* one step */
        HIDES(p, "<<<<<<<");
        pty_leave(p);
    }
    check_case(NULL);
}

TEST(places_that_are_left)
{
    Pty *p = changed_by_both(
        24, 100, "[display]\nbrightness = 70\nlanguage = en\n\n[network]\naddress = 10.20.0.17\n");
    SHOWS(p, "1 place to decide");
    pty_do(p, "<Esc>");
    SHOWS(p, "One place is still marked. Esc g x goes to the next one");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Lines in kiosk.ini are still marked as changed by both.");
    pty_do(p, "<Esc>");
    pty_do(p, "<Ctrl+S><wait>g");
    SHOWS(p, "1 place to decide");
    pty_do(p, "e");
    SHOWS(p, "Make it as it is to be, and take the marker lines away");
    pty_do(p, "<Up><Ctrl+End><Esc>gx");
    SHOWS(p, "1 place to decide"); /* around the end */
    pty_do(p, "t");
    SHOWS(p, "Nothing is marked any more");
    pty_do(p, "<Esc>gx");
    SHOWS(p, "No lines are marked as changed by both");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Saved kiosk.ini");
    check_holds("kiosk.ini",
                "[display]\nbrightness = 70\nlanguage = en\n\n[network]\naddress = 10.20.0.17\n");
    LEAVE(p);
}

/* Marks of a version control, and a file that is to have them. */
TEST(marks_of_others)
{
    check_put("berths.txt",
              "one\n<<<<<<< HEAD\nmine 1\n=======\ntheirs 1\n>>>>>>> ferry\ntwo\n<<<<<<< HEAD\nmine "
              "2\n=======\ntheirs 2\n>>>>>>> ferry\n");
    Pty *p = pty_edit("berths.txt", NULL);
    pty_do(p, "<Esc>gx");
    SHOWS(p, "2 places to decide");
    HIDES(p, "The old lines");
    pty_do(p, "b");
    SHOWS(p, "1 place to decide");
    pty_do(p, "<Esc><wait><Ctrl+S><wait>s");
    SHOWS(p, "Saved berths.txt");
    check_holds("berths.txt",
                "one\nmine 1\ntheirs 1\ntwo\n<<<<<<< HEAD\nmine 2\n=======\ntheirs 2\n>>>>>>> ferry\n");
    pty_do(p, "x<Ctrl+S>"); /* it was said once */
    SHOWS(p, "Saved berths.txt");
    LEAVE(p);
}

/* An upgrade left its version beside the file: said once, compared, merged. */
TEST(what_a_package_left)
{
    check_put("sshd.conf", "Port 22\nUseDNS no\n");
    check_put("sshd.conf.dpkg-dist", "Port 22\nUseDNS no\nCompression no\n");
    check_put("sshd.conf.dpkg-old", "Port 2222\n");
    check_put("plain.conf", "a\n");
    check_put("plain.conf.rpmsave", "a\nb\n");
    Pty *p = pty_edit_at(24, 120, "sshd.conf", NULL);
    SHOWS(p, "sshd.conf.dpkg-dist lies beside it, the package's new version");
    pty_do(p, "<F9>c");
    SHOWS(p, "▸ sshd.conf.dpkg-dist");
    SHOWS(p, "the version before the package's");
    pty_do(p, "<Enter>");
    SHOWS(p, "Compression no");
    pty_do(p, "<Esc><wait><Esc>fg");
    SHOWS(p, "sshd.conf.dpkg-dist");
    pty_do(p, "<Enter>");
    SHOWS(p, "1 place to decide");
    pty_do(p, "t<Ctrl+S>");
    SHOWS(p, "Saved sshd.conf");
    check_holds("sshd.conf", "Port 22\nUseDNS no\nCompression no\n");
    LEAVE(p);
    p = pty_edit("plain.conf", NULL);
    SHOWS(p, "plain.conf");
    HIDES(p, "lies beside it"); /* an old one is no news */
    pty_do(p, "x<F9>c");
    SHOWS(p, "plain.conf.rpmsave");
    pty_do(p, "<Esc>");
    LEAVE(p);
}

/* What git has of the file: the last commit, and earlier ones; and nothing of the repository is run. */
TEST(what_was_committed)
{
    if (!check_shell("command -v git >/dev/null")) {
        check_skip("git is not installed");
        return;
    }
    CHECK(check_shell(
        "cd \"$F\" && mkdir -p quay/deep && cd quay && export HOME=\"$F\" GIT_AUTHOR_NAME=mira "
        "GIT_AUTHOR_EMAIL=m@tern GIT_COMMITTER_NAME=mira GIT_COMMITTER_EMAIL=m@tern && git init -q && "
        "echo berth 1 >deep/a.txt && git add . && git commit -qm 'the first berth' && echo berth 2 "
        ">>deep/a.txt && git commit -qam 'one more' && echo berth 3 >>deep/a.txt && "
        "git config core.fsmonitor \"touch $F/ran; false\" && git config core.hooksPath \"$F\" && "
        "git config core.pager \"touch $F/ran\" && git config filter.x.smudge \"touch $F/ran; cat\" && "
        "git config filter.x.clean \"touch $F/ran; cat\" && git config diff.x.textconv \"touch $F/ran; cat\" "
        "&& "
        "echo '* filter=x diff=x' >.gitattributes"));
    Pty *p = pty_edit("quay/deep/a.txt", NULL);
    pty_do(p, "<F9>c");
    SHOWS(p, "the last commit");
    pty_do(p, "last commit<Enter>");
    SHOWS(p, "+ berth 3");
    HIDES(p, "+ berth 2");
    pty_do(p, "cearlier commits<Enter>");
    SHOWS(p, "mira: one more");
    SHOWS(p, "mira: the first berth");
    pty_do(p, "first<Enter>");
    SHOWS(p, "+ berth 2");
    SHOWS(p, "+ berth 3");
    pty_do(p, "<Esc>");
    LEAVE(p);
    CHECK(!check_shell("test -e \"$F\"/ran"));
    check_put("quay/new.txt", "x\n"); /* one that no commit has */
    p = pty_edit("quay/new.txt", NULL);
    pty_do(p, "<F9>clast commit<Enter>");
    SHOWS(p, "git has no answer: ");
    pty_do(p, "<Esc>");
    LEAVE(p);
}

TEST(another_file)
{
    check_put("mine.ini", "a\nb\nc\n");
    check_put("old.ini", "a\nb\n");
    check_put("other.ini", "x\nb\n");
    Pty *p = pty_edit("mine.ini", NULL);
    pty_do(p, "<Esc>fg");
    SHOWS(p, "Merge with:");
    pty_do(p, "other.ini<Enter>");
    SHOWS(p, "2 places to decide"); /* nothing is known to be older */
    pty_do(p, "tm");
    SHOWS(p, "Nothing is marked any more");
    pty_do(p, "<Ctrl+S>");
    check_holds("mine.ini", "x\nb\nc\n");
    pty_do(p, "<Ctrl+Z>");
    LEAVE(p);
    check_put("mine.ini", "a\nb\nc\n");
    p = pty_edit("mine.ini", NULL);
    pty_do(p, "<Ctrl+P>merge other.ini old.ini<Enter>");
    SHOWS(p, "Merged 1 change of the other version");
    pty_do(p, "<Ctrl+S>");
    check_holds("mine.ini", "x\nb\nc\n");
    pty_do(p, "<Ctrl+P>merge nothing.ini<Enter>");
    SHOWS(p, "nothing.ini");
    LEAVE(p);
}

/* In any kind of file, with a colour of their own and among the problems. */
TEST(marks_are_seen)
{
    check_put("notes", "Title\n=======\n<<<<<<< mine\nberth 2\n=======\nberth 3\n>>>>>>> theirs\n");
    pty_theme("terminal");
    Pty *p = pty_edit("notes", NULL);
    SHOWS(p, ">>>>>>> theirs");
    CHECK(strchr(pty_look(p, 3, 6), 'f') != NULL);
    CHECK(strchr(pty_look(p, 5, 6), 'f') != NULL);
    CHECK(strchr(pty_look(p, 2, 6), 'f') == NULL); /* a heading's line */
    pty_do(p, "<F2>");
    SHOWS(p, "1 problem in notes; the first is in line 3: Both changed these lines");
    pty_do(p, "<Esc>gx<wait>m<F2>");
    HIDES(p, "theirs");
    SHOWS(p, "There is no checker for the kind");
    LEAVE(p);
}

/* Earlier saves, commits and a package's version, by time; each is compared, restored, merged. */
TEST(versions_in_one_list)
{
    if (!check_shell("command -v git >/dev/null")) {
        check_skip("git is not installed");
        return;
    }
    CHECK(
        check_shell("cd \"$F\" && export GIT_AUTHOR_NAME=mira GIT_AUTHOR_EMAIL=m@tern.example "
                    "GIT_COMMITTER_NAME=mira GIT_COMMITTER_EMAIL=m@tern.example "
                    "GIT_COMMITTER_DATE='2020-01-01 10:00' && git init -q && echo berth 1 >a.conf && git add "
                    "a.conf && git commit -qm first && echo berth 9 >a.conf.dpkg-dist && touch -d "
                    "'2022-01-01 10:00' a.conf.dpkg-dist && echo 'changes_since = \"commit\"' >set && mkdir "
                    "-p .config/steady-quill && mv set .config/steady-quill/settings.lua && echo berth 2 "
                    ">a.conf"));
    Pty *p = pty_edit("a.conf", NULL);
    SHOWS(p, "1\u258e berth 2"); /* it is not what was committed */
    pty_do(p, "<End>2<Ctrl+S>");
    SHOWS(p, "Saved a.conf");
    SHOWS(p, "1\u258e berth 22");
    pty_do(p, "<Esc>fh");
    SHOWS(p, "1 of 3");
    int save = pty_find(p, "8 bytes"), package = pty_find(p, "a.conf.dpkg-dist, "),
        commit = pty_find(p, "commit, mira: first");
    CHECK(save >= 0 && save < package && package < commit);
    pty_do(p, "<Down><Down><Enter>");
    SHOWS(p, "the commit of");
    pty_do(p, "r");
    SHOWS(p, "The text is as it was then");
    SHOWS(p, "  berth 1");
    HIDES(p, "\u258e");
    pty_do(p, "<Ctrl+Z><Esc>fh<Down><Enter>");
    SHOWS(p, "m Merge");
    pty_do(p, "m");
    SHOWS(p, "Both changed these lines");
    pty_do(p, "<wait>t");
    SHOWS(p, "berth 9");
    HIDES(p, "berth 22");
    pty_do(p, "<Ctrl+Z><F9>c");
    SHOWS(p, "Compare with");
    pty_do(p, "last commit<Enter>m<wait>b"); /* and from there, too */
    SHOWS(p, "berth 22");
    SHOWS(p, "berth 1");
    LEAVE(p);
}
