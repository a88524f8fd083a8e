/* Putting lines into shape: paragraphs to a width, columns under each other, other indentation, fewer lines.
 * `in` are n bytes of whole lines, of which the last may lack its end; the result is added to `out`. */
#ifndef RESHAPE_H
#define RESHAPE_H

#include "edit/comment.h"
#include "edit/finder.h"

#include <stdint.h>

/* Breaks paragraphs so that no line is wider than `width` cells (0: a line each), words never. Signs of
 * comments and of lists, and indentation, stay; what stands between ``` lines, and lines of tables, does too.
 */
void reshape_wrap(const char *in, size_t n, unsigned width, unsigned tab, const CommentSigns *signs,
                  Bytes *out);
/* Do the n bytes of a line go on a paragraph that a line before has? And has a line something in it but a
 * comment's sign? */
bool reshape_goes_on(const char *before, size_t m, const char *line, size_t n, const CommentSigns *signs);
bool reshape_has_words(const char *line, size_t n, const CommentSigns *signs);

/* Puts what stands between blanks, or by a sign, under each other; `sign` NULL: blanks. : , and ; stay with
 * what is before them; = and : count once in a line. Blank lines and comments stay. */
void reshape_align(const char *in, size_t n, const char *sign, unsigned tab, const CommentSigns *signs,
                   Bytes *out);

typedef struct Indentation {
    unsigned from;        /* cells of a level until now */
    bool tabs;            /* from now on: a tab for each, */
    unsigned to;          /* or so many blanks */
    unsigned tab;         /* cells of a tab */
    const uint8_t *stays; /* of each byte of `in`: does a line that begins there stay as it is? Or NULL */
} Indentation;

void reshape_indentation(const char *in, size_t n, const Indentation *to, Bytes *out);

/* Only the first of lines that are alike stays; lines without anything in them all do. How many went. */
size_t reshape_without_doubles(const char *in, size_t n, Bytes *out);
/* The last line first. */
void reshape_reverse(const char *in, size_t n, Bytes *out);
/* Only lines with a match stay, or only those without. How many went. */
size_t reshape_matching(const char *in, size_t n, Finder *f, bool keep, Bytes *out);

#endif
