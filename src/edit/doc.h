/* A document: a text, the history of its states, and places in it that move along
 * when it changes. No screen, no files.
 *
 * The history is a tree of states. Undo goes to the parent; a change after an undo
 * begins a new branch and the old one stays. */
#ifndef DOC_H
#define DOC_H

#include "base/bytes.h"
#include "text/text.h"

/* What kind of change it is decides what is undone together: typed words, runs of
 * deletions; STEP_WHOLE is always a step of its own. */
typedef enum StepKind { STEP_TYPE, STEP_DELETE_LEFT, STEP_DELETE_RIGHT, STEP_WHOLE } StepKind;

/* A place that keeps standing between the same bytes. Owned by the caller. */
typedef struct Anchor {
    size_t at;  /* bytes from the start */
    bool stays; /* text inserted exactly here goes after it */
    struct Anchor *next, *prev;
} Anchor;

typedef struct Doc Doc;

/* Takes over `t`; the document begins unchanged. */
Doc *doc_new(Text t);
void doc_free(Doc *d); /* anchors must be removed before */

/* The present text; borrowed, valid until the next change (text_keep it to hold it). */
Text doc_text(const Doc *d);

/* Replaces `removed` bytes at `at` by n bytes. `cursor` is where the person's cursor
 * stands; undo brings it back there. False without memory, and then nothing changed. */
bool doc_replace(Doc *d, size_t at, size_t removed, const void *bytes, size_t n, StepKind kind,
                 size_t cursor);
/* The same with a text, whose blocks are shared. It stays the caller's. */
bool doc_replace_text(Doc *d, size_t at, size_t removed, Text with, size_t cursor);

/* One of several replacements that are made at once: `removed` bytes at `at` give way to n bytes. */
typedef struct DocEdit {
    size_t at, removed;
    const char *bytes;
    size_t n;
} DocEdit;

/* Makes all of them, which are in order and do not overlap, as one step. Typing and deleting at as many
 * places as the step before did goes on with that step. False without memory, and then nothing changed. */
bool doc_replace_each(Doc *d, const DocEdit *edits, size_t n, StepKind kind, size_t cursor);

/* Adds to the end, as a step of its own; cursors and marks that stand there stay before it. */
bool doc_append(Doc *d, const void *bytes, size_t n, size_t cursor);

/* Makes it equal to `to`, as a step that replaces only what lies between the first and the
 * last difference. `to` stays the caller's. */
bool doc_set_text(Doc *d, Text to, size_t cursor);

/* While a file is still being read, before any change: puts what arrived after the text, as if it had been
 * there from the start. False without memory. `more` stays the caller's. */
bool doc_load_more(Doc *d, Text more);
/* The same with all of it, in place of what was read so far. */
void doc_reload(Doc *d, Text all);

/* Puts what was added to its file meanwhile after the text, and takes that for saved; cursors that stand at
 * the end stay before it. Where there is a history, all that came is one step of it. False without memory. */
bool doc_grow(Doc *d, Text more);
/* Where there is no history: drops the first n bytes, as if they had never been there. False without memory.
 */
bool doc_forget(Doc *d, size_t n);

/* The next change begins a new step even if it could continue this one. */
void doc_seal(Doc *d);
/* The number of the present state, which is frozen: a later change, of an open group too,
 * begins another one. For those who write it somewhere. */
size_t doc_close_state(Doc *d);
/* Changes between begin and end are one step. May be nested. */
void doc_begin(Doc *d);
void doc_end(Doc *d);

/* Where the history stands, for doc_fold. */
typedef struct DocSpot {
    size_t now, states, next; /* the present state, how many there are, what redo would go to */
} DocSpot;

DocSpot doc_spot(const Doc *d);
/* Makes what was changed since then one step, called `verb` (not copied). States that were written somewhere
 * in between stay, and so do all if the present one did not come from that spot, or in a group. */
void doc_fold(Doc *d, DocSpot since, const char *verb);

/* Go one step back or forward; false when there is none. *cursor: where to look. */
bool doc_undo(Doc *d, size_t *cursor);
bool doc_redo(Doc *d, size_t *cursor);

/* What the changes from now on are called in the history; not copied, NULL: typing. */
void doc_set_verb(Doc *d, const char *verb);

/* A state of the history, from 0, the text as it was at first; the newest is the last. */
typedef struct StateInfo {
    size_t parent;             /* the state it was made from; its own number for state 0 */
    long long when;            /* seconds since 1970 */
    const char *verb;          /* or NULL */
    size_t at, removed, added; /* the change that led here: `removed` bytes at `at` became `added` */
    bool saved, now;
} StateInfo;

size_t doc_states(const Doc *d);
StateInfo doc_state(const Doc *d, size_t i);
/* The text of a state; borrowed, valid until the next change. */
Text doc_state_text(const Doc *d, size_t i);
/* Makes state i the present one. *cursor: where to look. */
void doc_go(Doc *d, size_t i, size_t *cursor);

/* Is the text another than at the last doc_mark_saved (or at the start)? May say so of one that is not, when
 * it came back to that by much, or by another branch. */
bool doc_changed(const Doc *d);
void doc_mark_saved(Doc *d);
/* A state that doc_state(d, i).now was true of when the save began. */
void doc_mark_state_saved(Doc *d, size_t i);
size_t doc_state_now(const Doc *d);
/* The text as it was then; borrowed like doc_text. */
Text doc_saved_text(const Doc *d);
/* Grows by one with every change of the text; for caches. */
unsigned long doc_version(const Doc *d);
/* The change that led from that version to the next: `removed` bytes at `at` became `added`. False when it is
 * too long ago. */
typedef struct DocChange {
    size_t at, removed, added;
} DocChange;
bool doc_change_after(const Doc *d, unsigned long version, DocChange *change);

void doc_add_anchor(Doc *d, Anchor *a, size_t at, bool stays);
void doc_remove_anchor(Doc *d, Anchor *a);

#endif
