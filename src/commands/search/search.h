/* Finding as a person does it: the prompt, and what replacing and listing matches share with it. The matches
 * themselves are the view room's. */
#ifndef SEARCH_H
#define SEARCH_H

#include "ui/prompt.h"

extern const Command *const search_commands[];

/* What a find prompt remembers. */
typedef struct Ask {
    ViewPlace begun;     /* Esc returns there */
    size_t origin;       /* where what is typed is looked for from */
    bool around;         /* it was found by going around the end */
    bool back, choosing; /* choosing: Tab shows the options */
    bool replace, all;   /* it is the first prompt of replacing; of replacing all */
    bool folder;         /* of a search in a folder: nothing is looked for in this text */
    char mistake[600];
    long fault; /* the byte of the expression where it is wrong, -1: nowhere */
} Ask;

/* A search under way. Long ones go on in steps while keys are served. */
typedef struct Seek {
    bool active, back, wrapped;
    size_t origin, at; /* where it began, how far it is */
    FileId file;
    unsigned long version;
    Ask *ask;        /* the prompt that waits for it, or NULL */
    bool arriving;   /* the text was being read when it began: it goes on with what comes */
    bool waits;      /* for more of it; what is there was searched, */
    size_t searched; /* up to here */
} Seek;

/* What was looked for last. */
typedef struct Search {
    Task task;
    char *what; /* NULL: nothing yet */
    FindCase letters;
    bool words, expression;
    bool follow;  /* a replacement takes the letter case of what was found */
    bool ignored; /* in folders: also what their ignore files leave out */
    Seek seek;
    ViewPlace begun; /* where the last prompt was opened */
    /* Next and before go through what a search in a folder found; NULL: through this text. */
    void (*through)(Editor *ed, bool back);
} Search;

void search_begin(Editor *ed);
void search_free(Editor *ed);

/* Is a search under way that goes on between keys? */
bool search_under_way(const Editor *ed);
void search_stop(Editor *ed);
/* Makes the finder for the present words and options. False with the reason in e. */
bool search_prepare(Editor *ed, Err *e, size_t *mistake);
void search_set_what(Editor *ed, const char *what);
/* Says that nothing was found, in what, and what looser search would find something. */
void search_not_found(Editor *ed);
/* Opens the find prompt; it takes over `a`. `what`: to begin with, NULL: as last time. */
Ask *search_new_ask(Editor *ed, bool back);
void search_prompt(Editor *ed, Ask *a, const char *label, const char *what,
                   void (*done)(Editor *, const char *, void *));
/* What Enter does in the find prompt. */
void search_done(Editor *ed, const char *what, void *ctx);

#endif
