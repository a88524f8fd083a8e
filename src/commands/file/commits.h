/* What the version control git has of a file, asked by its plumbing commands, and only when a person wants to
 * see it. Nothing of the repository is run for that: no hooks, monitors, filters, helpers of its own, and
 * nothing is fetched. */
#ifndef COMMITS_H
#define COMMITS_H

#include "files/job.h"
#include "ui/editor.h"

/* The text of a file in a commit; borrowed. `name` says which one. */
typedef void (*CommitTaken)(Editor *ed, Text t, const char *name, void *ctx);

/* Asks for the file as it is in the last commit, or shows a list of its commits first. What is taken goes to
 * `take`; nothing, when the person backs out or there is none, which is said. `ctx` must last as long as the
 * layers below do. */
void commits_take_last(Editor *ed, const OpenFile *f, CommitTaken take, void *ctx);
void commits_choose(Editor *ed, const OpenFile *f, CommitTaken take, void *ctx);

/* Starts asking for the file as it is in the last commit, which the job prints. False with the reason in e.
 */
bool commits_start_last(const OpenFile *f, Job *job, Err *e);

typedef struct Commit {
    char hash[65];
    long long when; /* Unix time */
    char *words;    /* who, and what was said */
} Commit;

typedef struct CommitList CommitList;

/* Asks beside the keys for the commits that have the file; `got` gets them once, the newest first, borrowed.
 * NULL where nobody can be asked. */
CommitList *commits_list(Editor *ed, const OpenFile *f,
                         void (*got)(Editor *ed, const Commit *all, size_t n, void *ctx), void *ctx);
/* `got` is not called after this. NULL is fine. */
void commits_list_end(CommitList *l);
/* The file as that commit has it; `name` says which one. */
void commits_take(Editor *ed, const OpenFile *f, const Commit *c, CommitTaken take, void *ctx);

#endif
