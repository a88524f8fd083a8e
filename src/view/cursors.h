/* More cursors than one in a view, each with a mark of its own: what is typed, deleted and moved happens at
 * all of them. One is the view's own, which the screen follows.
 *
 * They stand as long as the view's own cursor is moved by nobody else; see cursors_follow. */
#ifndef CURSORS_H
#define CURSORS_H

#include "base/stop.h"
#include "view/view.h"

enum { CURSORS_MOST = 1000000 };

typedef struct Cursor {
    size_t at,
        mark;    /* bytes; the mark counts while the view marks something, and is `at` where there is none */
    size_t goal; /* as in View */
    bool goal_kept;
} Cursor;

/* What stands in a view from now on: n places (at least 1) in any order, of which all[own] is the view's own;
 * takes them over. Those that touch become one. `marking`: of all. With one place the cursors end. */
void cursors_set(View *v, Cursor *all, size_t n, size_t own, MarkKind marking);
/* Adds one, which becomes the view's own. */
void cursors_add(View *v, Cursor c);
/* Back to one. */
void cursors_end(View *v);

/* Follows what was changed since. Ends them, and returns true, where the view's own cursor was moved by
 * somebody else or the text around one of them is another one now. Before anything else is asked. */
bool cursors_follow(View *v);
/* How many there are; 1 without any. */
size_t cursors_count(const View *v);
/* All of them in order; NULL without any. */
const Cursor *cursors_all(const View *v, size_t *n);
/* The first that reaches beyond a place; the count when none does. */
size_t cursors_after(const View *v, size_t at);
/* What one marks: [*from, *to), equal when nothing. */
void cursors_marked(const View *v, size_t i, size_t *from, size_t *to);
/* Begins a mark at each. */
void cursors_mark_here(View *v, MarkKind marking);
/* Of words, not of parts of them: how "the next same" looks for more. */
bool cursors_of_words(const View *v);
void cursors_set_of_words(View *v, bool words);

/* Types at all of them, in place of what is marked; with `over` each letter replaces one. pieces[i] is for
 * the i-th of n; n of 1: the same for all. False without memory, and then nothing changed. */
typedef struct CursorPiece {
    const char *bytes;
    size_t n;
} CursorPiece;
bool cursors_type(View *v, const CursorPiece *pieces, size_t n, bool over, StepKind kind);
/* Deletes what is marked at each, or where nothing is the character to the left or the right. */
bool cursors_delete(View *v, bool left);

/* Does one thing at each, the first one first, as if the view had but that cursor. */
typedef struct CursorsRun {
    void (*run)(void *ctx, size_t i, size_t n);
    void *ctx;
    bool by_line;   /* once for a line in which several stand */
    Stop stop;      /* asked now and then */
    size_t changed; /* out: at how many the text or the place is another one now */
} CursorsRun;
/* False when it was stopped, or the view shows something else by now; the cursors have ended then. */
bool cursors_run(View *v, CursorsRun *r);

/* After undo and redo: where they stood in this state, if that is known. */
bool cursors_recall(View *v);

#endif
