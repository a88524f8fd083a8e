/* Nobody is let in: rights that do not widen, folders and files that are exchanged, what is left in the way.
 */
#include "check.h"
#include "base/own_folder.h"
#include "base/trusted.h"
#include "files/in_use.h"
#include "files/load.h"
#include "files/rules.h"
#include "files/save.h"

#include <dirent.h>
#include <fcntl.h>
#include <glob.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <sys/xattr.h>
#include <unistd.h>

static Text text_of(const char *s)
{
    Text t = {0};
    CHECK(text_insert(&t, 0, s, strlen(s)));
    return t;
}

/* ---- access lists ---- */

enum { LIST_CAP = 256 };

static ssize_t list_of(const char *path, char out[LIST_CAP])
{
    return getxattr(path, "system.posix_acl_access", out, LIST_CAP);
}

/* Every combination of a file's list and mode with a list that its folder hands on: what is saved, and its
 * backup, has the rights that were there, and no others. */
TEST(rights_stay_as_they_are)
{
    static const char *const lists[] = {"true", "setfacl -m u:1:r,g:2:rw \"$F/d/f\"",
                                        "setfacl -m u:1:rwx,m::r \"$F/d/f\"",
                                        "setfacl -m g:3:--- \"$F/d/f\""};
    static const char *const handed_on[] = {"true", "setfacl -d -m u:5:rwx,g:6:rwx,o::rwx \"$F/d\"",
                                            "setfacl -d -m u::rwx,g::r,o::- \"$F/d\""};
    static const mode_t modes[] = {0600, 0640, 0644, 0666, 0755, 0400};
    if (!check_shell("mkdir \"$F/probe\" && setfacl -d -m u:5:rw \"$F/probe\" 2>/dev/null")) {
        check_skip("this file system has no access lists");
        return;
    }
    for (size_t l = 0; l < 4; l++)
        for (size_t d = 0; d < 3; d++)
            for (size_t m = 0; m < 6; m++) {
                char before[LIST_CAP], after[LIST_CAP], name[80];
                struct stat was, is;
                DiskState disk;
                Err e = {""};
                snprintf(name, sizeof name, "list %zu, default %zu, mode %o", l, d, (unsigned)modes[m]);
                check_case(name);
                const char *path = check_path("d/f");
                CHECK(check_shell("rm -rf \"$F/d\"; mkdir \"$F/d\"; echo secret >\"$F/d/f\""));
                CHECK(chmod(path, modes[m]) == 0 && check_shell(lists[l]) && check_shell(handed_on[d]));
                if (geteuid() != 0 && modes[m] == 0400)
                    continue;
                CHECK(stat(path, &was) == 0);
                ssize_t n = list_of(path, before);
                Text t = text_of("fresh\n");
                SaveWish wish = {.backup = BACKUP_NUMBERED};
                CHECK(save_file(path, t, &wish, &disk, &e));
                text_drop(&t);
                const char *saved[] = {path, check_path("d/f.old-1")};
                for (int i = 0; i < 2; i++) {
                    CHECK(stat(saved[i], &is) == 0 && is.st_mode == was.st_mode);
                    CHECK_INT(list_of(saved[i], after), n);
                    CHECK(n < 0 || memcmp(before, after, (size_t)n) == 0);
                }
                /* written in place, its backup is a copy */
                CHECK(link(path, check_path("d/other")) == 0);
                t = text_of("again\n");
                CHECK(save_file(path, t, &wish, &disk, &e));
                text_drop(&t);
                CHECK(stat(check_path("d/f.old-2"), &is) == 0 && is.st_mode == was.st_mode);
                CHECK_INT(list_of(check_path("d/f.old-2"), after), n);
            }
}

/* As another user: tries to open whatever is in the folder, without a pause, until that succeeds. */
static void spy(const char *folder)
{
    DIR *d = opendir(folder);
    if (!d || setgid(5) != 0 || setuid(5) != 0)
        _exit(3);
    for (;;) {
        rewinddir(d);
        for (const struct dirent *e; (e = readdir(d));)
            if (e->d_type == DT_REG && openat(dirfd(d), e->d_name, O_RDONLY | O_NONBLOCK | O_NOFOLLOW) >= 0)
                _exit(9);
    }
}

