/* Places one comes back to: bookmarks, and where one was before a jump. */
#ifndef PLACES_H
#define PLACES_H
#include "app/editor.h"

/* Remembers the cursor's place, to which "jump back" returns. */
void places_note(Editor *ed);
/* To the place before, or forward again; false when there is none. */
bool places_go(Editor *ed, bool forward);

/* Sets a bookmark on the cursor's line, or takes it away; says which. */
void bookmark_flip(Editor *ed);
/* To the next bookmarked line, around the end. */
void bookmark_next(Editor *ed);
/* Does the line that begins at `start` and ends at `end` bear one? */
bool bookmark_in(const OpenFile *f, size_t start, size_t end);

/* Before a file is closed. */
void places_forget(Editor *ed, OpenFile *f);

#endif
