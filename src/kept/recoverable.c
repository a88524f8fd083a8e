#include "kept/recoverable.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/programs.h"
#include "base/system.h"
#include "kept/database.h"
#include "kept/patch.h"

#include <sqlite3.h>

#include <stdlib.h>
#include <string.h>

static bool alive(const Journal *j, const char *host, pid_t pid, long long when_born)
{
    return strcmp(host, journal_host(j)) == 0 && pid > 0 && programs_live(pid) &&
           programs_born(pid) == when_born;
}

/* Adds those of one path, or all, to the `n` of a list; returns how many there are now. */
static size_t add_of(Journal *j, sqlite3_stmt *q, const char *path, Recoverable **out, size_t n)
{
    sqlite3_clear_bindings(q);
    if (path)
        database_bind_bytes(q, 1, path, strlen(path));
    while (sqlite3_step(q) == SQLITE_ROW) {
        const char *host = (const char *)sqlite3_column_text(q, 2);
        host = host ? host : "";
        bool dropped = sqlite3_column_int64(q, 6) > 0;
        if (!dropped && alive(j, host, sqlite3_column_int(q, 3), sqlite3_column_int64(q, 4)))
            continue;
        *out = array_room(*out, n, sizeof **out);
        const void *name = sqlite3_column_blob(q, 1);
        (*out)[n++] = (Recoverable){
            .id = sqlite3_column_int64(q, 0),
            .path = name ? mem_string_n(name, (size_t)sqlite3_column_bytes(q, 1)) : NULL,
            .host = mem_string(host),
            .when = sqlite3_column_int64(q, 5),
            .dropped = dropped,
            .foreign = strcmp(host, journal_host(j)) != 0,
            .bytes = (size_t)sqlite3_column_int64(q, 7),
        };
    }
    return n;
}

size_t recoverable_of(Journal *j, const char *const *paths, size_t n_paths, Recoverable **out, Err *e)
{
    sqlite3_stmt *q = NULL;
    size_t n = 0;
    *out = NULL;
    e->text[0] = 0;
    sqlite3 *db = journal_look_into(j, e);
    if (!db)
        return 0;
    static const char sql[] =
        "SELECT id, path, host, pid, born, changed, dropped, COALESCE(length(base), 0) + (SELECT"
        " COALESCE(SUM(length(patch)), 0) FROM patches p WHERE p.id = t.id) FROM texts t"
        " WHERE (?1 IS NULL OR path = ?1 OR id IN (SELECT id FROM names n WHERE n.path = ?1)) AND "
        "EXISTS(SELECT 1 FROM patches p WHERE p.id = t.id)"
        " ORDER BY (SELECT MAX(number) FROM patches p WHERE p.id = t.id) DESC";
    if (sqlite3_prepare_v2(db, sql, -1, &q, NULL) != SQLITE_OK)
        err_set(e, "%s", sqlite3_errmsg(db));
    for (size_t i = 0; q && i < n_paths; i++) {
        size_t before = n;
        n = add_of(j, q, paths[i], out, n);
        if (sqlite3_reset(q) != SQLITE_OK)
            err_set(e, "%s", sqlite3_errmsg(db));
        for (size_t k = before; k < n; k++)
            (*out)[k].of = i;
    }
    sqlite3_finalize(q);
    sqlite3_close(db);
    return n;
}

size_t recoverable_list(Journal *j, const char *path, Recoverable **out)
{
    Err ignored;
    return recoverable_of(j, &path, 1, out, &ignored);
}

void recoverable_free(Recoverable *r, size_t n)
{
    for (size_t i = 0; i < n; i++) {
        free(r[i].path);
        free(r[i].host);
    }
    free(r);
}

/* One of the files that it leads on from, if that is still as it was. *after: the patches up to there are in
 * it. */
static bool read_file_base(sqlite3 *db, int64_t id, Text *out, int64_t *after, Err *e)
{
    sqlite3_stmt *q =
        database_statement(db,
                           "SELECT path, inode, size, seconds, nanoseconds, after FROM file_bases"
                           " WHERE id = ?1 AND path NOT NULL ORDER BY which",
                           id);
    bool ok = false;
    err_set(e, "It is damaged");
    while (!ok && sqlite3_step(q) == SQLITE_ROW) {
        DiskState disk = {0};
        char *path = mem_string_n(sqlite3_column_blob(q, 0), (size_t)sqlite3_column_bytes(q, 0));
        ok = *path && load_file(path, out, &disk, e);
        bool same = ok && disk.exists && (sqlite3_int64)disk.file.node.number == sqlite3_column_int64(q, 1) &&
                    (sqlite3_int64)disk.file.size == sqlite3_column_int64(q, 2) &&
                    disk.file.written.seconds == sqlite3_column_int64(q, 3) &&
                    disk.file.written.nanoseconds == sqlite3_column_int64(q, 4);
        if (ok && !same) {
            text_drop(out);
            ok = err_set(e, "somebody else changed %s since, and it was too large to be kept",
                         path_base(path));
        }
        *after = sqlite3_column_int64(q, 5);
        free(path);
    }
    sqlite3_finalize(q);
    return ok;
}