/* While somebody looks all the time, nobody but the owner ever gets more. */
TEST(rights_are_never_wider_meanwhile)
{
    if (geteuid() != 0 ||
        !check_shell("mkdir \"$F/d\" && setfacl -d -m u:5:rwx,o::rwx \"$F/d\" 2>/dev/null")) {
        check_skip("only root can try it, where there are access lists");
        return;
    }
    const char *path = check_path("d/f");
    CHECK(check_shell(
        "echo secret >\"$F/d/f\"; setfacl -b \"$F/d/f\"; chmod 640 \"$F/d/f\"; chmod 777 \"$F/d\""));
    pid_t child = fork();
    if (child == 0)
        spy(check_path("d"));
    for (int i = 0; i < 200; i++) {
        Err e = {""};
        DiskState disk;
        Text t = text_of("fresh secret\n");
        CHECK(save_file(path, t, NULL, &disk, &e));
        text_drop(&t);
    }
    int status = 0;
    kill(child, SIGKILL);
    waitpid(child, &status, 0);
    CHECK(WIFSIGNALED(status)); /* it never came in */
}

/* ---- what is exchanged ---- */

static int tries(int usual)
{
    return getenv("ROUNDS") ? 1000 : usual;
}

/* Somebody exchanges the folder for a link to another one, all the time: root never writes there. */
TEST(an_exchanged_folder_is_not_written_to)
{
    CHECK(check_shell("mkdir \"$F/guarded\" \"$F/own\"; echo old >\"$F/own/f\""));
    const char *path = check_path("way/f");
    CHECK(symlink("own", check_path("way")) == 0);
    pid_t child = fork();
    if (child == 0)
        for (unsigned i = 0;; i++) {
            char fresh[300];
            snprintf(fresh, sizeof fresh, "%s.x", check_path("way"));
            if (symlink(i % 2 ? "own" : "guarded", fresh) != 0 || rename(fresh, check_path("way")) != 0)
                _exit(1);
        }
    long saved = 0, refused = 0;
    for (int i = 0, n = tries(300); i < n; i++) {
        Err e = {""};
        DiskState then, disk;
        Text t = {0}, fresh = text_of("fresh\n");
        while (!load_file(path, &t, &then, &e) || !then.exists)
            text_drop(&t);
        SaveWish wish = {.only = &then};
        bool ok = save_file(path, fresh, &wish, &disk, &e);
        saved += ok;
        refused += !ok;
        text_drop(&t);
        text_drop(&fresh);
    }
    kill(child, SIGKILL);
    waitpid(child, NULL, 0);
    CHECK(check_shell("[ -z \"$(ls -A \"$F/guarded\")\" ]"));
    CHECK(saved + refused > 0);
    fprintf(stderr, "%ld saved, %ld refused\n", saved, refused);
}

/* A link whose aim was changed, to a file with the very same bytes: that is not the file that was read. */
TEST(the_same_bytes_are_not_the_same_file)
{
    check_put("mine", "a\n");
    CHECK(check_shell("mkdir \"$F/guarded\"; echo a >\"$F/guarded/f\"; ln -s mine \"$F/way\""));
    Err e = {""};
    Text t;
    DiskState known;
    CHECK(load_file(check_path("way"), &t, &known, &e));
    CHECK(check_shell("ln -sf guarded/f \"$F/way\""));
    CHECK_INT(disk_news(check_path("way"), &known, t), DISK_CHANGED);
    CHECK(check_shell("ln -sf mine \"$F/way\""));
    CHECK_INT(disk_news(check_path("way"), &known, t), DISK_SAME);
    CHECK(check_shell(
        "cp \"$F/mine\" \"$F/x\"; mv \"$F/x\" \"$F/mine\"")); /* in the same folder it is as good, */
    CHECK_INT(disk_news(check_path("way"), &known, t), DISK_SAME);
    CHECK(check_shell(
        "rm \"$F/mine\"; ln \"$F/guarded/f\" \"$F/mine\"")); /* but not by another name of another one */
    CHECK_INT(disk_news(check_path("way"), &known, t), DISK_CHANGED);
    text_drop(&t);
}

/* ---- the state folder ---- */

