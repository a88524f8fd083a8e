#include "kept/store.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "kept/database.h"

#include <sqlite3.h>
#include <xxhash.h>

#include <assert.h>
#include <stdlib.h>
#include <time.h>

enum {
    KEPT_OF_A_KIND = 200,
    KINDS_KEPT = 2000,
    PLACES_KEPT = 10000,
    LATELY_KEPT = 500,
    LATELY_SECONDS = 6 * 7 * 24 * 3600, /* six weeks */
    BUSY_MS = 200,
    HISTORY_DAYS = 90,
    HISTORY_BYTES = 64 * 1024 * 1024, /* of all files together */
};

enum { PREPARED = 24 /* statements */ };

struct Store {
    sqlite3 *db;
    struct {
        const char *sql; /* a constant: recognised by its address */
        sqlite3_stmt *q;
    } prepared[PREPARED];
    size_t n_prepared;
};

static const char schema[] =
    "CREATE TABLE IF NOT EXISTS answers(id INTEGER PRIMARY KEY AUTOINCREMENT,"
    " kind TEXT NOT NULL, answer TEXT NOT NULL, UNIQUE(kind, answer));"
    "CREATE TABLE IF NOT EXISTS histories(path TEXT PRIMARY KEY, hash INTEGER NOT NULL,"
    " day INTEGER NOT NULL, bytes INTEGER NOT NULL, history BLOB NOT NULL);"
    "CREATE TABLE IF NOT EXISTS lately(path TEXT PRIMARY KEY, seconds INTEGER NOT NULL);"
    "CREATE TABLE IF NOT EXISTS kinds(path TEXT PRIMARY KEY, kind TEXT NOT NULL);"
    "CREATE TABLE IF NOT EXISTS places(id INTEGER PRIMARY KEY AUTOINCREMENT,"
    " path TEXT NOT NULL UNIQUE, line INTEGER NOT NULL, column INTEGER NOT NULL);";

Store *store_open(Err *e)
{
    sqlite3 *db = database_open("state.db", schema, BUSY_MS, e);
    if (!db)
        return NULL;
    Store *s = mem_get(sizeof *s);
    s->db = db;
    return s;
}

void store_close(Store *s)
{
    if (!s)
        return;
    for (size_t i = 0; i < s->n_prepared; i++)
        sqlite3_finalize(s->prepared[i].q);
    sqlite3_close(s->db);
    free(s);
}

void store_begin(Store *s)
{
    sqlite3_exec(s->db, "BEGIN", NULL, NULL, NULL);
}

void store_end(Store *s)
{
    if (!sqlite3_get_autocommit(s->db))
        sqlite3_exec(s->db, "COMMIT", NULL, NULL, NULL);
}

/* A statement, which is kept for the next time. */
static sqlite3_stmt *prepare(Store *s, const char *sql, const char *kind, const char *answer)
{
    size_t i = 0;
    while (i < s->n_prepared && s->prepared[i].sql != sql)
        i++;
    if (i == s->n_prepared) {
        assert(i < PREPARED);
        if (sqlite3_prepare_v2(s->db, sql, -1, &s->prepared[i].q, NULL) != SQLITE_OK)
            return NULL;
        s->prepared[i].sql = sql;
        s->n_prepared++;
    }
    sqlite3_stmt *q = s->prepared[i].q;
    sqlite3_bind_text(q, 1, kind, -1, SQLITE_TRANSIENT);
    if (answer)
        sqlite3_bind_text(q, 2, answer, -1, SQLITE_TRANSIENT);
    return q;
}

static void done(sqlite3_stmt *q)
{
    sqlite3_reset(q);
    sqlite3_clear_bindings(q);
}

void store_add(Store *s, const char *kind, const char *answer)
{
    sqlite3_stmt *q = prepare(s, "INSERT OR REPLACE INTO answers(kind, answer) VALUES(?, ?)", kind, answer);
    sqlite3_step(q);
    done(q);
    q = prepare(s,
                "DELETE FROM answers WHERE kind = ?1 AND id <= (SELECT id FROM answers WHERE kind = ?1"
                " ORDER BY id DESC LIMIT 1 OFFSET ?2)",
                kind, NULL);
    sqlite3_bind_int(q, 2, KEPT_OF_A_KIND);
    sqlite3_step(q);
    done(q);
}

void store_each(Store *s, const char *kind, size_t most, void (*each)(const char *answer, void *ctx),
                void *ctx)
{
    sqlite3_stmt *q =
        prepare(s, "SELECT answer FROM answers WHERE kind = ? ORDER BY id DESC LIMIT ?", kind, NULL);
    sqlite3_bind_int(q, 2, (int)most);
    while (sqlite3_step(q) == SQLITE_ROW)
        each((const char *)sqlite3_column_text(q, 0), ctx);
    done(q);
}

void store_put_place(Store *s, const char *path, size_t line, size_t column)
{
    sqlite3_stmt *q =
        prepare(s, "INSERT OR REPLACE INTO places(path, line, column) VALUES(?, ?, ?)", path, NULL);
    sqlite3_bind_int64(q, 2, (sqlite3_int64)line);
    sqlite3_bind_int64(q, 3, (sqlite3_int64)column);
    sqlite3_step(q);
    done(q);
    q = prepare(s, "DELETE FROM places WHERE id <= (SELECT max(id) FROM places) - ?1", NULL, NULL);
    sqlite3_bind_int(q, 1, PLACES_KEPT);
    sqlite3_step(q);
    done(q);
}

