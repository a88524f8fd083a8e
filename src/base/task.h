/* Work that goes on beside the keys: reading a large file, writing one, a program that runs, a search. The
 * main loop waits for the descriptors of all tasks at once, and polls them when something has arrived. */
#ifndef TASK_H
#define TASK_H

#include <poll.h>
#include <stdbool.h>
#include <stddef.h>

enum { TASK_WORDS_MAX = 160, TASK_FDS = 4 /* of one task at most */ };

/* Each may be NULL; ctx is that of the task. */
typedef struct TaskKind {
    /* Goes on with what can go on now, without waiting. It may end the task by tasks_remove. */
    void (*poll)(void *ctx);
    /* Milliseconds until it wants to be polled, whatever its descriptors say; -1: never. */
    int (*wait)(const void *ctx);
    /* What can be waited for; returns how many, TASK_FDS at most. */
    size_t (*fds)(const void *ctx, struct pollfd *out);
    /* The person, who looks at any text, wants it to stop. */
    void (*cancel)(void *ctx);
    /* What goes on, and how far it is; for what belongs to no file. */
    void (*words)(const void *ctx, char out[TASK_WORDS_MAX]);
} TaskKind;

/* Part of its owner's record. */
typedef struct Task {
    const TaskKind *kind;
    void *ctx;
    struct Task *next;
} Task;

/* Begin with {0}. */
typedef struct Tasks {
    Task *first;
} Tasks;

void tasks_add(Tasks *all, Task *t, const TaskKind *kind, void *ctx);
/* Fine for one that is not among them. */
void tasks_remove(Tasks *all, Task *t);
void tasks_poll(Tasks *all);
int tasks_wait(const Tasks *all);
size_t tasks_fds(const Tasks *all, struct pollfd *out, size_t most);

/* Cancels the newest one that can be; false when there is none. */
bool tasks_cancel(Tasks *all);
/* What the newest one that has words says, or "". */
void tasks_words(const Tasks *all, char out[TASK_WORDS_MAX]);

/* The smaller of two waits in milliseconds, of which -1 is none. */
int task_sooner(int a, int b);

#endif
