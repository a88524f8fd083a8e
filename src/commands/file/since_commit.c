#include "commands/file/since_commit.h"

#include "base/mem.h"
#include "commands/file/commits.h"
#include "files/job_task.h"
#include "files/location.h"
#include "files/versions.h"
#include "view/shown.h"

#include <stdlib.h>

/* One file at a time is asked for, beside the keys. */
typedef struct SinceCommit {
    Editor *ed;
    Task task;
    JobTask job;
    FileId file;
    bool runs;
} SinceCommit;

static void forget(OpenFile *f)
{
    text_drop(&f->shown->since);
    f->shown->has_since = false;
}

static void take(void *ctx, JobEnd how)
{
    SinceCommit *c = ctx;
    OpenFile *f = session_file(c->ed->session, c->file);
    const Job *job = &c->job.job;
    Text raw = {0}, t = {0};
    Err ignored;
    if (f && f->shown) {
        forget(f);
        bool ok = how == JOB_ENDED && job->status == 0 && !job->too_much;
        ok = ok && text_insert(&raw, 0, bytes_str(&job->output), job->output.len) &&
             encoding_read(raw, &f->encoding, &t, &ignored);
        f->shown->since = t;
        f->shown->has_since = ok;
    }
    text_drop(&raw);
    job_task_free(&c->job);
    c->runs = false;
}

/* The shown text, if it is to be asked for. */
static OpenFile *due(const SinceCommit *c)
{
    OpenFile *f = c->ed->panes.view ? c->ed->panes.view->file : NULL;
    if (c->runs || !f || !f->shown || !f->path || f->reading || f->purpose != FOR_WORK ||
        c->ed->session->rules.batch)
        return NULL;
    bool wanted = c->ed->config.settings.changes_since && c->ed->config.settings.change_bars;
    return wanted != f->shown->since_asked ? f : NULL;
}

static void poll_since(void *ctx)
{
    enum { SECONDS = 10 };
    SinceCommit *c = ctx;
    OpenFile *f = due(c);
    Err ignored;
    if (!f)
        return;
    f->shown->since_asked = !f->shown->since_asked;
    if (!f->shown->since_asked) {
        forget(f);
        return;
    }
    if (!filesystem_can(f->path, FILES_ARE_HERE) || !versions_in_work_tree(f->inside) ||
        !commits_start_last(f, &c->job.job, &ignored))
        return;
    c->runs = true;
    c->file = f->id;
    job_task_begin(&c->job, &c->ed->session->tasks, SECONDS, NULL, NULL, take, c);
}

static int wait_since(const void *ctx)
{
    return due(ctx) ? 0 : -1;
}

static const TaskKind since_task = {.poll = poll_since, .wait = wait_since};

/* A save may have been made into a commit, by a hook or elsewhere. */
static void saved(void *ctx, OpenFile *f)
{
    (void)ctx;
    since_commit_again(f);
}

void since_commit_again(OpenFile *f)
{
    if (f->shown)
        f->shown->since_asked = false;
}

void since_commit_begin(Editor *ed)
{
    SinceCommit *c = ed->since_commit = mem_get(sizeof *c);
    SessionEvents events = {.ctx = c, .saved = saved};
    c->ed = ed;
    session_observe(ed->session, &events);
    tasks_add(&ed->session->tasks, &c->task, &since_task, c);
}

void since_commit_free(Editor *ed)
{
    job_task_free(&ed->since_commit->job);
    tasks_remove(&ed->session->tasks, &ed->since_commit->task);
    free(ed->since_commit);
    ed->since_commit = NULL;
}
