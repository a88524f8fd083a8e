#include "kept/journal.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/mem.h"
#include "base/programs.h"
#include "base/system.h"
#include "kept/database.h"
#include "kept/patch.h"

#include <sqlite3.h>

#include <fcntl.h>
#include <pthread.h>
#include <signal.h>
#include <stdatomic.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

enum {
    BUSY_MS = 300,   /* that another program's lock is waited for at once */
    AGAIN_MS = 1000, /* between two tries to write */
    LAST_MS = 2000,  /* of trying when the program ends */
    REPLACING_MS = 2000,
};

typedef enum ItemKind {
    ITEM_BEGIN,
    ITEM_PATCH,
    ITEM_MARK,
    ITEM_SECOND_BASE,
    ITEM_RENAMING,
    ITEM_RENAME,
    ITEM_DONE,
    ITEM_DROP,
    ITEM_END
} ItemKind;

/* Something for the thread to write. */
typedef struct Item {
    struct Item *next;
    ItemKind kind;
    int64_t id;
    char *path;
    DiskState disk;
    Bytes bytes; /* the base, or a patch */
    bool has_base;
    long long when;
} Item;

struct Journal {
    sqlite3 *writer; /* the thread's; others open one for themselves while they need it */
    pthread_t thread;
    pthread_mutex_t lock;
    pthread_cond_t more;
    Item *first, **last;
    atomic_int waiting;   /* items handed over and not on disk yet */
    atomic_bool troubled; /* the last try to write failed, */
    Err trouble;          /* for this reason */
    atomic_uint life;     /* how many databases there were */
    FileNode node;
    char *log; /* the database's write-ahead log */
    char host[64];
    size_t base_most;
    long long born; /* when this process began, by the system's own count */
};

static const char schema[] =
    "CREATE TABLE IF NOT EXISTS texts(id INTEGER PRIMARY KEY, path BLOB, host TEXT NOT NULL, pid INTEGER"
    " NOT NULL, born INTEGER NOT NULL, changed INTEGER NOT NULL, dropped INTEGER NOT NULL DEFAULT 0,"
    " base BLOB, size INTEGER NOT NULL, seconds INTEGER NOT NULL, nanoseconds INTEGER NOT NULL);"
    "CREATE TABLE IF NOT EXISTS patches(number INTEGER PRIMARY KEY AUTOINCREMENT, id INTEGER NOT NULL, patch"
    " BLOB NOT NULL);"
    "CREATE INDEX IF NOT EXISTS patches_of ON patches(id, number);"
    /* Files that a text's patches (those after a number) lead on from: 0 what it was read from, 1 what it is
     * just being written to. */
    "CREATE TABLE IF NOT EXISTS file_bases(id INTEGER NOT NULL, which INTEGER NOT NULL, after INTEGER NOT "
    "NULL,"
    " path BLOB, inode INTEGER, size INTEGER, seconds INTEGER, nanoseconds INTEGER, PRIMARY KEY(id, which));"
    /* While a file is being renamed it may be found by either name; its base (2) too. */
    "CREATE TABLE IF NOT EXISTS names(id INTEGER PRIMARY KEY, path BLOB NOT NULL);";

/* ---- the thread ---- */

static sqlite3 *open_db(Err *e)
{
    return database_open("recovery.db", schema, BUSY_MS, e);
}

/* The identity of the second one is known only when the file is whole; then it is there already. */
static bool write_file_base(Journal *j, const Item *i, int which)
{
    sqlite3_stmt *q =
        database_statement(j->writer,
                           which ? "UPDATE file_bases SET path = ?2, inode = ?3, size = ?4, seconds = ?5,"
                                   " nanoseconds = ?6 WHERE id = ?1 AND which = 1"
                                 : "INSERT OR REPLACE INTO file_bases(id, which, after, path, inode, size,"
                                   " seconds, nanoseconds) VALUES(?1, 0, 0, ?2, ?3, ?4, ?5, ?6)",
                           i->id);
    database_bind_bytes(q, 2, i->path, strlen(i->path));
    sqlite3_bind_int64(q, 3, (sqlite3_int64)i->disk.file.node.number);
    sqlite3_bind_int64(q, 4, (sqlite3_int64)i->disk.file.size);
    sqlite3_bind_int64(q, 5, i->disk.file.written.seconds);
    sqlite3_bind_int64(q, 6, i->disk.file.written.nanoseconds);
    return database_finish(q);
}

