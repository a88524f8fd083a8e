/* What finding, replacing and listing matches share. */
#ifndef FIND_PROMPT_H
#define FIND_PROMPT_H
#include "app/search.h"

enum { LIST_MAX = 5000 }; /* rows of a list of matches */

/* What a find prompt remembers. */
typedef struct Ask {
    size_t origin, top;  /* where the search began; Esc returns there */
    bool back, choosing; /* choosing: Tab shows the options */
    bool replace, all;   /* it is the first prompt of replacing; of replacing all */
    MarkKind marking;
    size_t mark;
    char mistake[600];
    long fault; /* the byte of the expression where it is wrong, -1: nowhere */
} Ask;

Search *search_of(Editor *ed);
/* Makes the finder for the present words and options. False with the reason in e. */
bool search_prepare(Editor *ed, Err *e, size_t *mistake);
void search_set_what(Search *s, const char *what);
/* The part of the text that is searched. */
void search_range(const Editor *ed, size_t *from, size_t *to);
void search_show_match(Editor *ed, Match m);
/* Says that nothing was found, in what, and what looser search would find something. */
void search_not_found(Editor *ed);
Ask *search_new_ask(Editor *ed, bool back);
/* Opens the find prompt; it takes over `a`. `what`: to begin with, NULL: as last time. */
void search_prompt(Editor *ed, Ask *a, const char *label, const char *what,
                   void (*done)(Editor *, const char *, void *));
/* What Enter does in the find prompt. */
void search_done(Editor *ed, const char *what, void *ctx);

#endif
