/* Checkers: what they find in right and wrong texts, how what they found follows the text. */
#include "check.h"
#include "editors.h"
#include "app/app.h"
#include "kinds/checks.h"
#include "kinds/meaning.h"
#include "kinds/schedule.h"
#include "session/checking.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* Everything that the parts of the program find, as "line:column words". */
static void found_in(const char *kind, const char *text, Bytes *out)
{
    size_t n;
    Problems all = {0};
    const Check *checks = checks_of(kind_named(kind), &n, NULL);
    for (size_t i = 0; i < n; i++)
        if (checks[i].fields)
            fields_check(text, strlen(text), checks[i].fields, &all);
        else if (checks[i].part)
            checks[i].part(text, strlen(text), &all);
    for (size_t i = 0; i < all.n; i++)
        bytes_printf(out, "%zu:%zu %s\n", all.at[i].line, all.at[i].column, all.at[i].words);
    problems_free(&all);
}

static const struct {
    const char *kind, *text, *want; /* parts of what is found, in order, with | between; "": nothing */
} texts[] = {
    {"json", "{\"berth\": [1, 2, {\"tide\": null}]}", ""},
    {"json", "", ""},
    {"json", " \n", ""},
    {"json", "4", ""},
    {"json", "{\"a\": 1,}", "1:9 "},
    {"json", "{\n  \"a\": 1\n  \"b\": 2\n}", "3:5 "},
    {"json", "{\"a\": 1, \"a\": 2}", "duplicate"},
    {"json", "{\"a\": 1} x", "end of file expected"},
    {"json", "{\"a\": \"x\ty\"}", "control character"},
    {"json-with-comments", "// berths\n{\"a\": 1, /* two\n lines */ \"b\": [2,], }\n", ""},
    {"json-with-comments", "{\"a\": \"// no comment\" \"b\"}", "1:"},
    {"yaml", "a: 1\nb: [1, 2]\n---\nc: {d: e}\n", ""},
    {"yaml", "a: 1\nb: 2\na: 3\n", "3:1 the key “a” stands here twice"},
    {"yaml", "x:\n  - a: 1\n    b: 2\n  - a: 1\n", ""},
    {"yaml", "x: {a: 1, a: 2}\n", "1:11 the key"},
    {"yaml", "a: [1\nb: 2\n", "2:"},
    {"yaml", "a:\n\t- b\n", "2:1 "},
    {"yaml", "? {a: 1}\n: x\na: 2\na: 3\n", "4:1 the key"},
    {"yaml", "base: &b {a: 1}\nx:\n  <<: *b\n  <<: *b\n", ""},
    {"xml", "<a><b/></a>", ""},
    {"xml", "<a><b></a>", "1:9 mismatched tag"},
    {"xml", "<a>&tide;</a>", "undefined entity"},
    {"xml", "", "no element found"},
    {"ini", "[a]\nx = 1\n[b]\nx = 2\n# x = 3\n", ""},
    {"ini", "[a]\nx = 1\ny = 2\nx=3\n", "4:1 “x” stands in this section already, in line 2"},
    {"ini", "[a\nx = 1\n", "1:1 the section is not closed"},
    {"schedule", "# night\nMAILTO=mira\n*/5 0-6,22 1 jan-mar mon,fri /x % y\n@daily /y\n", ""},
    {"schedule", "60 * * * * /x\n", "1:1 “60” is no minute: 0 to 59"},
    {"schedule", "0 24 * * * /x\n", "1:3 “24” is no hour"},
    {"schedule", "0 0 0 * * /x\n", "1:5 “0” is no day"},
    {"schedule", "0 0 * 13 * /x\n", "is no month"},
    {"schedule", "0 0 * * 8 /x\n", "is no day of the week"},
    {"schedule", "30-10 * * * * /x\n", "(the range goes backwards)"},
    {"schedule", "*/0 * * * * /x\n", "(what follows / is no step)"},
    {"schedule", "5/10 * * * * /x\n", "(a step is for a range or *)"},
    {"schedule", "1,,2 * * * * /x\n", "is no minute"},
    {"schedule", "0 3 * *\n", "the field day of the week is missing: there are 4 of 6"},
    {"schedule", "0 3 * * *\n", "the field command is missing"},
    {"system-schedule", "0 3 * * * root /x\n", ""},
    {"system-schedule", "0 3 * * * /usr/bin/tide\n", "the field command is missing"},
    {"system-schedule", "0 3 * * * /usr/bin/tide now\n", "“/usr/bin/tide” is no user"},
    {"fstab", "# x\nUUID=4 / ext4 defaults 0 1\nkiosk:/srv /mnt nfs\n", ""},
    {"fstab", "/dev/sda1 mnt ext4 defaults 0 1\n", "“mnt” is no mount point"},
    {"fstab", "/dev/sda1 /mnt\n", "the field type is missing"},
    {"fstab", "/dev/sda1 /mnt ext4 defaults x 1\n", "“x” is no dump"},
    {"passwd", "mira:x:1000:1000:Mira,,,:/home/mira:/bin/bash\n+::::::\n", ""},
    {"passwd", "mira:x:1000:1000:Mira:/home/mira\n", "the field shell is missing"},
    {"passwd", "mira:x:ten:1000::/home/mira:/bin/sh\n", "“ten” is no user id"},
    {"passwd", "mira:x:1:1::/home/mira:/bin/sh:x\n", "there are 8 fields, and 7 are expected"},
    {"group", "quay:x:100:mira,kai\nwheel:!::\n", ""},
    {"group", "quay:x:100\n", "the field members is missing"},
    {"group", "quay:x:100:mira kai\n", "“mira kai” is no members"},
    {"services", "# x\ntide 4711/tcp high-water # berths\n", ""},
    {"services", "tide 4711/\n", "“4711/” is no port and protocol"},
    {"resolv", "nameserver 10.20.3.2\n; x\noptions rotate\n", ""},
    {"resolv", "nameservr 10.20.3.2\n", "“nameservr” is no setting"},
    {"resolv", "nameserver\n", "the field value is missing"},
    {"nsswitch", "passwd: files systemd\nhosts: files [NOTFOUND=return] dns\n", ""},
    {"nsswitch", "passwd files\n", "“passwd” is no database"},
    {"limits", "@quay hard nofile 4096 # all of them\n* - core 0\n", ""},
    {"limits", "mira hard nofiles 4096\n", "“nofiles” is no item"},
    {"limits", "mira hard nofile many\n", "“many” is no value"},
    {"limits", "mira hard nofile\n", "the field value is missing"},
    {"exports", "/srv/harrow 10.20.3.0/24(rw,sync) tern(ro) # x\n/srv (ro)\n/a\n", ""},
    {"exports", "/srv/harrow tern (rw)\n",
     "“tern (rw)” is no clients: such as 10.20.3.0/24(rw,sync), with no blank"},
    {"sysctl", "# x\n; y\nnet.ipv4.ip_forward = 1\n-kernel.x=a=b\n", ""},
    {"sysctl", "net.ipv4.ip_forward 1\n", "the field value is missing"},
    {"sysctl", "net ipv4 = 1\n", "is no setting"},
    {"authorized-keys",
     "ssh-ed25519 AAAAC3Nza+/= mira@tern\n"
     "from=\"10.20.3.*\",command=\"/bin/tide \\\"x y\\\"\" ssh-rsa AAAA kai\n# x\n",
     ""},
    {"authorized-keys", "ssh-ed25519\n", "is no key"},
    {"authorized-keys", "ssh-rsa AAAA\nBBBB mira\n", "2:1 "},
    {"sources",
     "deb https://deb.harrow.example/x stable main contrib # x\n"
     "deb-src [arch=amd64 signed-by=/usr/x.gpg] http://deb.harrow.example/x stable main\n",
     ""},
    {"sources", "deb stable main\n", "is no source"},
    {"hosts", "10.20.3.17 kiosk kiosk.harrow\n::1 localhost # x\n", ""},
    {"hosts", "10.20.3.17\n", "the field names is missing"},
    {"hosts", "10.20.3 kiosk\n", "“10.20.3” is no address"},
};

