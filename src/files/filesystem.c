#include "files/filesystem.h"

#include "base/mem.h"

#include <assert.h>
#include <errno.h>
#include <stdlib.h>
#include <string.h>

/* ---- which system ---- */

enum { SYSTEMS_MOST = 8 };

static const FileSystem *others[SYSTEMS_MOST];
static size_t n_others;

void filesystem_add(const FileSystem *f)
{
    assert(n_others < SYSTEMS_MOST);
    others[n_others++] = f;
}

const FileSystem *filesystem_of(const char *path)
{
    const FileSystem *best = &filesystem_local;
    for (size_t i = 0; i < n_others; i++) {
        size_t n = strlen(others[i]->prefix);
        if (strncmp(path, others[i]->prefix, n) == 0 && n > strlen(best->prefix))
            best = others[i];
    }
    return best;
}

/* ---- errands ---- */

Errand *errand_begin(ErrandKind kind, const char *path, const char *to, const DiskState *target, Tasks *tasks,
                     void (*told)(void *ctx), void *ctx)
{
    Errand *e = mem_get(sizeof *e);
    *e = (Errand){.kind = kind, .path = mem_string(path), .to = to ? mem_string(to) : NULL};
    if (target)
        e->target = *target;
    e->system = filesystem_of(path);
    e->system->begin(e, tasks);
    e->told = told;
    e->ctx = ctx;
    return e;
}

void errand_done(Errand *e)
{
    e->done = true;
    if (e->told)
        e->told(e->ctx);
}

void errand_free(Errand *e)
{
    if (!e)
        return;
    if (!e->done)
        e->system->give_up(e);
    free(e->seen.missing_folder);
    free(e->path);
    free(e->to);
    free(e);
}

DiskNews seen_news(const Seen *l, const DiskState *known)
{
    if (!l->disk.exists)
        return known->exists && l->missing ? DISK_GONE : DISK_SAME;
    return disk_compare(&l->disk, known);
}

/* ---- this machine ---- */

static void look_here(const char *path, Seen *l)
{
    FileState there;
    l->disk = disk_look(path);
    l->missing = !l->disk.exists && !state_of(path, &there) && (errno == ENOENT || errno == ENOTDIR);
    l->may_write = disk_may_write(path);
    l->missing_folder = disk_missing_folder(path);
}

static void begin_here(Errand *e, Tasks *tasks)
{
    (void)tasks;
    e->ok = true;
    switch (e->kind) {
    case ERRAND_LOOK:
        look_here(e->path, &e->seen);
        break;
    case ERRAND_MAKE_FOLDER:
        e->ok = disk_make_folder(e->path, &e->e);
        break;
    case ERRAND_RENAME:
        e->ok = disk_rename(e->path, e->to, &e->target);
        e->overtaken = !e->ok && errno == EEXIST;
        if (!e->ok)
            err_set(&e->e, "%s", err_os(errno));
        break;
    }
    errand_done(e);
}

static void give_up_here(Errand *e)
{
    (void)e;
}

const FileSystem filesystem_local = {"", begin_here, give_up_here};
