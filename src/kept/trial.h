/* A save on trial. A guard, a process of its own with no terminal, holds the old versions of one or more
 * files, runs the command by which they take effect, and puts the old ones back and runs it again, unless it
 * is told in time that the new ones are kept. It outlives the editor, its terminal and the connection. It
 * only ever replaces the very bytes that were saved on trial: what somebody else wrote meanwhile stays. It is
 * this program itself in another role, started by the editor or, for files that only root may write, by
 * root's helper; on another host it is a few lines of the shell there (trial_there.h). */
#ifndef TRIAL_H
#define TRIAL_H

#include "base/bytes.h"
#include "base/err.h"
#include "text/text.h"

#define TRIAL_ROLE "--guard-trial"
enum { TRIAL_FILES_MOST = 64 };

typedef struct TrialFile {
    const char *path; /* its full name */
    Text old;         /* what is put back, */
    bool existed;     /* or that there was none */
    Text fresh;       /* what will be saved */
} TrialFile;

typedef enum TrialFate {
    TRIAL_RUNS,
    TRIAL_KEPT,
    TRIAL_NEVER_SAVED, /* the new version never came to the disk */
    TRIAL_TAKEN_BACK,
    TRIAL_CHANGED, /* somebody else wrote the file: it was left alone */
    TRIAL_FAILED,  /* it could not be put back */
    TRIAL_LOST,    /* the guard has ended without a word */
    TRIAL_AWAY     /* its guard is on another host, and cannot be asked any more */
} TrialFate;

typedef struct Trial Trial;

/* Begins a guard on this machine, which is ready when this returns; `command` is for sh, "": nothing is to be
 * run. `program` plays the guard when it is given TRIAL_ROLE and a folder; NULL: this one. NULL with the
 * reason in e. */
Trial *trial_begin(const char *command, unsigned seconds, const char *program, Err *e);
/* Begins one by those words of a program that reaches another host; trial_is_ready tells when it is there. */
Trial *trial_begin_there(char *const words[], unsigned seconds, Err *e);
/* Root's helper has begun one and saved the file; these are the pipes to it. */
Trial *trial_begin_by_root(int to, int from, unsigned seconds, Err *e);
bool trial_is_ready(Trial *t);
/* Adds a file, before it is saved; its texts are looked at only now. False with the reason in e. */
bool trial_add(Trial *t, const TrialFile *f, Err *e);
/* They are saved: the command is run, and the time runs from now on. */
void trial_saved(Trial *t);
/* The command's end, told once: its status, -1 if it did not end, and what it printed. */
bool trial_ran(Trial *t, int *status, Bytes *output);
void trial_stop_command(Trial *t);
/* Keeps the new versions; puts the old ones back at once. trial_look says what came of it. */
void trial_keep(Trial *t);
void trial_take_back(Trial *t);
/* Milliseconds that are left; 0 when the time is over. */
unsigned trial_left(const Trial *t);
/* Readable when there is news. */
int trial_fd(const Trial *t);
/* What is known by now, without waiting, of all of them: the worst, if they differ. `words` gets what went
 * wrong with the command, or why, or "". */
TrialFate trial_look(Trial *t, Err *words);
/* Then, of the one that was added as that number, from 0. */
TrialFate trial_look_at(const Trial *t, size_t number);
/* After TRIAL_LOST: is it still there, so that it will take them back, but cannot be told anything? */
bool trial_is_out_of_reach(const Trial *t);
/* The editor goes; the guard stays as long as it must. */
void trial_free(Trial *t);
/* Nothing was saved: the guard goes, too. */
void trial_drop(Trial *t);

/* What guards did that nobody was told of, each once: the path, what came of it and when (Unix time; 0: not
 * known). */
void trial_each_result(void (*each)(const char *path, TrialFate fate, long long when, void *ctx), void *ctx);

#endif
