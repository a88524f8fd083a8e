#include "check.h"
#include "session/reading.h"
#include "base/mem.h"
#include "sessions.h"

#include "edit/doc.h"
#include "files/location.h"
#include "hosts/hosts.h"
#include "session/plan.h"
#include "session/session_files.h"
#include "session/session_run.h"

#include <dirent.h>
#include <poll.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

/* ---- names ---- */

TEST(names_of_places)
{
    static const struct {
        const char *typed, *full, *shown; /* NULL: it is no name */
    } cases[] = {
        {"ssh://tern/etc/hosts", "ssh://tern/etc/hosts", "tern: /etc/hosts"},
        {"ssh://TERN//etc/./x/../hosts", "ssh://tern/etc/hosts", "tern: /etc/hosts"},
        {"ssh://mira@tern:2222/a", "ssh://mira@tern:2222/a", "tern: /a"},
        {"ssh://tern", "ssh://tern/", "tern: /"},
        {"ssh://tern/~/notes", "ssh://tern/~/notes", "tern: ~/notes"},
        {"ssh://tern/~/../x", "ssh://tern/~/x", "tern: ~/x"},
        {"ssh://tern/f%c3%a4hre%20x", "ssh://tern/f%C3%A4hre%20x", "tern: /f\xc3\xa4hre x"},
        {"ssh://tern/a b", "ssh://tern/a%20b", "tern: /a b"},
        {"ssh://tern/100%25", "ssh://tern/100%25", "tern: /100%"},
        {"ssh://[::1]:22/a", "ssh://[::1]:22/a", "[::1]: /a"},
        {"ssh://tern/%zz", NULL, NULL},
        {"ssh://tern/%4", NULL, NULL},
        {"ssh://tern/%00", NULL, NULL},
        {"ssh://tern/a?b", NULL, NULL},
        {"ssh://tern/a#b", NULL, NULL},
        {"ssh:///a", NULL, NULL},
        {"ssh://-oProxyCommand=x/a", NULL, NULL},
        {"ssh://-lroot@tern/a", NULL, NULL},
        {"ssh://a@b@tern/a", NULL, NULL},
        {"ssh://tern:0/a", NULL, NULL},
        {"ssh://tern:65536/a", NULL, NULL},
        {"ssh://tern:x/a", NULL, NULL},
        {"ssh://te rn/a", NULL, NULL},
        {"ssh://te`rn/a", NULL, NULL},
        {"ssh://a;b@tern/a", NULL, NULL},
        {"/etc/hosts", "/etc/hosts", "/etc/hosts"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Location l;
        Err e = {""};
        check_case(cases[i].typed);
        bool ok = location_read(cases[i].typed, &l, &e);
        CHECK_INT(ok, cases[i].full != NULL);
        CHECK_INT(ok, e.text[0] == 0);
        if (ok)
            location_free(&l);
        if (!cases[i].full)
            continue;
        char *full = location_full(cases[i].typed), *again = location_full(full),
             *shown = location_shown(full);
        CHECK_STR(full, cases[i].full);
        CHECK_STR(again, cases[i].full);
        CHECK_STR(shown, cases[i].shown);
        free(full);
        free(again);
        free(shown);
    }
    check_case(NULL);
    char *meant = location_meant("mira@tern:/etc/a b");
    CHECK_STR(meant, "ssh://mira@tern/etc/a%20b");
    free(meant);
    CHECK(!location_meant("tern/etc:/hosts"));
    CHECK(!location_meant("notes: today"));
}

/* Any bytes make a place, and the same one when it is written and read again. */
TEST(paths_of_any_bytes)
{
    for (int i = 0; i < check_rounds(20000); i++) {
        char path[32] = "/", *want;
        size_t n = 1 + check_random(20);
        for (size_t k = 1; k <= n; k++)
            path[k] = (char)(1 + check_random(255));
        path[n + 1] = 0;
        Location l = {.host = (char *)"tern", .path = path}, read;
        Err e = {""};
        char *name = location_write(&l), *again;
        CHECK(location_read(name, &read, &e));
        again = location_write(&read);
        want = read.path;
        Location second;
        CHECK(location_read(again, &second, &e));
        CHECK_STR(second.path, want);
        location_free(&second);
        location_free(&read);
        free(name);
        free(again);
    }
}

/* ---- a host of our own ---- */

static const char *server(void)
{
    static const char *const places[] = {"/usr/lib/openssh/sftp-server", "/usr/libexec/openssh/sftp-server",
                                         "/usr/lib/ssh/sftp-server", "/usr/libexec/sftp-server"};
    for (size_t i = 0; i < sizeof places / sizeof *places; i++)
        if (access(places[i], X_OK) == 0)
            return places[i];
    return NULL;
}

/* False, which is said, where there is no server. */
static bool begin(void)
{
    static bool begun;
    if (!server()) {
        check_skip("no sftp-server is installed");
        return false;
    }
    if (!begun)
        hosts_begin();
    begun = true;
    setenv("RELAY_SERVER", server(), 1);
    unsetenv("RELAY");
    hosts_use(RELAY);
    connection_be_patient(2000);
    return true;
}

static const char *place(const char *name)
{
    static char place[4096];
    Location l = {.host = (char *)"tern", .path = (char *)check_path(name)};
    char *full = location_write(&l);
    snprintf(place, sizeof place, "%s", full);
    free(full);
    return place;
}

static void pass(Session *s, int ms)
{
    struct pollfd fds[32];
    poll(fds, (nfds_t)tasks_fds(&s->tasks, fds, 32), ms);
    session_poll(s);
}

static bool is_busy(const Session *s)
{
    for (size_t i = 0; i < s->n_files; i++)
        if (s->files[i]->reading || s->files[i]->writing)
            return true;
    for (size_t i = 0; i < s->n_plans; i++)
        if (s->plans[i]->state == PLAN_WAITS && !s->plans[i]->again)
            return true;
    return false;
}

/* Until nothing goes on, but what waits for its time. */
static void settle(Session *s)
{
    for (int i = 0; i < 4000 && (is_busy(s) || i < 1); i++)
        pass(s, 5);
    CHECK(!is_busy(s));
}

static OpenFile *open_it(Session *s, const char *name)
{
    Err e = {""};
    OpenFile *f = session_open(s, place(name), &e);
    check_result(f != NULL, __FILE__, __LINE__, "%s", e.text);
    settle(s);
    return f;
}

static void end(Session *s)
{
    session_free(s);
    hosts_end();
}

static void type(OpenFile *f, const char *text)
{
    doc_replace(f->doc, 0, 0, text, strlen(text), STEP_TYPE, 0);
}

static void answer(Session *s, AskFor what, Answer a, const char *text)
{
    Plan *p = plan_asking(s);
    CHECK(p && p->ask == what);
    if (p)
        plan_answer(s, p->number, a, text);
    settle(s);
}

static size_t entries(const char *folder)
{
    size_t n = 0;
    DIR *d = opendir(folder);
    for (struct dirent *e; d && (e = readdir(d));)
        n += e->d_name[0] != '.' || strlen(e->d_name) > 2;
    if (d)
        closedir(d);
    return n;
}

static mode_t mode_of(const char *path)
{
    struct stat st;
    return stat(path, &st) == 0 ? st.st_mode & 07777 : 0;
}

TEST(a_file_of_a_host)
{
    if (!begin())
        return;
    Session *s = sessions_start(NULL);
    check_put("motd", "Ferries to Harrow Bay\n");
    chmod(check_path("motd"), 0640);
    OpenFile *f = open_it(s, "motd");
    CHECK_STR(openfile_name(f), "motd");
    CHECK_STR(f->inside, check_path("motd"));
    CHECK(!openfile_changed(f) && !f->incomplete && f->disk.exists);
    type(f, "All ");
    plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
    settle(s);
    check_holds("motd", "All Ferries to Harrow Bay\n");
    CHECK_INT(mode_of(check_path("motd")), 0640);
    CHECK(!openfile_changed(f));
    /* Somebody else changes it. */
    check_put("motd", "None today\n");
    type(f, "x");
    plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
    settle(s);
    answer(s, ASK_DISK, ANSWER_NO, NULL);
    check_holds("motd", "None today\n");
    plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
    settle(s);
    answer(s, ASK_DISK, ANSWER_YES, NULL);
    check_holds("motd", "xAll Ferries to Harrow Bay\n");
    /* Under another name, in a folder that is not there. */
    plan_begin(s, PLAN_SAVE, f->id, place("berths/north/motd"), NULL);
    settle(s);
    answer(s, ASK_FOLDER, ANSWER_YES, NULL);
    check_holds("berths/north/motd", "xAll Ferries to Harrow Bay\n");
    CHECK_STR(f->path, place("berths/north/motd"));
    plan_begin(s, PLAN_RENAME, f->id, place("motd"), NULL);
    settle(s);
    answer(s, ASK_REPLACE, ANSWER_YES, NULL);
    CHECK_STR(f->path, place("motd"));
    CHECK(access(check_path("berths/north/motd"), F_OK) != 0);
    check_put("motd", "again\n");
    plan_reload_now(s, f);
    settle(s);
    CHECK_INT(text_len(doc_text(f->doc)), 6);
    CHECK(f->disk.exists && !openfile_changed(f));
    unlink(check_path("motd"));
    plan_begin(s, PLAN_CLOSE, f->id, NULL, NULL);
    settle(s);
    answer(s, ASK_UNSAVED, ANSWER_NO, NULL);
    end(s);
}

/* What a save keeps of what was there: as a table of files that are special in one way each. */
TEST(what_a_save_keeps_there)
{
    enum { PLAIN, LINK, DANGLING, SETUID, NO_FILE, FOLDER_CLOSED, WISHED, BACKUPS, LAST };
    static const char *const names[] = {"plain",        "a link",          "a link to nothing",
                                        "special bits", "a new file",      "a closed folder",
                                        "in place",     "numbered backups"};
    if (!begin())
        return;
    for (int i = 0; i < LAST; i++) {
        if (i == FOLDER_CLOSED && geteuid() == 0)
            continue;
        check_case(names[i]);
        Session *s = sessions_start(NULL);
        char folder[64], at[96], real[96];
        struct stat before = {0}, after, link;
        snprintf(folder, sizeof folder, "case %d", i);
        mkdir(check_path(folder), 0755);
        snprintf(at, sizeof at, "%s/kiosk%%.ini", folder);
        snprintf(real, sizeof real, "%s/real", folder);
        const char *written = i == LINK || i == DANGLING ? real : at;
        if (i != NO_FILE && i != DANGLING)
            check_put(written, "[network]\n");
        if (i == LINK || i == DANGLING)
            CHECK(symlink("real", check_path(at)) == 0);
        if (i == SETUID)
            chmod(check_path(at), 04755);
        if (i == FOLDER_CLOSED)
            chmod(check_path(folder), 0555);
        if (i == WISHED)
            snprintf(s->rules.in_place, sizeof s->rules.in_place, "%s", check_path(at));
        s->rules.backup = i == BACKUPS ? BACKUP_NUMBERED : BACKUP_NONE;
        s->rules.backup_keep = 2;
        stat(check_path(written), &before);
        OpenFile *f = open_it(s, at);
        for (int k = 0; k < (i == BACKUPS ? 4 : 1); k++) {
            type(f, "; mira\n");
            plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
            settle(s);
        }
        CHECK(!openfile_changed(f));
        if (i != BACKUPS)
            check_holds(written, i == NO_FILE || i == DANGLING ? "; mira\n" : "; mira\n[network]\n");
        CHECK(stat(check_path(written), &after) == 0);
        if (i == LINK || i == DANGLING)
            CHECK(lstat(check_path(at), &link) == 0 && S_ISLNK(link.st_mode));
        if (before.st_ino)
            CHECK_INT(after.st_mode, before.st_mode);
        if (i != BACKUPS)
            CHECK_INT(after.st_ino == before.st_ino, i == FOLDER_CLOSED || i == WISHED);
        chmod(check_path(folder), 0755);
        CHECK_INT(entries(check_path(folder)), i == BACKUPS ? 3 : i == LINK || i == DANGLING ? 2 : 1);
        end(s);
    }
    check_case(NULL);
}

/* A large file comes and goes whole, also a byte at a time. */
TEST(large_and_slow)
{
    if (!begin())
        return;
    static const struct {
        const char *relay;
        size_t n;
    } cases[] = {{"", 6000000}, {"bytes", 150000}, {"delay 5", 400000}};
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].relay);
        setenv("RELAY", cases[i].relay, 1);
        Session *s = sessions_start(NULL);
        size_t n = cases[i].n, got;
        char *bytes = malloc(n);
        for (size_t k = 0; k < n; k++)
            bytes[k] = (char)(k % 61 == 60 ? '\n' : 'a' + (int)check_random(26));
        check_write(check_path("tides.log"), bytes, n);
        OpenFile *f = open_it(s, "tides.log");
        char *is = malloc(n + 1);
        CHECK_INT(text_len(doc_text(f->doc)), n);
        CHECK_INT(text_read(doc_text(f->doc), 0, is, n), n);
        CHECK(memcmp(is, bytes, n) == 0);
        type(f, "x");
        plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
        settle(s);
        const char *now = check_read(check_path("tides.log"), &got);
        CHECK_INT(got, n + 1);
        CHECK(now && now[0] == 'x' && memcmp(now + 1, bytes, n) == 0);
        free(is);
        free(bytes);
        end(s);
    }
    check_case(NULL);
}

