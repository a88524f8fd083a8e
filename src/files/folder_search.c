#include "files/folder_search.h"

#include "base/array.h"
#include "base/letters.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/pattern.h"
#include "base/system.h"
#include "base/utf8.h"
#include "files/encoding.h"
#include "files/ignored.h"

#include <dirent.h>
#include <errno.h>
#include <stdatomic.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>
#include <xxhash.h>

enum {
    THREADS_MOST = 8,
    BATCH = 24,               /* files that a thread takes at once */
    BINARY_LOOK = 64 * 1024,  /* bytes in which a zero says that it is no text */
    EXCERPT = 240,            /* bytes of a line that are kept, */
    BEFORE = 60,              /* of them before the match */
    DEPTH_MOST = 200,         /* folders in one another */
    CONVERTED_MOST = 4 << 20, /* bytes of a file in another encoding */
    PATIENCE = 1000           /* ms that what comes later waits for a batch before it */
};

/* A name in a folder that is being walked. */
typedef struct Name {
    char *name;
    unsigned char type; /* of readdir() */
} Name;

/* A folder on the way to where the walk is. */
typedef struct Level {
    char *path;
    Name *names;
    size_t n, at;
    Ignored *own;         /* its rules, or NULL */
    const Ignored *rules; /* the nearest ones */
} Level;

typedef struct Walk {
    pthread_mutex_t lock;
    char **folders;
    size_t n_folders, next;
    Level levels[DEPTH_MOST];
    size_t depth;
    dev_t device; /* of the folder that was given */
    Ignored **above;
    size_t n_above, batches;
    bool ended;
} Walk;

/* A file in an encoding of its own, for the main thread to read. */
typedef struct Foreign {
    size_t before; /* comes before that one of the batch's files */
    char *path;
    char *bytes;
    size_t n;
} Foreign;

typedef struct Batch {
    size_t number;
    char *paths[BATCH];
    size_t n;
    FolderCounts counts;
    FolderFile *files; /* with hits, whose numbers count from this batch's first */
    FolderHit *hits;
    size_t n_files, n_hits;
    Foreign *foreign;
    size_t n_foreign;
    uint64_t done; /* ms, when it was */
} Batch;

typedef struct OpenBytes {
    char *path;
    FileNode node;
    Bytes bytes;
} OpenBytes;

struct FolderSearch {
    Walk walk;
    /* the wish */
    char *names, *words, *with;
    FindWhat what;
    Replacement by;
    bool replaces;
    bool ignored, foreign; /* foreign: what is looked for can differ in another encoding */
    size_t most;
    OpenBytes *open;
    size_t n_open;
    /* what is handed over */
    pthread_mutex_t lock;
    Batch **done;
    size_t n_done, taken;
    int wake[2];
    atomic_bool stop;
    atomic_size_t kept; /* lines */
    atomic_int holders, workers;
    /* the main thread's */
    Finder *finder;
    FolderFound found;
};

typedef struct Worker {
    FolderSearch *s;
    Finder *finder;
    char *room;
    size_t cap;
} Worker;

/* ---- the walk ---- */

static int by_name(const void *a, const void *b)
{
    return strcmp(((const Name *)a)->name, ((const Name *)b)->name);
}

static void leave_level(Walk *w)
{
    Level *l = &w->levels[--w->depth];
    for (size_t i = l->at; i < l->n; i++)
        free(l->names[i].name);
    free(l->names);
    free(l->path);
    ignored_free(l->own);
}

static bool is_version_control(const char *name)
{
    static const char *const names[] = {".git", ".hg", ".svn", ".bzr", "CVS", "_darcs", ".jj"};
    for (size_t i = 0; i < sizeof names / sizeof *names; i++)
        if (strcmp(name, names[i]) == 0)
            return true;
    return false;
}

