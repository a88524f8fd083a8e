/* The databases of the state folder (SQLite); private to this room. */
#ifndef DATABASE_H
#define DATABASE_H
#include "base/err.h"

#include <stdbool.h>

struct sqlite3;

/* Opens `name` in the person's state folder, readable by nobody else, for `schema`. A damaged one is put
 * aside as NAME.damaged and begun again. Another program's lock is waited for so many ms. NULL with the
 * reason in e. Close with sqlite3_close. */
struct sqlite3 *database_open(const char *name, const char *schema, int busy_ms, Err *e);

#endif
