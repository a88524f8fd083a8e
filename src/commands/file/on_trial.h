/* A save on trial as it goes on in the editor: the guard, the saves, the command, the time, and what came of
 * it. What a person is asked of it stands in trial_save.c. */
#ifndef ON_TRIAL_H
#define ON_TRIAL_H

#include "base/words.h"
#include "kept/trial.h"
#include "ui/editor.h"

/* One of the files on trial. */
typedef struct Tried {
    FileId file;
    size_t number; /* that it has in the trial, */
    bool guarded;  /* if it has one */
    bool saved;
    size_t before; /* the state of the document that was saved before */
    DiskState disk;
} Tried;

typedef struct OnTrial {
    Task task;
    Trial *trial; /* NULL: none is under way */
    bool wanted;  /* the next saves of `files` are to be on trial */
    bool begun;   /* and these saves go on */
    bool saved;   /* they were, and the time runs */
    bool runs;    /* the command does, for the first time */
    bool asked;   /* the person had it taken back */
    bool there;   /* on another host */
    Tried files[TRIAL_FILES_MOST];
    size_t n, guarded;
    char *command;
    unsigned seconds;
    uint64_t since; /* ms, when it was begun */
    /* the command has ended; status -1: it did not end */
    void (*ran)(Editor *ed, int status, const Bytes *output);
    void (*leave)(Editor *ed); /* what follows once it is taken back; or NULL */
} OnTrial;

/* Observes the session. */
void on_trial_observe(Editor *ed);
/* The file it is about, the first of several, or NULL when it was closed; and for messages: "sshd_config", or
 * "3 files". */
OpenFile *on_trial_file(const Editor *ed);
const char *on_trial_name(const Editor *ed, char words[WORDS_MAX]);
bool on_trial_has(const Editor *ed, const OpenFile *f);
/* Begins with the files that are in it. */
void on_trial_begin(Editor *ed, const char *command);
/* Whoever guards what was saved stays. */
void on_trial_end(Editor *ed);
/* Does the file lie where another machine would have to guard it? */
bool on_trial_is_there(const OpenFile *f);

#endif
