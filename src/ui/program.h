/* A program that a person waits for: a layer that shows how long it has run, and stops it by Esc. */
#ifndef PROGRAM_H
#define PROGRAM_H

#include "files/job_task.h"
#include "ui/editor.h"

/* What a run is about. */
typedef struct ProgramSpec {
    const char *name; /* in messages; it is copied */
    const char *what; /* it is: "command"; as is this page of the help: */
    const char *help;
    /* The layer is gone; that it was too slow has been reported. The Job may be taken over (job_take), else
     * it is freed after this. */
    void (*ended)(Editor *ed, Job *job, JobEnd how, void *ctx);
    void (*dropped)(Editor *ed, void *ctx); /* the editor ends: `ended` is not called */
    void *ctx;
} ProgramSpec;

/* Takes over a started Job. Without a screen (SessionRules.batch) it has ended when this returns. */
void program_wait_for(Editor *ed, Job job, const ProgramSpec *spec);

#endif