/* Enters a folder, whose path it takes over. The one that was given may be a link. */
static void enter(FolderSearch *s, char *path, const Ignored *rules, FolderCounts *counts)
{
    Walk *w = &s->walk;
    bool first = w->depth == 0;
    int fd = w->depth == DEPTH_MOST
                 ? -1
                 : open(path, O_RDONLY | O_DIRECTORY | O_CLOEXEC | O_NONBLOCK | (first ? 0 : O_NOFOLLOW));
    struct stat st;
    DIR *d = fd >= 0 && fstat(fd, &st) == 0 ? fdopendir(fd) : NULL;
    if (!d || (!first && st.st_dev != w->device)) {
        counts->unreadable += !d;
        counts->systems += d != NULL;
        if (d)
            closedir(d);
        else if (fd >= 0)
            close(fd);
        free(path);
        return;
    }
    Level l = {.path = path, .rules = rules};
    if (first)
        w->device = st.st_dev;
    for (const struct dirent *e; (e = readdir(d)) && !atomic_load(&s->stop);) {
        if (strcmp(e->d_name, ".") == 0 || strcmp(e->d_name, "..") == 0)
            continue;
        l.names = array_room(l.names, l.n, sizeof *l.names);
        l.names[l.n++] = (Name){mem_string(e->d_name), e->d_type};
    }
    closedir(d);
    if (l.n)
        qsort(l.names, l.n, sizeof *l.names, by_name);
    l.own = s->ignored ? NULL : ignored_read(path, rules);
    l.rules = l.own ? l.own : rules;
    w->levels[w->depth++] = l;
}

static unsigned char type_of(const char *path, unsigned char told)
{
    struct stat st;
    if (told != DT_UNKNOWN)
        return told;
    if (lstat(path, &st) != 0)
        return DT_UNKNOWN;
    return S_ISREG(st.st_mode)   ? DT_REG
           : S_ISDIR(st.st_mode) ? DT_DIR
           : S_ISLNK(st.st_mode) ? DT_LNK
                                 : DT_FIFO;
}

/* The next of the folders that were given; or a file that was. */
static void begin_folder(FolderSearch *s, Batch *b)
{
    Walk *w = &s->walk;
    char *path = mem_string(w->folders[w->next++]);
    struct stat st;
    for (size_t i = w->n_above; i-- > 0;)
        ignored_free(w->above[i]);
    free(w->above);
    w->above = NULL;
    w->n_above = 0;
    if (stat(path, &st) != 0 || S_ISDIR(st.st_mode)) {
        w->above = s->ignored ? NULL : ignored_above(path, &w->n_above);
        enter(s, path, w->n_above ? w->above[w->n_above - 1] : NULL, &b->counts);
    } else {
        b->paths[b->n++] = path;
    }
}

/* Goes one name on. */
static void walk_on(FolderSearch *s, Batch *b)
{
    Walk *w = &s->walk;
    Level *l = &w->levels[w->depth - 1];
    if (l->at == l->n) {
        leave_level(w);
        return;
    }
    Name name = l->names[l->at++];
    char *path = path_in(l->path, name.name);
    unsigned char type = type_of(path, name.type);
    bool folder = type == DT_DIR;
    if (folder && is_version_control(name.name)) {
        b->counts.ignored++;
    } else if (type == DT_LNK) {
        b->counts.links++;
    } else if (type != DT_REG && !folder) {
        b->counts.others++;
    } else if (ignored_is(l->rules, path, folder)) {
        b->counts.ignored++;
    } else if (folder) {
        enter(s, path, l->rules, &b->counts);
        path = NULL;
    } else if (pattern_fits_one(s->names, name.name)) {
        b->paths[b->n++] = path;
        path = NULL;
    }
    free(path);
    free(name.name);
}

/* The next files, in the order of their paths; NULL at the end. */
static Batch *next_batch(FolderSearch *s)
{
    Walk *w = &s->walk;
    Batch *b = mem_get(sizeof *b);
    pthread_mutex_lock(&w->lock);
    while (b->n < BATCH && !atomic_load(&s->stop) && (w->depth || w->next < w->n_folders)) {
        if (w->depth)
            walk_on(s, b);
        else
            begin_folder(s, b);
    }
    bool last = w->ended;
    w->ended = w->ended || (b->n < BATCH);
    b->number = w->batches;
    w->batches += !last;
    pthread_mutex_unlock(&w->lock);
    if (!last)
        return b;
    free(b);
    return NULL;
}