TEST(texts_are_checked)
{
    for (size_t i = 0; i < sizeof texts / sizeof *texts; i++) {
        Bytes found = {0};
        char name[200];
        snprintf(name, sizeof name, "%s: %.100s", texts[i].kind, texts[i].text);
        check_case(name);
        found_in(texts[i].kind, texts[i].text, &found);
        if (!texts[i].want[0])
            CHECK_STR(bytes_str(&found), "");
        else
            check_result(strstr(bytes_str(&found), texts[i].want) != NULL, __FILE__, __LINE__,
                         "found “%s”, wanted “%s”", bytes_str(&found), texts[i].want);
        bytes_free(&found);
    }
    check_case(NULL);
}

/* Any bytes may come. */
TEST(random_bytes_are_checked)
{
    static const char *const kinds[] = {"json",     "json-with-comments", "yaml",  "xml",    "ini",
                                        "schedule", "system-schedule",    "fstab", "passwd", "hosts"};
    static const char signs[] = "{}[]\",: \n\t/*<>&;=-#'!|%0123456789abc\\\x01\xff\xc3";
    for (int round = 0; round < 4000; round++) {
        char text[120];
        size_t n = check_random(sizeof text - 1);
        for (size_t i = 0; i < n; i++)
            text[i] = signs[check_random(sizeof signs)];
        text[n] = 0;
        Bytes found = {0};
        found_in(kinds[check_random(10)], text, &found);
        bytes_free(&found);
    }
}

