/* Preloaded into a program under test: makes its n-th system call fail, cuts it short, or kills
 * the process before or after it. FAULT_AT is n, FAULT_KIND one of the kinds below; FAULT_COUNT
 * names a file that gets the number of calls there were. */
#include <dirent.h>
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <signal.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <sys/xattr.h>
#include <unistd.h>

static long calls, at = -1;
static enum { NOTHING, FAIL, SHORT, KILL_BEFORE, KILL_AFTER } kind;
static int code;
static const char *count_file;

static void set_kind(const char *what)
{
    static const struct {
        const char *name;
        int code;
    } codes[] = {{"eio", EIO}, {"enospc", ENOSPC}, {"eintr", EINTR}, {"eacces", EACCES}, {"edquot", EDQUOT}};
    for (size_t i = 0; what && i < sizeof codes / sizeof *codes; i++)
        if (strcmp(what, codes[i].name) == 0) {
            kind = FAIL;
            code = codes[i].code;
        }
    if (what && strcmp(what, "short") == 0)
        kind = SHORT;
    if (what && strcmp(what, "kill-before") == 0)
        kind = KILL_BEFORE;
    if (what && strcmp(what, "kill-after") == 0)
        kind = KILL_AFTER;
}

__attribute__((constructor)) static void begin(void)
{
    const char *n = getenv("FAULT_AT");
    count_file = getenv("FAULT_COUNT");
    at = n ? atol(n) : -1;
    set_kind(getenv("FAULT_KIND"));
}

/* For a test that knows of this library: the n-th call from now on, of this kind; and calls of its own in
 * between, which are let alone (the calling thread's only). */
static _Thread_local int held;
void fault_arm(long n, const char *what);
void fault_hold(int on);

void fault_arm(long n, const char *what)
{
    calls = 0;
    at = n;
    set_kind(what);
}

void fault_hold(int on)
{
    held += on ? 1 : -1;
}

__attribute__((destructor)) static void end(void)
{
    FILE *f = count_file ? fopen(count_file, "w") : NULL;
    if (f) {
        fprintf(f, "%ld\n", calls);
        fclose(f);
    }
}

/* Compiled expressions read whole vectors, which valgrind takes for a mistake. Preloaded there too, this has
 * them interpreted. */
int pcre2_jit_compile_8(void *expression, unsigned options)
{
    (void)expression, (void)options;
    return -45; /* PCRE2_ERROR_JIT_BADOPTION */
}

/* Is it this call's turn? */
static int turn(void)
{
    if (held)
        return 0;
    int mine = __atomic_add_fetch(&calls, 1, __ATOMIC_SEQ_CST) == at;
    if (mine && kind == KILL_BEFORE)
        kill(getpid(), SIGKILL);
    return mine;
}

static void after(int mine)
{
    if (mine && kind == KILL_AFTER)
        kill(getpid(), SIGKILL);
}

#define REAL(name) ((__typeof__(&name))dlsym(RTLD_NEXT, #name))

/* A call that fails, or does what stands last. */
#define NAMED(type, name, params, does)                                                                      \
    type name params                                                                                         \
    {                                                                                                        \
        int mine = turn();                                                                                   \
        if (mine && kind == FAIL) {                                                                          \
            errno = code;                                                                                    \
            return (type)-1;                                                                                 \
        }                                                                                                    \
        type result = does;                                                                                  \
        after(mine);                                                                                         \
        return result;                                                                                       \
    }

/* A call that fails, or is made. */
#define CALL(type, name, params, args) NAMED(type, name, params, REAL(name) args)

/* The same for those that move bytes, which may also move fewer. */
#define MOVE(name, params, args, short_args)                                                                 \
    ssize_t name params                                                                                      \
    {                                                                                                        \
        int mine = turn();                                                                                   \
        if (mine && kind == FAIL) {                                                                          \
            errno = code;                                                                                    \
            return -1;                                                                                       \
        }                                                                                                    \
        ssize_t result = mine && kind == SHORT && n > 1 ? REAL(name) short_args : REAL(name) args;           \
        after(mine);                                                                                         \
        return result;                                                                                       \
    }

