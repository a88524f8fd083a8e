/* What may take long asks now and then whether the person wants it to stop. */
#ifndef STOP_H
#define STOP_H

#include <stdbool.h>

typedef struct Stop {
    bool (*wanted)(void *ctx); /* NULL: nobody can stop it */
    void *ctx;
} Stop;

/* True: end now, without having done anything. */
bool stop_wanted(Stop s);

#endif
