/* A prompt: one line of text entry on the status line. */
#ifndef PROMPT_H
#define PROMPT_H

#include "ui/editor.h"

typedef struct PromptSpec {
    const char *label, *initial; /* copied */
    const char *history;         /* the kind under which answers are remembered, or NULL */
    void (*offer)(const char *before_cursor, Offers *out);      /* what Tab offers; or NULL */
    void (*changed)(Editor *ed, const char *answer, void *ctx); /* after each key; or NULL */
    bool (*key)(Editor *ed, const Input *in, void *ctx);        /* keys of its own; or NULL */
    size_t (*hints)(Editor *ed, Hint *out, void *ctx);          /* further ones; or NULL */
    /* Shown at the right, on narrow screens its first part only, up to " · "; or NULL. */
    void (*note)(Editor *ed, Bytes *out, void *ctx);
    const char *enter;                    /* what Enter does there; NULL: "OK" */
    long (*fault)(Editor *ed, void *ctx); /* the byte of the answer with a mistake, -1: none; or NULL */
    bool select;                          /* the initial text is replaced by typing */
    void (*done)(Editor *ed, const char *answer, void *ctx);
    void (*cancelled)(Editor *ed, void *ctx); /* or NULL */
    void *ctx;
    void (*free_ctx)(void *); /* or NULL */
} PromptSpec;

void prompt_ask(Editor *ed, const PromptSpec *spec);

#endif
