/* What is known of a save on trial outlives its editor in a private folder of the state folder: the command,
 * the time, who guards it, and a folder for each file, called 0, 1 and so on. And the words by which an
 * editor and a guard talk: lines, each a letter and what belongs to it. */
#ifndef TRIAL_FOLDER_H
#define TRIAL_FOLDER_H

#include "kept/trial.h"

#include <stdint.h>
#include <sys/types.h>

/* The editor's words, */
enum {
    SAY_ADD = 'a', /* the next file's folder is there; on a host: the sum of what will be saved */
    SAY_SAVED = 's',
    SAY_STOP = 'x', /* the command */
    SAY_KEEP = 'k',
    SAY_BACK = 't',
};
/* and the guard's. */
enum {
    SAY_READY = 'r',
    SAY_LIVES = 'l', /* its process and when that began, once the file is saved */
    SAY_RAN = 'R',   /* the command's status, or '-', and its output, with TRIAL_LINE for a line's end */
    SAY_KEPT = 'K',  /* the rest end it: a letter for each file, and words after a blank */
    SAY_TAKEN = 'T',
    SAY_NEVER = 'N',
    SAY_CHANGED = 'C',
    SAY_FAILED = 'F'
};
#define TRIAL_MARK "steady-quill " /* before each of its lines: on a host, other things may be printed */
enum { TRIAL_LINE = 1, TRIAL_OUTPUT_MOST = 3000 /* bytes: less than a pipe takes at once */ };

TrialFate trial_fate_of(char letter);
char trial_letter_of(TrialFate fate);
/* Goes on while the machine sleeps, and is not set by anybody. */
uint64_t trial_now_ms(void);

/* What a guard must know of a file. */
typedef struct TrialFacts {
    char *path;
    bool existed;
    uint64_t old_hash, fresh_hash;
} TrialFacts;

/* A new one, empty; the caller frees its path. NULL with the reason in e. */
char *trial_folder_make(Err *e);
bool trial_folder_put(const char *folder, const char *name, const char *words);
/* What was put, which the caller frees; NULL: it is not there. */
char *trial_folder_get(const char *folder, const char *name);
/* Lays down what is known of the file of that number, with its old version or, where somebody else guards
 * that, with its new one. */
bool trial_folder_add(const char *folder, size_t number, const TrialFile *f, bool guarded_here, Err *e);
/* Its facts (the caller frees the path) and, if that is wanted, its version that was laid down. */
bool trial_folder_read(const char *folder, size_t number, TrialFacts *facts, Text *version);
/* Starts a guard by these words, with those descriptors for what it hears and says; -1: it could not be. */
pid_t trial_start(char *const words[], int from, int to);
/* Who guards it, so that one whose guard has died is told from one that is guarded. */
bool trial_folder_sign(const char *folder, pid_t pid, long long born);

#endif
