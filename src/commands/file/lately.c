#include "commands/file/lately.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/side_thread.h"
#include "base/words.h"
#include "commands/file/opening.h"
#include "files/disk.h"
#include "files/filesystem.h"
#include "files/location.h"
#include "kept/store.h"
#include "session/session_memory.h"
#include "ui/command.h"
#include "ui/panel.h"

#include <stdatomic.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

typedef struct Entry {
    char *path, *folder; /* the folder as it is shown */
    long long seconds;
    bool forgotten;
    atomic_int there; /* 0: not known yet, or on another host; 1: it is; -1: gone */
} Entry;

/* The thread that looks which are still there outlives a list that is closed while a share does not answer.
 */
typedef struct Looked {
    Entry **all;
    size_t n;
    atomic_bool stop;
    SideThread *thread;
} Looked;

typedef struct List {
    Editor *ed;
    Task task;
    Looked *looked;
    bool looking;
} List;

static void free_looked(Looked *l)
{
    for (size_t i = 0; i < l->n; i++) {
        free(l->all[i]->path);
        free(l->all[i]->folder);
        free(l->all[i]);
    }
    free(l->all);
    free(l);
}

/* On the thread. */
static void look(void *ctx)
{
    Looked *l = ctx;
    for (size_t i = 0; i < l->n && !atomic_load(&l->stop); i++)
        if (filesystem_can(l->all[i]->path, FILES_ARE_HERE))
            atomic_store(&l->all[i]->there, disk_exists(l->all[i]->path) ? 1 : -1);
}

static void add_entry(const char *path, long long seconds, void *ctx)
{
    Looked *l = ctx;
    char *folder = path_folder(path);
    Entry *e = mem_get(sizeof *e);
    e->path = mem_string(path);
    e->folder = location_shown(folder);
    e->seconds = seconds;
    free(folder);
    l->all = array_room(l->all, l->n, sizeof *l->all);
    l->all[l->n++] = e;
}

static void fill(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    const Looked *l = ((List *)ctx)->looked;
    (void)ed, (void)filter;
    for (size_t i = 0; i < l->n; i++) {
        const Entry *e = l->all[i];
        char when[WORDS_MAX];
        Bytes note = {0};
        if (e->forgotten)
            continue;
        bytes_printf(&note, "%s%s", e->folder, atomic_load(&l->all[i]->there) < 0 ? "   gone" : "");
        panel_add(p, (long)i, path_base(e->path), note.at, words_when(e->seconds, when));
        bytes_free(&note);
    }
}

static void chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    const Looked *l = ((List *)ctx)->looked;
    (void)typed;
    if (id < 0 || (size_t)id >= l->n)
        return;
    if (atomic_load(&l->all[id]->there) < 0)
        warn(ed, "%s is no longer there", l->all[id]->path);
    else
        opening_go(ed, l->all[id]->path);
}

/* Delete takes one off the list. */
static bool key(Editor *ed, Key k, long id, void *ctx)
{
    Looked *l = ((List *)ctx)->looked;
    if (k.code != K_DELETE || k.mods || id < 0 || (size_t)id >= l->n)
        return false;
    if (session_store(ed->session))
        store_forget_lately(session_store(ed->session), l->all[id]->path);
    l->all[id]->forgotten = true;
    panel_refresh(ed);
    return true;
}

static void stop_looking(List *l)
{
    if (l->looking)
        tasks_remove(&l->ed->session->tasks, &l->task);
    l->looking = false;
}

static void poll_list(void *ctx)
{
    List *l = ctx;
    if (!side_thread_ended(l->looked->thread))
        return;
    side_thread_end(l->looked->thread);
    l->looked->thread = NULL;
    stop_looking(l);
    panel_refresh(l->ed);
}

static size_t fds_of_list(const void *ctx, struct pollfd *out)
{
    *out = (struct pollfd){.fd = side_thread_fd(((const List *)ctx)->looked->thread), .events = POLLIN};
    return 1;
}

static const TaskKind list_task = {.poll = poll_list, .fds = fds_of_list};

/* What a share that does not answer keeps waiting is left to it: a few kilobytes until the program ends. */
static void free_list(void *ctx)
{
    List *l = ctx;
    stop_looking(l);
    atomic_store(&l->looked->stop, true);
    if (l->looked->thread) {
        enum { MOST = 200 /* ms */ };
        poll(&(struct pollfd){.fd = side_thread_fd(l->looked->thread), .events = POLLIN}, 1, MOST);
    }
    if (l->looked->thread && side_thread_ended(l->looked->thread)) {
        side_thread_end(l->looked->thread);
        l->looked->thread = NULL;
    }
    if (!l->looked->thread)
        free_looked(l->looked);
    free(l);
}

static void run_lately(Editor *ed, const Args *args)
{
    static const Hint hints[] = {{"Delete", "Off the list", false}, {"", "", false}};
    (void)args;
    if (!session_store(ed->session)) {
        say(ed, "Nothing is remembered in this run");
        return;
    }
    List *l = mem_get(sizeof *l);
    *l = (List){.ed = ed, .looked = mem_get(sizeof *l->looked)};
    store_each_lately(session_store(ed->session), (long long)time(NULL), add_entry, l->looked);
    l->looked->thread = l->looked->n ? side_thread_begin(look, l->looked) : NULL;
    l->looking = l->looked->thread != NULL;
    if (l->looking)
        tasks_add(&ed->session->tasks, &l->task, &list_task, l);
    PanelSpec p = {.title = "Lately",
                   .fill = fill,
                   .chosen = chosen,
                   .key = key,
                   .hints = hints,
                   .empty =
                       "No file was worked on in the last weeks that may be listed (setting list_lately)",
                   .ctx = l,
                   .free_ctx = free_list};
    panel_open(ed, &p);
}

static const Command cmd_lately = {
    .name = "lately",
    .label = "Lately…",
    .letter = 'u',
    .help = "List the files that were worked on in the last weeks, and open one",
    .words = "recent history reopen",
    .more = "Files of other hosts are among them. What lies in folders for temporary files, and what others "
            "may not read, is "
            "not; the setting list_lately switches the list off. Delete takes one off it.",
    .run = run_lately,
};

const Command *const lately_commands[] = {&cmd_lately, NULL};