TEST(folders_of_a_host)
{
    if (!begin())
        return;
    Session *s = sessions_start(NULL);
    mkdir(check_path("logs"), 0755);
    for (int i = 0; i < 3000; i++) {
        char name[64];
        snprintf(name, sizeof name, "logs/tide-%d.log", i);
        check_put(name, "");
    }
    mkdir(check_path("logs/old"), 0755);
    CHECK(symlink("old", check_path("logs/link")) == 0);
    Errand *e =
        errand_begin(&(Errand){.kind = ERRAND_LIST, .path = (char *)place("logs")}, &s->tasks, NULL, NULL);
    for (int i = 0; i < 2000 && !e->done; i++)
        pass(s, 5);
    CHECK(e->done && e->ok);
    CHECK_INT(e->entries.n, 3002);
    size_t folders = 0;
    for (size_t i = 0; i < e->entries.n; i++)
        folders += e->entries.at[i].folder;
    CHECK_INT(folders, 2);
    errand_free(e);
    /* What is given up is not waited for. */
    setenv("RELAY", "silent 60", 1);
    hosts_end();
    e = errand_begin(&(Errand){.kind = ERRAND_LOOK, .path = (char *)place("logs")}, &s->tasks, NULL, NULL);
    pass(s, 50);
    CHECK(!e->done);
    errand_free(e);
    end(s);
}

