/* Reading a kind from its data file. */
#ifndef KIND_FILE_H
#define KIND_FILE_H

#include "kinds/kinds.h"

/* Where problems go. */
typedef struct KindReport {
    PlainProblem problem; /* or NULL: nobody wants to know */
    void *ctx;
} KindReport;

/* printf-like; returns false. */
bool kind_wrong(const KindReport *r, unsigned line, const char *format, ...)
    __attribute__((format(printf, 3, 4)));

/* A kind from n bytes, which must stay where they are. With `head_only`, its parts are left for later
 * (kind_source_parts). NULL when it has no name or cannot be read. */
Kind *kind_read(const char *bytes, size_t n, bool head_only, const KindReport *r);
/* Takes what it does not say itself from the kind it builds on. False when there is none of that name. */
bool kind_build_on(Kind *k, const KindReport *r);
void kind_free(Kind *k);

/* All that its file says, or NULL. */
const PlainValue *kind_source_all(const Kind *k, const KindReport *r);

#endif