/* ---- one file ---- */

static bool inside_letter(const char *s, size_t at)
{
    return ((unsigned char)s[at] & 0xc0) == 0x80;
}

/* What a row shows of a line: from its first letter, or from somewhat before a match further on. */
static void excerpt(FolderHit *h, const char *line, size_t n, size_t from, size_t to)
{
    size_t start = 0, end;
    while (start < n && start < from && letter_is_blank((unsigned char)line[start]))
        start++;
    const char *dots = "";
    if (from - start > EXCERPT - BEFORE) {
        start = from - BEFORE;
        while (start < from && inside_letter(line, start))
            start++;
        dots = "…";
    }
    end = n - start > EXCERPT ? start + EXCERPT : n;
    while (end > start && end < n && inside_letter(line, end))
        end--;
    while (end > start && line[end - 1] == '\r')
        end--;
    to = to < end ? to : end;
    Bytes b = {0};
    bytes_add_str(&b, dots);
    h->from = b.len + from - start;
    bytes_add(&b, line + start, end - start);
    h->to = to > from ? b.len - (end - to) : h->from;
    h->text = b.at ? b.at : mem_string("");
    for (size_t i = 0; i < b.len; i++) /* a row is one string */
        h->text[i] = h->text[i] ? h->text[i] : ' ';
    h->from = h->from < b.len ? h->from : b.len;
}

static bool may_keep(FolderSearch *s)
{
    return atomic_fetch_add(&s->kept, 1) < FOLDER_HITS_MOST;
}

uint64_t folder_search_hash(const MatchLines *m)
{
    return XXH3_64bits(m->bytes + m->start, m->end - m->start);
}

/* What would be another, of a line that would be replaced: between what both begin and end with. */
static void fresh_excerpt(FolderHit *h, const MatchLines *m)
{
    const char *was = m->bytes + m->start;
    size_t n = m->end - m->start, from = m->first.from - m->start, same = 0;
    size_t most = (n < m->fresh.len ? n : m->fresh.len) - from;
    while (same < most && was[n - 1 - same] == m->fresh.at[m->fresh.len - 1 - same])
        same++;
    while (same && inside_letter(m->fresh.at, m->fresh.len - same))
        same--;
    excerpt(h, bytes_str(&m->fresh), m->fresh.len, from, m->fresh.len - same);
}

/* Searches some bytes; their lines with matches go to the batch, and a record of the file with the first. */
static void search_bytes(FolderSearch *s, Finder *f, const char *path, const char *bytes, size_t n, Batch *b)
{
    size_t lines = 0;
    MatchLines m = {.finder = f, .bytes = bytes, .n = n, .by = s->replaces ? &s->by : NULL};
    while (!atomic_load(&s->stop) && match_lines_next(&m)) {
        lines++;
        b->counts.places += m.matches;
        if (!may_keep(s))
            continue;
        FolderHit h = {.file = b->n_files, .line = m.line, .places = m.matches};
        size_t end = m.first.to < m.end ? m.first.to : m.end;
        if (s->replaces) {
            h.was = folder_search_hash(&m);
            fresh_excerpt(&h, &m);
        } else {
            excerpt(&h, bytes + m.start, m.end - m.start, m.first.from - m.start, end - m.start);
        }
        b->hits = array_room(b->hits, b->n_hits, sizeof *b->hits);
        b->hits[b->n_hits++] = h;
    }
    b->counts.hard += m.too_hard;
    match_lines_end(&m);
    if (!lines)
        return;
    b->counts.with++;
    b->counts.lines += lines;
    b->files = array_room(b->files, b->n_files, sizeof *b->files);
    b->files[b->n_files++] = (FolderFile){mem_string(path), lines};
}

