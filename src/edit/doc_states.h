/* How a document keeps its history; for the modules of this room that make it and bring it back. */
#ifndef DOC_STATES_H
#define DOC_STATES_H

#include "edit/doc.h"

#include <stdint.h>

/* The hull of what a step changed, as: `removed` bytes at `at` gave way to `added`. */
typedef struct Span {
    size_t at, removed, added;
} Span;

typedef struct State {
    Text text; /* kept for every state but the present one */
    size_t parent;
    size_t next; /* the child that redo goes to; 0: none (no child is state 0) */
    Span span;   /* from the parent to here */
    size_t cursor_before, cursor_after;
    long long when;
    const char *verb;
    StepKind kind;
    size_t places; /* at how many it was made at once; 0: at one */
} State;

enum { CHANGES_KEPT = 64 };

struct Doc {
    Text text;
    State *states;
    size_t n_states;
    size_t now, saved; /* indexes of states */
    size_t grown;      /* the state that takes what is added to the file; 0: none */
    size_t fixed;      /* the newest state that somebody holds by its number */
    bool open;         /* the present state may take further changes in */
    unsigned group;    /* depth of doc_begin */
    unsigned long version;
    DocChange changes[CHANGES_KEPT]; /* the last ones, by the version they began from */
    char last_typed;
    bool word_begun;      /* the present step has more than blanks in it */
    uint64_t last_change; /* ms */
    const char *verb;
    char **verbs; /* those of a restored history, owned */
    size_t n_verbs;
    Anchor *anchors;
};

/* Adds a state to the history and returns its number. */
size_t doc_states_add(Doc *d, State s);
/* Forgets all of them. */
void doc_states_clear(Doc *d);

#endif
