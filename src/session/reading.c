#include "session/reading.h"

#include "base/mem.h"
#include "base/words.h"
#include "session/keeper.h"
#include "session/session_around.h"
#include "session/session_memory.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef struct Reading {
    Task task;
    Session *session;
    OpenFile *file;
    Loader *loader;
} Reading;

static int percent(const Loader *l)
{
    return (int)(loader_done(l) / (loader_size(l) / 100 + 1));
}

/* Bytes of the host in "tern: /etc/hosts"; an address of six groups has colons of its own. */
static size_t host_of_title(const char *title)
{
    const char *path = strstr(title, ": ");
    return path ? (size_t)(path - title) : strlen(title);
}

bool reading_unready(const OpenFile *f, char words[TASK_WORDS_MAX])
{
    const Loader *l = f->reading ? f->reading->loader : NULL;
    if (l && !loader_done(l) && f->path && !filesystem_can(f->path, FILES_ARE_HERE))
        snprintf(words, TASK_WORDS_MAX, "Waiting for %.*s; Esc stops that", (int)host_of_title(f->title),
                 f->title);
    else if (l && !loader_size(l))
        snprintf(words, TASK_WORDS_MAX, "%.60s is still being read, %s; Esc stops that", openfile_name(f),
                 words_size(loader_done(l), (char[WORDS_MAX]){0}));
    else if (l)
        snprintf(words, TASK_WORDS_MAX, "%.60s is still being read, %d%%; Esc stops that", openfile_name(f),
                 percent(l));
    else if (f->incomplete)
        snprintf(words, TASK_WORDS_MAX, "%.60s was not read to its end; reloading does that",
                 openfile_name(f));
    return l || f->incomplete;
}

void reading_forget(Session *s, OpenFile *f)
{
    if (!f->reading)
        return;
    tasks_remove(&s->tasks, &f->reading->task);
    loader_free(f->reading->loader);
    free(f->reading);
    f->reading = NULL;
}

/* Of a file of another machine nothing was known when it was opened. */
static void take_what_it_is(Session *s, OpenFile *f, const DiskState *disk)
{
    Text raw = doc_text(f->doc), t;
    Err ignored;
    f->disk = *disk;
    f->news = DISK_SAME;
    Encoding x = encoding_guess(raw);
    if ((x.name[0] || x.mark) && encoding_read(raw, &x, &t, &ignored)) {
        doc_reload(f->doc, t);
        text_drop(&t);
        f->encoding = x;
    }
    if (!f->kind_said)
        openfile_recognise(f);
    if (disk->exists && !s->rules.batch && text_format_is_binary(doc_text(f->doc))) {
        f->look_only = true;
        notices_warn(s->notices, BINARY_FORMAT, openfile_name(f));
    }
}

static void all_is_there(Session *s, OpenFile *f)
{
    const DiskState *disk = loader_disk(f->reading->loader);
    if (disk)
        take_what_it_is(s, f, disk);
    bool recall = disk != NULL;
    reading_forget(s, f);
    session_reloaded(s, f);
    if (recall)
        session_recall_undo(s, f);
    session_tell_opened(s, f);
    session_tell_more(s, f);
}

static void poll_reading(void *ctx)
{
    Reading *r = ctx;
    Session *s = r->session;
    OpenFile *f = r->file;
    Err e = {""};
    Text more = {0};
    if (!loader_started(r->loader) && s->reading) {
        loader_start(r->loader);
        return;
    }
    LoadState state = loader_take(r->loader, &more, &e);
    if (!doc_load_more(f->doc, more)) {
        state = LOAD_FAILED;
        err_set(&e, "There is not enough memory for all of %s", openfile_name(f));
    }
    text_drop(&more);
    keeper_loaded(f);
    if (state == LOADED) {
        all_is_there(s, f);
    } else if (state == LOAD_FAILED) {
        bool some = loader_done(r->loader) > 0;
        f->unreadable = loader_disk(r->loader) && !some;
        reading_stop(s, f);
        notices_warn(s->notices, "%s%s", e.text, some ? ". It is incomplete and look-only." : "");
    } else {
        session_tell_more(s, f);
    }
}

enum { LOOK = 200 /* ms between looks, whatever the descriptor says */ };

static int wait_reading(const void *ctx)
{
    return loader_started(((const Reading *)ctx)->loader) ? LOOK : 0;
}

static size_t fds_of_reading(const void *ctx, struct pollfd *out)
{
    int fd = loader_fd(((const Reading *)ctx)->loader);
    *out = (struct pollfd){.fd = fd, .events = POLLIN};
    return fd >= 0;
}

static const TaskKind reading_task = {.poll = poll_reading, .wait = wait_reading, .fds = fds_of_reading};

void reading_begin(Session *s, OpenFile *f, Loader *loader)
{
    Reading *r = mem_get(sizeof *r);
    r->session = s;
    r->file = f;
    r->loader = loader;
    f->reading = r;
    tasks_add(&s->tasks, &r->task, &reading_task, r);
}

bool reading_stop(Session *s, OpenFile *f)
{
    if (!f->reading)
        return false;
    const Loader *l = f->reading->loader;
    char how_much[WORDS_MAX];
    if (loader_size(l))
        snprintf(how_much, sizeof how_much, "%d%%", percent(l));
    else
        words_size(loader_done(l), how_much);
    notices_say(s->notices, "Reading was stopped at %s; %s is incomplete and look-only", how_much,
                openfile_name(f));
    reading_forget(s, f);
    f->incomplete = true; /* which hinders changes and saving */
    return true;
}

bool reading_finish(Session *s, OpenFile *f)
{
    Err e = {""};
    Text more = {0};
    if (!f->reading)
        return true;
    bool ok = loader_finish(f->reading->loader, &more, &e) && doc_load_more(f->doc, more);
    text_drop(&more);
    if (ok)
        all_is_there(s, f);
    else
        notices_warn(s->notices, "%s", e.text);
    return ok;
}
