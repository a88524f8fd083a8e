#include "check.h"
#include "base/paths.h"
#include "base/system.h"
#include "files/save.h"
#include "files/text_format.h"
#include "kinds/kinds.h"

#include <fcntl.h>
#include <grp.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <sys/xattr.h>
#include <unistd.h>

static bool save_string(const char *path, const char *s, Err *e)
{
    Text t = {0};
    DiskState disk;
    text_insert(&t, 0, s, strlen(s));
    bool ok = save_file(path, t, NULL, &disk, e);
    text_drop(&t);
    return ok;
}

static void holds(const char *path, const char *want)
{
    size_t n;
    char *bytes = check_read(path, &n);
    CHECK_BYTES(bytes, n, want, strlen(want));
}

static unsigned entries(void)
{
    char command[256];
    snprintf(command, sizeof command, "ls -A %s | wc -l", check_folder());
    FILE *f = popen(command, "r");
    unsigned n = 0;
    if (!f || fscanf(f, "%u", &n) != 1)
        n = 999;
    if (f)
        pclose(f);
    return n;
}

TEST(bytes_come_back)
{
    static const struct {
        const char *bytes;
        size_t n;
    } cases[] = {{"", 0},   {"x", 1},     {"a\r\nb\r\nlast", 10}, {"\xff\xfe\x00z\n\n", 6},
                 {"\n", 1}, {"a\0\0b", 4}};
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Text t;
        DiskState disk;
        Err e;
        size_t n;
        const char *path = check_path("same");
        check_write(path, cases[i].bytes, cases[i].n);
        CHECK(load_file(path, &t, &disk, &e) && disk.exists);
        CHECK_INT(text_len(t), cases[i].n);
        CHECK(save_file(path, t, NULL, &disk, &e));
        char *back = check_read(path, &n);
        CHECK_BYTES(back, n, cases[i].bytes, cases[i].n);
        text_drop(&t);
    }
}

TEST(mode_and_owner_stay)
{
    Err e = {""};
    struct stat st;
    const char *path = check_path("secret");
    check_write(path, "old", 3);
    chmod(path, 0640);
    bool root = geteuid() == 0;
    if (root)
        CHECK_INT(chown(path, 12, 34), 0);
    CHECK(save_string(path, "new", &e));
    CHECK(stat(path, &st) == 0 && (st.st_mode & 07777) == 0640);
    if (root)
        CHECK(st.st_uid == 12 && st.st_gid == 34);
    holds(path, "new");
    CHECK_INT(entries(), 1);
    mode_t mask = umask(027);
    CHECK(save_string(check_path("fresh"), "x", &e));
    umask(mask);
    CHECK(stat(check_path("fresh"), &st) == 0);
    CHECK_INT(st.st_mode & 07777, 0666 & ~system_umask()); /* asked once in a process */
}

TEST(links_stay)
{
    Err e = {""};
    struct stat a, b;
    check_write(check_path("real"), "old", 3);
    CHECK_INT(link(check_path("real"), check_path("second")), 0);
    CHECK_INT(symlink("real", check_path("soft")), 0);
    CHECK(save_string(check_path("real"), "hard", &e));
    holds(check_path("second"), "hard");
    CHECK(stat(check_path("real"), &a) == 0 && stat(check_path("second"), &b) == 0 && a.st_ino == b.st_ino);
    CHECK(save_string(check_path("soft"), "s", &e));
    holds(check_path("real"), "s");
    CHECK(lstat(check_path("soft"), &a) == 0 && S_ISLNK(a.st_mode));
    unlink(check_path("second"));
    CHECK(save_string(check_path("soft"), "soft", &e));
    CHECK(lstat(check_path("soft"), &a) == 0 && S_ISLNK(a.st_mode));
    holds(check_path("real"), "soft");
    CHECK_INT(symlink("not-yet", check_path("dangling")), 0);
    CHECK(save_string(check_path("dangling"), "new", &e));
    holds(check_path("not-yet"), "new");
    CHECK_INT(entries(), 4);
}

/* Runs as another user where the tests run as root: root may do everything. */
TEST(folders_that_cannot_be_written)
{
    const char *folder = check_path("shut"), *path = check_path("shut/file");
    mkdir(folder, 0755);
    check_write(path, "old", 3);
    chmod(path, 0666);
    chmod(folder, 0555);
    chmod(check_folder(), 0755);
    fflush(NULL);
    pid_t child = fork();
    if (child == 0) {
        Err e = {""};
        if (geteuid() == 0 && setuid(65534) != 0)
            _exit(9);
        bool in_place = save_string(path, "longer than before", &e);
        bool refused = !save_string(check_path("shut/new"), "x", &e) && strstr(e.text, "no permission");
        _exit(in_place && refused ? 0 : 1);
    }
    int status = -1;
    waitpid(child, &status, 0);
    CHECK_INT(status, 0);
    holds(path, "longer than before");
    chmod(folder, 0755);
}

