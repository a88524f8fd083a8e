/* Settings of a text, such as "Port 22" or "dhcp4: yes": which there are and what they may be, from the
 * kind's data file (docs/kinds.md). For checks and for completion. */
#ifndef KEY_VALUES_H
#define KEY_VALUES_H

#include "base/stop.h"
#include "kinds/problem.h"
#include "kinds/value.h"

typedef struct KeyValue {
    const char *section; /* in which it stands, or NULL: anywhere */
    KindWords names;     /* of settings that may be the same */
    ValueRule rule;
} KeyValue;

typedef struct KeyValues {
    KeyValue *at;
    size_t n;
    void *in, *more, *section; /* expressions, private: a setting; a further value of it; a section's line */
    const char *sign;          /* that completion puts after a name */
    bool any_case;
    bool all; /* there are no others */
} KeyValues;

/* What stands in a line: places of the name and the value in it; with both alike it has none. */
typedef struct KeyLine {
    size_t name_from, name_to, value_from, value_to;
} KeyLine;

/* Those of a kind, or NULL. Made at the first call, with a report of what is wrong in the data; main thread
 * only, but what it returns may be used by any. */
const KeyValues *key_values_of(const Kind *k, const PlainReport *r);
/* Is the line of n bytes a setting? */
bool key_values_line(const KeyValues *k, const char *line, size_t n, KeyLine *l);
/* Does a line begin a section? Its name's place. */
bool key_values_section(const KeyValues *k, const char *line, size_t n, size_t *from, size_t *to);
/* The one of that name in that section ("" if none), or NULL. */
const KeyValue *key_values_find(const KeyValues *k, const char *section, const char *name, size_t n);
/* Calls `each` for the names that may stand in a section. */
void key_values_each(const KeyValues *k, const char *section, bool (*each)(void *ctx, const char *name),
                     void *ctx);
/* As a CheckBytes; with `machine`, names are looked up on this one. */
void key_values_check(const char *bytes, size_t n, const KeyValues *k, bool machine, Stop stop,
                      Problems *out);

#endif
