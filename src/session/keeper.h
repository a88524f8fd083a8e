/* Keeps unsaved work in the recovery journal, and brings it back. */
#ifndef KEEPER_H
#define KEEPER_H

#include "session/session.h"

void keeper_new(Session *s);
/* The program ends: brings unsaved work to safety and closes the journal; false when something wanted could
 * not be kept. Once only. */
bool keeper_end(Session *s, Err *e);
void keeper_free(Session *s);
void keeper_forget(OpenFile *f); /* frees what it has of a file */

/* The journal, opened when it is needed first; NULL when there is none. */
Journal *keeper_journal(Session *s);
/* Can unsaved work not be kept at the moment? (It was reported when that began.) */
bool keeper_in_trouble(const Session *s);
/* Hands over what changed, when it is time; ms until then, -1: nothing is due. */
void keeper_poll(Session *s);
int keeper_wait(const Session *s);
void keeper_emergency(const Session *s);

/* The text was taken from its file as it is there: nothing of it is to be kept. */
void keeper_loaded(OpenFile *f);
/* It is about to be written to its file. What must be known before a byte of the old version is gone is
 * reported by keeper_replaces, from any thread, with the `row` that this gives (0: nothing need be reported).
 */
int64_t keeper_saving(Session *s, OpenFile *f);
void keeper_replaces(Journal *j, int64_t row, const char *path, const FileState *st);
/* It was written, or its changes were given up on purpose. */
void keeper_saved(Session *s, OpenFile *f);
void keeper_dropped(Session *s, OpenFile *f);
/* It is about to get another name on disk; it has it (or has not, after all: the path says which). */
void keeper_renaming(Session *s, OpenFile *f, const char *path);
void keeper_renamed(Session *s, OpenFile *f);

/* Work of an earlier run that is to be offered. */
typedef struct Offer {
    int64_t row; /* 0: none */
    long long when;
    char from[64]; /* the machine, if it is not this one */
} Offer;

/* Looks for that of `n` files. */
void keeper_look(Session *s, OpenFile *const *files, size_t n);
Offer keeper_offer(const OpenFile *f);
/* That text; false with the reason in e. With a reason although it is true: only a part could be read. */
bool keeper_text(Session *s, int64_t row, Text *t, Err *e);
/* What can be seen of work whose base is gone: the places and what was put there. */
bool keeper_remains(Session *s, int64_t row, Text *t);
/* Puts it into the text as a step that can be undone; false with the reason in e. */
bool keeper_take(Session *s, OpenFile *f, int64_t row, Err *e);
/* Not wanted now; it stays available for some days. */
void keeper_put_away(Session *s, OpenFile *f, int64_t row);
/* To be asked again the next time. */
void keeper_later(OpenFile *f);

#endif