static bool write_begin(Journal *j, const Item *i)
{
    sqlite3_stmt *q = database_statement(
        j->writer,
        "INSERT OR REPLACE INTO texts(id, path, host, pid, born, changed, base, size, seconds,"
        " nanoseconds) VALUES(?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10)",
        i->id);
    if (i->path)
        database_bind_bytes(q, 2, i->path, strlen(i->path));
    sqlite3_bind_text(q, 3, j->host, -1, SQLITE_STATIC);
    sqlite3_bind_int64(q, 4, getpid());
    sqlite3_bind_int64(q, 5, j->born);
    sqlite3_bind_int64(q, 6, i->when);
    if (i->has_base)
        database_bind_bytes(q, 7, i->bytes.at, i->bytes.len);
    sqlite3_bind_int64(q, 8, i->disk.exists ? (sqlite3_int64)i->disk.file.size : -1);
    sqlite3_bind_int64(q, 9, i->disk.exists ? i->disk.file.written.seconds : 0);
    sqlite3_bind_int64(q, 10, i->disk.exists ? i->disk.file.written.nanoseconds : 0);
    return database_finish(q) && (i->has_base || !i->path || write_file_base(j, i, 0));
}

static bool write_patch(Journal *j, const Item *i)
{
    sqlite3_stmt *q = database_statement(j->writer, "INSERT INTO patches(id, patch) VALUES(?1, ?2)", i->id);
    database_bind_bytes(q, 2, i->bytes.at, i->bytes.len);
    if (!database_finish(q))
        return false;
    q = database_statement(j->writer, "UPDATE texts SET changed = ?2 WHERE id = ?1", i->id);
    sqlite3_bind_int64(q, 2, i->when);
    return database_finish(q);
}

static bool write_renaming(Journal *j, const Item *i)
{
    sqlite3_stmt *q =
        database_statement(j->writer, "INSERT OR REPLACE INTO names(id, path) VALUES(?1, ?2)", i->id);
    database_bind_bytes(q, 2, i->path, strlen(i->path));
    if (!database_finish(q))
        return false;
    q = database_statement(
        j->writer,
        "INSERT OR REPLACE INTO file_bases SELECT id, 2, after, ?2, inode, size, seconds, nanoseconds"
        " FROM file_bases WHERE id = ?1 AND which = 0",
        i->id);
    database_bind_bytes(q, 2, i->path, strlen(i->path));
    return database_finish(q);
}

static bool forget_renaming(sqlite3 *db, int64_t id)
{
    return database_finish(database_statement(db, "DELETE FROM names WHERE id = ?1", id)) &&
           database_finish(database_statement(db, "DELETE FROM file_bases WHERE id = ?1 AND which = 2", id));
}

static bool write_rename(Journal *j, const Item *i)
{
    sqlite3_stmt *q = database_statement(j->writer, "UPDATE texts SET path = ?2 WHERE id = ?1", i->id);
    if (i->path)
        database_bind_bytes(q, 2, i->path, strlen(i->path));
    if (!database_finish(q))
        return false;
    if (!forget_renaming(j->writer, i->id))
        return false;
    q = database_statement(
        j->writer, "UPDATE file_bases SET path = ?2 WHERE id = ?1 AND which = 0 AND path NOT NULL", i->id);
    if (i->path)
        database_bind_bytes(q, 2, i->path, strlen(i->path));
    return database_finish(q);
}

static bool delete_text(sqlite3 *db, int64_t id)
{
    return forget_renaming(db, id) &&
           database_finish(database_statement(db, "DELETE FROM file_bases WHERE id = ?1", id)) &&
           database_finish(database_statement(db, "DELETE FROM patches WHERE id = ?1", id)) &&
           database_finish(database_statement(db, "DELETE FROM texts WHERE id = ?1", id));
}

