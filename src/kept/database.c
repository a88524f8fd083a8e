#include "kept/database.h"

#include "base/bytes.h"
#include "base/own_folder.h"

#include <sqlite3.h>

#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <unistd.h>

/* *damaged: what is there is no database, or a broken one. */
static sqlite3 *try(const char *path, const char *schema, int busy_ms, bool *damaged, Err *e)
{
    sqlite3 *db = NULL;
    /* Made here for its mode, which what belongs to it takes from it; one that is there is not opened, as
     * closing it would give back the locks of this program's other connections. */
    int fd = open(path, O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0600);
    if (fd >= 0)
        close(fd);
    int code = sqlite3_open(path, &db);
    sqlite3_busy_timeout(db, busy_ms);
    if (code == SQLITE_OK)
        code = sqlite3_exec(db, "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL;", NULL, NULL, NULL);
    if (code == SQLITE_OK)
        code = sqlite3_exec(db, schema, NULL, NULL, NULL);
    if (code == SQLITE_OK)
        return db;
    *damaged = code == SQLITE_NOTADB || code == SQLITE_CORRUPT;
    err_set(e, "%s (%s)", db ? sqlite3_errmsg(db) : "no memory", path);
    sqlite3_close(db);
    return NULL;
}

/* What belongs to it goes along, so that it is not taken for the new one's. */
static void put_aside(const char *path)
{
    static const char *const parts[] = {"", "-wal", "-shm"};
    for (size_t i = 0; i < sizeof parts / sizeof *parts; i++) {
        Bytes from = {0}, to = {0};
        bytes_printf(&from, "%s%s", path, parts[i]);
        bytes_printf(&to, "%s.damaged%s", path, parts[i]);
        if (rename(from.at, to.at) != 0 && i > 0)
            unlink(from.at);
        bytes_free(&from);
        bytes_free(&to);
    }
}

sqlite3 *database_open(const char *name, const char *schema, int busy_ms, Err *e)
{
    enum { TRIES = 3 };
    char *folder = own_folder_of_state(e);
    if (!folder)
        return NULL;
    Bytes path = {0};
    bool damaged = false;
    bytes_printf(&path, "%s/%s", folder, name);
    free(folder);
    sqlite3 *db = try(path.at, schema, busy_ms, &damaged, e);
    for (int i = 1; i < TRIES && !db && damaged;
         i++) { /* a read that brought too little looks like that once */
        damaged = false;
        e->text[0] = 0;
        db = try(path.at, schema, busy_ms, &damaged, e);
    }
    if (!db && damaged) {
        put_aside(path.at);
        e->text[0] = 0;
        db = try(path.at, schema, busy_ms, &damaged, e);
    }
    bytes_free(&path);
    return db;
}

sqlite3_stmt *database_statement(sqlite3 *db, const char *sql, int64_t id)
{
    sqlite3_stmt *q = NULL;
    if (sqlite3_prepare_v2(db, sql, -1, &q, NULL) == SQLITE_OK)
        sqlite3_bind_int64(q, 1, id);
    return q;
}

void database_bind_bytes(sqlite3_stmt *q, int at, const char *bytes, size_t n)
{
    sqlite3_bind_blob64(q, at, n ? bytes : "", n, SQLITE_STATIC);
}

bool database_finish(sqlite3_stmt *q)
{
    bool ok = sqlite3_step(q) == SQLITE_DONE;
    sqlite3_finalize(q);
    return ok;
}