TEST(root_leaves_nothing_in_another_home)
{
    if (geteuid() != 0) {
        check_skip("only root can try it");
        return;
    }
    static const struct {
        const char *name, *prepare;
        bool usable;
    } cases[] = {
        {"own home", "mkdir -p \"$F/h\"", true},
        {"another's home", "mkdir -p \"$F/h\"; chown 65534 \"$F/h\"", false},
        {"another's folder", "mkdir -p \"$F/h/.local/state\"; chown 65534 \"$F/h/.local/state\"", false},
        {"a link",
         "mkdir -p \"$F/h/.local/state\" \"$F/aim\"; chmod 755 \"$F/aim\";"
         " ln -s \"$F/aim\" \"$F/h/.local/state/steady-quill\"",
         false},
        {"everybody's", "mkdir -p \"$F/h\"; chmod 777 \"$F/h\"", false},
        {"a link of another's on the way",
         "mkdir -p \"$F/h/.local\" \"$F/aim\"; chmod 755 \"$F/aim\"; ln -s \"$F/aim\" \"$F/h/.local/state\";"
         " chown -h 65534 \"$F/h/.local/state\"",
         false},
        {"a link in another's home",
         "mkdir -p \"$F/h/.local\" \"$F/aim/steady-quill\"; chmod 755 \"$F/aim\"; ln -s \"$F/aim\" "
         "\"$F/h/.local/state\"; chown 65534 \"$F/h\"",
         false},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Err e = {""};
        struct stat st;
        check_case(cases[i].name);
        CHECK(check_shell("rm -rf \"$F/h\" \"$F/aim\"") && check_shell(cases[i].prepare));
        setenv("HOME", check_path("h"), 1);
        unsetenv("XDG_STATE_HOME");
        CHECK(check_shell("find \"$F/h\" | sort | xargs stat -c '%n %a %u' >\"$F/before\""));
        char *folder = own_folder_of_state(&e);
        CHECK((folder != NULL) == cases[i].usable);
        if (folder)
            CHECK(stat(folder, &st) == 0 && (st.st_mode & 07777) == 0700);
        else /* nothing was made or changed */
            CHECK(check_shell("find \"$F/h\" | sort | xargs stat -c '%n %a %u' | cmp - \"$F/before\" &&"
                              " { [ ! -e \"$F/aim\" ] || [ $(stat -c %a \"$F/aim\") = 755 ]; }"));
        free(folder);
    }
}

/* ---- notes of use ---- */

static void note_path(char *out, size_t cap)
{
    glob_t found;
    char pattern[200];
    snprintf(pattern, sizeof pattern, "%s/steady-quill-%ld-*", in_use_folder(), (long)getpid());
    int n = glob(pattern, 0, NULL, &found) == 0 ? (int)found.gl_pathc : 0;
    snprintf(out, cap, "%s", n == 1 ? found.gl_pathv[0] : "");
    globfree(&found);
}

/* Another program that has files in use until it is told to die. */
typedef struct Other {
    pid_t pid;
    int go;
} Other;

static Other other_takes(const char *const *files)
{
    int there[2], go[2];
    char c = 0;
    CHECK(pipe(there) == 0 && pipe(go) == 0);
    Other o = {.pid = fork(), .go = go[1]};
    if (o.pid == 0) {
        InUse u = {.fd = -1};
        InUseBy by;
        bool ok = true;
        for (int i = 0; files[i]; i++) {
            size_t line = 0;
            ok = in_use_take(&u, check_path(files[i]), &line, &by) && line && ok;
        }
        close(go[1]);
        c = (char)ok;
        if (write(there[1], &c, 1) != 1 || read(go[0], &c, 1) != 1)
            _exit(1);
        _exit(0); /* without taking it back */
    }
    CHECK(read(there[0], &c, 1) == 1 && c == 1);
    close(there[0]);
    close(there[1]);
    close(go[0]);
    return o;
}

static void other_dies(Other o)
{
    CHECK(write(o.go, "x", 1) == 1);
    waitpid(o.pid, NULL, 0);
    close(o.go);
}

TEST(who_has_a_file)
{
    /* what the other has, what is opened here, is it taken */
    static const struct {
        const char *name, *has, *here;
        bool taken;
    } cases[] = {
        {"the same file", "pier", "pier", true},
        {"another one", "pier", "quay", false},
        {"by a link", "pier", "link", true},
        {"through a linked folder", "berths/one", "by-link/one", true},
        {"the same name elsewhere", "berths/one", "one", false},
        {"one that is not there yet", "new", "new", true},
        {"in a folder that is not there", "pier", "nowhere/pier", false},
    };
    CHECK(check_shell("mkdir \"$F/berths\" && ln -s berths \"$F/by-link\" && cd \"$F\" &&"
                      " touch pier quay one berths/one && ln -s pier link"));
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].name);
        Other o = other_takes((const char *const[]){cases[i].has, NULL});
        InUse u = {.fd = -1};
        InUseBy by = {.since = 0};
        size_t line = 0;
        CHECK_INT(in_use_take(&u, check_path(cases[i].here), &line, &by), !cases[i].taken);
        CHECK(!cases[i].taken || (by.pid == o.pid && by.user[0] && by.since > 1000000000));
        in_use_release(&u, &line);
        /* saved meanwhile, so it is another file now */
        CHECK(check_shell("cd \"$F\" && for f in pier quay one berths/one; do cp $f n; mv n $f; done"));
        CHECK_INT(in_use_take(&u, check_path(cases[i].here), &line, &by), !cases[i].taken);
        in_use_release(&u, &line);
        other_dies(o);
        CHECK(in_use_take(&u, check_path(cases[i].here), &line, &by)); /* the dead hold nothing */
        in_use_end(&u);
    }
}

