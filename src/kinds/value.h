/* What a value may be: its type, the words of a list, an expression; as fields and settings of kinds name it
 * (docs/kinds.md). */
#ifndef VALUE_H
#define VALUE_H

#include "base/machine.h"
#include "kinds/kind.h"

typedef struct ValueRule {
    unsigned types;    /* bits by the place in the table of types; 0: none is named */
    KindWords one_of;  /* or one of these; NULL */
    void *like;        /* a compiled expression that all of it must fit too, or NULL; private */
    KindWords such_as; /* what completion offers besides; NULL */
    void *may_like;    /* an expression for others that will do too, or NULL; private */
    bool empty;        /* it may be empty */
    const char *each;  /* it is a list with one of these signs between: each must be right. NULL */
    bool any_case;     /* letter case of the words does not count */
    bool number;       /* a number from `from` to `to` will do too */
    long from, to;
} ValueRule;

typedef enum ValueVerdict {
    VALUE_RIGHT,
    VALUE_WRONG,
    VALUE_NOT_HERE /* it has the right form, but this machine has nothing of that name */
} ValueVerdict;

/* Reads `is`, `one_of`, `like`, `may_like`, `such_as`, `each`, `empty`, `from` and `to` of a table. False
 * when something is wrong with them, which is reported; free it all the same. */
bool value_rule_read(ValueRule *r, const PlainValue *v, const PlainReport *report);
void value_rule_free(ValueRule *r);
/* Judges n bytes; of a list the first that is not right, whose place in them is written to *at and *len. With
 * `machine`, names are looked up on this one: not in the main loop. */
ValueVerdict value_judge(const ValueRule *r, const char *s, size_t n, bool machine, size_t *at, size_t *len);
/* Is it one of the words of the list? */
bool value_is_listed(const ValueRule *r, const char *s, size_t n);
/* In a few words what it may be: "yes or no", "an address". Never NULL; "" where only an expression says. */
void value_about(const ValueRule *r, char *out, size_t room);
/* Calls `each` for what could stand there: the words of the list, and with `machine` what this one has of its
 * types. */
void value_each(const ValueRule *r, bool machine, bool (*each)(void *ctx, const char *name), void *ctx);

#endif
