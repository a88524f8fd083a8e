/* Patches, the recovery journal, and the notes about use. */
#include "check.h"
#include "base/bytes.h"
#include "base/system.h"
#include "kept/database.h"
#include "kept/journal.h"
#include "kept/patch.h"
#include "kept/recoverable.h"

#include <signal.h>
#include <sqlite3.h>

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

static Text text_of(const char *s)
{
    Text t = {0};
    CHECK(text_insert(&t, 0, s, strlen(s)));
    return t;
}

static void edit_randomly(Text *t)
{
    size_t at = check_random((unsigned)text_len(*t) + 1), n = check_random(30);
    if (check_random(2)) {
        CHECK(text_insert(t, at, "the grey heron of berth 3 sleeps", 1 + n));
    } else {
        n = n < text_len(*t) - at ? n : text_len(*t) - at;
        CHECK(text_delete(t, at, n));
    }
}

TEST(patches_lead_from_one_version_to_another)
{
    Text t = text_of("tide");
    for (int round = 0; round < 2000; round++) {
        Text before = text_keep(t), again = {0};
        Bytes patch = {0};
        for (unsigned k = check_random(5); k > 0; k--)
            edit_randomly(&t);
        patch_make(before, t, &patch);
        CHECK(patch_apply(before, patch.at, patch.len, &again));
        CHECK(text_len(again) == text_len(t) && text_same_bytes(again, 0, t, 0, text_len(t)));
        CHECK(patch.len <= 5 * (24 + 33) + text_len(t) / 50);
        text_drop(&again);
        /* a damaged one is refused, or leads to some other text, but does no harm */
        for (unsigned k = check_random(4); k > 0 && patch.len; k--)
            patch.at[check_random((unsigned)patch.len)] = (char)check_random(256);
        if (patch_apply(before, patch.at, patch.len - (patch.len > 3 ? check_random(3) : 0), &again))
            text_drop(&again);
        text_drop(&before);
        bytes_free(&patch);
    }
    text_drop(&t);
}

static Journal *open_here(void)
{
    Err e = {""};
    setenv("HOME", check_folder(), 1);
    unsetenv("XDG_STATE_HOME");
    Journal *j = journal_open(&e);
    check_result(j != NULL, __FILE__, __LINE__, "%s", e.text);
    return j;
}

/* Another process works on a text and dies; this one brings it back. */
static void somebody_works(const char *path, const char *base, const char *const *versions)
{
    check_folder(); /* made here, not by the child */
    pid_t child = fork();
    if (child == 0) {
        Journal *j = open_here();
        DiskState disk = {0};
        Text t = text_of(base);
        int64_t id = journal_begin(j, path, &disk, t);
        for (; *versions; versions++) {
            Text now = text_of(*versions);
            size_t bytes;
            journal_patch(j, id, t, now, &bytes);
            text_drop(&t);
            t = now;
        }
        journal_settle(j, 5000);
        _exit(0); /* as if killed: nothing is closed */
    }
    waitpid(child, NULL, 0);
}

static void comes_back(Journal *j, int64_t id, const char *want)
{
    Err e = {""};
    char is[100];
    Text t;
    CHECK(recoverable_text(j, id, &t, &e));
    CHECK_BYTES(is, text_read(t, 0, is, sizeof is), want, strlen(want));
    text_drop(&t);
}