/* As much of a file as counts; SIZE_MAX: it cannot be read. */
static size_t read_file(Worker *w, int fd, size_t expected)
{
    size_t n = 0, room = expected < w->s->most ? expected + 1 : w->s->most + 1;
    for (;;) {
        room = room > 4096 ? room : 4096;
        if (w->cap < room)
            w->room = mem_grow(w->room, w->cap = room + room / 4);
        ssize_t got = read(fd, w->room + n, w->cap - n);
        if (got < 0 && errno == EINTR)
            continue;
        if (got < 0)
            return SIZE_MAX;
        n += (size_t)got;
        if (got == 0 || n > w->s->most || (n == expected && n))
            return n;
        room = n + n / 2 + 1;
    }
}

static const OpenBytes *open_one(const FolderSearch *s, const char *path, FileNode node)
{
    for (size_t i = 0; i < s->n_open; i++)
        if (strcmp(s->open[i].path, path) == 0 || (node.number && state_same_node(s->open[i].node, node)))
            return &s->open[i];
    return NULL;
}

static void add_foreign(Batch *b, const char *path, const char *bytes, size_t n)
{
    char *copy = mem_get(n + 1);
    memcpy(copy, bytes, n);
    b->foreign = array_room(b->foreign, b->n_foreign, sizeof *b->foreign);
    b->foreign[b->n_foreign++] = (Foreign){b->n_files, mem_string(path), copy, n};
}

static bool has_mark(const char *s, size_t n)
{
    return n >= 2 && (memcmp(s, "\xff\xfe", 2) == 0 || memcmp(s, "\xfe\xff", 2) == 0);
}

static void search_read(Worker *w, const char *path, size_t n, Batch *b)
{
    FolderSearch *s = w->s;
    bool converts = n <= CONVERTED_MOST;
    if (memchr(w->room, 0, n < BINARY_LOOK ? n : BINARY_LOOK)) {
        if (has_mark(w->room, n) && converts)
            add_foreign(b, path, w->room, n);
        else
            b->counts.binary++;
        return;
    }
    b->counts.files++;
    size_t skip = n >= 3 && memcmp(w->room, "\xef\xbb\xbf", 3) == 0 ? 3 : 0, lines = b->n_hits;
    size_t places = b->counts.places;
    bool foreign = s->foreign && converts && !utf8_is_valid(w->room, n);
    if (!foreign)
        search_bytes(s, w->finder, path, w->room + skip, n - skip, b);
    if (b->n_hits > lines && converts && !s->foreign &&
        !utf8_is_valid(w->room, n)) { /* shown in its own letters */
        while (b->n_hits > lines)
            free(b->hits[--b->n_hits].text);
        const FolderFile *f = &b->files[--b->n_files];
        b->counts.with--;
        b->counts.lines -= f->lines;
        b->counts.places = places;
        free(f->path);
        foreign = true;
    }
    if (foreign) {
        b->counts.files--;
        add_foreign(b, path, w->room, n);
    }
}

static void search_file(Worker *w, const char *path, Batch *b)
{
    FolderSearch *s = w->s;
    struct stat st;
    int fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY | O_NOFOLLOW);
    bool there = fd >= 0 && fstat(fd, &st) == 0 && S_ISREG(st.st_mode);
    FileNode node = {0};
    if (there)
        node = (FileNode){(uint64_t)st.st_dev, (uint64_t)st.st_ino};
    const OpenBytes *open = open_one(s, path, node);
    if (open) {
        b->counts.files++;
        search_bytes(s, w->finder, open->path, bytes_str(&open->bytes), open->bytes.len, b);
    } else if (!there) {
        b->counts.unreadable++;
    } else if ((uint64_t)st.st_size > s->most) {
        b->counts.large++;
    } else {
        size_t n = read_file(w, fd, (size_t)st.st_size);
        if (n == SIZE_MAX)
            b->counts.unreadable++;
        else if (n > s->most)
            b->counts.large++;
        else
            search_read(w, path, n, b);
    }
    if (fd >= 0)
        close(fd);
}

