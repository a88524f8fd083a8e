/* The bars at changed lines show what differs from the last commit, where the setting changes_since says so.
 */
#ifndef SINCE_COMMIT_H
#define SINCE_COMMIT_H

#include "ui/editor.h"

void since_commit_begin(Editor *ed);
void since_commit_free(Editor *ed);
/* The person was elsewhere: there may be another commit. */
void since_commit_again(OpenFile *f);

#endif