TEST(what_is_no_file_is_refused)
{
    Text t;
    DiskState disk;
    Err e = {""};
    CHECK(!load_file(check_folder(), &t, &disk, &e) && strstr(e.text, "folder"));
    CHECK(!load_file("/dev/null", &t, &disk, &e) && strstr(e.text, "device"));
    CHECK_INT(mkfifo(check_path("pipe"), 0600), 0);
    CHECK(!load_file(check_path("pipe"), &t, &disk, &e) && strstr(e.text, "pipe"));
    check_write(check_path("file"), "x", 1);
    CHECK(!load_file(check_path("file/x"), &t, &disk, &e));
    CHECK(load_file(check_path("none"), &t, &disk, &e) && !disk.exists);
    CHECK(!save_string(check_path("nowhere/x"), "x", &e) && strstr(e.text, "was not saved"));
    CHECK(load_file("/proc/self/status", &t, &disk, &e) && text_len(t) > 100);
    text_drop(&t);
}

TEST(forms_and_kinds)
{
    static const struct {
        const char *text, *ends;
        bool utf8, tabs;
        unsigned indent;
    } forms[] = {
        {"", "lf", true, false, 4},
        {"a\nb\n", "lf", true, false, 4},
        {"a\r\nb\r\n", "crlf", true, false, 4},
        {"a\r\nb\n", "mixed ends", true, false, 4},
        {"a:\n  b:\n    c\n  d\n", "lf", true, false, 2},
        {"a:\n\tb\n\tc\n", "lf", true, true, 8},
        {"\xff\n", "lf", false, false, 4},
        {"grüße\n", "lf", true, false, 4},
    };
    for (size_t i = 0; i < sizeof forms / sizeof *forms; i++) {
        Text t = {0};
        check_case(forms[i].text);
        text_insert(&t, 0, forms[i].text, strlen(forms[i].text));
        TextFormat f = text_format_of(t);
        CHECK_STR(text_format_ends_name(&f), forms[i].ends);
        CHECK(f.utf8 == forms[i].utf8 && f.tabs == forms[i].tabs);
        CHECK_INT(f.indent, forms[i].indent);
        text_drop(&t);
    }
    static const struct {
        const char *path, *head, *kind;
    } kinds[] = {
        {"/x/kiosk.ini", "", "ini"},
        {NULL, "#!/bin/sh\n", "shell"},
        {"/x/run", "#!/usr/bin/env python3\n", "python"},
        {"/etc/hosts", "", "hosts"},
        {"/x/a.yml", "", "yaml"},
        {"/x/none", "#!", "text"},
        {"/x.d/noext", "", "text"},
        {"/x/night.crontab", "", "schedule"},
    };
    for (size_t i = 0; i < sizeof kinds / sizeof *kinds; i++)
        CHECK_STR(kind_of(kinds[i].path, kinds[i].head, strlen(kinds[i].head))->name, kinds[i].kind);
}

