#include "files/filesystem.h"

#include "base/array.h"
#include "base/folder.h"
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

bool filesystem_can(const char *path, unsigned what)
{
    return path && (filesystem_of(path)->can & what) == what;
}

/* ---- errands ---- */

Errand *errand_begin(const Errand *what, Tasks *tasks, void (*told)(void *ctx), void *ctx)
{
    Errand *e = mem_get(sizeof *e);
    *e = (Errand){.kind = what->kind,
                  .path = mem_string(what->path),
                  .to = what->to ? mem_string(what->to) : NULL,
                  .target = what->target,
                  .bytes = text_keep(what->bytes)};
    e->system = filesystem_of(e->path);
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
    entries_free(&e->entries);
    text_drop(&e->bytes);
    free(e->path);
    free(e->to);
    free(e);
}

void entries_add(FolderEntries *l, const char *name, bool folder)
{
    l->at = array_room(l->at, l->n, sizeof *l->at);
    l->at[l->n++] = (FolderEntry){mem_string(name), folder};
}

void entries_free(FolderEntries *l)
{
    for (size_t i = 0; i < l->n; i++)
        free(l->at[i].name);
    free(l->at);
    *l = (FolderEntries){0};
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

static void rename_here(Errand *e)
{
    e->ok = disk_rename(e->path, e->to, &e->target);
    e->overtaken = !e->ok && errno == EEXIST;
    if (!e->ok)
        err_set(&e->e, "%s", err_os(errno));
    else
        e->seen.disk = disk_look(e->to);
}

static void load_here(Errand *e)
{
    text_drop(&e->bytes);
    e->ok = load_file(e->path, &e->bytes, &e->seen.disk, &e->e);
    if (e->ok && !e->seen.disk.exists)
        e->ok = err_set(&e->e, "There is no file %s", e->path);
}

static void compare_here(Errand *e)
{
    DiskState before = disk_look(e->path);
    e->same = disk_holds(e->path, e->bytes) && disk_is(e->path, &before);
    e->seen.disk = before;
}

static bool add_entry(int fd, const char *name, void *ctx)
{
    FolderEntries *all = ctx;
    FileState st;
    all->more = all->n == FOLDER_MOST;
    if (!all->more)
        entries_add(all, name, state_in(fd, name, true, &st) && st.type == FILE_FOLDER);
    return !all->more;
}

static void list_here(Errand *e)
{
    e->ok = folder_read(e->path, add_entry, &e->entries);
    if (!e->ok)
        err_set(&e->e, "The folder %s cannot be read: %s", e->path, err_os(errno));
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
        rename_here(e);
        break;
    case ERRAND_LOAD:
        load_here(e);
        break;
    case ERRAND_COMPARE:
        compare_here(e);
        break;
    case ERRAND_LIST:
        list_here(e);
        break;
    }
    errand_done(e);
}

static void give_up_here(Errand *e)
{
    (void)e;
}

const FileSystem filesystem_local = {
    .prefix = "",
    .can = FILES_ARE_HERE | FILES_HAVE_RULES | FILES_TELL_USE | FILES_AS_ROOT | FILES_ARE_BASES |
           FILES_LEAVE | FILES_ARE_WATCHED | FILES_ARE_CHECKED,
    .begin = begin_here,
    .give_up = give_up_here,
    .load = load_file_begin,
    .save = save_file,
};
