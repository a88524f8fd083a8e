#include "base/for_root.h"

#include "base/mem.h"

#include <pwd.h>
#include <stdlib.h>
#include <sys/stat.h>
#include <unistd.h>

extern char **environ;

bool for_root_alone(const struct stat *st)
{
    return st->st_uid == 0 && (st->st_mode & (S_IWGRP | S_IWOTH)) == 0;
}

/* All but the last part of a path, as it is written. */
static bool safe_parts(const char *path)
{
    struct stat st;
    char *part = mem_string(path);
    bool safe = path[0] == '/', there = true;
    for (size_t n = 0; safe && there && path[n]; n++) {
        if (path[n] != '/' || !path[n + 1])
            continue;
        part[n] = 0;
        there = lstat(n ? part : "/", &st) == 0;
        part[n] = '/';
        bool folder = there && S_ISDIR(st.st_mode);
        safe = !there || (st.st_uid == 0 && (!folder || for_root_alone(&st) || (st.st_mode & S_ISVTX)));
    }
    free(part);
    return safe;
}

bool for_root_safe(const char *path)
{
    struct stat st;
    bool safe = safe_parts(path);
    if (safe && lstat(path, &st) == 0 && S_ISLNK(st.st_mode))
        safe = st.st_uid == 0;
    char *real = safe ? realpath(path, NULL) : NULL; /* where the links lead to */
    safe = safe && (!real || safe_parts(real));
    free(real);
    return safe;
}

void for_root_environment(void)
{
    static char *nothing[] = {NULL};
    const char *home = getenv("HOME");
    const struct passwd *me = getpwuid(getuid());
    char *own = mem_string(home && for_root_safe(home) ? home : me ? me->pw_dir : "/");
    environ = nothing;
    setenv("PATH", "/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin", 1);
    setenv("HOME", own, 1);
    setenv("LC_ALL", "C.UTF-8", 1);
    free(own);
}