/* A text that never came is none: it goes, and why is said. */
TEST(what_cannot_be_had_is_not_open)
{
    static const struct {
        const char *relay, *name, *says;
    } cases[] = {
        {"", "logs", "is a folder, not a file; with a slash at the end of its name it is listed"},
        {"refused", "motd", "tern cannot be reached: ssh: connect to host tern port 22: Connection refused"},
        {"down 3", "motd", "tern cannot be reached: the connection has ended"}};
    if (!begin())
        return;
    check_put("motd", "x\n");
    mkdir(check_path("logs"), 0755);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].says);
        setenv("RELAY", cases[i].relay, 1);
        Session *s = sessions_start(NULL);
        Err e = {""};
        CHECK(session_open(s, place(cases[i].name), &e) != NULL);
        settle(s);
        CHECK_INT(s->n_files, 0);
        check_result(strstr(sessions_notices.text, cases[i].says) != NULL, __FILE__, __LINE__, "it says: %s",
                     sessions_notices.text);
        end(s);
    }
    check_case(NULL);
}

/* ---- networks and servers at their worst ---- */

static const char old_text[] = "[network]\naddress = 10.20.0.17\n",
                  new_text[] = "; mira\n[network]\naddress = 10.20.0.17\n";

/* The file is the old version or the new one, whole, with its rights; what is not saved is still in the text.
 * Then the network is good again, and all is saved. */