/* ---- threads ---- */

static void free_batch(Batch *b)
{
    for (size_t i = 0; i < b->n; i++)
        free(b->paths[i]);
    for (size_t i = 0; i < b->n_files; i++)
        free(b->files[i].path);
    for (size_t i = 0; i < b->n_hits; i++)
        free(b->hits[i].text);
    for (size_t i = 0; i < b->n_foreign; i++) {
        free(b->foreign[i].path);
        free(b->foreign[i].bytes);
    }
    free(b->files);
    free(b->hits);
    free(b->foreign);
    free(b);
}

/* The last one who holds it frees all of it. */
static void let_go(FolderSearch *s)
{
    if (atomic_fetch_sub(&s->holders, 1) > 1)
        return;
    Walk *w = &s->walk;
    while (w->depth)
        leave_level(w);
    for (size_t i = w->n_above; i-- > 0;)
        ignored_free(w->above[i]);
    free(w->above);
    for (size_t i = 0; i < w->n_folders; i++)
        free(w->folders[i]);
    free(w->folders);
    for (size_t i = 0; i < s->n_open; i++) {
        free(s->open[i].path);
        bytes_free(&s->open[i].bytes);
    }
    free(s->open);
    for (size_t i = 0; i < s->n_done; i++)
        free_batch(s->done[i]);
    free(s->done);
    for (int i = 0; i < 2; i++)
        close(s->wake[i]);
    pthread_mutex_destroy(&w->lock);
    pthread_mutex_destroy(&s->lock);
    free(s->names);
    free(s->words);
    free(s->with);
    free(s);
}

static void *work(void *ctx)
{
    Worker *w = ctx;
    FolderSearch *s = w->s;
    for (Batch *b; !atomic_load(&s->stop) && (b = next_batch(s));) {
        for (size_t i = 0; i < b->n && !atomic_load(&s->stop); i++)
            search_file(w, b->paths[i], b);
        b->done = system_now_ms();
        pthread_mutex_lock(&s->lock);
        s->done = array_room(s->done, s->n_done, sizeof(Batch *));
        s->done[s->n_done++] = b;
        pthread_mutex_unlock(&s->lock);
        ssize_t ignored = write(s->wake[1], "", 1);
        (void)ignored;
    }
    finder_free(w->finder);
    free(w->room);
    free(w);
    atomic_fetch_sub(&s->workers, 1);
    ssize_t ignored = write(s->wake[1], "", 1);
    (void)ignored;
    let_go(s);
    return NULL;
}

static int threads_wanted(void)
{
    long n = sysconf(_SC_NPROCESSORS_ONLN);
    return n < 2 ? 2 : n > THREADS_MOST ? THREADS_MOST : (int)n;
}

static bool begin_worker(FolderSearch *s)
{
    Err e;
    size_t mistake;
    pthread_t thread;
    Worker *w = mem_get(sizeof *w);
    w->s = s;
    w->finder = finder_new(&s->what, &e, &mistake);
    atomic_fetch_add(&s->holders, 1);
    atomic_fetch_add(&s->workers, 1);
    if (w->finder && system_thread(&thread, work, w)) {
        pthread_detach(thread);
        return true;
    }
    finder_free(w->finder);
    free(w);
    atomic_fetch_sub(&s->workers, 1);
    let_go(s);
    return false;
}

