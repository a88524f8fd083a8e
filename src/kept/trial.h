/* A save on trial. A guard, a process of its own with no terminal, holds the old version of a file and puts
 * it back, and runs the command by which it takes effect again, unless it is told in time that the new one is
 * kept. It outlives the editor, its terminal and the connection. It only ever replaces the very bytes that
 * were saved on trial: what somebody else wrote meanwhile stays. */
#ifndef TRIAL_H
#define TRIAL_H

#include "base/err.h"
#include "text/text.h"

typedef struct TrialWish {
    const char *path;    /* the full name of a file of this machine */
    Text old;            /* what is put back, */
    bool existed;        /* or that there was none */
    Text fresh;          /* what will be saved */
    const char *command; /* for sh; "": nothing is to be run */
    unsigned seconds;    /* from trial_saved on */
    const char *program; /* that plays the guard when it is given TRIAL_ROLE and a folder; NULL: this one */
} TrialWish;

#define TRIAL_ROLE "--guard-trial"

typedef enum TrialFate {
    TRIAL_RUNS,
    TRIAL_KEPT,
    TRIAL_TAKEN_BACK,
    TRIAL_NEVER_SAVED, /* the new version never came to the disk */
    TRIAL_CHANGED,     /* somebody else wrote the file: it was left alone */
    TRIAL_FAILED,      /* it could not be put back */
    TRIAL_LOST         /* the guard has ended without a word */
} TrialFate;

typedef struct Trial Trial;

/* Begins the guard, before anything is saved; it is ready when this returns. NULL with the reason in e. */
Trial *trial_begin(const TrialWish *w, Err *e);
/* The file is saved: the time runs from now on. */
void trial_saved(Trial *t);
/* Keeps the new version; puts the old one back at once. trial_look says what came of it. */
void trial_keep(Trial *t);
void trial_take_back(Trial *t);
/* Milliseconds that are left; 0 when the time is over. */
unsigned trial_left(const Trial *t);
/* Readable when there is news. */
int trial_fd(const Trial *t);
/* What is known by now, without waiting; `words` gets what went wrong with the command, or why, or "". */
TrialFate trial_look(Trial *t, Err *words);
/* The editor goes; the guard stays as long as it must. */
void trial_free(Trial *t);

/* Plays the guard of that folder; the exit status of the program. */
int trial_guard(const char *folder);
/* What guards did that nobody was told of, each once: the path, what came of it and when (Unix time). */
void trial_each_result(void (*each)(const char *path, TrialFate fate, long long when, void *ctx), void *ctx);

#endif