/* What the patches begin from: stored, or a file as long as nobody touched it. */
static bool read_base(sqlite3 *db, int64_t id, Text *out, int64_t *after, Err *e)
{
    sqlite3_stmt *q = database_statement(db, "SELECT base FROM texts WHERE id = ?1", id);
    bool ok = q && sqlite3_step(q) == SQLITE_ROW;
    *out = (Text){0};
    *after = 0;
    if (!ok)
        err_set(e, "It is no longer there");
    else if (sqlite3_column_type(q, 0) != SQLITE_NULL)
        ok = text_insert(out, 0, sqlite3_column_blob(q, 0), (size_t)sqlite3_column_bytes(q, 0)) ||
             err_set(e, "There is not enough memory");
    else
        ok = read_file_base(db, id, out, after, e);
    sqlite3_finalize(q);
    return ok;
}

static sqlite3_stmt *patches_after(sqlite3 *db, int64_t id, int64_t after)
{
    sqlite3_stmt *q =
        database_statement(db, "SELECT patch FROM patches WHERE id = ?1 AND number > ?2 ORDER BY number", id);
    sqlite3_bind_int64(q, 2, after);
    return q;
}

/* A read that failed says nothing of what is there: it may succeed the next time. */
typedef enum Fate { WHOLE, DAMAGED, FAILED } Fate;

static Fate apply_patches(sqlite3 *db, int64_t id, int64_t after, Text *t, Err *e)
{
    sqlite3_stmt *q = patches_after(db, id, after);
    int step;
    bool fits = true;
    while (fits && (step = sqlite3_step(q)) == SQLITE_ROW) {
        Text next;
        fits = patch_apply(*t, sqlite3_column_blob(q, 0), (size_t)sqlite3_column_bytes(q, 0), &next);
        if (!fits)
            break;
        text_drop(t);
        *t = next;
    }
    Fate fate = !fits ? DAMAGED : step == SQLITE_DONE ? WHOLE : step == SQLITE_CORRUPT ? DAMAGED : FAILED;
    if (fate == DAMAGED)
        err_set(e, "A part of it is damaged; this is what was before that");
    else if (fate == FAILED)
        err_set(e, "It could not be read just now: %s. It is kept", sqlite3_errmsg(db));
    sqlite3_finalize(q);
    return fate;
}

static Fate read_text(Journal *j, int64_t id, Text *out, Err *e)
{
    int64_t after;
    Fate fate = FAILED;
    *out = (Text){0};
    e->text[0] = 0;
    sqlite3 *db = journal_look_into(j, e);
    if (db && read_base(db, id, out, &after, e)) {
        e->text[0] = 0;
        fate = apply_patches(db, id, after, out, e);
    }
    sqlite3_close(db);
    return fate;
}

/* A read that brought less than is there looks like damage, too: it must look so each time. */
bool recoverable_text(Journal *j, int64_t id, Text *out, Err *e)
{
    enum { TRIES = 3 };
    Fate fate = read_text(j, id, out, e);
    for (int i = 1; i < TRIES && fate != WHOLE; i++) {
        text_drop(out);
        fate = read_text(j, id, out, e);
    }
    if (fate == FAILED)
        text_drop(out);
    return fate != FAILED;
}

bool recoverable_remains(Journal *j, int64_t id, Text *out)
{
    Err e;
    Bytes words = {0};
    sqlite3 *db = journal_look_into(j, &e);
    sqlite3_stmt *q = db ? patches_after(db, id, 0) : NULL;
    while (q && sqlite3_step(q) == SQLITE_ROW)
        patch_words(sqlite3_column_blob(q, 0), (size_t)sqlite3_column_bytes(q, 0), &words);
    sqlite3_finalize(q);
    sqlite3_close(db);
    *out = (Text){0};
    bool ok = words.len && text_insert(out, 0, words.at, words.len);
    bytes_free(&words);
    return ok;
}