void store_put_lately(Store *s, const char *path, long long seconds)
{
    sqlite3_stmt *q = prepare(s, "INSERT OR REPLACE INTO lately(path, seconds) VALUES(?, ?)", path, NULL);
    sqlite3_bind_int64(q, 2, seconds);
    sqlite3_step(q);
    done(q);
    q = prepare(s,
                "DELETE FROM lately WHERE seconds < ?1 OR path NOT IN (SELECT path FROM lately ORDER BY "
                "seconds DESC LIMIT ?2)",
                NULL, NULL);
    sqlite3_bind_int64(q, 1, seconds - LATELY_SECONDS);
    sqlite3_bind_int(q, 2, LATELY_KEPT);
    sqlite3_step(q);
    done(q);
}

void store_each_lately(Store *s, long long now, void (*each)(const char *path, long long seconds, void *ctx),
                       void *ctx)
{
    sqlite3_stmt *q =
        prepare(s, "SELECT path, seconds FROM lately WHERE seconds >= ?1 ORDER BY seconds DESC", NULL, NULL);
    sqlite3_bind_int64(q, 1, now - LATELY_SECONDS);
    while (sqlite3_step(q) == SQLITE_ROW)
        each((const char *)sqlite3_column_text(q, 0), sqlite3_column_int64(q, 1), ctx);
    done(q);
}

void store_forget_lately(Store *s, const char *path)
{
    sqlite3_stmt *q = prepare(s, "DELETE FROM lately WHERE path = ?", path, NULL);
    sqlite3_step(q);
    done(q);
}

void store_put_kind(Store *s, const char *path, const char *kind)
{
    sqlite3_stmt *q = *kind ? prepare(s, "INSERT OR REPLACE INTO kinds(path, kind) VALUES(?, ?)", path, kind)
                            : prepare(s, "DELETE FROM kinds WHERE path = ?", path, NULL);
    sqlite3_step(q);
    done(q);
    q = prepare(s, "DELETE FROM kinds WHERE rowid <= (SELECT max(rowid) FROM kinds) - ?1", NULL, NULL);
    sqlite3_bind_int(q, 1, KINDS_KEPT);
    sqlite3_step(q);
    done(q);
}

char *store_get_kind(Store *s, const char *path)
{
    sqlite3_stmt *q = prepare(s, "SELECT kind FROM kinds WHERE path = ?", path, NULL);
    char *kind = sqlite3_step(q) == SQLITE_ROW ? mem_string((const char *)sqlite3_column_text(q, 0)) : NULL;
    done(q);
    return kind;
}

bool store_get_place(Store *s, const char *path, size_t *line, size_t *column)
{
    sqlite3_stmt *q = prepare(s, "SELECT line, column FROM places WHERE path = ?", path, NULL);
    bool found = sqlite3_step(q) == SQLITE_ROW;
    if (found) {
        *line = (size_t)sqlite3_column_int64(q, 0);
        *column = (size_t)sqlite3_column_int64(q, 1);
    }
    done(q);
    return found;
}

uint64_t store_hash(Text t)
{
    XXH3_state_t *state = XXH3_createState();
    XXH3_64bits_reset(state);
    for (size_t at = 0; at < text_len(t);) {
        TextRun run = text_run(t, at);
        XXH3_64bits_update(state, run.at, run.len);
        at += run.len;
    }
    uint64_t hash = XXH3_64bits_digest(state);
    XXH3_freeState(state);
    return hash;
}

/* Makes room: what is old goes first, then what was not used for longest. */
static void prune_histories(Store *s, long long today)
{
    sqlite3_stmt *q = NULL;
    if (sqlite3_prepare_v2(
            s->db,
            "DELETE FROM histories WHERE day < ?1 OR path IN (SELECT path FROM (SELECT path,"
            " SUM(bytes) OVER (ORDER BY day DESC, rowid DESC) AS total FROM histories) WHERE total > ?2)",
            -1, &q, NULL) != SQLITE_OK)
        return;
    sqlite3_bind_int64(q, 1, today - HISTORY_DAYS);
    sqlite3_bind_int64(q, 2, HISTORY_BYTES);
    sqlite3_step(q);
    sqlite3_finalize(q);
}

void store_put_undo(Store *s, const char *path, uint64_t hash, const Bytes *history)
{
    long long today = (long long)time(NULL) / (24 * 3600);
    sqlite3_stmt *q = prepare(s, "INSERT OR REPLACE INTO histories VALUES(?1, ?2, ?3, ?4, ?5)", path, NULL);
    sqlite3_bind_int64(q, 2, (sqlite3_int64)hash);
    sqlite3_bind_int64(q, 3, today);
    sqlite3_bind_int64(q, 4, (sqlite3_int64)history->len);
    sqlite3_bind_blob(q, 5, bytes_str(history), (int)history->len, SQLITE_TRANSIENT);
    sqlite3_step(q);
    done(q);
    prune_histories(s, today);
}

bool store_get_undo(Store *s, const char *path, uint64_t hash, Bytes *out)
{
    sqlite3_stmt *q = prepare(s, "SELECT history FROM histories WHERE path = ?1 AND hash = ?2", path, NULL);
    sqlite3_bind_int64(q, 2, (sqlite3_int64)hash);
    bool found = sqlite3_step(q) == SQLITE_ROW;
    if (found)
        bytes_add(out, sqlite3_column_blob(q, 0), (size_t)sqlite3_column_bytes(q, 0));
    done(q);
    return found;
}