static void worst_of_a_save(const char *relay)
{
    check_case(relay);
    unsetenv("RELAY");
    Session *s = sessions_start(NULL);
    check_put("net/kiosk.ini", old_text);
    chmod(check_path("net/kiosk.ini"), 0640);
    OpenFile *f = open_it(s, "net/kiosk.ini");
    hosts_end(); /* the next connection is made by the save */
    setenv("RELAY", relay, 1);
    type(f, "; mira\n");
    plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
    settle(s);
    size_t n = 0;
    const char *is = check_read(check_path("net/kiosk.ini"), &n);
    bool old = is && strcmp(is, old_text) == 0, fresh = is && strcmp(is, new_text) == 0;
    CHECK(old || fresh);
    CHECK_INT(mode_of(check_path("net/kiosk.ini")), 0640);
    CHECK(fresh || openfile_changed(f));
    unsetenv("RELAY");
    for (int i = 0; i < 20 && openfile_changed(f); i++) {
        Plan *p = plan_asking(s);
        sessions_notices.now += 40000;
        settle(s);
        CHECK(!p);
        if (s->n_plans == 0 && openfile_changed(f))
            plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
        settle(s);
        if (p)
            break;
    }
    CHECK(!openfile_changed(f));
    check_holds("net/kiosk.ini", new_text);
    end(s);
    check_case(NULL);
}

