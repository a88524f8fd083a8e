/* Which checkers a kind has, from its data file, and reading what those say that are programs. */
#ifndef CHECKS_H
#define CHECKS_H

#include "kinds/checkers.h"
#include "kinds/fields.h"
#include "kinds/key_values.h"

enum {
    CHECK_WORDS = 40, /* of a program and its arguments, at most */
    NUMBERS_MOST = 8
};

typedef struct KindNumbers {
    int at[NUMBERS_MOST];
    size_t n;
} KindNumbers;

/* One checker: a part of this program, or another program. */
typedef struct Check {
    const char *name; /* for messages and settings */
    CheckBytes part;  /* NULL: see `fields` and `settings`, else a program */
    const Fields *fields;
    const KeyValues *settings;
    KindWords run; /* its words; FILE at their end stands for a copy under the file's own name, without
                    * it and FOLDER the text comes by standard input */
    const char
        *in_folder;   /* a path: it needs the whole of that folder, and is for files in it only. FOLDER at
                       * the beginning of a word stands for a copy of it with the text in its place. NULL */
    bool as_in_place; /* the copy lies in the private folder as the folder lies below / */
    bool spare;       /* redundant: a built-in checker covers it */
    bool as_root;     /* it works for root only */
    bool loads;       /* a text can make it run something: only where it can be fenced in */
    bool free;        /* it may write where its user may: it needs to, and the text cannot make it do so */
    bool binds;       /* it takes the ports that the text names, to see whether it can */
    void *hint_code;  /* an expression for the words of what is no more than a hint, or NULL; private */
    KindNumbers right, unsure; /* exit statuses that mean that the text is right (none: 0), and that it could
                                * not tell */
    const char *unsure_like;   /* an expression for a line by which it says that it could not tell; or NULL */
    const char *writes; /* an expression for what it would write because of the text, group path: that is
                         * /dev/null in the copy. NULL */
    const char *given;  /* an expression whose group value, found in the text, stands for VALUE; or NULL */
    void *given_code;   /* private */
    const char *like;  /* what a problem looks like in what it says: groups line, column, words; file where it
                        * may speak of others; about: a word, where it gives no line */
    const char *reads; /* expression for "I read this file"; its group `file` must be our copy; or NULL */
    /* Or what it says is a list: words in it, and words of the text that must be among them, by group word.
     */
    const char *knows, *uses;
    void *like_code, *reads_code, *knows_code, *uses_code, *unsure_code, *writes_code; /* private */
    KindWords first_line; /* only for texts whose first line names one of these programs; with "none" among
                           * them also for those whose first line names none. NULL: for all */
    KindWords only_paths; /* patterns for the files that it is meant for, NULL: for all */
    KindWords not_paths;  /* patterns for files that it is not meant for, or NULL */
} Check;

/* Those of a kind; *n: how many. Main thread only; what they point to lasts. What is wrong in the data is
 * reported. */
const Check *checks_of(const Kind *k, size_t *n, const PlainReport *r);
/* Is the check meant for a text that begins so, with that path (or NULL)? */
bool check_fits(const Check *c, const char *path, const char *head, size_t n);

#endif
