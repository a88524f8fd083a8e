#include "hosts/hosts.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/system.h"
#include "files/filesystem.h"
#include "files/location.h"
#include "files/write.h"
#include "hosts/remote.h"

#include <assert.h>
#include <poll.h>
#include <pthread.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum {
    THREADS = 8, /* for each host */
    LOOK = 200   /* ms between looks at whether anybody still waits */
};

/* What one of the threads does. */
typedef struct Work {
    struct Work *next;
    struct Host *host;
    Errand what;    /* a copy of its own; what comes of it is put there */
    Loader *loader; /* to be fed, instead of an errand */
    atomic_bool unwanted, finished;
    /* the main thread's: */
    Errand *errand; /* who waits for it */
    Tasks *tasks;
    Task task;
} Work;

typedef enum HostState {
    HOST_RESTS,
    HOST_CONNECTS,
    HOST_WANTS_TO_ASK, /* the main thread is to lend ssh the terminal, */
    HOST_ASKS,         /* and has */
} HostState;

typedef struct Host {
    struct Host *next;
    Location place; /* of its path nothing counts */
    bool root;      /* the server there is run by sudo or doas */
    Connection *connection;
    Connection *making; /* the same while the server has not greeted us */
    HostState state;
    bool was_there;
    bool warned; /* the person knows that ssh wants to ask again, and may be asked */
    unsigned failures;
    Err why;     /* of the last one */
    int waiting; /* threads that want a connection */
    int threads;
    Work *first, **last; /* that no thread has taken yet */
} Host;

/* The lock is for all that follows; what is written from the main thread alone is read by it alone. */
static struct {
    pthread_mutex_t lock;
    pthread_cond_t changed;
    Host *hosts;
    int threads;
    bool may_ask, ends;
    char program[HOSTS_PROGRAM];
    int wake[2];
    bool has_pipe;
} known_hosts = {.lock = PTHREAD_MUTEX_INITIALIZER, .changed = PTHREAD_COND_INITIALIZER, .program = "ssh"};

static void wake_up(void)
{
    ssize_t ignored = known_hosts.has_pipe ? write(known_hosts.wake[1], "", 1) : 0;
    (void)ignored;
}

/* ---- connections ---- */

/* As it is set now, which may change while a thread connects. */
static const char *program_now(char out[HOSTS_PROGRAM])
{
    pthread_mutex_lock(&known_hosts.lock);
    snprintf(out, HOSTS_PROGRAM, "%s", known_hosts.program);
    pthread_mutex_unlock(&known_hosts.lock);
    return out;
}

/* What a shell of any kind there is to do: the usual places of the server, and who may run it as root.
 * Nothing in it was typed by anybody. */
#define AS_ROOT(sudo)                                                                                        \
    "exec /bin/sh -c 'LC_ALL=C; export LC_ALL; for s in /usr/lib/openssh/sftp-server "                       \
    "/usr/libexec/openssh/sftp-server /usr/lib/ssh/sftp-server /usr/libexec/sftp-server; do "                \
    "[ -x $s ] || continue; if command -v sudo >/dev/null; then exec " sudo                                  \
    " $s; fi; exec doas -n $s; done; "                                                                       \
    "echo no sftp-server is installed there >&2; exit 127'"

/* The words of the program, and what it is to do: a server's ways of its own (forwarding, commands here) are
 * not wanted. */
static void words_for(const Host *h, bool ask, const char *line, const char *program,
                      char text[HOSTS_PROGRAM], char *words[HOSTS_PROGRAM / 2])
{
    static const char *const options[] = {"-oForwardX11=no", "-oForwardAgent=no", "-oClearAllForwardings=yes",
                                          "-oPermitLocalCommand=no"};
    size_t n = 0, used = strlen(program) + 1;
    memcpy(text, program, used);
    char *rest = NULL;
    for (char *w = strtok_r(text, " ", &rest); w; w = strtok_r(NULL, " ", &rest))
        words[n++] = w;
    for (size_t i = 0; i < sizeof options / sizeof *options; i++)
        words[n++] = (char *)options[i];
    if (!ask)
        words[n++] = "-oBatchMode=yes";
    if (h->place.port) {
        words[n++] = text + used;
        used += (size_t)snprintf(text + used, HOSTS_PROGRAM - used, "-p%u", h->place.port) + 1;
    }
    if (h->place.user) {
        words[n++] = "-l";
        words[n++] = h->place.user;
    }
    if (!h->root && !line)
        words[n++] = "-s";
    words[n++] = "--";
    words[n++] = h->place.host;
    words[n++] = (char *)(line       ? line
                          : !h->root ? "sftp"
                          : ask      ? AS_ROOT("sudo -S -p \"\"")
                                     : AS_ROOT("sudo -n"));
    words[n] = NULL;
}

