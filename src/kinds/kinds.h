/* Kinds of file: what each is called, how it is recognised, and what editing it needs to know. Each is one
 * data file (data/kinds/; docs/kinds.md describes the form): those in the program, then the machine's, then
 * the person's; a later one of the same name takes the place of an earlier one. Main thread only. */
#ifndef KINDS_H
#define KINDS_H

#include "base/plain_data.h"

#include <stdbool.h>
#include <stddef.h>

enum {
    KIND_INDENT_NONE = 0,
    KIND_INDENT_TAB = -1,
    KIND_HEAD = 2048 /* bytes that recognising may look at */
};

/* A list of texts; NULL after the last. NULL: an empty one. */
typedef const char *const *KindWords;

typedef struct Kind {
    const char *name;                         /* as shown on the status line */
    const char *about;                        /* what such files are, in a few words */
    bool prose;                               /* written for people: it may hold blanks of any sort */
    const char *comment_sign;                 /* begins a comment up to the line end, or NULL */
    const char *comment_open, *comment_close; /* around a comment, or NULL */
    const char *line_end_character;           /* one ASCII character, or NULL */
    int indentation;                          /* blanks of a step, or one of the above */
    bool any_case;                            /* letter case does not matter in it */
    const char *word;                         /* an expression for what is one word of it */
    const char *deeper, *back; /* expressions: the line after such a one is indented a step more; such a line
                                * a step less */
    KindWords manual;          /* pages that tell about it */
    KindWords names, paths, endings, programs; /* how it is recognised: see docs/kinds.md */
    const char *first_line, *first_lines;
    const char *after_saving;  /* the command by which a file in its place takes effect, or NULL */
    bool risky;                /* broken, such a file locks people out: it is checked before it is saved */
    bool last;                 /* by these only if no other kind is */
    const struct Kind *base;   /* the one it builds on, or NULL */
    struct KindSource *source; /* private, as is the next: what was read */
    struct KindParts *parts;   /* what colouring it needs, made when it is needed first, */
    struct Colourer *colourer; /* and the colouring, */
    struct KindChecks *checks; /* its checkers */
    struct Fields *fields;     /* and the fields of its lines */
} Kind;

/* The kind of a file; `path` may be NULL; `head` are its first n bytes. Never NULL. */
const Kind *kind_of(const char *path, const char *head, size_t n);
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
