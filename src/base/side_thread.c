#include "base/side_thread.h"

#include "base/mem.h"
#include "base/system.h"

#include <fcntl.h>
#include <stdatomic.h>
#include <stdlib.h>
#include <unistd.h>

struct SideThread {
    pthread_t thread;
    void (*run)(void *ctx);
    void *ctx;
    atomic_bool ended;
    int wake[2];
};

static void *run_it(void *ctx)
{
    SideThread *t = ctx;
    t->run(t->ctx);
    atomic_store(&t->ended, true);
    ssize_t ignored = write(t->wake[1], "", 1);
    (void)ignored;
    return NULL;
}

SideThread *side_thread_begin(void (*run)(void *ctx), void *ctx)
{
    SideThread *t = mem_get(sizeof *t);
    t->run = run;
    t->ctx = ctx;
    bool pipes = system_pipe(t->wake, true);
    if (pipes && system_thread(&t->thread, run_it, t))
        return t;
    for (int i = 0; pipes && i < 2; i++)
        close(t->wake[i]);
    free(t);
    return NULL;
}

int side_thread_fd(const SideThread *t)
{
    return t->wake[0];
}

bool side_thread_ended(const SideThread *t)
{
    return atomic_load(&t->ended);
}

void side_thread_end(SideThread *t)
{
    pthread_join(t->thread, NULL);
    close(t->wake[0]);
    close(t->wake[1]);
    free(t);
}