/* Would ssh have asked, if it had been allowed to? */
static bool wants_to_ask(const Host *h, const Err *e)
{
    if (h->root && strncmp(e->text, "sudo: ", 6) == 0)
        return true;
    return strstr(e->text, "Permission denied (") || strstr(e->text, "Host key verification failed");
}

static Connection *connect_quietly(Host *h, const atomic_bool *stop, Err *e)
{
    char program[HOSTS_PROGRAM], text[HOSTS_PROGRAM], *words[HOSTS_PROGRAM / 2];
    words_for(h, false, NULL, program_now(program), text, words);
    Connection *c = connection_begin(words, -1, e);
    if (!c)
        return NULL;
    pthread_mutex_lock(&known_hosts.lock);
    h->making = c;
    if (known_hosts.ends)
        connection_end(c);
    pthread_mutex_unlock(&known_hosts.lock);
    bool ok = connection_greet(c, stop, e);
    pthread_mutex_lock(&known_hosts.lock);
    h->making = NULL;
    pthread_mutex_unlock(&known_hosts.lock);
    if (ok)
        return c;
    connection_drop(c);
    return NULL;
}

static void wait_a_moment(void)
{
    struct timespec until;
    clock_gettime(CLOCK_REALTIME, &until);
    until.tv_nsec += LOOK * 1000 * 1000;
    until.tv_sec += until.tv_nsec / 1000000000;
    until.tv_nsec %= 1000000000;
    pthread_cond_timedwait(&known_hosts.changed, &known_hosts.lock, &until);
}

static bool is_unwanted(const atomic_bool *stop)
{
    return known_hosts.ends || (stop && atomic_load((atomic_bool *)stop));
}

/* With the lock: makes a connection, as nobody else does. */
static void try_to_connect(Host *h, const atomic_bool *stop)
{
    Err e = {""};
    h->state = HOST_CONNECTS;
    pthread_mutex_unlock(&known_hosts.lock);
    Connection *c = connect_quietly(h, stop, &e);
    pthread_mutex_lock(&known_hosts.lock);
    h->state = HOST_RESTS;
    if (c) {
        h->connection = c;
        h->was_there = true;
        h->warned = false;
    } else if (!is_unwanted(stop)) {
        /* In the middle of typing nobody is asked for a password. */
        bool asks = wants_to_ask(h, &e) && known_hosts.may_ask, now = asks && (!h->was_there || h->warned);
        h->why = e;
        if (asks && !now)
            err_set(&h->why, "%s To be asked by ssh, save or reload once more.", e.text);
        h->warned = asks;
        h->state = now ? HOST_WANTS_TO_ASK : HOST_RESTS;
        h->failures += !now;
        wake_up();
    }
    pthread_cond_broadcast(&known_hosts.changed);
}

/* A connection, of which the caller is one holder; NULL with the reason in e, or when nobody wants it. */
static Connection *reach(Host *h, const atomic_bool *stop, Err *e)
{
    Connection *c = NULL, *lost = NULL;
    pthread_mutex_lock(&known_hosts.lock);
    unsigned failures = h->failures;
    h->waiting++;
    while (!c && failures == h->failures && !is_unwanted(stop)) {
        if (h->connection && !connection_lost(h->connection)) {
            c = connection_hold(h->connection);
        } else if (h->connection) {
            lost = h->connection;
            h->connection = NULL;
            pthread_mutex_unlock(&known_hosts.lock);
            connection_drop(lost);
            pthread_mutex_lock(&known_hosts.lock);
        } else if (h->state == HOST_RESTS) {
            try_to_connect(h, stop);
        } else {
            wait_a_moment();
        }
    }
    h->waiting--;
    if (!c)
        err_set(e, "%s cannot be reached: %s", h->place.host,
                failures != h->failures ? h->why.text : "it was given up");
    pthread_mutex_unlock(&known_hosts.lock);
    return c;
}

