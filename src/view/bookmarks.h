/* Bookmarks: lines of a file that one comes back to. They move along with the text. */
#ifndef BOOKMARKS_H
#define BOOKMARKS_H

#include "session/openfile.h"

/* Sets a bookmark on a line of the file (from 0), or takes it away; true when it was set. */
bool bookmarks_flip(OpenFile *f, size_t line);
/* Where the next bookmarked line after the one at `at` begins, around the end; false when there is none. */
bool bookmarks_next(const OpenFile *f, size_t at, size_t *found);
/* Does the line that begins at `start` and ends at `end` bear one? */
bool bookmarks_in(const OpenFile *f, size_t start, size_t end);
bool bookmarks_any(const OpenFile *f);
/* Before the file is closed. */
void bookmarks_free(OpenFile *f);

#endif
