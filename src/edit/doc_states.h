/* How a document keeps its history; private to this room. */
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
} State;

struct Doc {
    Text text;
    State *states;
    size_t n_states, cap_states;
    size_t now, saved; /* indexes of states */
    bool open;         /* the present state may take further changes in */
    unsigned group;    /* depth of doc_begin */
    unsigned long version;
    char last_typed;
    bool word_begun;      /* the present step has more than blanks in it */
    uint64_t last_change; /* ms */
    const char *verb;
    char **verbs; /* those of a restored history, owned */
    size_t n_verbs;
    Anchor *anchors;
};

#endif