bool hosts_ask(HostAsks *out)
{
    bool found = false;
    pthread_mutex_lock(&known_hosts.lock);
    for (Host *h = known_hosts.hosts; h && !found; h = h->next) {
        found = h->state == HOST_WANTS_TO_ASK && h->waiting > 0;
        if (h->state == HOST_WANTS_TO_ASK)
            h->state = found ? HOST_ASKS : HOST_RESTS;
        if (!found)
            continue;
        *out =
            (HostAsks){.host = h, .why = h->why, .root = h->root && strncmp(h->why.text, "sudo: ", 6) == 0};
        snprintf(out->name, sizeof out->name, "%s%s%s", h->place.user ? h->place.user : "",
                 h->place.user ? "@" : "", h->place.host);
        words_for(h, true, NULL, known_hosts.program, out->text, out->words);
    }
    pthread_mutex_unlock(&known_hosts.lock);
    return found;
}

void hosts_asked(const HostAsks *a, Connection *c, const Err *e)
{
    Host *h = a->host;
    pthread_mutex_lock(&known_hosts.lock);
    h->state = HOST_RESTS;
    h->connection = c;
    h->was_there = h->was_there || c;
    h->warned = false;
    if (!c) {
        h->failures++;
        h->why = *e;
    }
    pthread_cond_broadcast(&known_hosts.changed);
    pthread_mutex_unlock(&known_hosts.lock);
}

static bool same_string(const char *a, const char *b)
{
    return a && b ? strcmp(a, b) == 0 : a == b;
}

/* The host of a place, which takes over what it needs of it. */
static Host *host_of(Location *l, bool root)
{
    pthread_mutex_lock(&known_hosts.lock);
    Host *h = known_hosts.hosts;
    while (h && !(strcmp(h->place.host, l->host) == 0 && same_string(h->place.user, l->user) &&
                  h->place.port == l->port && h->root == root))
        h = h->next;
    if (!h) {
        h = mem_get(sizeof *h);
        h->place = (Location){.user = l->user, .host = l->host, .port = l->port};
        h->root = root;
        l->user = l->host = NULL;
        h->last = &h->first;
        h->next = known_hosts.hosts;
        known_hosts.hosts = h;
        known_hosts.has_pipe = known_hosts.has_pipe || system_pipe(known_hosts.wake, true);
    }
    pthread_mutex_unlock(&known_hosts.lock);
    return h;
}

/* A path as the server takes it: what lies in the home folder begins there. */
static char *server_path(const char *path)
{
    if (strncmp(path, "/~", 2) != 0 || (path[2] && path[2] != '/'))
        return mem_string(path);
    return mem_string(path[2] && path[3] ? path + 3 : ".");
}

/* Takes a name apart: the host, and the path there, which the caller frees. NULL with the reason in e. */
static Host *find(const char *name, bool root, char **path, Err *e)
{
    Location l;
    char program[HOSTS_PROGRAM];
    *path = NULL;
    if (!*program_now(program)) {
        err_set(e, "%s: files of other hosts are not used here (setting ssh_program)", name);
        return NULL;
    }
    if (!location_read(name, &l, e))
        return NULL;
    Host *h = host_of(&l, root);
    *path = server_path(l.path);
    location_free(&l);
    return h;
}

/* ---- the threads ---- */

static void do_errand(Remote *r, Errand *e)
{
    Seen there = {0};
    switch (e->kind) {
    case ERRAND_LOOK:
        e->ok = remote_look(r, &e->seen, &e->e);
        break;
    case ERRAND_MAKE_FOLDER:
        e->ok = remote_make_folder(r, &e->e);
        break;
    case ERRAND_RENAME:
        e->ok = remote_rename(r, e->to, &e->target, &e->overtaken, &there.disk, &e->e);
        e->seen = there;
        break;
    default:
        e->ok = remote_list(r, &e->entries, &e->e);
        break;
    }
    e->unreachable = r->lost;
}