TEST(paths)
{
    CHECK_INT(chdir("/tmp"), 0);
    static const struct {
        const char *given, *full;
    } cases[] = {
        {"x", "/tmp/x"}, {"./x", "/tmp/x"},          {"/tmp/../tmp/x", "/tmp/x"},
        {"/", "/"},      {"/none/../a/./b", "/a/b"}, {"..", "/"},
        {"/x", "/x"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char *full = path_full(cases[i].given);
        check_case(cases[i].given);
        CHECK_STR(full, cases[i].full);
        free(full);
    }
}

/* Access lists and labels are extended attributes; what can be set here must come along. */
TEST(attributes_and_links_stay)
{
    Err e = {""};
    struct stat before, after;
    char value[16] = "";
    const char *path = check_path("labelled"), *link_path = check_path("second");
    check_write(path, "old", 3);
    bool can = setxattr(path, "user.quay", "north", 5, 0) == 0;
    CHECK(save_string(path, "fresh", &e));
    if (can)
        CHECK(getxattr(path, "user.quay", value, sizeof value) == 5 && memcmp(value, "north", 5) == 0);
    CHECK(link(path, link_path) == 0 && stat(path, &before) == 0);
    CHECK(save_string(path, "both", &e));
    holds(link_path, "both");
    CHECK(stat(path, &after) == 0 && before.st_ino == after.st_ino);
    CHECK_INT(entries(), 2); /* and nothing else is left */
}

/* Their own files keep special bits, which the system takes away from what is written to. */
TEST(set_user_id_bits_stay)
{
    Err e = {""};
    struct stat st;
    static const mode_t modes[] = {04755, 02711, 06750, 01644};
    CHECK(chmod(check_folder(), 0777) == 0);
    for (size_t i = 0; i < 2 * sizeof modes / sizeof *modes; i++) {
        const char *path = check_path(i % 2 ? "linked.sh" : "alone.sh");
        mode_t mode = modes[i / 2];
        unlink(path);
        check_write(path, "old", 3);
        if (geteuid() == 0)
            CHECK(chown(path, 65534, 65534) == 0);
        CHECK(chmod(path, mode) == 0);
        if (i % 2) /* it will be written in place */
            CHECK(link(path, check_path("other")) == 0);
        pid_t child = fork();
        if (child == 0) {
            if (geteuid() == 0 && (setgroups(0, NULL) != 0 || setgid(65534) != 0 || setuid(65534) != 0))
                _exit(2);
            _exit(save_string(path, "fresh", &e) ? 0 : 1);
        }
        int status;
        CHECK(waitpid(child, &status, 0) == child && status == 0);
        CHECK(stat(path, &st) == 0 && (st.st_mode & 07777) == mode);
        holds(path, "fresh");
        unlink(check_path("other"));
    }
}

/* Who asks for one file does not get another written that was put in its place. */
TEST(only_the_file_that_is_meant)
{
    Err e = {""};
    Text t = {0};
    DiskState then = {0}, disk = {0};
    SaveWish wish = {.only = &then};
    const char *path = check_path("pier.conf"), *other = check_path("guarded.conf");
    check_write(path, "a", 1);
    check_write(other, "b", 1);
    then = disk_look(path);
    CHECK(text_insert(&t, 0, "c", 1) && save_file(path, t, &wish, &disk, &e));
    then = disk;
    CHECK(rename(path, check_path("away")) == 0 && symlink(other, path) == 0);
    CHECK(!save_file(path, t, &wish, &disk, &e) && strstr(e.text, "was replaced"));
    holds(other, "b");
    CHECK(unlink(other) == 0 && !save_file(path, t, &wish, &disk, &e));
    then = (DiskState){0}; /* a link to nothing is no missing file */
    CHECK(!save_file(path, t, &wish, &disk, &e) && access(other, F_OK) != 0);
    text_drop(&t);
}

TEST(backups)
{
    Err e = {""};
    Text t = {0};
    DiskState disk;
    struct stat st;
    const char *path = check_path("fares");
    check_write(path, "0", 1);
    chmod(path, 0640);
    for (int i = 1; i < 6; i++) {
        SaveWish wish = {.backup = BACKUP_NUMBERED, .keep = 2};
        char digit = (char)('0' + i);
        text_drop(&t);
        CHECK(text_insert(&t, 0, &digit, 1));
        CHECK(save_file(path, t, &wish, &disk, &e));
    }
    holds(path, "5");
    holds(check_path("fares.old-5"), "4");
    holds(check_path("fares.old-4"), "3");
    CHECK(stat(check_path("fares.old-5"), &st) == 0 && (st.st_mode & 0777) == 0640);
    CHECK_INT(entries(), 3);
    SaveWish one = {.backup = BACKUP_ONE};
    CHECK(link(path, check_path("linked")) == 0); /* written in place: the backup is a copy */
    CHECK(save_file(path, t, &one, &disk, &e) && save_file(path, t, &one, &disk, &e));
    holds(check_path("fares.old"), "5");
    CHECK_INT(entries(), 5);
    /* in a folder of one's own */
    Bytes there = {0};
    SaveWish away = {.backup = BACKUP_NUMBERED, .keep = 2, .folder = check_path("kept/here")};
    for (int i = 0; i < 4; i++)
        CHECK(save_file(path, t, &away, &disk, &e));
    bytes_printf(&there, "%s%s.old-4", away.folder, path);
    holds(there.at, "5");
    *strrchr(there.at, '4') = '2'; /* two are kept */
    CHECK(access(there.at, F_OK) != 0);
    CHECK_INT(entries(), 6);
    away.folder = "/dev/null/kept"; /* no backup, no saving */
    CHECK(!save_file(path, t, &away, &disk, &e) && strstr(e.text, "no backup could be made"));
    CHECK(strstr(e.text, "/dev/null/kept"));
    bytes_free(&there);
    text_drop(&t);
}