TEST(one_note_for_all_files)
{
    InUse u = {.fd = -1};
    InUseBy by;
    size_t lines[300] = {0};
    char name[40], note[300];
    for (int i = 0; i < 300; i++) {
        snprintf(name, sizeof name, "tide-%d.log", i);
        CHECK(in_use_take(&u, check_path(name), &lines[i], &by) && lines[i]);
    }
    note_path(note, sizeof note); /* there is one */
    CHECK_STR(note, u.path);
    CHECK(check_shell("[ -z \"$(ls -A \"$F\")\" ]")); /* and nothing beside the files */
    for (int i = 0; i < 300; i += 2)
        in_use_release(&u, &lines[i]);
    size_t again = 0; /* its lines are used again */
    CHECK(in_use_take(&u, check_path("tide-0.log"), &again, &by) && again == 1);
    in_use_release(&u, &again);
    for (int i = 1; i < 300; i += 2) {
        CHECK(access(note, F_OK) == 0);
        in_use_release(&u, &lines[i]);
    }
    CHECK(u.fd < 0 && access(note, F_OK) != 0);
}

/* What has a note's name and is none stops nobody, and stays as it is. */
TEST(what_is_no_note_is_left_alone)
{
    static const char *const prepares[] = {
        "echo 'my own notes' >\"$N\"",
        "echo precious >\"$F/x\"; ln \"$F/x\" \"$N\" 2>/dev/null || touch \"$N\"",
        "echo precious >\"$F/x\"; ln -s \"$F/x\" \"$N\"",
        "mkdir \"$N\"",
        "mkfifo \"$N\"",
        "truncate -s 5G \"$N\""};
    char note[200];
    snprintf(note, sizeof note, "%s/steady-quill-1-%ld", in_use_folder(), (long)getpid());
    setenv("N", note, 1);
    for (size_t i = 0; i < sizeof prepares / sizeof *prepares; i++) {
        check_case(prepares[i]);
        CHECK(check_shell("rm -rf \"$N\" \"$F\"/x; touch \"$F/pier\"") && check_shell(prepares[i]));
        CHECK(check_shell("stat -c '%i %s %h %F' \"$N\" >\"$F/before\""));
        InUse u = {.fd = -1};
        InUseBy by;
        size_t line = 0;
        CHECK(in_use_take(&u, check_path("pier"), &line, &by) && line == 1);
        in_use_end(&u);
        CHECK(check_shell("stat -c '%i %s %h %F' \"$N\" | cmp - \"$F/before\""));
        CHECK(check_shell("rm -rf \"$N\""));
    }
}

/* ---- what asks for more than it may ---- */

TEST(rules_that_are_no_plain_file)
{
    static const char *const prepares[] = {
        "mkfifo \"$F/.editorconfig\"", "ln -s /dev/zero \"$F/.editorconfig\"",
        "head -c 3000000 /dev/zero >\"$F/.editorconfig\"", "mkdir \"$F/.editorconfig\""};
    for (size_t i = 0; i < 4; i++) {
        check_case(prepares[i]);
        CHECK(check_shell("rm -rf \"$F/.editorconfig\"") && check_shell(prepares[i]));
        Rules r = rules_for(check_path("kiosk.ini"));
        CHECK(!r.indentation && !r.charset && r.trim == WISH_NONE);
    }
    if (geteuid() == 0) { /* somebody else could put another one in its place */
        CHECK(check_shell("rm -rf \"$F/.editorconfig\"; printf 'root=true\\n[*]\\nindent_style=tab\\n' "
                          ">\"$F/.editorconfig\""));
        CHECK(rules_for(check_path("kiosk.ini")).indentation);
        CHECK(check_shell("chown 65534 \"$F\""));
        CHECK(!rules_for(check_path("kiosk.ini")).indentation);
        CHECK(check_shell("chown 0 \"$F\""));
    }
}