static void do_work(Work *w)
{
    Err e = {""};
    Connection *c = reach(w->host, &w->unwanted, &e);
    Remote r = {.sftp = {c, &w->unwanted}, .host = w->host->place.host, .path = w->what.path};
    if (c && w->loader)
        remote_load(&r, w->loader);
    else if (c)
        do_errand(&r, &w->what);
    else if (w->loader)
        loader_feed_end(w->loader, &(DiskState){0}, e.text);
    else
        w->what.e = e;
    pthread_mutex_lock(&known_hosts.lock);
    w->what.unreachable = w->what.unreachable || (!c && w->host->was_there && !w->host->warned);
    pthread_mutex_unlock(&known_hosts.lock);
    connection_drop(c);
}

static void free_work(Work *w)
{
    free(w->what.path);
    free(w->what.to);
    free(w->what.seen.missing_folder);
    entries_free(&w->what.entries);
    free(w);
}

static void *serve(void *ctx)
{
    Host *h = ctx;
    pthread_mutex_lock(&known_hosts.lock);
    for (Work *w; (w = h->first);) {
        h->first = w->next;
        if (!h->first)
            h->last = &h->first;
        pthread_mutex_unlock(&known_hosts.lock);
        do_work(w);
        pthread_mutex_lock(&known_hosts.lock);
        bool nobody = w->loader || atomic_load(&w->unwanted);
        atomic_store(&w->finished, true);
        if (nobody)
            free_work(w);
        wake_up();
    }
    h->threads--;
    known_hosts.threads--;
    pthread_cond_broadcast(&known_hosts.changed);
    pthread_mutex_unlock(&known_hosts.lock);
    return NULL;
}

/* False when no thread can be started for it. */
static bool queue(Work *w)
{
    Host *h = w->host;
    pthread_t thread;
    bool ok = true;
    pthread_mutex_lock(&known_hosts.lock);
    *h->last = w;
    h->last = &w->next;
    if (h->threads < THREADS) {
        ok = system_thread(&thread, serve, h) || h->threads > 0;
        if (ok) {
            pthread_detach(thread);
            h->threads++;
            known_hosts.threads++;
        } else { /* alone in the row */
            h->first = NULL;
            h->last = &h->first;
        }
    }
    pthread_mutex_unlock(&known_hosts.lock);
    return ok;
}

/* ---- errands ---- */

static void poll_work(void *ctx)
{
    Work *w = ctx;
    Errand *e = w->errand;
    if (!atomic_load(&w->finished))
        return;
    pthread_mutex_lock(&known_hosts.lock); /* the thread has let go of it */
    pthread_mutex_unlock(&known_hosts.lock);
    tasks_remove(w->tasks, &w->task);
    e->ok = w->what.ok;
    e->overtaken = w->what.overtaken;
    e->unreachable = w->what.unreachable;
    e->e = w->what.e;
    e->seen = w->what.seen;
    e->entries = w->what.entries;
    e->state = NULL;
    w->what.seen.missing_folder = NULL;
    w->what.entries = (FolderEntries){0};
    free_work(w);
    errand_done(e);
}

static int wait_work(const void *ctx)
{
    (void)ctx;
    return LOOK;
}

static const TaskKind work_task = {.poll = poll_work, .wait = wait_work};

/* Loading, for those who want all of it, or to know whether it is the same. */
typedef struct Fetch {
    Errand *errand;
    Loader *loader;
    Text got;
    Tasks *tasks;
    Task task;
} Fetch;

static void free_fetch(Fetch *f)
{
    tasks_remove(f->tasks, &f->task);
    loader_free(f->loader);
    text_drop(&f->got);
    free(f);
}

static void poll_fetch(void *ctx)
{
    Fetch *f = ctx;
    Errand *e = f->errand;
    LoadState state = loader_take(f->loader, &f->got, &e->e);
    if (state == LOADING)
        return;
    e->ok = state == LOADED;
    if (e->ok) {
        e->seen.disk = *loader_disk(f->loader);
        size_t n = text_len(f->got);
        if (e->kind == ERRAND_COMPARE)
            e->same = n == text_len(e->bytes) && text_same_bytes(f->got, 0, e->bytes, 0, n);
        else if (!e->seen.disk.exists)
            e->ok = err_set(&e->e, "There is no file %s", e->path);
        if (e->kind == ERRAND_LOAD) {
            text_drop(&e->bytes);
            e->bytes = text_keep(f->got);
        }
    }
    free_fetch(f);
    e->state = NULL;
    errand_done(e);
}

