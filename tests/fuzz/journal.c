/* Any bytes as what is found of an earlier run: patches, histories, rows of the journal, its database file,
 * and notes of use. What is damaged is left out; nothing is believed. */
#include "fuzz.h"
#include "edit/doc.h"
#include "edit/dump.h"
#include "kept/journal.h"
#include "files/in_use.h"
#include "kept/patch.h"
#include "kept/recoverable.h"

#include <fcntl.h>
#include <sqlite3.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <unistd.h>

static const char db_name[] = ".local/state/steady-quill/recovery.db";

static Text text_of(const uint8_t *bytes, size_t n)
{
    Text t = {0};
    MUST(text_insert(&t, 0, bytes, n));
    return t;
}

static void try_patch(const uint8_t *bytes, size_t n)
{
    size_t cut = fuzz_byte(&bytes, &n) % (n + 1);
    Text base = text_of(bytes, cut), out = {0};
    if (patch_apply(base, bytes + cut, n - cut, &out)) {
        Bytes again = {0};
        Text same = {0};
        MUST(text_check(out));
        patch_make(base, out, &again);
        MUST(patch_apply(base, again.at, again.len, &same));
        MUST(text_len(same) == text_len(out) && text_same_bytes(same, 0, out, 0, text_len(out)));
        text_drop(&same);
        bytes_free(&again);
    }
    text_drop(&out);
    text_drop(&base);
}

static void try_history(const uint8_t *bytes, size_t n)
{
    size_t cut = fuzz_byte(&bytes, &n) % (n + 1), at;
    Doc *d = doc_new(text_of(bytes, cut));
    if (dump_restore(d, bytes + cut, n - cut))
        for (size_t i = 0; i < doc_states(d); i++) {
            doc_go(d, i, &at);
            MUST(text_check(doc_text(d)) && at <= text_len(doc_text(d)));
        }
    doc_free(d);
}

/* Reads all there is in the journal, as the list of what can be recovered does. */
static void read_journal(void)
{
    Err e;
    Recoverable *r = NULL;
    Journal *j = journal_open(&e);
    size_t n = j ? recoverable_list(j, NULL, &r) : 0;
    for (size_t i = 0; i < n; i++) {
        Text t = {0};
        if (recoverable_text(j, r[i].id, &t, &e)) {
            MUST(text_check(t));
            text_drop(&t);
        }
        if (i % 2)
            journal_done(j, r[i].id);
    }
    recoverable_free(r, n);
    journal_close(j);
}

static void forget_journal(void)
{
    char path[200];
    static const char *const ends[] = {"", "-wal", "-shm"};
    for (size_t i = 0; i < 3; i++) {
        snprintf(path, sizeof path, "%s/%s%s", fuzz_home(), db_name, ends[i]);
        unlink(path);
    }
}

static void bind_any(sqlite3_stmt *q, int column, const uint8_t **bytes, size_t *n)
{
    unsigned what = fuzz_byte(bytes, n);
    size_t len = fuzz_byte(bytes, n);
    len = len < *n ? len : *n;
    if (what % 4 == 0)
        sqlite3_bind_int64(q, column, what == 4 ? INT64_MAX : (sqlite3_int64)len - 100);
    else if (what % 4 == 1)
        sqlite3_bind_text(q, column, (const char *)*bytes, (int)len, SQLITE_TRANSIENT);
    else
        sqlite3_bind_blob(q, column, len ? (const char *)*bytes : "", (int)len, SQLITE_TRANSIENT);
    if (what % 4) {
        *bytes += len;
        *n -= len;
    }
}

/* Rows that we would never have written. */
static void try_rows(const uint8_t *bytes, size_t n)
{
    char path[200];
    Err e;
    sqlite3 *db = NULL;
    forget_journal();
    journal_close(journal_open(&e));
    snprintf(path, sizeof path, "%s/%s", fuzz_home(), db_name);
    MUST(sqlite3_open(path, &db) == SQLITE_OK);
    while (n) {
        sqlite3_stmt *q = NULL;
        bool patch = fuzz_byte(&bytes, &n) % 2;
        sqlite3_prepare_v2(
            db,
            patch ? "INSERT INTO patches(id, patch) VALUES(?1 % 3, ?2)"
                  : "INSERT OR REPLACE INTO texts VALUES(?1 % 3, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11)",
            -1, &q, NULL);
        for (int i = 1; i <= (patch ? 2 : 11); i++)
            bind_any(q, i, &bytes, &n);
        sqlite3_step(q);
        sqlite3_finalize(q);
    }
    sqlite3_close(db);
    read_journal();
}

static void write_good_journal(void)
{
    Err e;
    DiskState disk = {.exists = false};
    Text before = text_of((const uint8_t *)"berth one\n", 10), after = text_keep(before);
    forget_journal();
    Journal *j = journal_open(&e);
    MUST(j && text_insert(&after, 5, " and two", 8));
    int64_t id = journal_begin(j, "/harrow/berths.yaml", &disk, before);
    size_t bytes;
    journal_patch(j, id, before, after, &bytes);
    journal_drop(j, id);
    text_drop(&before);
    text_drop(&after);
    journal_close(j);
}

/* A good database of which some bytes are others. */
static void try_database(const uint8_t *bytes, size_t n)
{
    char path[200];
    write_good_journal();
    snprintf(path, sizeof path, "%s/%s", fuzz_home(), db_name);
    int fd = open(path, O_RDWR);
    MUST(fd >= 0);
    while (n > 3) {
        off_t at = (off_t)(fuzz_byte(&bytes, &n) << 8);
        at += (off_t)fuzz_byte(&bytes, &n);
        size_t len = fuzz_byte(&bytes, &n) % 16 + 1;
        len = len < n ? len : n;
        MUST(pwrite(fd, bytes, len, at) == (ssize_t)len);
        bytes += len;
        n -= len;
    }
    close(fd);
    read_journal();
}

static void try_note(const uint8_t *bytes, size_t n)
{
    InUse u = {.fd = -1};
    InUseBy by;
    size_t line = 0;
    char file[200], note[200];
    snprintf(file, sizeof file, "%s", fuzz_put("berths.yaml", "", 0));
    snprintf(note, sizeof note, "%s/steady-quill-1-XXXXXX", in_use_folder());
    int fd = mkstemp(note);
    MUST(fd >= 0 && write(fd, bytes, n) == (ssize_t)n && flock(fd, LOCK_EX | LOCK_NB) == 0);
    if (!in_use_take(&u, file, &line, &by)) /* it happens to name that file */
        MUST(strnlen(by.user, sizeof by.user) < sizeof by.user);
    unlink(note);
    close(fd);
    in_use_end(&u);
}

int LLVMFuzzerTestOneInput(const uint8_t *bytes, size_t n)
{
    static void (*const tries[])(const uint8_t *, size_t) = {try_patch, try_history, try_rows, try_database,
                                                             try_note};
    fuzz_home();
    unsigned which = fuzz_byte(&bytes, &n) % 5;
    tries[which](bytes, n);
    return 0;
}