static void take_wish(FolderSearch *s, const FolderWish *w)
{
    s->walk.folders = mem_get((w->n_folders + 1) * sizeof(char *));
    for (size_t i = 0; i < w->n_folders; i++)
        s->walk.folders[s->walk.n_folders++] = mem_string(w->folders[i]);
    s->names = mem_string(w->names);
    s->words = mem_string_n(w->what.what, w->what.len);
    s->what = w->what;
    s->what.what = s->words;
    s->replaces = w->by != NULL;
    if (w->by) {
        s->by = *w->by;
        s->by.with = s->with = mem_string_n(w->by->with, w->by->len);
    }
    s->ignored = w->ignored;
    s->most = w->most;
    for (size_t i = 0; i < w->what.len; i++)
        s->foreign = s->foreign || (unsigned char)s->words[i] >= 0x80 || w->what.expression;
    s->open = mem_get((w->n_open + 1) * sizeof *s->open);
    for (size_t i = 0; i < w->n_open; i++) {
        const OpenText *o = &w->open[i];
        if (text_len(o->text) > w->most)
            continue;
        OpenBytes *to = &s->open[s->n_open++];
        to->path = mem_string(o->path);
        to->node = o->disk->exists ? o->disk->file.node : (FileNode){0};
        text_bytes(o->text, 0, text_len(o->text), &to->bytes);
    }
}

static FolderSearch *new_search(const FolderWish *w)
{
    FolderSearch *s = mem_get(sizeof *s);
    if (!system_pipe(s->wake, true)) {
        free(s);
        return NULL;
    }
    pthread_mutex_init(&s->walk.lock, NULL);
    pthread_mutex_init(&s->lock, NULL);
    atomic_store(&s->holders, 1);
    take_wish(s, w);
    return s;
}

FolderSearch *folder_search_begin(const FolderWish *w, Err *e, size_t *mistake)
{
    Finder *finder = finder_new(&w->what, e, mistake);
    FolderSearch *s = finder ? new_search(w) : NULL;
    int n = 0;
    if (!finder)
        return NULL;
    while (s && n < threads_wanted() && begin_worker(s))
        n++;
    if (n) {
        s->finder = finder;
        return s;
    }
    err_set(e, "There is not enough of the system's room for a search");
    finder_free(finder);
    folder_search_free(s);
    return NULL;
}

/* Is it a text that can be opened? Asked of its beginning. */
static bool is_text(const FolderSearch *s, const char *path)
{
    struct stat st;
    char *head = mem_get(BINARY_LOOK);
    int fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY | O_NOFOLLOW);
    bool ok = fd >= 0 && fstat(fd, &st) == 0 && S_ISREG(st.st_mode) && (uint64_t)st.st_size <= s->most;
    ssize_t n = ok ? system_read_full(fd, head, BINARY_LOOK) : -1;
    ok = n >= 0 && (!memchr(head, 0, (size_t)n) || has_mark(head, (size_t)n));
    if (fd >= 0)
        close(fd);
    free(head);
    return ok;
}

char **folder_search_files(const FolderWish *w, size_t *n)
{
    FolderSearch *s = new_search(w);
    char **all = NULL;
    *n = 0;
    for (Batch *b; s && (b = next_batch(s));) {
        for (size_t i = 0; i < b->n; i++)
            if (is_text(s, b->paths[i])) {
                all = array_room(all, *n, sizeof *all);
                all[(*n)++] = b->paths[i];
                b->paths[i] = NULL;
            }
        free_batch(b);
    }
    folder_search_free(s);
    return all;
}

/* ---- what came of it ---- */

int folder_search_fd(const FolderSearch *s)
{
    return s->wake[0];
}

/* Reads a file in its own encoding and searches that. */
static void search_foreign(FolderSearch *s, const Foreign *f, Batch *b)
{
    Text raw = {0}, t = {0};
    Err e;
    bool ok = text_insert(&raw, 0, f->bytes, f->n);
    Encoding x = ok ? encoding_guess(raw) : (Encoding){.name = ""};
    ok = ok && encoding_read(raw, &x, &t, &e);
    b->counts.files++;
    if (ok) {
        Bytes bytes = {0};
        text_bytes(t, 0, text_len(t), &bytes);
        search_bytes(s, s->finder, f->path, bytes_str(&bytes), bytes.len, b);
        bytes_free(&bytes);
    } else {
        search_bytes(s, s->finder, f->path, f->bytes, f->n, b);
    }
    text_drop(&raw);
    text_drop(&t);
}

