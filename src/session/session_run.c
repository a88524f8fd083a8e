#include "session/session_run.h"

#include "base/mem.h"
#include "base/system.h"
#include "session/check_work.h"
#include "session/keeper.h"
#include "session/manual_pages.h"
#include "session/plan.h"
#include "session/session_files.h"
#include "session/writing.h"

#include <stdlib.h>

enum {
    BESIDE_FROM = 16 * 1024 * 1024,
    LEAVE_BEHIND = 200 /* ms, at the end, for work that was given up */
};

Session *session_new(Notices *notices)
{
    Session *s = mem_get(sizeof *s);
    s->notices = notices;
    s->rules.beside_from = BESIDE_FROM;
    s->in_use.fd = -1;
    keeper_new(s);
    return s;
}

bool session_end(Session *s, Err *e)
{
    for (size_t i = 0; i < s->n_files; i++)
        writing_poll(s, s->files[i], true);
    return keeper_end(s, e);
}

void session_free(Session *s)
{
    Err ignored;
    session_end(s, &ignored);
    plans_free(s);
    keeper_free(s);
    manual_free_pages(s);
    session_forget_all(s);
    check_works_settle(LEAVE_BEHIND); /* so that they clean up after themselves */
    free(s->files);
    free(s->observers);
    free(s->practice_folder);
    store_close(s->store);
    free(s);
}

/* Files of other hosts are open before they are there; those that never come are no texts. */
static void close_unreadable(Session *s)
{
    for (size_t i = s->held ? 0 : s->n_files; i-- > 0;)
        if (s->files[i]->unreadable)
            session_close(s, s->files[i]);
}

void session_poll(Session *s)
{
    tasks_poll(&s->tasks);
    close_unreadable(s);
    plans_step(s);
    keeper_poll(s);
}

void session_pass(Session *s, int most)
{
    enum { FDS = 64 };
    struct pollfd fds[FDS];
    int wait = task_sooner(session_wait(s), most);
    poll(fds, (nfds_t)tasks_fds(&s->tasks, fds, FDS), wait);
    s->notices->now = system_now_ms();
    session_poll(s);
}

static bool plan_waits(const Session *s)
{
    bool waits = false;
    for (size_t i = 0; i < s->n_plans; i++)
        waits = waits || s->plans[i]->state == PLAN_WAITS;
    return waits;
}

void session_finish_plans(Session *s)
{
    enum { LOOK = 250 /* ms */ };
    while (plan_waits(s) && !stop_wanted(s->rules.stop))
        session_pass(s, LOOK);
}

int session_wait(const Session *s)
{
    return task_sooner(keeper_wait(s), tasks_wait(&s->tasks));
}

void session_emergency(const Session *s)
{
    keeper_emergency(s);
}