/* A file of the system's own that says it is empty and does not end. */
TEST(files_without_end_are_given_up)
{
    Text t;
    Err e = {""};
    int ends[2];
    CHECK(pipe(ends) == 0);
    pid_t child = fork();
    if (child == 0) {
        static char much[65536];
        close(ends[0]);
        while (write(ends[1], much, sizeof much) > 0)
            continue;
        _exit(0);
    }
    close(ends[1]);
    CHECK(load_descriptor(ends[0], "a pipe", 1000000, &t, &e) && text_len(t) > 1000000 &&
          text_len(t) <= 1000001 + 65536);
    text_drop(&t);
    close(ends[0]);
    waitpid(child, NULL, 0);
}

/* A dead one's note is held for a moment by whoever removes it: it is not taken for alive by another who
 * looks just then. */
TEST(a_dead_note_that_is_being_removed)
{
    InUseBy by;
    char pattern[200], byte;
    int told[2];
    check_put("pier", "x\n");
    pid_t dead = fork();
    if (dead == 0) {
        InUse u = {.fd = -1};
        size_t line = 0;
        _exit(in_use_take(&u, check_path("pier"), &line, &by) && line ? 0 : 1);
    }
    int status = 0;
    CHECK(waitpid(dead, &status, 0) == dead && status == 0);
    snprintf(pattern, sizeof pattern, "%s/steady-quill-%ld-*", in_use_folder(), (long)dead);
    glob_t g = {0};
    CHECK(glob(pattern, 0, NULL, &g) == 0 && g.gl_pathc == 1 && pipe(told) == 0);
    pid_t remover = fork();
    if (remover == 0) {
        int fd = open(g.gl_pathv[0], O_RDONLY);
        bool held = flock(fd, LOCK_EX) == 0 && write(told[1], "x", 1) == 1;
        usleep(5000);
        _exit(held ? 0 : 1);
    }
    InUse u = {.fd = -1};
    size_t line = 0;
    CHECK(read(told[0], &byte, 1) == 1);
    CHECK(in_use_take(&u, check_path("pier"), &line, &by));
    in_use_end(&u);
    CHECK(waitpid(remover, &status, 0) == remover && status == 0);
    globfree(&g);
    close(told[0]);
    close(told[1]);
}

/* In another's home, root reads nothing that a link or a folder of that person leads to, whoever owns it. */
TEST(root_reads_nothing_by_others_links)
{
    static const struct {
        const char *name, *prepare;
        bool read;
    } cases[] = {
        {"root's own", "mkdir -p \"$F/h/c\"; echo x >\"$F/h/c/f\"", true},
        {"a link of root's", "mkdir -p \"$F/h/c\"; echo x >\"$F/aim\"; ln -s \"$F/aim\" \"$F/h/c/f\"", true},
        {"another's link to a file of root's",
         "mkdir -p \"$F/h/c\"; echo x >\"$F/aim\"; ln -s \"$F/aim\" \"$F/h/c/f\"; chown -h 65534 "
         "\"$F/h/c/f\"",
         false},
        {"in another's folder", "mkdir -p \"$F/h/c\"; echo x >\"$F/h/c/f\"; chown 65534 \"$F/h\"", false},
        {"another's link to a folder",
         "mkdir -p \"$F/h\" \"$F/d\"; echo x >\"$F/d/f\"; ln -s \"$F/d\" \"$F/h/c\"; chown -h 65534 "
         "\"$F/h/c\"",
         false},
        {"another's file", "mkdir -p \"$F/h/c\"; echo x >\"$F/h/c/f\"; chown 65534 \"$F/h/c/f\"", false},
    };
    if (geteuid() != 0) {
        check_skip("only root can try it");
        return;
    }
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Err e = {""};
        size_t n;
        check_case(cases[i].name);
        CHECK(check_shell("rm -rf \"$F/h\" \"$F/aim\" \"$F/d\"; umask 022") && check_shell(cases[i].prepare));
        char *bytes = trusted_read(check_path("h/c/f"), &n, &e);
        CHECK((bytes != NULL) == cases[i].read);
        CHECK(bytes || e.text[0]);
        free(bytes);
    }
    check_case(NULL);
}
