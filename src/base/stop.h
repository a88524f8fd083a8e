/* Asked now and then by what may take long. */
#ifndef STOP_H
#define STOP_H
#include <stdbool.h>

typedef struct Stop {
    bool (*wanted)(void *ctx); /* true: it shall end without having done anything; or NULL */
    void *ctx;
} Stop;

#endif
