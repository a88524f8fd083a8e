#include "commands/file/commits.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/words.h"
#include "files/job_task.h"
#include "ui/panel.h"
#include "ui/program.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { COMMITS_MOST = 1000, HASH_MOST = sizeof((Commit *)0)->hash - 1, SUBJECT_MOST = 200 };

typedef struct Asking {
    char *path; /* of the file */
    CommitTaken take;
    void (*got)(Editor *ed, const Commit *all, size_t n,
                void *ctx); /* of all, in the place of a list; or NULL */
    void (*dropped)(Editor *ed, void *ctx);
    void *ctx;
    char name[WORDS_MAX + 20]; /* of the version that is asked for */
    Commit *at;
    size_t n;
} Asking;

static Asking *new_asking(const OpenFile *f, CommitTaken take, void *ctx)
{
    Asking *a = mem_get(sizeof *a);
    *a = (Asking){.path = mem_string(f->inside), .take = take, .ctx = ctx};
    return a;
}

static void free_asking(void *ctx)
{
    Asking *a = ctx;
    for (size_t i = 0; i < a->n; i++)
        free(a->at[i].words);
    free(a->at);
    free(a->path);
    free(a);
}

/* ---- asking git ---- */

/* Nothing of what a repository's configuration could have it run or fetch. */
static const char *const git[] = {"env",
                                  "-u",
                                  "GIT_DIR",
                                  "-u",
                                  "GIT_WORK_TREE",
                                  "-u",
                                  "GIT_INDEX_FILE",
                                  "-u",
                                  "GIT_PREFIX",
                                  "GIT_NO_LAZY_FETCH=1",
                                  "GIT_TERMINAL_PROMPT=0",
                                  "GIT_OPTIONAL_LOCKS=0",
                                  "git",
                                  "--no-pager",
                                  "--literal-pathspecs",
                                  "-c",
                                  "core.fsmonitor=false",
                                  "-c",
                                  "core.hooksPath=/dev/null",
                                  "-c",
                                  "protocol.allow=never"};

enum { GIT = sizeof git / sizeof *git, WORDS = 8 };

static bool start(const char *path, const char *const *args, Job *job, Err *e)
{
    char *words[GIT + WORDS + 1];
    size_t n = 0;
    char *folder = path_folder(path);
    for (; n < GIT; n++)
        words[n] = (char *)git[n];
    for (size_t i = 0; i < WORDS && args[i]; i++)
        words[n++] = (char *)args[i];
    words[n] = NULL;
    JobSpec spec = {.words = words, .folder = folder, .english = true};
    bool begun = job_start_program(job, &spec, e);
    free(folder);
    return begun;
}

bool commits_start_last(const OpenFile *f, Job *job, Err *e)
{
    Bytes object = {0};
    bytes_printf(&object, "HEAD:./%s", path_base(f->inside));
    bool begun = start(f->inside, (const char *const[]){"cat-file", "blob", object.at, NULL}, job, e);
    bytes_free(&object);
    return begun;
}

/* Takes over `a`, which `ended` gets. */
static void ask(Editor *ed, Asking *a, const char *const *args,
                void (*ended)(Editor *ed, Job *job, JobEnd how, void *ctx),
                void (*dropped)(Editor *ed, void *ctx))
{
    Err e = {""};
    Job job = {0};
    bool begun = start(a->path, args, &job, &e);
    if (!begun) {
        warn(ed, "git cannot be asked: %s", e.text);
        free_asking(a);
        return;
    }
    program_wait_for(ed, job,
                     &(ProgramSpec){.name = "git",
                                    .what = "question to git",
                                    .help = "differences",
                                    .ended = ended,
                                    .dropped = dropped,
                                    .ctx = a});
}

static void dropped(Editor *ed, void *ctx)
{
    (void)ed;
    free_asking(ctx);
}

/* Did it answer? What it said instead is shown. */
static bool answered(Editor *ed, const Job *job, JobEnd how)
{
    if (how != JOB_ENDED)
        return false;
    if (job->status == 0 && !job->too_much)
        return true;
    const char *said = bytes_str(&job->said);
    warn(ed, "git has no answer: %.*s", (int)strcspn(said, "\n"), *said ? said : "it failed");
    return false;
}

/* ---- one version ---- */

static void take_version(Editor *ed, Job *job, JobEnd how, void *ctx)
{
    Asking *a = ctx;
    Text raw = {0}, t = {0};
    Err e = {""};
    if (answered(ed, job, how)) {
        bool ok = text_insert(&raw, 0, bytes_str(&job->output), job->output.len);
        Encoding x = encoding_guess(raw);
        if (ok && encoding_read(raw, &x, &t, &e))
            a->take(ed, t, a->name, a->ctx);
        else
            warn(ed, "%s", e.text[0] ? e.text : "There is not enough memory for that");
    }
    text_drop(&raw);
    text_drop(&t);
    free_asking(a);
}

/* Takes over `a`. */
static void ask_version(Editor *ed, Asking *a, const char *hash)
{
    Bytes object = {0};
    bytes_printf(&object, "%s:./%s", hash, path_base(a->path));
    ask(ed, a, (const char *const[]){"cat-file", "blob", object.at, NULL}, take_version, dropped);
    bytes_free(&object);
}

