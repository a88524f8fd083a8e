#include "files/job_task.h"

#include "base/system.h"

#include <stdio.h>

enum { LOOK = 250 /* ms between looks at the clock */ };

static void end(JobTask *t, JobEnd how)
{
    tasks_remove(t->tasks, &t->task);
    t->tasks = NULL;
    if (how != JOB_ENDED)
        job_stop(&t->job);
    t->ended(t->ctx, how);
}

/* True once it has ended; then it may be no more. */
static bool go_on(JobTask *t)
{
    if (t->held && t->held(t->ctx))
        return false;
    if (job_poll(&t->job))
        end(t, JOB_ENDED);
    else if (system_now_ms() - t->since > 1000 * (uint64_t)t->seconds)
        end(t, JOB_TOO_SLOW);
    else
        return false;
    return true;
}

static void poll_job(void *ctx)
{
    go_on(ctx);
}

static int wait_job(const void *ctx)
{
    (void)ctx;
    return LOOK;
}

static size_t fds_of_job(const void *ctx, struct pollfd *out)
{
    const JobTask *t = ctx;
    return t->held && t->held(t->ctx) ? 0 : job_fds(&t->job, out);
}

static void cancel_job(void *ctx)
{
    end(ctx, JOB_STOPPED);
}

static void words_of_job(const void *ctx, char out[TASK_WORDS_MAX])
{
    snprintf(out, TASK_WORDS_MAX, "%s", ((const JobTask *)ctx)->words);
}

static const TaskKind seen = {
    .poll = poll_job, .wait = wait_job, .fds = fds_of_job, .cancel = cancel_job, .words = words_of_job};
static const TaskKind quiet = {.poll = poll_job, .wait = wait_job, .fds = fds_of_job};

void job_task_begin(JobTask *t, Tasks *all, unsigned seconds, const char *words,
                    bool (*held)(const void *ctx), void (*ended)(void *ctx, JobEnd how), void *ctx)
{
    t->tasks = all;
    t->since = system_now_ms();
    t->seconds = seconds;
    t->held = held;
    t->ended = ended;
    t->ctx = ctx;
    snprintf(t->words, sizeof t->words, "%s", words ? words : "");
    tasks_add(all, &t->task, words ? &seen : &quiet, t);
}

void job_task_free(JobTask *t)
{
    if (!t->ended) /* nothing was begun */
        return;
    if (t->tasks)
        tasks_remove(t->tasks, &t->task);
    job_free(&t->job);
    *t = (JobTask){0};
}

bool job_task_wait(JobTask *t, unsigned most, Stop stop)
{
    uint64_t until = system_now_ms() + most, now;
    while ((now = system_now_ms()) < until || !most) {
        struct pollfd fds[JOB_FDS];
        poll(fds, job_fds(&t->job, fds), most && until - now < LOOK ? (int)(until - now) : LOOK);
        if (stop_wanted(stop)) {
            end(t, JOB_STOPPED);
            return true;
        }
        if (go_on(t))
            return true;
    }
    return false;
}