/* What other programs say is read by the kind's expression, however odd it is. */
TEST(outputs_are_read)
{
    static const struct {
        const char *kind, *output, *want;
    } cases[] = {
        {"sudoers", "stdin:3:9: syntax error\nkai ALL=(ALL NOPASSWD ALL\n        ^~~~\n", "3:9 syntax error"},
        {"sudoers", "stdin: parsed OK\n", ""},
        {"sshd",
         "/tmp/x/sshd_config: line 4: Bad configuration option: Prot\n"
         "/tmp/x/sshd_config: terminating, 1 bad configuration options\n",
         "4:0 Bad configuration option: Prot"},
        {"shell", "bash: line 7: syntax error near unexpected token `done'\nbash: line 7: `done'\n",
         "7:0 syntax error near unexpected token `done'"},
        {"python", "3:5: invalid syntax\n", "3:5 invalid syntax"},
        {"python", "3:5: bad \033[31m name\001\n", "3:5 bad  [31m name "},
        {"nftables", "/tmp/x/nftables.conf:2:7-9: Error: syntax error, unexpected newline\n",
         "2:7 syntax error"},
        {"python", "99999999999999999999:1: x\n", ":1 x"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        size_t n;
        Problems all = {0};
        Bytes found = {0};
        const Check *checks = checks_of(kind_named(cases[i].kind), &n, NULL);
        check_case(cases[i].output);
        for (size_t k = 0; k < n; k++)
            if (checks[k].run)
                check_read_output(&checks[k], cases[i].output, strlen(cases[i].output), &all);
        for (size_t k = 0; k < all.n; k++)
            bytes_printf(&found, "%zu:%zu %s\n", all.at[k].line, all.at[k].column, all.at[k].words);
        check_result(cases[i].want[0] ? strstr(bytes_str(&found), cases[i].want) != NULL : found.len == 0,
                     __FILE__, __LINE__, "read “%s”, wanted “%s”", bytes_str(&found), cases[i].want);
        bytes_free(&found);
        problems_free(&all);
    }
    check_case(NULL);
}

/* A checker of shell scripts is for those that it knows. */
TEST(checkers_fit_their_files)
{
    static const struct {
        const char *path, *head;
        bool first, second; /* bash, shellcheck */
    } cases[] = {
        {"/x/a.sh", "#!/bin/sh\n", true, true},
        {"/x/a", "#! /usr/bin/env bash -e\necho", true, true},
        {"/x/a", "#!/bin/zsh\n", false, false},
        {"/x/a", "#!/usr/bin/fish\n", false, false},
        {"/x/.bashrc", "alias x=y\n", true, false},
        {"/x/.zshrc", "alias x=y\n", false, false},
        {NULL, "", true, false},
    };
    size_t n;
    const Check *checks = checks_of(kind_named("shell"), &n, NULL);
    CHECK_INT(n, 2);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].head);
        CHECK(check_fits(&checks[0], cases[i].path, cases[i].head, strlen(cases[i].head)) == cases[i].first);
        CHECK(check_fits(&checks[1], cases[i].path, cases[i].head, strlen(cases[i].head)) == cases[i].second);
    }
    check_case(NULL);
}

