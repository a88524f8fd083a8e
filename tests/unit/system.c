/* Paths, folders, kinds of files, words for errors. */
#include "check.h"
#include "base/system.h"
#include "base/err.h"
#include "base/folder.h"
#include "base/own_folder.h"
#include "base/paths.h"
#include "base/programs.h"
#include "kinds/kinds.h"

#include <pthread.h>
#include <signal.h>
#include <errno.h>
#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

/* "<folder>" in a pattern stands for the test's folder. */
static char *filled(const char *pattern)
{
    static char out[2][500];
    static int which;
    char *to = out[which = !which];
    const char *mark = strstr(pattern, "<folder>");
    if (mark)
        snprintf(to, sizeof *out, "%.*s%s%s", (int)(mark - pattern), pattern, check_folder(), mark + 8);
    else
        snprintf(to, sizeof *out, "%s", pattern);
    return to;
}

TEST(full_paths)
{
    static const struct {
        const char *given, *full;
    } cases[] = {
        {"a.txt", "<folder>/quay/a.txt"},
        {"./a.txt", "<folder>/quay/a.txt"},
        {"../a.txt", "<folder>/a.txt"},
        {"../quay/./a.txt", "<folder>/quay/a.txt"},
        {".", "<folder>/quay"},
        {"..", "<folder>"},
        {"", "<folder>/quay"},
        {"/", "/"},
        {"/a.txt", "/a.txt"},
        {"//a.txt", "/a.txt"},
        {"<folder>/link/a.txt", "<folder>/quay/a.txt"}, /* a link in its folder part is followed */
        {"../link/../a.txt", "<folder>/a.txt"},
        {"none/at/all/../a.txt", "<folder>/quay/none/at/a.txt"},
        {"/none/../../../a.txt", "/a.txt"},
        {"<folder>/quay/linked.txt", "<folder>/quay/linked.txt"}, /* the last part stays what it is */
        {"two words.txt", "<folder>/quay/two words.txt"},
        {"-", "<folder>/quay/-"},
    };
    mkdir(check_path("quay"), 0700);
    CHECK(symlink("quay", check_path("link")) == 0);
    CHECK(symlink("nowhere", check_path("quay/linked.txt")) == 0);
    CHECK(chdir(check_path("quay")) == 0);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].given);
        char *full = path_full(filled(cases[i].given));
        CHECK_STR(full, filled(cases[i].full));
        free(full);
    }
    CHECK(chdir("/") == 0);
}

TEST(homes_and_own_folders)
{
    static const struct {
        const char *given, *expanded;
    } cases[] = {
        {"~", "/harrow"},
        {"~/a.txt", "/harrow/a.txt"},
        {"~ada/a.txt", "~ada/a.txt"},
        {"a~/b", "a~/b"},
        {"/~/b", "/~/b"},
        {"", ""},
        {"~~", "~~"},
    };
    char *before = getenv("HOME") ? strdup(getenv("HOME")) : NULL;
    setenv("HOME", "/harrow", 1);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char *s = path_expand_home(cases[i].given);
        check_case(cases[i].given);
        CHECK_STR(s, cases[i].expanded);
        free(s);
    }
    static const struct {
        const char *variable, *value, *kind, *folder;
    } own[] = {
        {"XDG_CONFIG_HOME", NULL, "CONFIG", "/harrow/.config/steady-quill"},
        {"XDG_CONFIG_HOME", "/etc/kiosk", "CONFIG", "/etc/kiosk/steady-quill"},
        {"XDG_CONFIG_HOME", "relative", "CONFIG", "/harrow/.config/steady-quill"},
        {"XDG_STATE_HOME", NULL, "STATE", "/harrow/.local/state/steady-quill"},
        {"XDG_STATE_HOME", "/", "STATE", "/steady-quill"},
    };
    for (size_t i = 0; i < sizeof own / sizeof *own; i++) {
        unsetenv(own[i].variable);
        if (own[i].value)
            setenv(own[i].variable, own[i].value, 1);
        char *folder = own_folder_of(own[i].kind);
        CHECK_STR(folder, own[i].folder);
        free(folder);
        unsetenv(own[i].variable);
    }
    /* the folder for state is made, for us only; what is in the way is told */
    Err e = {""};
    struct stat st;
    setenv("HOME", check_folder(), 1);
    char *state = own_folder_of_state(&e);
    CHECK(state && stat(state, &st) == 0 && (st.st_mode & 07777) == 0700);
    CHECK(state && chmod(state, 0755) == 0);
    free(state);
    state = own_folder_of_state(&e);
    CHECK(state && stat(state, &st) == 0 && (st.st_mode & 07777) == 0700);
    free(state);
    setenv("HOME", check_path("file"), 1);
    check_put("file", "in the way");
    CHECK(own_folder_of_state(&e) == NULL && strstr(e.text, "cannot be made") != NULL);
    setenv("HOME", before ? before : "/", 1);
    free(before);
}

