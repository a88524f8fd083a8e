/* What the version control git has of a file, asked by its plumbing commands, and only when a person wants to
 * see it. Nothing of the repository is run for that: no hooks, monitors, filters, helpers of its own, and
 * nothing is fetched. */
#ifndef COMMITS_H
#define COMMITS_H

#include "ui/editor.h"

/* The text of a file in a commit; borrowed. `name` says which one. */
typedef void (*CommitTaken)(Editor *ed, Text t, const char *name, void *ctx);

/* Asks for the file as it is in the last commit, or shows a list of its commits first. What is taken goes to
 * `take`; nothing, when the person backs out or there is none, which is said. `ctx` must last as long as the
 * layers below do. */
void commits_take_last(Editor *ed, const OpenFile *f, CommitTaken take, void *ctx);
void commits_choose(Editor *ed, const OpenFile *f, CommitTaken take, void *ctx);

#endif