static Editor *checked(const char *kind, const char *text)
{
    Editor *ed = editors_start(text, strlen(text), 24, 100);
    openfile_set_kind(ed->panes.view->file, kind_named(kind));
    CHECK(checking_begin(ed->session, ed->panes.view->file, false));
    checking_finish(ed->session, ed->panes.view->file, (Stop){0});
    return ed;
}

/* What was found moves with the text, and goes when its place is changed. */
TEST(problems_follow_the_text)
{
    Editor *ed = checked("schedule", "0 1 * * * /a\n60 1 * * * /b\n0 99 * * * /c\n");
    OpenFile *f = ed->panes.view->file;
    size_t n;
    const FileProblem *all = checking_problems(f, &n);
    CHECK_INT(n, 2);
    CHECK_INT(all[0].from, 13);
    CHECK_INT(all[0].to, 15);
    editors_press(ed, "# Enter");
    all = checking_problems(f, &n);
    CHECK_INT(n, 2);
    CHECK_INT(all[0].from, 15);
    CHECK(editors_show(ed, "2 problems"));
    CHECK(strstr(editors_row(ed, 3), " 3 !60 1"));
    editors_press(ed, "F4");
    CHECK_INT(ed->panes.view->cursor.at, 15);
    CHECK(strstr(ed->notices.text, "“60” is no minute"));
    editors_press(ed, "F4");
    CHECK_INT(ed->panes.view->cursor.at, 31);
    editors_press(ed, "Shift+F4 5 Delete Delete");
    all = checking_problems(f, &n);
    CHECK_INT(n, 1);
    CHECK(!checking_is_current(f, false));
    editors_press(ed, "Ctrl+End");
    editors_now += 2500;
    app_tick(ed, editors_now);
    CHECK(editors_show(ed, "1 problem"));
    editors_press(ed, "Esc t b");
    CHECK(editors_show(ed, "“99” is no hour: 0 to 23 or *"));
    editors_press(ed, "Enter");
    CHECK(!ed->layer);
    app_free(ed);
}

/* Against a model: places of problems after random changes. */
TEST(problems_stay_at_their_words)
{
    for (int round = 0; round < 300; round++) {
        Editor *ed =
            checked("schedule", "0 1 * * * /a\n60 1 * * * /b\n0 1 * * * /c\n0 1 * * * /d\n99 1 * * * /e\n");
        OpenFile *f = ed->panes.view->file;
        for (int i = 0; i < 12; i++) {
            size_t len = text_len(doc_text(f->doc)), at = check_random((unsigned)len + 1), n;
            size_t removed = check_random(4) == 0 && at < len ? 1 : 0;
            if (check_random(8) == 0)
                doc_undo(f->doc, &at);
            else
                CHECK(doc_replace(f->doc, at, removed, "x", check_random(2), STEP_WHOLE, at));
            const FileProblem *all = checking_problems(f, &n);
            CHECK(n <= 2);
            for (size_t k = 0; k < n; k++) {
                char two[3] = "";
                CHECK(all[k].to <= text_len(doc_text(f->doc)) && all[k].from < all[k].to);
                text_read(doc_text(f->doc), all[k].from, two, 2);
                CHECK(strcmp(two, "60") == 0 || strcmp(two, "99") == 0);
            }
        }
        app_free(ed);
        if (check_failed())
            break;
    }
}

/* ---- what is told of a place ---- */

