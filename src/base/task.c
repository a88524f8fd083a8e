#include "base/task.h"

void tasks_add(Tasks *all, Task *t, const TaskKind *kind, void *ctx)
{
    *t = (Task){kind, ctx, all->first};
    all->first = t;
}

void tasks_remove(Tasks *all, Task *t)
{
    for (Task **p = &all->first; *p; p = &(*p)->next)
        if (*p == t) {
            *p = t->next;
            return;
        }
}

void tasks_poll(Tasks *all)
{
    for (Task *t = all->first, *next; t; t = next) {
        next = t->next; /* a task may end itself, but no other one */
        if (t->kind->poll)
            t->kind->poll(t->ctx);
    }
}

int task_sooner(int a, int b)
{
    return a < 0 ? b : b < 0 || a < b ? a : b;
}

int tasks_wait(const Tasks *all)
{
    int wait = -1;
    for (const Task *t = all->first; t; t = t->next)
        if (t->kind->wait)
            wait = task_sooner(wait, t->kind->wait(t->ctx));
    return wait;
}

size_t tasks_fds(const Tasks *all, struct pollfd *out, size_t most)
{
    size_t n = 0;
    for (const Task *t = all->first; t && n + TASK_FDS <= most; t = t->next)
        if (t->kind->fds)
            n += t->kind->fds(t->ctx, out + n);
    return n;
}

bool tasks_cancel(Tasks *all)
{
    for (Task *t = all->first; t; t = t->next)
        if (t->kind->cancel) {
            t->kind->cancel(t->ctx);
            return true;
        }
    return false;
}

void tasks_words(const Tasks *all, char out[TASK_WORDS_MAX])
{
    out[0] = 0;
    for (const Task *t = all->first; t && !out[0]; t = t->next)
        if (t->kind->words)
            t->kind->words(t->ctx, out);
}