TEST(work_of_the_dead_comes_back)
{
    static const char *const a[] = {"one", "one two", NULL}, *const b[] = {"ferry", NULL};
    somebody_works("/harrow/a.ini", "on", a);
    somebody_works(NULL, "", b);
    Journal *j = open_here();
    Recoverable *r;
    size_t n = recoverable_list(j, NULL, &r);
    CHECK_INT(n, 2);
    recoverable_free(r, n);
    n = recoverable_list(j, "/harrow/a.ini", &r);
    CHECK_INT(n, 1);
    CHECK(!r[0].dropped && strcmp(r[0].path, "/harrow/a.ini") == 0);
    comes_back(j, r[0].id, "one two");
    journal_drop(j, r[0].id);
    recoverable_free(r, n);
    n = recoverable_list(j, "/harrow/a.ini", &r);
    CHECK(n == 1 && r[0].dropped);
    journal_done(j, r[0].id);
    recoverable_free(r, n);
    CHECK_INT(recoverable_list(j, "/harrow/a.ini", &r), 0);
    /* what this very process works on is not offered */
    DiskState disk = {0};
    Text t = {0}, now = text_of("x");
    int64_t id = journal_begin(j, "/harrow/b.ini", &disk, t);
    size_t bytes;
    journal_patch(j, id, t, now, &bytes);
    CHECK_INT(recoverable_list(j, "/harrow/b.ini", &r), 0);
    text_drop(&now);
    journal_close(j);
}

/* Too large to be stored: the file itself is the base, as long as nobody touched it. */
TEST(large_files_are_their_own_base)
{
    size_t size = JOURNAL_BASE_MOST + 4096;
    char *bytes = malloc(size);
    memset(bytes, 'a', size);
    const char *path = check_path("large.log");
    check_write(path, bytes, size);
    free(bytes);
    Journal *j = open_here();
    DiskState disk;
    Err e = {""};
    Text t, now, back;
    CHECK(load_file(path, &t, &disk, &e));
    now = text_keep(t);
    CHECK(text_insert(&now, 5000, "quay", 4));
    int64_t id = journal_begin(j, path, &disk, t);
    size_t took;
    CHECK(journal_patch(j, id, t, now, &took) && took < 100);
    CHECK(recoverable_text(j, id, &back, &e));
    CHECK(text_len(back) == text_len(now) && text_same_bytes(back, 0, now, 0, text_len(now)));
    text_drop(&back);
    disk.exists = false; /* it was decoded, say: then its base is stored however large */
    int64_t lone = journal_begin(j, path, &disk, t);
    CHECK(journal_patch(j, lone, t, now, &took));
    journal_settle(j, 60000); /* however slow the disk is */
    check_write(path, "other", 5);
    CHECK(recoverable_text(j, lone, &back, &e) && text_len(back) == text_len(now));
    text_drop(&back);
    CHECK(!recoverable_text(j, id, &back, &e));
    CHECK(strstr(e.text, "somebody else changed") != NULL);
    text_drop(&t);
    text_drop(&now);
    journal_close(j);
}

/* A disk that is full for a while: a limit on the size of files does the same. */
TEST(what_cannot_be_written_now_is_written_later)
{
    check_folder();
    pid_t child = fork();
    if (child == 0) {
        Journal *j = open_here();
        DiskState disk = {0};
        struct rlimit limit = {4096, RLIM_INFINITY};
        Err e = {""};
        Text t = {0}, now = {0};
        int64_t id = journal_begin(j, "/harrow/night.log", &disk, t);
        bool ok = journal_settle(j, 5000) && !journal_trouble(j, &e) && setrlimit(RLIMIT_FSIZE, &limit) == 0;
        for (int i = 0; i < 3; i++) { /* these wait, and keep their order */
            text_drop(&t);
            t = text_keep(now);
            text_insert(&now, text_len(now), "quay ", 5);
            size_t bytes;
            journal_patch(j, id, t, now, &bytes);
            ok = ok && !journal_settle(j, 60);
        }
        ok = ok && journal_trouble(j, &e) && e.text[0] && journal_waits(j);
        limit.rlim_cur = RLIM_INFINITY;
        ok = ok && setrlimit(RLIMIT_FSIZE, &limit) == 0 && journal_settle(j, 5000);
        _exit(ok && !journal_trouble(j, &e) && !journal_waits(j) ? 0 : 1);
    }
    int status;
    CHECK(waitpid(child, &status, 0) == child && status == 0);
    Journal *j = open_here();
    Recoverable *r;
    size_t n = recoverable_list(j, "/harrow/night.log", &r);
    CHECK_INT(n, 1);
    if (n)
        comes_back(j, r[0].id, "quay quay quay ");
    recoverable_free(r, n);
    journal_close(j);
}

