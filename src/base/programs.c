#include "base/programs.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "base/system.h"

#include <errno.h>
#include <pthread.h>
#include <signal.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

char *programs_find(const char *name, bool for_root)
{
    const char *path = getenv("PATH");
    Bytes all = {0}, full = {0};
    if (strchr(name, '/'))
        return access(name, X_OK) == 0 ? mem_string(name) : NULL;
    bytes_printf(&all, "%s%s", path ? path : "", for_root ? ":/usr/local/sbin:/usr/sbin:/sbin" : "");
    bool found = false;
    for (const char *p = bytes_str(&all); *p && !found; p += strcspn(p, ":"), p += *p == ':') {
        size_t n = strcspn(p, ":");
        bytes_clear(&full);
        bytes_printf(&full, "%.*s/%s", (int)n, p, name);
        found = n && access(full.at, X_OK) == 0;
    }
    bytes_free(&all);
    if (found)
        return full.at;
    bytes_free(&full);
    return NULL;
}

bool programs_has(const char *program)
{
    char *path = programs_find(program, false);
    free(path);
    return path != NULL;
}

pid_t programs_fork(void)
{
    sigset_t all, before;
    sigfillset(&all);
    pthread_sigmask(SIG_SETMASK, &all, &before);
    pid_t child = fork();
    if (child == 0) {
        for (int s = 1; s < NSIG; s++)
            signal(s, SIG_DFL);
        sigemptyset(&before);
    }
    pthread_sigmask(SIG_SETMASK, &before, NULL);
    return child;
}

bool programs_live(pid_t pid)
{
    bool ended = false;
    long long born;
    if (kill(pid, 0) != 0 && errno != EPERM)
        return false;
    return !system_process(pid, &ended, &born) || !ended;
}

long long programs_born(pid_t pid)
{
    bool ended;
    long long born = 0;
    return system_process(pid, &ended, &born) ? born : 0;
}