/* Old dropped work goes, and then the oldest of what would be too much. */
static void prune(sqlite3 *db)
{
    sqlite3_exec(db, "BEGIN IMMEDIATE", NULL, NULL, NULL);
    database_finish(database_statement(db, "DELETE FROM texts WHERE dropped > 0 AND dropped < ?1",
                                       (int64_t)time(NULL) - JOURNAL_DAYS * 24 * 3600));
    database_finish(database_statement(
        db,
        "DELETE FROM texts WHERE dropped > 0 AND id IN (SELECT id FROM (SELECT t.id, SUM(COALESCE("
        "length(base), 0) + COALESCE((SELECT SUM(length(patch)) FROM patches p WHERE p.id = t.id), 0))"
        " OVER (ORDER BY changed DESC, t.id) AS total FROM texts t) WHERE total > ?1)",
        JOURNAL_BYTES));
    sqlite3_exec(db,
                 "DELETE FROM patches WHERE id NOT IN (SELECT id FROM texts);"
                 "DELETE FROM file_bases WHERE id NOT IN (SELECT id FROM texts);"
                 "DELETE FROM names WHERE id NOT IN (SELECT id FROM texts); COMMIT",
                 NULL, NULL, NULL);
}

static bool write_item(Journal *j, const Item *i)
{
    sqlite3_stmt *q;
    switch (i->kind) {
    case ITEM_BEGIN:
        return write_begin(j, i);
    case ITEM_PATCH:
        return write_patch(j, i);
    case ITEM_MARK:
        return database_finish(
            database_statement(j->writer,
                               "INSERT OR REPLACE INTO file_bases(id, which, after) SELECT ?1, 1,"
                               " COALESCE(MAX(number), 0) FROM patches WHERE id = ?1",
                               i->id));
    case ITEM_SECOND_BASE:
        return write_file_base(j, i, 1);
    case ITEM_RENAMING:
        return write_renaming(j, i);
    case ITEM_RENAME:
        return write_rename(j, i);
    case ITEM_DONE:
        return delete_text(j->writer, i->id);
    case ITEM_DROP:
        q = database_statement(j->writer, "UPDATE texts SET dropped = ?2 WHERE id = ?1", i->id);
        sqlite3_bind_int64(q, 2, i->when);
        return database_finish(q);
    default:
        return true;
    }
}

static void free_item(Item *i)
{
    free(i->path);
    bytes_free(&i->bytes);
    free(i);
}

/* Adds what was handed over to the end of a list; waits for it, `ms` at most unless that is negative. */
static void take_more(Journal *j, Item **all, int ms)
{
    struct timespec until;
    clock_gettime(CLOCK_REALTIME, &until);
    until.tv_sec += ms / 1000;
    until.tv_nsec += ms % 1000 * 1000000L;
    until.tv_sec += until.tv_nsec / 1000000000L;
    until.tv_nsec %= 1000000000L;
    while (*all)
        all = &(*all)->next;
    pthread_mutex_lock(&j->lock);
    for (int code = 0; !j->first && code == 0;)
        code = ms < 0 ? pthread_cond_wait(&j->more, &j->lock)
                      : pthread_cond_timedwait(&j->more, &j->lock, &until);
    *all = j->first;
    j->first = NULL;
    j->last = &j->first;
    pthread_mutex_unlock(&j->lock);
}

/* A commit is safe from the death of the program at once; only a power cut needs this, which may take long.
 */
static void sync_log(const Journal *j)
{
    int fd = open(j->log, O_RDONLY | O_CLOEXEC);
    if (fd >= 0) {
        fdatasync(fd);
        close(fd);
    }
}

static FileNode node_of(const char *path)
{
    FileState st;
    return path && state_of(path, &st) ? st.node : (FileNode){0};
}

/* A database that was removed, or whose folder was, still takes everything in, and loses it. */
static bool still_there(const Journal *j)
{
    FileNode now = node_of(j->writer ? sqlite3_db_filename(j->writer, NULL) : NULL);
    return now.number && state_same_node(now, j->node);
}

static void connect(Journal *j, Err *e)
{
    j->writer = open_db(e);
    j->node = node_of(j->writer ? sqlite3_db_filename(j->writer, NULL) : NULL);
}

/* After a failure nothing is known of what the connection holds, such as locks that could not be given back:
 * the next try has a new one. */
static void begin_again(Journal *j, bool gone)
{
    Err e;
    err_set(&e, "%s", gone ? "the journal was removed" : sqlite3_errmsg(j->writer));
    sqlite3_close(j->writer);
    connect(j, &e);
    if (gone && j->writer)
        atomic_fetch_add(&j->life, 1);
    pthread_mutex_lock(&j->lock);
    j->trouble = e;
    pthread_mutex_unlock(&j->lock);
}