void commits_take_last(Editor *ed, const OpenFile *f, CommitTaken take, void *ctx)
{
    Asking *a = new_asking(f, take, ctx);
    snprintf(a->name, sizeof a->name, "the last commit");
    ask_version(ed, a, "HEAD");
}

/* ---- the list ---- */

static void fill_commits(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)ed, (void)filter;
    const Asking *a = ctx;
    for (size_t i = 0; i < a->n; i++)
        panel_add(p, (long)i, a->at[i].words, NULL, words_when_exactly(a->at[i].when, (char[WORDS_MAX]){0}));
}

static void name_commit(Asking *a, const Commit *c)
{
    snprintf(a->name, sizeof a->name, "the commit of %s", words_when_exactly(c->when, (char[WORDS_MAX]){0}));
}

static void commit_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    const Asking *a = ctx;
    if (id < 0)
        return;
    Asking *one = mem_get(sizeof *one);
    *one = (Asking){.path = mem_string(a->path), .take = a->take, .ctx = a->ctx};
    name_commit(one, &a->at[id]);
    ask_version(ed, one, a->at[id].hash);
}

/* One line of what rev-list says: the hash, the seconds since 1970, who and what, with tabs between. False
 * for any other. */
static bool read_commit(const char *line, size_t n, Commit *out)
{
    char *end;
    size_t hash = strcspn(line, "\t");
    if (hash >= n || hash > HASH_MOST || strspn(line, "0123456789abcdef") != hash || hash < 7)
        return false;
    memcpy(out->hash, line, hash);
    out->hash[hash] = 0;
    out->when = strtoll(line + hash + 1, &end, 10);
    size_t at = (size_t)(end - line);
    if (at >= n || line[at] != '\t')
        return false;
    size_t len = n - at - 1;
    out->words = mem_string_n(line + at + 1, len < SUBJECT_MOST ? len : SUBJECT_MOST);
    return true;
}

static void read_commits(Asking *a, const char *line)
{
    while (*line && a->n < COMMITS_MOST) {
        size_t n = strcspn(line, "\n");
        Commit c;
        if (read_commit(line, n, &c)) {
            a->at = array_room(a->at, a->n, sizeof *a->at);
            a->at[a->n++] = c;
        }
        line += n + (line[n] == '\n');
    }
}

static void list_commits(Editor *ed, Job *job, JobEnd how, void *ctx)
{
    Asking *a = ctx;
    if (!answered(ed, job, how)) {
        free_asking(a);
        return;
    }
    read_commits(a, bytes_str(&job->output));
    PanelSpec p = {.title = "Commits",
                   .fill = fill_commits,
                   .chosen = commit_chosen,
                   .empty = "No commit has this file",
                   .ctx = a,
                   .free_ctx = free_asking};
    panel_open(ed, &p);
}

/* The words that ask for all of them, with the file's name in `name`. */
#define LIST_WORDS(name)                                                                                     \
    (const char *const[])                                                                                    \
    {                                                                                                        \
        "rev-list", "--max-count=1000", "--no-commit-header", "--format=tformat:%H%x09%ct%x09%an: %s",       \
            "HEAD", "--", name, NULL                                                                         \
    }

void commits_choose(Editor *ed, const OpenFile *f, CommitTaken take, void *ctx)
{
    Asking *a = new_asking(f, take, ctx);
    Bytes name = {0};
    bytes_printf(&name, "./%s", path_base(a->path));
    ask(ed, a, LIST_WORDS(name.at), list_commits, dropped);
    bytes_free(&name);
}

struct CommitList {
    Editor *ed;
    Asking *all;
    JobTask job;
    void (*got)(Editor *ed, const Commit *all, size_t n, void *ctx);
    void *ctx;
};

static void list_ended(void *ctx, JobEnd how)
{
    CommitList *l = ctx;
    const Job *job = &l->job.job;
    if (how == JOB_ENDED && job->status == 0 && !job->too_much)
        read_commits(l->all, bytes_str(&job->output));
    l->got(l->ed, l->all->at, l->all->n, l->ctx);
}

CommitList *commits_list(Editor *ed, const OpenFile *f,
                         void (*got)(Editor *ed, const Commit *all, size_t n, void *ctx), void *ctx)
{
    enum { SECONDS = 20 };
    CommitList *l = mem_get(sizeof *l);
    Bytes name = {0};
    Err ignored;
    *l = (CommitList){.ed = ed, .all = new_asking(f, NULL, NULL), .got = got, .ctx = ctx};
    bytes_printf(&name, "./%s", path_base(f->inside));
    bool begun = start(f->inside, LIST_WORDS(name.at), &l->job.job, &ignored);
    bytes_free(&name);
    if (begun) {
        job_task_begin(&l->job, &ed->session->tasks, SECONDS, NULL, NULL, list_ended, l);
        return l;
    }
    commits_list_end(l);
    return NULL;
}

void commits_list_end(CommitList *l)
{
    if (!l)
        return;
    job_task_free(&l->job);
    free_asking(l->all);
    free(l);
}

void commits_take(Editor *ed, const OpenFile *f, const Commit *c, CommitTaken take, void *ctx)
{
    Asking *a = new_asking(f, take, ctx);
    name_commit(a, c);
    ask_version(ed, a, c->hash);
}
