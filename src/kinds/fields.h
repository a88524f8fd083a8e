/* Lines that consist of fields, such as those of a schedule: what each may hold, from the kind's data file
 * (docs/kinds.md). */
#ifndef FIELDS_H
#define FIELDS_H

#include "base/stop.h"
#include "kinds/kinds.h"
#include "kinds/problem.h"
#include "kinds/value.h"

enum { FIELDS_MOST = 16 };

typedef struct Field {
    const char *name;  /* "month" */
    const char *about; /* "1 to 12 or jan to dec" */
    bool number;       /* a number from `from` to `to`, or one of the names, */
    bool list;         /* and lists, ranges and steps of such, and * */
    long from, to;
    KindWords names;      /* the first one stands for `from` */
    ValueRule rule;       /* of others: what they may be */
    bool once, once_hint; /* no two lines have the same there; that is only a hint */
} Field;

typedef struct Fields {
    Field at[FIELDS_MOST];
    size_t n, least; /* so many must be there */
    bool exact;      /* and not more than n: else the last one takes the rest of the line */
    bool remarks;    /* what follows a comment sign after a blank is none of it */
    bool brackets;   /* one that begins with [ goes to the ] */
    bool goes_on;    /* a line that ends in \ goes on in the next; such ones are not checked */
    char between;    /* 0: blanks */
    void *lines;     /* the expression that such lines fit; NULL: all but empty ones and comments. private */
    const char *comment;
    KindWords comment_also;
} Fields;

/* Those of a kind, or NULL. Made at the first call, with a report of what is wrong in the data; main thread
 * only, but what it returns may be used by any. */
const Fields *fields_of(const Kind *k, const PlainReport *r);
/* The fields of a line of n bytes, as places in it: from[i] to to[i]. How many, FIELDS_MOST at most; 0 for
 * lines without. */
size_t fields_split(const Fields *f, const char *line, size_t n, size_t *from, size_t *to);
/* What is wrong with the n bytes of one of times, in a few words or ""; NULL: it is right. */
const char *field_wrong(const Field *f, const char *s, size_t n);
/* Does a value stand among those that n bytes of a list name? */
bool field_fits(const Field *f, const char *list, size_t n, long value);
/* As a CheckBytes; with `machine`, names are looked up on this one. */
void fields_check(const char *bytes, size_t n, const Fields *f, bool machine, Stop stop, Problems *out);

#endif