TEST(programs_in_the_path)
{
    char path[300], *before = strdup(getenv("PATH"));
    mkdir(check_path("bin"), 0700);
    check_put("bin/horn", "#!/bin/sh\n");
    check_put("bin/silent", "#!/bin/sh\n");
    chmod(check_path("bin/horn"), 0700);
    snprintf(path, sizeof path, "/no/such::%s/bin", check_folder());
    setenv("PATH", path, 1);
    CHECK(programs_has("horn"));
    CHECK(!programs_has("whistle"));
    CHECK(access(check_path("bin/silent"), X_OK) != 0 ? !programs_has("silent") : true);
    CHECK(programs_has(check_path("bin/horn")));
    CHECK(!programs_has(check_path("bin/whistle")));
    setenv("PATH", "", 1);
    CHECK(!programs_has("horn"));
    setenv("PATH", before, 1);
    free(before);
}

TEST(kinds_of_files)
{
    static const struct {
        const char *path, *head, *kind;
    } cases[] = {
        {"/harrow/kiosk.ini", "", "ini"},
        {"berths.yaml", "", "yaml"},
        {"berths.yml", "", "yaml"},
        {"fares.json", "", "json"},
        {"/etc/hosts", "", "hosts"},
        {"harbour.hosts", "", "hosts"},
        {"/etc/fstab", "", "fstab"},
        {"night.crontab", "", "schedule"},
        {"Makefile", "", "make"},
        {"ferry.service", "", "unit"},
        {"tide.log", "", "log"},
        {"announce", "#!/bin/sh\n", "shell"},
        {"announce", "#!/usr/bin/env python3\n", "python"},
        {"announce", "#! /usr/bin/perl -w\n", "perl"},
        {"announce", "#!/usr/bin/env\n", "text"},
        {"announce", "#!", "text"},
        {"announce", "#!/bin/sh\r\n", "shell"},
        {"announce", "#!/opt/harrow/horn\n", "text"},
        {"notes.ini", "#!/bin/sh\n", "shell"}, /* the first line says more than an ending */
        {".profile", "", "shell"},
        {"a.b.c", "", "c"},
        {"ini", "", "text"},
        {"dir.ini/file", "", "text"},
        {"file.", "", "text"},
        {"", "", "text"},
        {NULL, "", "text"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].path ? cases[i].path : "(no name)");
        CHECK_STR(kind_of(cases[i].path, cases[i].head, strlen(cases[i].head))->name, cases[i].kind);
    }
    size_t n = 0;
    for (const Kind *k; (k = kind_number(n)); n++)
        CHECK(kind_named(k->name) == k);
    CHECK(n > 10 && kind_named("no such kind") == NULL);
}

