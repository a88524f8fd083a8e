/* The one line that reports to a person what happened: the newest notice takes the place of the one before.
 * The code that does the work fills it; who shows it, and for how long, is not this room's business. */
#ifndef NOTICES_H
#define NOTICES_H

#include <stdarg.h>
#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

enum { NOTICE_MOST = 512 /* bytes */, NOTICE_KEY_MOST = 64, NOTICE_WAYS = 2, NOTICES_KEPT = 100 };

/* One that was said earlier. */
typedef struct NoticeSaid {
    char text[NOTICE_MOST];
    bool warning;
    long long when; /* seconds since 1970 */
} NoticeSaid;

typedef struct Notices {
    /* Writes how the command of that name is reached, for {name} in a format; NULL: it stays as it is. */
    void (*key_of)(const void *ctx, const char *name, size_t n, char out[NOTICE_KEY_MOST]);
    const void *ctx;
    char text[NOTICE_MOST];                  /* "" when there is none */
    char ways[NOTICE_WAYS][NOTICE_KEY_MOST]; /* names of the first commands in it; "": no more */
    bool warning;
    bool quiet;                    /* only warnings are taken: what is done now is done many times */
    bool shown;                    /* it was painted since it came */
    uint64_t now;                  /* ms; set by the owner, so that a notice knows when it came */
    uint64_t since;                /* when it came */
    uint64_t clear_at;             /* 0: stays until the next key */
    NoticeSaid said[NOTICES_KEPT]; /* the last ones, in a ring */
    unsigned n_said;               /* of all */
} Notices;

/* In the format {save} stands for that command's key or route, besides what printf knows. */
void notices_say(Notices *n, const char *format, ...) __attribute__((format(printf, 2, 3)));
void notices_warn(Notices *n, const char *format, ...) __attribute__((format(printf, 2, 3)));
/* The one that was said last (0), the one before that (1), and so on; NULL: there is none. */
const NoticeSaid *notices_said(const Notices *n, unsigned back);
/* What was said before that time does not hold any more; but for warnings. */
void notices_pass(Notices *n, uint64_t time);
/* Nothing is to be reported any more. */
void notices_clear(Notices *n);
void notices_put(Notices *n, bool warning, const char *format, va_list args)
    __attribute__((format(printf, 3, 0)));

#endif