static void add_counts(FolderCounts *to, const FolderCounts *c)
{
    to->files += c->files;
    to->with += c->with;
    to->lines += c->lines;
    to->places += c->places;
    to->binary += c->binary;
    to->large += c->large;
    to->unreadable += c->unreadable;
    to->ignored += c->ignored;
    to->links += c->links;
    to->systems += c->systems;
    to->others += c->others;
    to->hard += c->hard;
}

/* The hits of a batch's file `i`, from *hit on, become the search's. */
static void take_file(FolderSearch *s, Batch *b, size_t i, size_t *hit)
{
    FolderFound *to = &s->found;
    for (; *hit < b->n_hits && b->hits[*hit].file == i; ++*hit) {
        to->hits = array_room(to->hits, to->n_hits, sizeof *to->hits);
        to->hits[to->n_hits] = b->hits[*hit];
        to->hits[to->n_hits++].file = to->n_files;
        b->hits[*hit].text = NULL;
    }
    to->files = array_room(to->files, to->n_files, sizeof *to->files);
    to->files[to->n_files++] = b->files[i];
    b->files[i].path = NULL;
}

static void take_batch(FolderSearch *s, Batch *b)
{
    size_t hit = 0, k = 0;
    for (size_t i = 0; i <= b->n_files; i++) {
        for (; k < b->n_foreign && b->foreign[k].before == i && !atomic_load(&s->stop); k++) {
            Batch own = {0};
            size_t own_hit = 0;
            search_foreign(s, &b->foreign[k], &own);
            add_counts(&s->found.counts, &own.counts);
            for (size_t n = 0; n < own.n_files; n++)
                take_file(s, &own, n, &own_hit);
            free(own.files);
            free(own.hits);
        }
        if (i < b->n_files)
            take_file(s, b, i, &hit);
    }
    add_counts(&s->found.counts, &b->counts);
    free_batch(b);
}

/* The one whose turn it is; or any, when that lets the others wait too long. */
static Batch *next_done(FolderSearch *s, bool ended)
{
    Batch *b = NULL;
    uint64_t now = system_now_ms();
    pthread_mutex_lock(&s->lock);
    size_t best = s->n_done;
    for (size_t i = 0; i < s->n_done; i++)
        if (best == s->n_done || s->done[i]->number < s->done[best]->number)
            best = i;
    if (best < s->n_done &&
        (s->done[best]->number <= s->taken || ended || now - s->done[best]->done > PATIENCE)) {
        b = s->done[best];
        s->done[best] = s->done[--s->n_done];
        s->taken = b->number >= s->taken ? b->number + 1 : s->taken;
    }
    pthread_mutex_unlock(&s->lock);
    return b;
}

bool folder_search_take(FolderSearch *s)
{
    char drop[64];
    while (read(s->wake[0], drop, sizeof drop) > 0)
        ;
    bool ended = atomic_load(&s->workers) == 0, any = ended && !s->found.ended;
    uint64_t until = system_now_ms() + 20;
    for (Batch *b; (b = next_done(s, ended));) {
        any = true;
        take_batch(s, b);
        if (system_now_ms() > until) { /* the rest when there was time for keys */
            ssize_t ignored = write(s->wake[1], "", 1);
            (void)ignored;
            return true;
        }
    }
    s->found.ended = ended || s->found.stopped;
    return any;
}

const FolderFound *folder_search_found(const FolderSearch *s)
{
    return &s->found;
}

void folder_search_stop(FolderSearch *s)
{
    if (!s->found.ended)
        s->found.stopped = s->found.ended = true;
    atomic_store(&s->stop, true);
}

void folder_search_free(FolderSearch *s)
{
    if (!s)
        return;
    folder_search_stop(s);
    for (size_t i = 0; i < s->found.n_files; i++)
        free(s->found.files[i].path);
    for (size_t i = 0; i < s->found.n_hits; i++)
        free(s->found.hits[i].text);
    free(s->found.files);
    free(s->found.hits);
    finder_free(s->finder);
    let_go(s);
}
