/* A program that runs beside the keys: a Job among the tasks of the main loop, with a clock and a way to stop
 * it. */
#ifndef JOB_TASK_H
#define JOB_TASK_H

#include "base/stop.h"
#include "base/task.h"
#include "files/job.h"

#include <stdint.h>

typedef enum JobEnd {
    JOB_ENDED,    /* by itself, or by too much output: see the Job */
    JOB_TOO_SLOW, /* it was stopped by the clock, */
    JOB_STOPPED,  /* or by the person */
} JobEnd;

/* Part of its owner's record; begin with {0}, and start the Job. */
typedef struct JobTask {
    Job job;
    Tasks *tasks; /* NULL: it is not among any */
    Task task;
    uint64_t since; /* ms */
    unsigned seconds;
    char words[TASK_WORDS_MAX];
    bool (*held)(const void *ctx);
    void (*ended)(void *ctx, JobEnd how);
    void *ctx;
} JobTask;

/* Puts a started Job among the tasks. `ended` is called once, when it is not among them any more; it may free
 * all of it. `seconds`: what it may take. `words`: what goes on, for a person who may stop it by Esc; NULL:
 * nobody sees it. `held` (or NULL): is its end to wait? */
void job_task_begin(JobTask *t, Tasks *all, unsigned seconds, const char *words,
                    bool (*held)(const void *ctx), void (*ended)(void *ctx, JobEnd how), void *ctx);
/* Stops it, if it still runs, and frees the Job; `ended` is not called. Fine when nothing was begun. */
void job_task_free(JobTask *t);
/* For callers without a loop: until it has ended, or for `most` ms (0: as long as it takes). False when it
 * still runs. */
bool job_task_wait(JobTask *t, unsigned most, Stop stop);

#endif
