/* Many pieces of work side by side, in processes of their own; what they print comes in the order of the
 * pieces, as if one had been done after the other. */
#ifndef WORKERS_H
#define WORKERS_H

#include <signal.h>
#include <stdbool.h>
#include <stddef.h>
#include <stdio.h>

typedef struct Work {
    size_t n; /* pieces */
    /* Does one, and prints to these two; 0, or how bad it went. */
    int (*run)(size_t piece, FILE *out, FILE *err, void *ctx);
    /* Pieces of the same lane are done one after the other. */
    size_t (*lane)(size_t piece, void *ctx);
    /* Prints that a piece was lost, as its process ended; how bad that is. */
    int (*lost)(size_t piece, FILE *err, void *ctx);
    void *ctx;
} Work;

/* How many to do at once when nobody says it. */
size_t workers_standard(void);
/* Does all of it, `at_once` at the same time; returns the worst. *end, which a signal may set, makes it
 * stop after what is under way. */
int workers_run(const Work *w, size_t at_once, const volatile sig_atomic_t *end);

#endif
