/* What is remembered of files from run to run: the history for undo, the kind that was said, that it was
 * open. */
#ifndef SESSION_MEMORY_H
#define SESSION_MEMORY_H

#include "session/session.h"

/* The store of what is remembered, opened at the first call; NULL when there is none. */
Store *session_store(Session *s);
/* Stores what can be undone in a file, where that is wanted and allowed. */
void session_keep_undo(Session *s, OpenFile *f);
/* A person says what kind of file it is; remembered for the next time if that is wanted. */
void session_say_kind(Session *s, OpenFile *f, const Kind *k, bool remember);
/* Takes the history that was stored for these very bytes. */
void session_recall_undo(Session *s, OpenFile *f);
/* Takes the kind that was said the last time. */
void session_recall_kind(Session *s, OpenFile *f);
/* They were opened now: for the list of recent files. */
void session_note_opened(Session *s, OpenFile *const *files, size_t n);

#endif