TEST(what_is_no_database_is_put_aside)
{
    static const char *const names[] = {"", ".damaged"};
    char path[200], bytes[5000];
    size_t n;
    journal_close(open_here());
    snprintf(path, sizeof path, "%s/.local/state/steady-quill/recovery.db", check_folder());
    memset(bytes, 'x', sizeof bytes);
    check_write(path, bytes, sizeof bytes);
    static const char *const a[] = {"one", NULL};
    somebody_works("/harrow/a.ini", "", a);
    Journal *j = open_here();
    Recoverable *r;
    CHECK_INT(n = recoverable_list(j, NULL, &r), 1);
    recoverable_free(r, n);
    journal_close(j);
    for (int i = 0; i < 2; i++) {
        Bytes name = {0};
        bytes_printf(&name, "%s%s", path, names[i]);
        const char *is = check_read(name.at, &n);
        CHECK(is && (strncmp(is, "xxxx", 4) == 0) == (i == 1));
        bytes_free(&name);
    }
}

TEST(a_damaged_journal_does_no_harm)
{
    static const char *const a[] = {"one", "one two", "one two three", NULL};
    char path[200];
    size_t n_db;
    somebody_works("/harrow/a.ini", "", a);
    snprintf(path, sizeof path, "%s/.local/state/steady-quill/recovery.db", check_folder());
    Journal *j = open_here();
    journal_close(j); /* all into one file */
    char *good = check_read(path, &n_db), *db = malloc(n_db);
    for (int round = 0; round < 150; round++) {
        Err e = {""};
        Recoverable *r;
        memcpy(db, good, n_db);
        size_t from = check_random((unsigned)n_db),
               n = check_random(3) ? 1 + check_random(8) : check_random(4096);
        for (size_t i = from; i < from + n && i < n_db; i++)
            db[i] = (char)check_random(256);
        check_write(path, db, round % 10 ? n_db : from);
        j = journal_open(&e);
        size_t found = j ? recoverable_list(j, NULL, &r) : 0;
        for (size_t i = 0; i < found; i++) {
            Text t = {0};
            if (recoverable_text(j, r[i].id, &t, &e))
                text_drop(&t);
        }
        if (found)
            recoverable_free(r, found);
        journal_close(j);
    }
    free(db);
}

/* Another program has the database locked: work waits, and the end of the program does so for two seconds. */
TEST(a_locked_journal_keeps_nobody)
{
    int go[2], held[2];
    char byte = 0;
    check_folder();
    CHECK(pipe(go) == 0 && pipe(held) == 0);
    pid_t child = fork(); /* before there is a connection, which is not to be taken along */
    if (child == 0) {
        Err e;
        setenv("HOME", check_folder(), 1);
        unsetenv("XDG_STATE_HOME");
        bool told = read(go[0], &byte, 1) == 1;
        sqlite3 *db = database_open("recovery.db", "", 1000, &e);
        byte = db && sqlite3_exec(db, "BEGIN IMMEDIATE", NULL, NULL, NULL) == SQLITE_OK;
        _exit(told && write(held[1], &byte, 1) == 1 && pause() ? 0 : 1);
    }
    Journal *j = open_here();
    DiskState disk = {0};
    Text t = {0}, now = text_of("typed");
    size_t bytes;
    int64_t id = journal_begin(j, "/harrow/a.ini", &disk, t);
    CHECK(journal_settle(j, 5000));
    CHECK(write(go[1], &byte, 1) == 1 && read(held[0], &byte, 1) == 1 && byte == 1);
    CHECK(journal_patch(j, id, t, now, &bytes));
    uint64_t begun = system_now_ms();
    CHECK(!journal_close(j));
    uint64_t took = system_now_ms() - begun;
    check_result(took > 1500 && took < 15000, __FILE__, __LINE__, "it took %llu ms",
                 (unsigned long long)took);
    kill(child, SIGKILL);
    waitpid(child, NULL, 0);
    text_drop(&now);
    for (int i = 0; i < 2; i++) {
        close(go[i]);
        close(held[i]);
    }
}
