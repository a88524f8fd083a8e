#include "base/sys.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "base/system.h"

#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <pwd.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <time.h>
#include <unistd.h>

uint64_t sys_now_ms(void)
{
    struct timespec t;
    clock_gettime(CLOCK_MONOTONIC, &t);
    return (uint64_t)t.tv_sec * 1000u + (uint64_t)t.tv_nsec / 1000000u;
}

const char *sys_base_name(const char *path)
{
    const char *slash = strrchr(path, '/');
    return slash ? slash + 1 : path;
}

char *sys_folder_of(const char *path)
{
    const char *slash = strrchr(path, '/');
    if (!slash)
        return mem_string(".");
    return slash == path ? mem_string("/") : mem_string_n(path, (size_t)(slash - path));
}

/* Removes "." and ".." by their letters only; for paths that do not exist yet. */
static char *tidy(const char *absolute)
{
    Bytes out = {0};
    const char *p = absolute;
    while (*p) {
        while (*p == '/')
            p++;
        size_t n = strcspn(p, "/");
        if (n == 2 && memcmp(p, "..", 2) == 0) {
            while (out.len && out.at[out.len - 1] != '/')
                bytes_delete(&out, out.len - 1, 1);
            if (out.len)
                bytes_delete(&out, out.len - 1, 1);
        } else if (n && !(n == 1 && *p == '.')) {
            bytes_add(&out, "/", 1);
            bytes_add(&out, p, n);
        }
        p += n;
    }
    if (out.len == 0)
        bytes_add(&out, "/", 1);
    return out.at;
}

static char *join(const char *folder, const char *name)
{
    Bytes b = {0};
    bytes_printf(&b, "%s%s%s", folder, strcmp(folder, "/") == 0 ? "" : "/", name);
    return b.at;
}

char *sys_full_path(const char *path)
{
    const char *name = sys_base_name(path);
    bool plain = *name && strcmp(name, ".") != 0 && strcmp(name, "..") != 0;
    char real[PATH_MAX];
    if (plain) {
        char *folder = name == path       ? mem_string(".")
                       : name == path + 1 ? mem_string("/")
                                          : mem_string_n(path, (size_t)(name - path) - 1);
        bool known = realpath(folder, real) != NULL;
        free(folder);
        if (known)
            return join(real, name);
    } else if (realpath(path, real)) {
        return mem_string(real);
    }
    if (path[0] == '/')
        return tidy(path);
    if (!getcwd(real, sizeof real))
        return mem_string(path);
    char *joined = join(real, path);
    char *full = tidy(joined);
    free(joined);
    return full;
}

static const char *home(void)
{
    const char *h = getenv("HOME");
    if (h && h[0] == '/')
        return h;
    const struct passwd *me = getpwuid(getuid());
    return me && me->pw_dir[0] == '/' ? me->pw_dir : NULL;
}

char *sys_expand_home(const char *path)
{
    if (path[0] != '~' || (path[1] != '/' && path[1] != 0) || !home())
        return mem_string(path);
    Bytes b = {0};
    bytes_printf(&b, "%s%s", home(), path + 1);
    return b.at;
}

char *sys_short_home(const char *path)
{
    const char *above = home();
    size_t n = above ? strlen(above) : 0;
    if (n < 2 || strncmp(path, above, n) != 0 || (path[n] != '/' && path[n] != 0))
        return mem_string(path);
    Bytes b = {0};
    bytes_printf(&b, "~%s", path + n);
    return b.at;
}

char *sys_own_folder(const char *kind)
{
    char variable[32];
    snprintf(variable, sizeof variable, "XDG_%s_HOME", kind);
    const char *set = getenv(variable);
    if (set && set[0] == '/')
        return join(set, "steady-quill");
    const char *above = home();
    if (!above)
        return NULL;
    return join(above, strcmp(kind, "CONFIG") == 0 ? ".config/steady-quill" : ".local/state/steady-quill");
}

bool sys_make_folders(const char *path)
{
    int fd = sys_open_folders(path);
    if (fd >= 0)
        close(fd);
    return fd >= 0;
}

bool sys_root_alone_writes(const struct stat *st)
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
        safe =
            !there || (st.st_uid == 0 && (!folder || sys_root_alone_writes(&st) || (st.st_mode & S_ISVTX)));
    }
    free(part);
    return safe;
}

bool sys_safe_for_root(const char *path)
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

/* Goes down a path from its first folder that is there, making what is missing. As root, nothing is made
 * below a folder that somebody else could change, and what is made is entered itself and no link put in its
 * place. */
