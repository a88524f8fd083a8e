/* The difference view: two texts beside or below each other, change by change. It lies over the text like any
 * other layer. */
#ifndef DIFFERENCES_H
#define DIFFERENCES_H

#include "ui/editor.h"
#include "ui/question.h"

typedef struct Differences Differences;

typedef struct DifferenceSpec {
    Text old, fresh; /* kept by the view */
    const char *old_name, *fresh_name;
    FileId file;             /* whose present text `fresh` is: then changes can be taken back; 0: none */
    bool theirs;             /* `old` is somebody else's, or another file's */
    AnswerLetter answers[3]; /* letters of its own, up to the first without one */
    void (*choose)(Editor *ed, Differences *v,
                   FileId file); /* chooses something else to compare with; or NULL */
    /* merges what is compared with, if it is somebody else's, once the view is closed; or NULL */
    void (*merge)(Editor *ed, OpenFile *f, Text old, const char *old_name);
    void (*done)(Editor *ed, char letter, void *ctx); /* letter 0: Esc; or NULL */
    void *ctx;
    void (*free_ctx)(void *);
} DifferenceSpec;

void differences_show(Editor *ed, const DifferenceSpec *spec);
/* Compares with another text from now on, which is somebody else's or not. */
void differences_set_old(Differences *v, Text old, const char *name, bool theirs);

#endif
