/* One kind of file: what is known of it, read from its data file. */
#ifndef KIND_H
#define KIND_H

#include "base/plain_data.h"

#include <stdbool.h>
#include <stddef.h>

enum {
    KIND_INDENT_NONE = 0,
    KIND_INDENT_TAB = -1,
    KIND_HEAD = 4096 /* bytes that recognising may look at */
};

/* A list of texts; NULL after the last. NULL: an empty one. */
typedef const char *const *KindWords;

/* What others make of a kind when it is needed first, and how that is freed. */
typedef enum KindMadeId {
    KIND_COLOURER,
    KIND_PARTS,
    KIND_CHECKS,
    KIND_FIELDS,
    KIND_KEY_VALUES,
    KIND_OUTLINE,
    KIND_MADE_N
} KindMadeId;

typedef struct KindMade {
    void *what; /* NULL: it was not needed yet */
    void (*free)(void *what);
} KindMade;

typedef struct Kind {
    const char *name;                         /* as shown on the status line */
    const char *about;                        /* what such files are, in a few words */
    bool prose;                               /* written for people: it may hold blanks of any sort */
    const char *comment_sign;                 /* begins a comment up to the line end, or NULL */
    KindWords comment_also;                   /* other signs that begin one */
    const char *comment_open, *comment_close; /* around a comment, or NULL */
    const char *line_end_character;           /* one ASCII character, or NULL */
    int indentation;                          /* blanks of a step, or one of the above */
    bool any_case;                            /* letter case does not matter in it */
    const char *word;                         /* an expression for what is one word of it */
    const char *deeper, *back; /* expressions: the line after such a one is indented a step more; such a line
                                * a step less */
    const char *deeper_once;   /* the one line after such a one is indented a step more */
    const char *leaves;        /* the line after such a one is indented a step less; */
    const char *back_always;   /* and those of `back` that go back even there */
    KindWords manual;          /* pages that tell about it */
    KindWords names, paths, endings, programs; /* how it is recognised: see docs/kinds.md */
    bool own_folders; /* what lies in the folders of `paths` is of this kind whatever its name */
    const char *first_line, *first_lines;
    const PlainValue *looks_like; /* expressions with weights, or NULL */
    bool own;                     /* a machine's or a person's */
    const char *after_saving;     /* the command by which a file in its place takes effect, or NULL */
    bool risky;                   /* broken, such a file locks people out: it is checked before it is saved */
    bool last;                    /* by these only if no other kind is */
    const struct Kind *base;      /* the one it builds on, or NULL */
    struct KindSource *source;    /* private: what was read */
    KindMade made[KIND_MADE_N];
} Kind;

/* A kind from n bytes, which must stay where they are. With `head_only`, its parts are left for later
 * (kind_source_all). NULL when it has no name or cannot be read. */
Kind *kind_read(const char *bytes, size_t n, bool head_only, const PlainReport *r);
/* Takes what it does not say itself from the kind it builds on, which is found by its name (NULL: there is
 * none). False when there is none of that name. */
bool kind_build_on(Kind *k, const Kind *(*named)(const char *name), const PlainReport *r);
/* Frees it, and all that was made of it. */
void kind_free(Kind *k);

/* All that its file says, or NULL. */
const PlainValue *kind_source_all(const Kind *k, const PlainReport *r);
/* Keeps what was made of it, and how that is freed; what there was is freed. */
void kind_keep(const Kind *k, KindMadeId id, void *what, void (*free_it)(void *what));

#endif