int sys_open_folders(const char *path)
{
    char *part = mem_string(path);
    struct stat st;
    size_t n = strlen(part);
    int fd;
    while ((fd = open(n ? part : "/", O_RDONLY | O_DIRECTORY | O_CLOEXEC)) < 0 && errno == ENOENT && n) {
        while (n && part[n - 1] != '/')
            n--;
        while (n && part[n - 1] == '/')
            n--;
        part[n] = 0;
    }
    free(part);
    bool missing = n < strlen(path);
    if (fd >= 0 && missing && geteuid() == 0 &&
        (fstat(fd, &st) != 0 || st.st_uid != 0 || !(sys_root_alone_writes(&st) || (st.st_mode & S_ISVTX)))) {
        close(fd);
        errno = EACCES;
        return -1;
    }
    for (const char *p = path + n; fd >= 0 && *p;) {
        while (*p == '/')
            p++;
        size_t len = strcspn(p, "/");
        if (!len)
            break;
        char *name = mem_string_n(p, len);
        bool made = mkdirat(fd, name, 0700) == 0 || errno == EEXIST;
        int next = made ? openat(fd, name, O_RDONLY | O_DIRECTORY | O_CLOEXEC | O_NOFOLLOW) : -1;
        int code = errno;
        free(name);
        close(fd);
        errno = code;
        fd = next;
        p += len;
    }
    return fd;
}

char *sys_state_folder(Err *e)
{
    char *folder = sys_own_folder("STATE");
    struct stat st, link;
    if (!folder) {
        err_set(e, "There is no home folder");
        return NULL;
    }
    const char *above = home();
    size_t n = above ? strlen(above) : 0;
    if (n && strncmp(folder, above, n) == 0 && folder[n] == '/' && stat(above, &st) != 0) {
        err_set(e, "There is no home folder %s", above); /* and it is not ours to make */
        free(folder);
        return NULL;
    }
    if (geteuid() == 0 && !sys_safe_for_root(folder)) {
        err_set(e, "the state folder is not root's alone (%s)", folder);
        free(folder);
        return NULL;
    }
    int fd = sys_open_folders(folder), code = errno;
    /* The descriptor is judged and changed, and not whatever has that name by then. */
    bool ok = fd >= 0 && fstat(fd, &st) == 0 && lstat(folder, &link) == 0 && S_ISDIR(link.st_mode) &&
              link.st_ino == st.st_ino && link.st_dev == st.st_dev && st.st_uid == geteuid();
    if (ok && (st.st_mode & 07777) != 0700)
        ok = fchmod(fd, 0700) == 0;
    if (fd >= 0)
        close(fd);
    if (ok)
        return folder;
    if (fd < 0)
        err_set(e, "the state folder cannot be made: %s (%s)", err_os(code), folder);
    else
        err_set(e, "the state folder is somebody else's (%s)", folder);
    free(folder);
    return NULL;
}

char *sys_find_program(const char *name, bool for_root)
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

bool sys_in_path(const char *program)
{
    char *path = sys_find_program(program, false);
    free(path);
    return path != NULL;
}

pid_t sys_fork(void)
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

bool sys_thread(pthread_t *thread, void *(*run)(void *), void *ctx)
{
    static const int own[] = {SIGSEGV, SIGBUS, SIGILL, SIGFPE, SIGABRT};
    sigset_t all, before;
    sigfillset(&all);
    for (size_t i = 0; i < sizeof own / sizeof *own; i++)
        sigdelset(&all, own[i]);
    pthread_sigmask(SIG_SETMASK, &all, &before);
    bool ok = pthread_create(thread, NULL, run, ctx) == 0;
    pthread_sigmask(SIG_SETMASK, &before, NULL);
    return ok;
}

mode_t sys_umask(void)
{
    static mode_t mask;
    static bool known;
    if (!known) {
        mask = umask(077);
        umask(mask);
        known = true;
    }
    return mask;
}

bool sys_rename_new(int from_folder, const char *from, int to_folder, const char *to)
{
    if (system_rename_new(from_folder, from, to_folder, to))
        return true;
    if (errno != ENOSYS)
        return false;
    /* A link is never made over something; where there are none, looking first must do. */
    if (linkat(from_folder, from, to_folder, to, 0) == 0)
        return unlinkat(from_folder, from, 0) == 0;
    if (errno != EPERM && errno != EOPNOTSUPP && errno != ENOSYS)
        return false;
    struct stat st;
    if (fstatat(to_folder, to, &st, AT_SYMLINK_NOFOLLOW) == 0) {
        errno = EEXIST;
        return false;
    }
    return renameat(from_folder, from, to_folder, to) == 0;
}

bool sys_process_lives(pid_t pid)
{
    bool ended = false;
    long long born;
    if (kill(pid, 0) != 0 && errno != EPERM)
        return false;
    return !system_process(pid, &ended, &born) || !ended;
}

long long sys_process_born(pid_t pid)
{
    bool ended;
    long long born = 0;
    return system_process(pid, &ended, &born) ? born : 0;
}

ssize_t sys_read_full(int fd, char *to, size_t cap)
{
    size_t done = 0;
    while (done < cap) {
        ssize_t n = read(fd, to + done, cap - done);
        if (n < 0 && errno == EINTR)
            continue;
        if (n < 0)
            return -1;
        if (n == 0)
            break;
        done += (size_t)n;
    }
    return (ssize_t)done;
}