MOVE(read, (int fd, void *b, size_t n), (fd, b, n), (fd, b, n / 2))
MOVE(write, (int fd, const void *b, size_t n), (fd, b, n), (fd, b, n / 2))
MOVE(pread64, (int fd, void *b, size_t n, off64_t o), (fd, b, n, o), (fd, b, n / 2, o))
MOVE(pwrite64, (int fd, const void *b, size_t n, off64_t o), (fd, b, n, o), (fd, b, n / 2, o))
/* No test cuts the power: these cost a disk's time and would show nothing. */
#define REACHED(fd) (fcntl(fd, F_GETFD) < 0 ? -1 : 0)
NAMED(int, fsync, (int fd), REACHED(fd))
NAMED(int, fdatasync, (int fd), REACHED(fd))
CALL(int, rename, (const char *a, const char *b), (a, b))
CALL(int, link, (const char *a, const char *b), (a, b))
CALL(int, unlink, (const char *a), (a))
CALL(int, fchmod, (int fd, mode_t m), (fd, m))
CALL(int, fchown, (int fd, uid_t u, gid_t g), (fd, u, g))
CALL(int, ftruncate64, (int fd, off64_t n), (fd, n))
CALL(int, ftruncate, (int fd, off_t n), (fd, n))
CALL(int, flock, (int fd, int how), (fd, how))
CALL(int, close, (int fd), (fd))
CALL(int, stat, (const char *p, struct stat *s), (p, s))
CALL(int, lstat, (const char *p, struct stat *s), (p, s))
CALL(int, fstatat, (int d, const char *p, struct stat *s, int f), (d, p, s, f))
CALL(int, access, (const char *p, int how), (p, how))
CALL(int, faccessat, (int d, const char *p, int how, int f), (d, p, how, f))
CALL(int, renameat, (int c, const char *a, int d, const char *b), (c, a, d, b))
CALL(int, unlinkat, (int d, const char *a, int f), (d, a, f))
CALL(int, chmod, (const char *p, mode_t m), (p, m))
CALL(off_t, lseek, (int fd, off_t o, int how), (fd, o, how))
CALL(int, sync_file_range, (int fd, off64_t o, off64_t n, unsigned f), (fd, o, n, f))
CALL(ssize_t, fgetxattr, (int fd, const char *a, void *v, size_t n), (fd, a, v, n))
CALL(int, pipe2, (int fds[2], int flags), (fds, flags))
CALL(int, fstat, (int fd, struct stat *s), (fd, s))
CALL(int, mkdir, (const char *p, mode_t m), (p, m))
CALL(ssize_t, listxattr, (const char *p, char *l, size_t n), (p, l, n))
CALL(ssize_t, getxattr, (const char *p, const char *a, void *v, size_t n), (p, a, v, n))
CALL(int, fsetxattr, (int fd, const char *a, const void *v, size_t n, int f), (fd, a, v, n, f))

CALL(ssize_t, flistxattr, (int fd, char *l, size_t n), (fd, l, n))
CALL(int, fremovexattr, (int fd, const char *a), (fd, a))
CALL(int, renameat2, (int c, const char *a, int d, const char *b, unsigned f), (c, a, d, b, f))
CALL(int, linkat, (int c, const char *a, int d, const char *b, int f), (c, a, d, b, f))
CALL(int, mkdirat, (int d, const char *p, mode_t m), (d, p, m))
/* libacl's, as a whole: it calls the system by ways of its own. */
CALL(int, perm_copy_fd, (const char *a, int from, const char *b, int to, void *how), (a, from, b, to, how))

/* Those that give a pointer. */
#define POINT(type, name, params, args)                                                                      \
    type *name params                                                                                        \
    {                                                                                                        \
        int mine = turn();                                                                                   \
        if (mine && kind == FAIL) {                                                                          \
            errno = code;                                                                                    \
            return NULL;                                                                                     \
        }                                                                                                    \
        type *result = REAL(name) args;                                                                      \
        after(mine);                                                                                         \
        return result;                                                                                       \
    }

POINT(char, realpath, (const char *p, char *out), (p, out))
POINT(DIR, opendir, (const char *p), (p))
POINT(struct dirent, readdir, (DIR * d), (d))

int posix_fallocate(int fd, off_t from, off_t n)
{
    int mine = turn();
    if (mine && kind == FAIL)
        return code;
    int result = REAL(posix_fallocate)(fd, from, n);
    after(mine);
    return result;
}

/* Giving a lock back is not made to fail: no disk does that, and SQLite then waits ten seconds for itself. */
static int gives_back(int what, const void *with)
{
    return (what == F_SETLK || what == F_SETLKW) && ((const struct flock *)with)->l_type == F_UNLCK;
}

#define CONTROL(name)                                                                                        \
    int name(int fd, int what, ...)                                                                          \
    {                                                                                                        \
        va_list args;                                                                                        \
        va_start(args, what);                                                                                \
        void *with = va_arg(args, void *);                                                                   \
        va_end(args);                                                                                        \
        int mine = !gives_back(what, with) && turn();                                                        \
        if (mine && kind == FAIL) {                                                                          \
            errno = code;                                                                                    \
            return -1;                                                                                       \
        }                                                                                                    \
        int result = REAL(name)(fd, what, with);                                                             \
        after(mine);                                                                                         \
        return result;                                                                                       \
    }

CONTROL(fcntl)
CONTROL(fcntl64)

#define OPEN(name)                                                                                           \
    int name(const char *path, int flags, ...)                                                               \
    {                                                                                                        \
        va_list args;                                                                                        \
        va_start(args, flags);                                                                               \
        mode_t mode = flags & (O_CREAT | O_TMPFILE) ? va_arg(args, mode_t) : 0;                              \
        va_end(args);                                                                                        \
        int mine = turn();                                                                                   \
        if (mine && kind == FAIL) {                                                                          \
            errno = code;                                                                                    \
            return -1;                                                                                       \
        }                                                                                                    \
        int result = REAL(name)(path, flags, mode);                                                          \
        after(mine);                                                                                         \
        return result;                                                                                       \
    }

OPEN(open)
OPEN(open64)

int openat(int dir, const char *path, int flags, ...)
{
    va_list args;
    va_start(args, flags);
    mode_t mode = flags & (O_CREAT | O_TMPFILE) ? va_arg(args, mode_t) : 0;
    va_end(args);
    int mine = turn();
    if (mine && kind == FAIL) {
        errno = code;
        return -1;
    }
    int result = REAL(openat)(dir, path, flags, mode);
    after(mine);
    return result;
}