/* Every error that people meet has words of ours: a line without a final stop, nothing of the system's. */
TEST(errors_in_plain_words)
{
    static const int codes[] = {EACCES, EPERM, ENOENT, ENOTDIR, EISDIR, ENOSPC,
                                EDQUOT, EROFS, ELOOP,  ENOMEM,  EFBIG,  ENAMETOOLONG};
    for (size_t i = 0; i < sizeof codes / sizeof *codes; i++) {
        const char *words = err_os(codes[i]);
        CHECK(strlen(words) > 10 && words[strlen(words) - 1] != '.' && !strchr(words, '\n'));
        CHECK(strcmp(words, strerror(codes[i])) != 0);
    }
    CHECK(err_os(EIO)[0] && err_os(99999)[0]);
    Err e;
    char longer[2000];
    memset(longer, 'x', sizeof longer - 1);
    longer[sizeof longer - 1] = 0;
    CHECK(!err_set(&e, "%s", longer) && strlen(e.text) == sizeof e.text - 1);
    CHECK(!err_set(NULL, "nobody asks"));
}

static void *look_at_mask(void *ctx)
{
    pthread_sigmask(SIG_SETMASK, NULL, ctx);
    return NULL;
}

/* A thread's own mistakes reach their handler, which gives the terminal back; signals from outside do not
 * come to it. */
/* Folders of programs that were killed go after an hour; what links in them lead to stays. */
TEST(private_folders)
{
    setenv("TMPDIR", check_folder(), 1);
    char *fresh = folder_private("squill-x");
    struct stat st;
    CHECK(fresh && stat(fresh, &st) == 0 && (st.st_mode & 07777) == 0700);
    CHECK(strncmp(fresh, check_path("squill-x-"), strlen(check_path("squill-x-"))) == 0);
    static const char *const old[] = {"squill-x-abcdef", "squill-xyz", "other"};
    const struct timespec times[2] = {{time(NULL) - 7200, 0}, {time(NULL) - 7200, 0}};
    check_put("kept", "berth\n");
    for (int i = 0; i < 3; i++) {
        char name[60];
        CHECK(mkdir(check_path(old[i]), 0700) == 0);
        snprintf(name, sizeof name, "%s/deep", old[i]);
        CHECK(mkdir(check_path(name), 0700) == 0);
        snprintf(name, sizeof name, "%s/deep/link", old[i]);
        CHECK(symlink("../../kept", check_path(name)) == 0);
        CHECK(utimensat(AT_FDCWD, check_path(old[i]), times, 0) == 0);
    }
    folder_private_sweep("squill-x");
    CHECK(access(fresh, F_OK) == 0 && access(check_path("squill-xyz"), F_OK) == 0);
    CHECK(access(check_path("other"), F_OK) == 0 && access(check_path("squill-x-abcdef"), F_OK) != 0);
    check_holds("kept", "berth\n");
    folder_remove(fresh);
    CHECK(access(fresh, F_OK) != 0);
    free(fresh);
    unsetenv("TMPDIR");
}

TEST(threads_and_signals)
{
    pthread_t thread;
    sigset_t mask;
    CHECK(system_thread(&thread, look_at_mask, &mask));
    pthread_join(thread, NULL);
    CHECK(!sigismember(&mask, SIGSEGV) && !sigismember(&mask, SIGBUS) && !sigismember(&mask, SIGABRT));
    CHECK(sigismember(&mask, SIGTERM) && sigismember(&mask, SIGINT) && sigismember(&mask, SIGWINCH));
#ifdef NDEBUG
    CHECK(!"the text's invariants are not asserted");
#endif
}

TEST(the_dead_that_nobody_took_note_of_are_dead)
{
    CHECK(programs_live(getpid()) && programs_born(getpid()) > 0);
    pid_t child = fork();
    if (child == 0)
        _exit(0);
    siginfo_t info;
    CHECK(waitid(P_PID, (id_t)child, &info, WEXITED | WNOWAIT) == 0);
    CHECK(!programs_live(child)); /* a zombie */
    waitpid(child, NULL, 0);
    CHECK(!programs_live(child));
}
