#include "commands/file/watching.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/asking.h"
#include "files/watch.h"
#include "session/looking.h"
#include "session/plan.h"
#include "view/shown.h"

#include <stdlib.h>

enum {
    SETTLE = 300,     /* ms, for a writer to finish */
    SLOW_LOOK = 5000, /* ms between looks where nobody tells, */
    HOST_LOOK = 30000 /* and at other machines */
};

typedef struct Watching {
    Task task;
    Editor *ed;
    Watch watch;
    FileId file;
    DiskState known; /* what is watched */
    bool blind;      /* the system does not tell: a look now and then */
    unsigned pause;  /* ms until the next */
    uint64_t due;    /* when to look, 0: not */
} Watching;

static OpenFile *shown_file(const Editor *ed)
{
    OpenFile *f = ed->panes.view->file;
    const SessionRules *r = &ed->session->rules;
    bool may = f && f->purpose == FOR_WORK && f->path && !r->batch && !f->writing && !f->reading &&
               !f->following && !(f->shown && f->shown->on_trial[0]);
    return may ? f : NULL;
}

static void watch(Watching *w, const OpenFile *f)
{
    watch_end(&w->watch);
    w->file = f ? f->id : 0;
    w->known = f ? f->disk : (DiskState){0};
    bool there = f && f->disk.exists;
    w->blind = there && !(filesystem_can(f->path, FILES_ARE_WATCHED) && watch_begin(&w->watch, f->path));
    w->pause = there && !filesystem_can(f->path, FILES_ARE_HERE) ? HOST_LOOK : SLOW_LOOK;
    w->due = w->blind ? w->ed->clock.now + w->pause : 0;
}

/* Nothing is asked in the middle of typing; coming back to the terminal asks, and so does saving. */
static void looked(void *ctx, OpenFile *f, const Looked *l)
{
    Watching *w = ctx;
    Editor *ed = w->ed;
    if (f->id != w->file)
        return;
    if (!l->ok || l->news == DISK_SAME) {
        watch(w, f);
        return;
    }
    w->due = 0; /* said once, until it is another version that is known here */
    if (f->reported.any && disk_same(&f->reported.disk, &l->now))
        return;
    if (l->news == DISK_GONE)
        asking_tell_gone(ed, f);
    else if (!openfile_changed(f) && ed->config.settings.auto_reload)
        plan_reload_now(ed->session, f);
    else
        warn(ed, "%s changed on disk at %s. {differences} shows how, {reload} reloads it.", openfile_name(f),
             words_when(disk_time(&l->now), (char[WORDS_MAX]){0}));
}

static void poll_watch(void *ctx)
{
    Watching *w = ctx;
    OpenFile *f = shown_file(w->ed);
    uint64_t now = w->ed->clock.now;
    if (!f && !w->file)
        return;
    if (!f || f->id != w->file || !disk_same(&f->disk, &w->known))
        watch(w, f);
    else if (watch_news(&w->watch)) {
        watch_end(&w->watch);
        w->due = now + SETTLE;
    } else if (w->due && now >= w->due && !w->ed->layer) {
        w->due = 0;
        looking_begin(w->ed->session, f, looked, w);
    }
}

static int wait_watch(const void *ctx)
{
    const Watching *w = ctx;
    uint64_t now = w->ed->clock.now;
    return !w->due || w->ed->layer ? -1 : w->due > now ? (int)(w->due - now) : 0;
}

static size_t fds_of_watch(const void *ctx, struct pollfd *out)
{
    const Watching *w = ctx;
    *out = (struct pollfd){.fd = w->watch.fd, .events = POLLIN};
    return w->watch.fd >= 0;
}

static const TaskKind watching_task = {.poll = poll_watch, .wait = wait_watch, .fds = fds_of_watch};

void watching_begin(Editor *ed)
{
    Watching *w = ed->watching = mem_get(sizeof *w);
    w->ed = ed;
    w->watch.fd = -1;
    tasks_add(&ed->session->tasks, &w->task, &watching_task, w);
}

void watching_free(Editor *ed)
{
    tasks_remove(&ed->session->tasks, &ed->watching->task);
    watch_end(&ed->watching->watch);
    free(ed->watching);
}
