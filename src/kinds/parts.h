/* The parts of a kind: what in its texts is recognised as what, made from its data file into expressions that
 * are looked for (PCRE2, bytes). The colourer (colour.h) runs them. */
#ifndef PARTS_H
#define PARTS_H

#include "kinds/kind.h"
#include "kinds/role.h"

#define PCRE2_CODE_UNIT_WIDTH 8
#include <pcre2.h>

enum { PART_GROUPS = 8 /* that an expression may have */, NO_PART = -1 };

typedef struct PartSet PartSet;

/* One thing that is recognised. */
typedef struct Part {
    unsigned line;    /* in the file */
    const char *like; /* the expression that it is, or begins with; NULL: `words` */
    Role as;
    Role groups[PART_GROUPS + 1]; /* of the groups of `like`, from 1 */
    int n_groups;                 /* that have a role of their own */
    /* The rest is for parts that are opened and closed. */
    bool opens;
    Role body;      /* of what is in it */
    const char *to; /* the expression that ends it, with %1 for what the first group of `like` matched; NULL:
                     * the line end does */
    bool takes_groups; /* there is such a %1 */
    bool one_line;     /* it ends with its line in any case; unclosed it is wrong */
    bool next_line;    /* it begins with the next line */
    char escape;       /* takes the following character along, or 0 */
    char goes_on;      /* as a line's last character it leads on to the next line, or 0 */
    const PartSet *inside;
    const char *holds; /* the name of a kind that is in it, or NULL */
    int holds_group;   /* the group that names it, or 0 */
} Part;

/* A list of words and what they are. */
typedef struct PartWord {
    const char *word;
    Role as;
} PartWord;

/* What may stand side by side. */
struct PartSet {
    const char *name; /* or NULL */
    const PlainValue *value;
    Part *parts;
    size_t n, words_at; /* before which the words are looked for; n or more: there are none */
    PartWord *words;    /* a hash table with n_slots places */
    size_t n_slots, n_words;
};

/* One expression for all that may come next: how a part ends, and the parts of a set. */
typedef struct PartCode {
    pcre2_code *code;
    unsigned used;          /* so often, until it is worth being made into machine code */
    bool fast;              /* it was */
    struct PartCode *later; /* what comes after the words, where a word is none of them; or NULL */
} PartCode;

/* What the alternatives of a PartCode are numbered by: a part of the set, or one of these. */
enum { ALTERNATIVE_CLOSE = 10000, ALTERNATIVE_ESCAPE, ALTERNATIVE_WORD };

typedef struct KindParts {
    const Kind *kind;
    PartSet **sets; /* all of them, also those without a name */
    size_t n_sets;
    const PartSet *common, *first; /* first: of a text's first line, or NULL */
    bool lines_alone;              /* no part goes over a line end: each line can be coloured by itself */
    char **texts;                  /* to be freed */
    size_t n_texts;
} KindParts;

/* The parts of a kind, made when they are needed first. Never NULL: with errors, less of them. */
KindParts *parts_of(const Kind *k);
/* The same now, reporting all that is wrong. */
void parts_check(const Kind *k, const PlainReport *r);

/* The expression that finds what comes next in a set (or NULL), inside a part (or NULL) that ends with `to`
 * (or NULL). NULL when it cannot be made or is empty. */
PartCode *part_code_new(const Kind *k, const PartSet *set, const Part *in, const char *to);
/* One for a single expression, or NULL. */
PartCode *part_code_single(const Kind *k, const char *like);
void part_code_free(PartCode *c);
/* It is about to be used on n bytes: machine code of one that is used much. */
void part_code_use(PartCode *c, size_t n);
/* The role of a word in a set; ROLE_PLAIN: it is none of its words. */
Role part_word(const PartSet *s, const char *word, size_t n, bool any_case);

#endif
