/* Data files: lines `name = value` in the syntax of Lua's tables, and nothing that runs. Values are texts in
 * quotes or [[long brackets]], numbers, true, false, and tables of such. Every value knows its line, so that
 * whoever reads it can say where something is wrong. (Lua 5.4 Reference Manual, 3.1 and 3.4.9.) */
#ifndef PLAIN_DATA_H
#define PLAIN_DATA_H

#include "base/err.h"

#include <stddef.h>

typedef enum PlainType { PLAIN_TEXT, PLAIN_NUMBER, PLAIN_TRUTH, PLAIN_TABLE } PlainType;

typedef struct PlainValue {
    PlainType type;
    unsigned line;                   /* from 1 */
    const char *key;                 /* its name in the table around it; NULL: it has none */
    const char *text;                /* a zero ends it */
    double number;                   /* also 0 or 1 for a truth */
    struct PlainValue *first, *next; /* the first of a table's values; the next one beside it */
} PlainValue;

typedef struct PlainData PlainData;

/* Called with what is wrong in a data file, and its line from 1. */
typedef void (*PlainProblem)(void *ctx, unsigned line, const char *words);
typedef struct PlainReport {
    PlainProblem problem; /* or NULL: nobody wants to know */
    void *ctx;
} PlainReport;
/* Tells it, printf-like; `r` may be NULL. Returns false. */
bool plain_wrong(const PlainReport *r, unsigned line, const char *format, ...)
    __attribute__((format(printf, 3, 4)));

/* Reads n bytes. With `until`, only what stands before the line that gives this name. The values are in the
 * table plain_data_all. NULL with the reason in e and its line in *line. */
PlainData *plain_data_read(const char *bytes, size_t n, const char *until, Err *e, unsigned *line);
const PlainValue *plain_data_all(const PlainData *d);
void plain_data_free(PlainData *d);
/* Frees the other one together with this, as its values are still used. */
void plain_data_join(PlainData *d, PlainData *other);

/* The value of that name in a table, or NULL. The last one counts. */
const PlainValue *plain_data_find(const PlainValue *table, const char *name);

#endif
