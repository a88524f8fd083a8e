/* Lines that are out of sight for a while, as they do not count: which of a view's lines are shown. What is
 * changed, and where the cursor stands, always is. */
#ifndef HIDING_H
#define HIDING_H

#include "view/view.h"

typedef enum HidingWhat { SHOW_ALL, SHOW_WHAT_COUNTS, SHOW_MATCHES, SHOW_CHANGES, SHOW_PROBLEMS } HidingWhat;

/* The lines to be shown, as they are found. Begin with {0}. */
typedef struct ShownLines {
    struct ShownRange {
        size_t from, to; /* bytes: from a line's start to the next one's, or one past the text's end */
    } * at;
    size_t n;
} ShownLines;

/* The lines of bytes [from, to] are shown; in order, or touching the last ones. */
void shown_lines_add(ShownLines *s, Text t, size_t from, size_t to);
/* The same from a line's start to one past the end of a line. */
void shown_lines_add_whole(ShownLines *s, size_t from, size_t to);
void shown_lines_free(ShownLines *s);

/* Only those are shown from now on; takes them over. They are for that version of the document. */
void hiding_begin(View *v, HidingWhat what, ShownLines *lines, unsigned long version);
void hiding_end(View *v);
HidingWhat hiding_what(const View *v);
/* Follows what was changed since, and shows the cursor's line. Before anything else is asked. */
void hiding_follow(View *v);
/* The same right after something was added at the end of a text that is followed: of that only those lines
 * are shown, and what they belong to. */
void hiding_follow_growth(View *v, const ShownLines *shown);
/* The same right after doc_replace_each: each place shows its own lines, and what lies between stays hidden.
 */
void hiding_follow_each(View *v, const DocEdit *edits, size_t n);

/* The start of the first shown line at or after a line's start; of the last one up to a place. HIDING_NONE:
 * there is none. With nothing hidden, that line itself. */
enum { HIDING_NONE = -1 };
#define HIDING_NOWHERE ((size_t)HIDING_NONE)
size_t hiding_on(const View *v, size_t line_from);
size_t hiding_back(const View *v, size_t at);
/* How many lines are hidden between this one and the next that is shown; before the first that is. */
size_t hiding_after(const View *v, size_t line_from);
size_t hiding_before(const View *v, size_t line_from);
/* How many of the lines of [from, to) are. */
size_t hiding_within(const View *v, size_t from, size_t to);

#endif