/* All of them or none: a patch only fits what the one before it made. */
static bool write_all_of(Journal *j, const Item *all)
{
    bool gone = !still_there(j);
    bool ok = !gone && sqlite3_exec(j->writer, "BEGIN IMMEDIATE", NULL, NULL, NULL) == SQLITE_OK;
    for (const Item *i = all; ok && i; i = i->next)
        ok = write_item(j, i);
    ok = ok && sqlite3_exec(j->writer, "COMMIT", NULL, NULL, NULL) == SQLITE_OK;
    if (!ok)
        begin_again(j, gone);
    atomic_store(&j->troubled, !ok);
    return ok;
}

static bool holds_end(const Item *all)
{
    while (all && all->kind != ITEM_END)
        all = all->next;
    return all != NULL;
}

/* What cannot be written now (a full disk, say) is tried again until it can be, or the program ends. */
static void *run(void *ctx)
{
    Journal *j = ctx;
    for (bool end = false; !end;) {
        Item *all = NULL;
        uint64_t give_up = 0;
        take_more(j, &all, -1);
        for (int tries = 0; !write_all_of(j, all); tries++) {
            if (holds_end(all) && !give_up)
                give_up = system_now_ms() + LAST_MS;
            if (give_up && system_now_ms() >= give_up)
                break;
            take_more(j, &all, give_up ? 50 : tries < 5 ? 20 << tries : AGAIN_MS);
        }
        sync_log(j);
        end = holds_end(all);
        for (Item *next; all; all = next) {
            next = all->next;
            free_item(all);
            atomic_fetch_sub(&j->waiting, 1);
        }
    }
    if (!atomic_load(&j->troubled))
        prune(j->writer);
    return NULL;
}

/* Several at once are written in one transaction. */
static void hand_over_all(Journal *j, const Item *items, size_t n)
{
    pthread_mutex_lock(&j->lock);
    for (size_t k = 0; k < n; k++) {
        Item *i = mem_get(sizeof *i);
        *i = items[k];
        i->when = (long long)time(NULL);
        atomic_fetch_add(&j->waiting, 1);
        *j->last = i;
        j->last = &i->next;
    }
    pthread_cond_signal(&j->more);
    pthread_mutex_unlock(&j->lock);
}

static void hand_over(Journal *j, Item item)
{
    hand_over_all(j, &item, 1);
}

/* ---- opening and closing ---- */

Journal *journal_open(Err *e)
{
    Journal *j = mem_get(sizeof *j);
    e->text[0] = 0;
    connect(j, e);
    Bytes log = {0};
    bytes_printf(&log, "%s-wal", j->writer ? sqlite3_db_filename(j->writer, NULL) : "");
    j->log = mem_string(log.at);
    bytes_free(&log);
    j->last = &j->first;
    j->base_most = JOURNAL_BASE_MOST;
    gethostname(j->host, sizeof j->host - 1);
    j->born = programs_born(getpid());
    pthread_mutex_init(&j->lock, NULL);
    pthread_cond_init(&j->more, NULL);
    if (j->writer && system_thread(&j->thread, run, j))
        return j;
    if (!e->text[0])
        err_set(e, "No thread could be begun");
    sqlite3_close(j->writer);
    free(j->log);
    free(j);
    return NULL;
}

bool journal_close(Journal *j)
{
    if (!j)
        return true;
    hand_over(j, (Item){.kind = ITEM_END});
    pthread_join(j->thread, NULL);
    bool ok = !atomic_load(&j->troubled);
    sqlite3_close(j->writer);
    pthread_mutex_destroy(&j->lock);
    pthread_cond_destroy(&j->more);
    free(j->log);
    free(j);
    return ok;
}

bool journal_settle(Journal *j, int ms)
{
    struct timespec moment = {0, 2 * 1000 * 1000};
    for (; j && atomic_load(&j->waiting) > 0 && ms > 0; ms -= 2)
        nanosleep(&moment, NULL);
    return !j || atomic_load(&j->waiting) == 0;
}

struct sqlite3 *journal_look_into(Journal *j, Err *e)
{
    journal_settle(j, BUSY_MS);
    return open_db(e);
}

