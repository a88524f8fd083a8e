/* A piece of work on a thread of its own, whose end the main loop can wait for. */
#ifndef SIDE_THREAD_H
#define SIDE_THREAD_H

#include <stdbool.h>

typedef struct SideThread SideThread;

/* Begins run(ctx); NULL when no thread can be started. */
SideThread *side_thread_begin(void (*run)(void *ctx), void *ctx);
/* Readable once it has ended. */
int side_thread_fd(const SideThread *t);
bool side_thread_ended(const SideThread *t);
/* Waits for the end and frees it. */
void side_thread_end(SideThread *t);

#endif