TEST(next_run_of_a_schedule)
{
    /* From Fri 27 Nov 2026, 13:10:20 UTC. */
    static const struct {
        const char *line, *next;
    } cases[] = {
        {"30 3 * * * /x", "Sat 28 Nov 2026 03:30"},
        {"*/15 * * * * /x", "Fri 27 Nov 2026 13:15"},
        {"10 13 * * * /x", "Sat 28 Nov 2026 13:10"},
        {"11 13 * * * /x", "Fri 27 Nov 2026 13:11"},
        {"0 0 1 * * /x", "Tue 1 Dec 2026 00:00"},
        {"0 6 * * tue /x", "Tue 1 Dec 2026 06:00"},
        {"0 6 * * 7 /x", "Sun 29 Nov 2026 06:00"},
        {"0 6 31 * * /x", "Thu 31 Dec 2026 06:00"},
        {"0 6 29 feb * /x", "Tue 29 Feb 2028 06:00"},
        {"0 6 1 * sat /x", "Sat 28 Nov 2026 06:00"},
        {"0 6 1 * 1-5 /x", "Mon 30 Nov 2026 06:00"},
        {"0 8-18/5 * * * /x", "Fri 27 Nov 2026 18:00"},
        {"5,50 13 27 11 * /x", "Fri 27 Nov 2026 13:50"},
        {"0 6 31 2 * /x", ""},
        {"@hourly /x", "Fri 27 Nov 2026 14:00"},
        {"@weekly /x", "Sun 29 Nov 2026 00:00"},
        {"@reboot /x", ""},
        {"MAILTO=mira", ""},
        {"# 1 2 3 4 5 /x", ""},
    };
    setenv("TZ", "UTC", 1);
    tzset();
    const Fields *f = fields_of(kind_named("schedule"), NULL);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        time_t next = 0;
        char words[60] = "";
        check_case(cases[i].line);
        if (schedule_next(f, cases[i].line, strlen(cases[i].line), 1795785020, &next))
            strftime(words, sizeof words, "%a %-d %b %Y %H:%M", gmtime(&next));
        CHECK_STR(words, cases[i].next);
    }
    check_case(NULL);
}

TEST(meanings_of_words)
{
    static const struct {
        const char *word, *want;
    } cases[] = {
        {"0644", "0644 is rw-r--r--"},
        {"0750", "0750 is rwxr-x---"},
        {"4755", "4755 is rwsr-xr-x"},
        {"01777", "01777 is rwxrwxrwt"},
        {"2640", "2640 is rw-r-S---"},
        {"0888", ""},
        {"644", ""},
        {"10.20.3.17/24", "10.20.3.0 to 10.20.3.255, mask 255.255.255.0"},
        {"10.20.3.17/0", "0.0.0.0 to 255.255.255.255, mask 0.0.0.0"},
        {"10.20.3.17/32", "10.20.3.17 to 10.20.3.17, mask 255.255.255.255"},
        {"10.20.3.17/33", ""},
        {"10.20.3.300/24", ""},
        {"/srv/x", ""},
        {"1795785020", "1795785020 is Fri 27 Nov 2026 13:10:20"},
        {"0000000001", ""},
        {"", ""},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Bytes out = {0};
        check_case(cases[i].word);
        meaning_of(cases[i].word, strlen(cases[i].word), &out);
        CHECK_STR(bytes_str(&out), cases[i].want);
        bytes_free(&out);
    }
    check_case(NULL);
}

TEST(fields_are_told_and_gone_to)
{
    static const char text[] = "# night\n30 3 * * sun /usr/bin/tide --log now\nMAILTO=mira\n";
    Editor *ed = editors_start(text, sizeof text - 1, 24, 100);
    openfile_set_kind(ed->panes.view->file, kind_named("schedule"));
    CHECK(!editors_show(ed, "field "));
    editors_press(ed, "Down");
    CHECK(editors_show(ed, "field 1 of 6: minute, 0 to 59 or * · next: S"));
    editors_press(ed, "Esc g i");
    CHECK(editors_show(ed, "field 2 of 6: hour"));
    CHECK_INT(ed->panes.view->cursor.at, 11);
    editors_press(ed, "Esc 2 g i");
    CHECK(editors_show(ed, "field 4 of 6: month"));
    editors_press(ed, "Esc g i Esc g i Esc g i");
    CHECK(strstr(ed->notices.text, "There is no field after this in this line"));
    editors_press(ed, "Esc g u");
    editors_now += 2500;
    app_tick(ed, editors_now);
    CHECK(editors_show(ed, "field 5 of 6"));
    editors_press(ed, "Down");
    CHECK(!editors_show(ed, "field "));
    app_free(ed);
}