static size_t fds_of_fetch(const void *ctx, struct pollfd *out)
{
    *out = (struct pollfd){.fd = loader_fd(((const Fetch *)ctx)->loader), .events = POLLIN};
    return out->fd >= 0;
}

static const TaskKind fetch_task = {.poll = poll_fetch, .wait = wait_work, .fds = fds_of_fetch};

static bool load(const char *path, Text *out, DiskState *disk, Loader **rest, Err *e);

static void begin_fetch(Errand *e, Tasks *tasks)
{
    Loader *loader;
    DiskState disk;
    Text none;
    if (!load(e->path, &none, &disk, &loader, &e->e)) {
        errand_done(e);
        return;
    }
    Fetch *f = e->state = mem_get(sizeof *f);
    *f = (Fetch){.errand = e, .loader = loader, .tasks = tasks};
    tasks_add(tasks, &f->task, &fetch_task, f);
}

static bool is_fetch(const Errand *e)
{
    return e->kind == ERRAND_LOAD || e->kind == ERRAND_COMPARE;
}

static void begin(Errand *e, Tasks *tasks)
{
    char *path;
    if (is_fetch(e)) {
        begin_fetch(e, tasks);
        return;
    }
    Host *h = find(e->path, false, &path, &e->e);
    if (!h) {
        errand_done(e);
        return;
    }
    Work *w = e->state = mem_get(sizeof *w);
    *w = (Work){.host = h, .errand = e, .tasks = tasks};
    w->what = (Errand){.kind = e->kind, .path = path, .target = e->target};
    if (e->to) { /* on the same host, which the caller has seen to */
        char *to = location_path(e->to);
        w->what.to = server_path(to);
        free(to);
    }
    tasks_add(tasks, &w->task, &work_task, w);
    if (queue(w))
        return;
    tasks_remove(tasks, &w->task);
    free_work(w);
    e->state = NULL;
    err_set(&e->e, "No thread can be had for %s", e->path);
    errand_done(e);
}

static void give_up(Errand *e)
{
    if (is_fetch(e)) {
        free_fetch(e->state);
        return;
    }
    Work *w = e->state;
    tasks_remove(w->tasks, &w->task);
    pthread_mutex_lock(&known_hosts.lock);
    bool finished = atomic_load(&w->finished);
    atomic_store(&w->unwanted, true); /* from now on it is the thread's, if it has not finished */
    pthread_cond_broadcast(&known_hosts.changed);
    pthread_mutex_unlock(&known_hosts.lock);
    if (finished)
        free_work(w);
}

static bool load(const char *name, Text *out, DiskState *disk, Loader **rest, Err *e)
{
    char *path;
    *out = (Text){0};
    *disk = (DiskState){0};
    *rest = NULL;
    Host *h = find(name, false, &path, e);
    if (!h)
        return false;
    Work *w = mem_get(sizeof *w);
    w->host = h;
    w->what.path = path;
    w->loader = loader_fed(name);
    Loader *l = w->loader;
    if (queue(w)) {
        *rest = l;
        return true;
    }
    loader_feed_end(l, disk, NULL);
    loader_free(l);
    free_work(w);
    return err_set(e, "No thread can be had for %s", name);
}

/* Root's home folder is another one: where a path from home really leads. */
static bool from_home(const char *name, char **path, Err *e)
{
    char *plain, *home = NULL;
    Host *h = (*path)[0] == '/' ? NULL : find(name, false, &plain, e);
    if ((*path)[0] == '/')
        return true;
    Connection *c = h ? reach(h, NULL, e) : NULL;
    int status = c ? sftp_real_path(&(Sftp){c, NULL}, ".", &home) : SFTP_LOST;
    connection_drop(c);
    if (h)
        free(plain);
    if (status != STATUS_OK)
        return c ? err_set(e, "%s: %s", name, sftp_words(status)) : false;
    Bytes full = {0};
    bytes_printf(&full, "%s/%s", home, *path);
    free(home);
    free(*path);
    *path = full.at;
    return true;
}

