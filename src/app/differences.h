/* The difference view: two texts beside or below each other, change by change. It lies
 * over the text like any other layer. */
#ifndef DIFFERENCES_H
#define DIFFERENCES_H
#include "app/editor.h"
#include "edit/diff.h"

typedef struct DifferenceSpec {
    Text old, fresh; /* kept by the view */
    const char *old_name, *fresh_name;
    FileId file;             /* whose present text `fresh` is: then changes can be taken back; 0: none */
    AnswerLetter answers[3]; /* letters of its own, up to the first without one */
    void (*done)(Editor *ed, char letter, void *ctx); /* letter 0: Esc; or NULL */
    void *ctx;
    void (*free_ctx)(void *);
} DifferenceSpec;

void differences_show(Editor *ed, const DifferenceSpec *spec);

/* The text against its file on disk, respectively against its last save; `then` is called when the
 * view is closed, or at once if there is nothing to show. */
void differences_with_disk(Editor *ed, OpenFile *f, void (*then)(Editor *, void *), void *ctx,
                           void (*free_ctx)(void *));
void differences_with_save(Editor *ed, OpenFile *f, void (*then)(Editor *, void *), void *ctx,
                           void (*free_ctx)(void *));
/* The command: against the last save, changeable in the view. */
void differences_open(Editor *ed);

#endif
