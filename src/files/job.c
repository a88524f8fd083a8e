#include "files/job.h"

#include "base/programs.h"
#include "base/system.h"

#include <errno.h>
#include <fcntl.h>
#include <signal.h>
#include <stdlib.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

static void close_end(int *fd)
{
    if (*fd >= 0)
        close(*fd);
    *fd = -1;
}

/* The rest of the child's life until it is another program. */
static void become(const JobSpec *spec, int in, int out, int err)
{
    setsid();
    dup2(in, 0);
    dup2(out, 1);
    dup2(err, 2);
    if (spec->path)
        setenv("SQUILL_FILE", spec->path, 1);
    else
        unsetenv("SQUILL_FILE");
    setenv("TERM", "dumb", 1); /* what it prints goes into a text */
    if (spec->english) {
        setenv("LC_ALL", "C.UTF-8", 1);
        unsetenv("LANGUAGE");
    }
    if (spec->folder) {
        setenv("TMPDIR", spec->folder, 1);
        if (chdir(spec->folder) != 0)
            _exit(126);
    }
    if (spec->fence && !fence_enter(spec->fence))
        _exit(126);
    execvp(spec->words[0], spec->words);
    if (errno != ENOENT)
        _exit(126);
    _exit(127);
}

bool job_start(Job *j, const char *command, Text input, const char *path, Err *e)
{
    const char *shell = getenv("SHELL");
    if (!shell || shell[0] != '/' || access(shell, X_OK) != 0)
        shell = "/bin/sh";
    char *const words[] = {(char *)shell, "-c", (char *)command, NULL};
    return job_start_program(j, &(JobSpec){.words = words, .input = input, .path = path}, e);
}

bool job_start_program(Job *j, const JobSpec *spec, Err *e)
{
    int in[2], out[2] = {-1, -1}, err[2] = {-1, -1};
    *j = (Job){.to = -1, .from = -1, .errors = -1};
    j->output_most = spec->output_most ? spec->output_most : JOB_OUTPUT_MOST;
    if (!system_pipe(in, false))
        return err_set(e, "Cannot run it: %s", err_os(errno));
    if (!system_pipe(out, false) || !system_pipe(err, false) || (j->pid = programs_fork()) < 0) {
        int code = errno;
        for (int i = 0; i < 2; i++) {
            close_end(&in[i]);
            close_end(&out[i]);
            close_end(&err[i]);
        }
        return err_set(e, "Cannot run it: %s", err_os(code));
    }
    if (j->pid == 0)
        become(spec, in[0], out[1], err[1]);
    close(in[0]);
    close(out[1]);
    close(err[1]);
    j->to = in[1];
    j->from = out[0];
    j->errors = err[0];
    fcntl(j->to, F_SETFL, O_NONBLOCK);
    fcntl(j->from, F_SETFL, O_NONBLOCK);
    fcntl(j->errors, F_SETFL, O_NONBLOCK);
    j->input = text_keep(spec->input);
    if (text_len(spec->input) == 0)
        close_end(&j->to);
    return true;
}

size_t job_fds(const Job *j, struct pollfd *out)
{
    size_t n = 0;
    if (j->to >= 0)
        out[n++] = (struct pollfd){.fd = j->to, .events = POLLOUT};
    if (j->from >= 0)
        out[n++] = (struct pollfd){.fd = j->from, .events = POLLIN};
    if (j->errors >= 0)
        out[n++] = (struct pollfd){.fd = j->errors, .events = POLLIN};
    return n;
}

static void feed(Job *j)
{
    while (j->to >= 0) {
        TextRun run = text_run(j->input, j->sent);
        ssize_t n = run.len ? write(j->to, run.at, run.len) : 0;
        if (n < 0 && (errno == EAGAIN || errno == EINTR))
            return;
        if (n <= 0) /* all is sent, or it does not want more */
            close_end(&j->to);
        else
            j->sent += (size_t)n;
    }
}

/* Reads what is there; what goes over the bound is read and forgotten. */
static void take(int *fd, Bytes *into, size_t most, bool *too_much)
{
    char buffer[65536];
    while (*fd >= 0) {
        ssize_t n = read(*fd, buffer, sizeof buffer);
        if (n < 0 && (errno == EAGAIN || errno == EINTR))
            return;
        if (n <= 0) {
            close_end(fd);
            return;
        }
        size_t room = most - into->len;
        bytes_add(into, buffer, (size_t)n < room ? (size_t)n : room);
        if ((size_t)n > room) {
            *too_much = true;
            return;
        }
    }
}

static void note_end(Job *j, int status)
{
    j->ended = true;
    j->signal = WIFSIGNALED(status) ? WTERMSIG(status) : 0;
    j->status = WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
}

bool job_poll(Job *j)
{
    bool ignored = false;
    feed(j);
    take(&j->from, &j->output, j->output_most, &j->too_much);
    take(&j->errors, &j->said, JOB_ERRORS_MOST, &ignored);
    if (j->too_much)
        job_stop(j);
    int status;
    if (!j->ended && waitpid(j->pid, &status, WNOHANG) == j->pid) {
        /* What it left running may hold the pipes open; what it wrote itself is there by now. */
        take(&j->from, &j->output, j->output_most, &j->too_much);
        take(&j->errors, &j->said, JOB_ERRORS_MOST, &ignored);
        note_end(j, status);
    }
    return j->ended;
}

static bool wait_for_end(Job *j, int times)
{
    int status;
    struct timespec moment = {0, 20 * 1000 * 1000};
    for (int i = 0; i < times && !j->ended; i++) {
        if (waitpid(j->pid, &status, WNOHANG) == j->pid)
            note_end(j, status);
        else
            nanosleep(&moment, NULL);
    }
    return j->ended;
}

void job_stop(Job *j)
{
    if (j->ended)
        return;
    kill(-j->pid, SIGTERM);
    wait_for_end(j, 10); /* a fifth of a second to end by itself */
    kill(-j->pid, SIGKILL);
    if (!wait_for_end(j, 10)) /* the disk that it waits for does not answer: it is left */
        note_end(j, SIGKILL);
}

bool job_leaves(const Job *j)
{
    for (int i = 0; i < 2; i++) {
        int fd = i ? j->errors : j->from;
        struct pollfd p = {.fd = fd, .events = POLLIN};
        char bytes[4096];
        ssize_t n = 1;
        while (fd >= 0 && n > 0 && poll(&p, 1, 0) >= 0)
            n = read(fd, bytes, sizeof bytes);
        if (fd >= 0 && n < 0 && errno == EAGAIN) /* no end of it: somebody may still write */
            return true;
    }
    return false;
}

void job_free(Job *j)
{
    if (j->pid > 0 && !j->ended)
        job_stop(j);
    close_end(&j->to);
    close_end(&j->from);
    close_end(&j->errors);
    text_drop(&j->input);
    bytes_free(&j->output);
    bytes_free(&j->said);
}

Job job_take(Job *j)
{
    Job taken = *j;
    *j = (Job){.to = -1, .from = -1, .errors = -1, .ended = true};
    return taken;
}