static bool save(const char *name, Text t, const SaveWish *wish, DiskState *disk, Err *e)
{
    char *path;
    bool root = wish && wish->as_root, ok = false;
    *disk = (DiskState){0};
    Host *h = find(name, root, &path, e);
    Connection *c = h && (!root || from_home(name, &path, e)) ? reach(h, NULL, e) : NULL;
    if (c) {
        Remote r = {.sftp = {c, NULL}, .host = h->place.host, .path = path};
        ok = remote_save(&r, t, wish, write_counted(), disk, e);
        connection_drop(c);
    } else if (h && wish && wish->fate) {
        pthread_mutex_lock(&known_hosts.lock);
        *wish->fate = h->was_there && !h->warned ? SAVE_UNREACHABLE : SAVE_ENDED;
        pthread_mutex_unlock(&known_hosts.lock);
    }
    free(path);
    return ok;
}

/* A connection of its own, for which nobody is asked. */
static char **shell_words(const char *name, const char *line, Err *e)
{
    char *path, program[HOSTS_PROGRAM], text[HOSTS_PROGRAM], *words[HOSTS_PROGRAM / 2];
    Host *h = find(name, false, &path, e);
    size_t n = 0;
    if (!h)
        return NULL;
    free(path);
    words_for(h, false, line, program_now(program), text, words);
    while (words[n])
        n++;
    char **out = mem_get((n + 1) * sizeof *out);
    for (size_t i = 0; i < n; i++)
        out[i] = mem_string(words[i]);
    return out;
}

/* ---- all of it ---- */

static const FileSystem system_of_hosts = {
    .prefix = "ssh://",
    .can = 0,
    .begin = begin,
    .give_up = give_up,
    .load = load,
    .save = save,
    .shell = shell_words,
};

void hosts_begin(void)
{
    filesystem_add(&system_of_hosts);
}

void hosts_use(const char *program)
{
    pthread_mutex_lock(&known_hosts.lock);
    snprintf(known_hosts.program, HOSTS_PROGRAM / 2, "%s", program);
    pthread_mutex_unlock(&known_hosts.lock);
}

void hosts_may_ask(bool may)
{
    pthread_mutex_lock(&known_hosts.lock);
    known_hosts.may_ask = may;
    pthread_mutex_unlock(&known_hosts.lock);
}

static void take_wakes(void *ctx)
{
    char bytes[64];
    (void)ctx;
    while (known_hosts.has_pipe && read(known_hosts.wake[0], bytes, sizeof bytes) > 0)
        continue;
}

static size_t fds_of_watch(const void *ctx, struct pollfd *out)
{
    (void)ctx;
    *out = (struct pollfd){.fd = known_hosts.has_pipe ? known_hosts.wake[0] : -1, .events = POLLIN};
    return known_hosts.has_pipe;
}

static const TaskKind watch_task = {.poll = take_wakes, .fds = fds_of_watch};

void hosts_watch(Tasks *tasks, Task *t)
{
    tasks_add(tasks, t, &watch_task, NULL);
}

void hosts_end(void)
{
    pthread_mutex_lock(&known_hosts.lock);
    known_hosts.ends = true;
    for (Host *h = known_hosts.hosts; h; h = h->next)
        for (int i = 0; i < 2; i++)
            if (i ? h->making : h->connection)
                connection_end(i ? h->making : h->connection);
    pthread_cond_broadcast(&known_hosts.changed);
    for (int i = 0; known_hosts.threads && i < 25; i++)
        wait_a_moment();
    while (known_hosts.hosts && !known_hosts.threads) {
        Host *h = known_hosts.hosts;
        known_hosts.hosts = h->next;
        Connection *c = h->connection;
        pthread_mutex_unlock(&known_hosts.lock);
        connection_drop(c);
        pthread_mutex_lock(&known_hosts.lock);
        location_free(&h->place);
        free(h);
    }
    known_hosts.ends = false;
    pthread_mutex_unlock(&known_hosts.lock);
}