/* At so many bytes of a conversation; at every one, if there are fewer. */
static void at_bytes(const char *what, unsigned most, int usual)
{
    char relay[64];
    unsigned times = (unsigned)check_rounds(usual), step = times < most ? most / times : 1;
    mkdir(check_path("net"), 0755);
    for (unsigned i = 1 + check_random(step); i < most && !check_failed(); i += step) {
        snprintf(relay, sizeof relay, "%s %u", what, i);
        worst_of_a_save(relay);
    }
}

TEST(cut_while_it_asks)
{
    if (begin())
        at_bytes("up", 1300, 60);
}

TEST(cut_while_it_answers)
{
    if (begin())
        at_bytes("down", 1000, 50);
}

TEST(said_twice)
{
    if (begin())
        at_bytes("again", 1000, 20);
}

/* A disk or a share of it that is full, there: the old version stays, whole and alone, and the text is not
 * lost. */
TEST(no_room_there)
{
    if (!begin())
        return;
    char script[300];
    snprintf(script, sizeof script, "#!/bin/sh\ntrap '' XFSZ\nulimit -f 8\nexec %s\n", server());
    check_put("server", script);
    chmod(check_path("server"), 0755);
    setenv("RELAY_SERVER", check_path("server"), 1);
    mkdir(check_path("net"), 0755);
    check_put("net/kiosk.ini", old_text);
    for (int in_place = 0; in_place < 2; in_place++) {
        Session *s = sessions_start(NULL);
        snprintf(s->rules.in_place, sizeof s->rules.in_place, "%s", in_place ? "*.ini" : "");
        OpenFile *f = open_it(s, "net/kiosk.ini");
        char *much = mem_get(100001);
        memset(much, 'x', 100000);
        type(f, much);
        plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
        settle(s);
        CHECK(openfile_changed(f));
        CHECK(strstr(sessions_notices.text, "kiosk.ini") != NULL);
        check_holds("net/kiosk.ini", old_text);
        CHECK(check_shell("test \"$(ls -A \"$F\"/net)\" = kiosk.ini"));
        free(much);
        end(s);
    }
}

/* A server that lies in one byte: whatever comes of it, nothing hangs or breaks, and the text is not lost. */
TEST(a_server_that_lies)
{
    if (!begin())
        return;
    mkdir(check_path("net"), 0755);
    for (int i = 0; i < check_rounds(60) && !check_failed(); i++) {
        char relay[64];
        snprintf(relay, sizeof relay, "flip %u %u", 1 + check_random(900), 1 + check_random(255));
        check_case(relay);
        unsetenv("RELAY");
        Session *s = sessions_start(NULL);
        check_put("net/kiosk.ini", old_text);
        OpenFile *f = open_it(s, "net/kiosk.ini");
        hosts_end();
        setenv("RELAY", relay, 1);
        type(f, "; mira\n");
        plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
        for (int k = 0; k < 6000 && is_busy(s); k++)
            pass(s, 5);
        size_t n = 0;
        const char *is = check_read(check_path("net/kiosk.ini"), &n);
        CHECK(is && (strcmp(is, old_text) == 0 || strcmp(is, new_text) == 0));
        CHECK(openfile_changed(f) || (is && strcmp(is, new_text) == 0));
        CHECK_INT(text_len(doc_text(f->doc)), strlen(new_text));
        end(s);
    }
    check_case(NULL);
}

/* One that never stops, and one that falls silent while a file is read: Esc ends that. */
TEST(a_server_without_end)
{
    if (!begin())
        return;
    static const char *const relays[] = {"endless 0", "endless 40", "endless 200", "silent 0", "silent 150"};
    for (size_t i = 0; i < sizeof relays / sizeof *relays; i++) {
        check_case(relays[i]);
        setenv("RELAY", relays[i], 1);
        Session *s = sessions_start(NULL);
        Err e = {""};
        check_put("motd", "x\n");
        OpenFile *f = session_open(s, place("motd"), &e);
        CHECK(f != NULL);
        FileId id = f ? f->id : 0;
        for (int k = 0; k < 40 && (f = session_file(s, id)) && f->reading; k++)
            pass(s, 10);
        f = session_file(s, id); /* one of which nothing came is closed */
        CHECK(i < 3 ? !f || f->incomplete : f && f->reading);
        if (i >= 3)
            CHECK(reading_stop(s, f) && !f->reading && f->incomplete);
        end(s);
    }
    check_case(NULL);
}
