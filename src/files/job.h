/* Running a program, or a command of the person's shell, beside this one: its input comes from a
 * text, its output is gathered up to a bound. */
#ifndef JOB_H
#define JOB_H

#include "base/bytes.h"
#include "base/err.h"
#include "base/fence.h"
#include "text/text.h"

#include <poll.h>
#include <sys/types.h>

enum { JOB_OUTPUT_MOST = 64 * 1024 * 1024, JOB_ERRORS_MOST = 64 * 1024, JOB_FDS = 3 };

/* What is to be run. */
typedef struct JobSpec {
    char *const *words; /* the program and its arguments, up to NULL */
    Text input;         /* kept until the end */
    const char *path;   /* of the text it is about, for SQUILL_FILE; or NULL */
    const char *folder; /* where it runs and has its temporary files, or NULL: here */
    Fence *fence;       /* made (see base/fence.h), or NULL */
    bool english;       /* its words are to be read by an expression */
    size_t output_most; /* bytes; 0: JOB_OUTPUT_MOST */
} JobSpec;

typedef struct Job {
    pid_t pid;            /* also its process group */
    int to, from, errors; /* our ends of its pipes; -1: closed */
    Text input;
    size_t sent;
    Bytes output, said; /* said: what came on standard error */
    size_t output_most;
    bool too_much; /* more output than the bound; it was stopped */
    bool ended;
    int signal; /* that ended it, or 0 */
    int status; /* as shells give it: the exit status, or 128 + the signal */
} Job;

/* Starts `command` by $SHELL -c; `input` is kept until the end. Its environment is ours and
 * SQUILL_FILE, the path of the text (if not NULL). False with the reason in e. */
bool job_start(Job *j, const char *command, Text input, const char *path, Err *e);
/* A program without a shell. */
bool job_start_program(Job *j, const JobSpec *spec, Err *e);
/* What to wait for; returns how many. */
size_t job_fds(const Job *j, struct pollfd *out);
/* Moves what can be moved without waiting; true once it has ended. */
bool job_poll(Job *j);
/* Stops it and all it started in its own process group. */
void job_stop(Job *j);
/* After that: does something that it began elsewhere still hold its pipes? */
bool job_leaves(const Job *j);
void job_free(Job *j);
/* Hands it over; freeing what is left in `j` does nothing. */
Job job_take(Job *j);

#endif
