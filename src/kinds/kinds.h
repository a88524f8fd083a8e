/* Kinds of file: what each is called, how it is recognised, and what editing it needs to know. Each is one
 * data file (data/kinds/; docs/kinds.md describes the form): those in the program, then the machine's, then
 * the person's; a later one of the same name takes the place of an earlier one. Main thread only. */
#ifndef KINDS_H
#define KINDS_H

#include "kinds/kind.h"

/* What a kind is recognised by, the strongest first: of several kinds the one that has a stronger one counts.
 */
typedef enum KindWay {
    KIND_BY_PLACE, /* the path, as a pattern with a name at its end says */
    KIND_BY_NAME,
    KIND_BY_FIRST_LINE,
    KIND_BY_FOLDER_AND_ENDING,
    KIND_BY_ENDING, /* one that tells */
    KIND_BY_FOLDER, /* whatever lies there */
    KIND_BY_WORD,   /* a name that is no more than a word, which other programs use, too */
    KIND_BY_LOOKS,
    KIND_BY_BEGINNING,
    KIND_BY_WEAK_ENDING, /* one that many programs use */
    KIND_BY_LAST,
    KIND_BY_NOTHING
} KindWay;

/* The kind of a file; `path` may be NULL; `head` are its first n bytes. Never NULL. */
const Kind *kind_of(const char *path, const char *head, size_t n);
/* The same, and by what. */
const Kind *kind_of_by(const char *path, const char *head, size_t n, KindWay *way);
/* Is it, by its name, a template, of which files of its kind are made? `path` may be NULL. */
bool kind_is_template(const char *path);
/* Where a file of that name usually is, by the kinds' whole paths; or NULL. */
const char *kind_path_of(const char *name);
/* The kind with that name, or NULL. */
const Kind *kind_named(const char *name);
/* The kind that a name or an ending stands for, as after the signs of a block of code; or NULL. */
const Kind *kind_called(const char *word, size_t n);
/* Does such an expression of a kind's, as `deeper`, fit somewhere in n bytes of a line? False for NULL. */
bool kind_line_fits(const Kind *k, const char *like, const char *line, size_t n);
/* Calls `each` for the words that the kind knows, in the order of the alphabet. */
void kind_each_word(const Kind *k, void (*each)(void *ctx, const char *word), void *ctx);
/* All kinds one by one, from 0, in the order of their names; NULL after the last. */
const Kind *kind_number(size_t i);

/* Adds a kind from the n bytes of a data file and reports everything that is wrong in it. Such a part is left
 * out; false when nothing of it can be used. */
bool kinds_add(const char *bytes, size_t n, PlainProblem problem, void *ctx);
/* Frees all. */
void kinds_end(void);

#endif