const char *journal_host(const Journal *j)
{
    return j->host;
}

bool journal_trouble(Journal *j, Err *e)
{
    if (!j || !atomic_load(&j->troubled))
        return false;
    pthread_mutex_lock(&j->lock);
    *e = j->trouble;
    pthread_mutex_unlock(&j->lock);
    return true;
}

bool journal_waits(const Journal *j)
{
    return j && atomic_load(&((Journal *)j)->waiting) > 0;
}

/* ---- writing ---- */

unsigned journal_life(Journal *j)
{
    return j ? atomic_load(&j->life) : 0;
}

bool journal_holds_base(const Journal *j, const DiskState *disk, Text base)
{
    return text_len(base) <= (disk->exists ? j->base_most : JOURNAL_LONE_BASE_MOST);
}

void journal_store_bases(Journal *j, size_t most)
{
    j->base_most = most;
}

static Item begin_item(const Journal *j, const char *path, const DiskState *disk, Text base)
{
    int64_t id = 0;
    while (id <= 0) {
        if (!system_random(&id, sizeof id))
            id = (int64_t)system_now_ms() * 4096 + getpid();
        id &= INT64_MAX;
    }
    Item i = {.kind = ITEM_BEGIN, .id = id, .path = path ? mem_string(path) : NULL, .disk = *disk};
    i.has_base = journal_holds_base(j, disk, base);
    if (i.has_base)
        text_bytes(base, 0, text_len(base), &i.bytes);
    return i;
}

int64_t journal_begin(Journal *j, const char *path, const DiskState *disk, Text base)
{
    Item i = begin_item(j, path, disk, base);
    hand_over(j, i);
    return i.id;
}

int64_t journal_replace(Journal *j, int64_t old, bool drop_old, const char *path, const char *also,
                        const DiskState *disk, Text base, Text now, size_t *bytes)
{
    Item all[4] = {[1] = {.kind = ITEM_PATCH}};
    size_t n = 1;
    patch_make(base, now, &all[1].bytes);
    *bytes = all[1].bytes.len;
    if (*bytes > JOURNAL_PATCH_MOST) {
        bytes_free(&all[1].bytes);
        return 0;
    }
    all[0] = begin_item(j, path, disk, base);
    all[1].id = all[0].id;
    n += *bytes > 0;
    if (also)
        all[n++] = (Item){.kind = ITEM_RENAMING, .id = all[0].id, .path = mem_string(also)};
    if (old)
        all[n++] = (Item){.kind = drop_old ? ITEM_DROP : ITEM_DONE, .id = old};
    int64_t id = all[0].id;
    hand_over_all(j, all, n);
    return id;
}

bool journal_patch(Journal *j, int64_t id, Text from, Text to, size_t *bytes)
{
    Item i = {.kind = ITEM_PATCH, .id = id};
    patch_make(from, to, &i.bytes);
    *bytes = i.bytes.len;
    if (*bytes > JOURNAL_PATCH_MOST) {
        bytes_free(&i.bytes);
        return false;
    }
    if (*bytes)
        hand_over(j, i);
    return true;
}

void journal_mark(Journal *j, int64_t id)
{
    hand_over(j, (Item){.kind = ITEM_MARK, .id = id});
}

void journal_second_base(Journal *j, int64_t id, const char *path, const FileState *st)
{
    hand_over(j, (Item){.kind = ITEM_SECOND_BASE, .id = id, .path = mem_string(path), .disk.file = *st});
    journal_settle(j, REPLACING_MS);
}

void journal_renaming(Journal *j, int64_t id, const char *path)
{
    hand_over(j, (Item){.kind = ITEM_RENAMING, .id = id, .path = mem_string(path)});
    journal_settle(j, REPLACING_MS);
}

void journal_rename(Journal *j, int64_t id, const char *path)
{
    hand_over(j, (Item){.kind = ITEM_RENAME, .id = id, .path = path ? mem_string(path) : NULL});
}

void journal_done(Journal *j, int64_t id)
{
    hand_over(j, (Item){.kind = ITEM_DONE, .id = id});
}

void journal_drop(Journal *j, int64_t id)
{
    hand_over(j, (Item){.kind = ITEM_DROP, .id = id});
}
