/* The databases of the state folder (SQLite); private to this room. */
#ifndef DATABASE_H
#define DATABASE_H

#include "base/err.h"

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

struct sqlite3;

/* Opens `name` in the person's state folder, readable by nobody else, for `schema`. A damaged one is put
 * aside as NAME.damaged and begun again. Another program's lock is waited for so many ms. NULL with the
 * reason in e. Close with sqlite3_close. */
struct sqlite3 *database_open(const char *name, const char *schema, int busy_ms, Err *e);

/* A statement whose first parameter is `id`; NULL when it cannot be made, which the next calls bear. */
struct sqlite3_stmt;
struct sqlite3_stmt *database_statement(struct sqlite3 *db, const char *sql, int64_t id);
/* Binds n bytes, which must stay where they are until it is finished. */
void database_bind_bytes(struct sqlite3_stmt *q, int at, const char *bytes, size_t n);
/* Runs it to its end and frees it; true when that went well. */
bool database_finish(struct sqlite3_stmt *q);

#endif
