#include "base/system.h"

#include <errno.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

#if defined(__linux__)
#include <linux/fs.h>
#include <sys/ioctl.h>
#include <sys/mman.h>
#include <sys/random.h>
#include <sys/resource.h>
#include <sys/syscall.h>
#else /* BSD and macOS */
#include <sys/param.h>
#include <sys/sysctl.h>
#if defined(__APPLE__)
#include <mach-o/dyld.h>
#include <sys/random.h>
#endif
#endif

/* ---- this program and others ---- */

bool system_own_path(char *out, size_t cap)
{
#if defined(__linux__)
    ssize_t n = readlink("/proc/self/exe", out, cap - 1);
    if (n <= 0)
        return false;
    out[n] = 0;
    return true;
#elif defined(__APPLE__)
    uint32_t n = (uint32_t)cap;
    return _NSGetExecutablePath(out, &n) == 0;
#elif defined(KERN_PROC_PATHNAME)
    int name[] = {CTL_KERN, KERN_PROC, KERN_PROC_PATHNAME, -1};
    return sysctl(name, 4, out, &cap, NULL, 0) == 0;
#else
    (void)out, (void)cap;
    return false;
#endif
}

/* Linux tells in /proc/PID/stat; elsewhere a number that was given again is taken for the old process. */
bool system_process(pid_t pid, bool *ended, long long *born)
{
#if defined(__linux__)
    char path[40], text[1024];
    snprintf(path, sizeof path, "/proc/%d/stat", (int)pid);
    FILE *f = fopen(path, "re");
    size_t n = f ? fread(text, 1, sizeof text - 1, f) : 0;
    if (f)
        fclose(f);
    text[n] = 0;
    const char *p = strrchr(text, ')'); /* the name before it may hold anything */
    if (!p || p[1] != ' ')
        return false;
    p += 2;
    *ended = *p == 'Z' || *p == 'X';
    for (int field = 3; p && field < 22; field++) {
        p = strchr(p, ' ');
        p = p ? p + 1 : NULL;
    }
    *born = p ? atoll(p) : 0;
    return true;
#else
    (void)pid, (void)ended, (void)born;
    return false;
#endif
}

void system_give_way(void)
{
#if defined(SYS_gettid) /* where a thread has a priority of its own */
    setpriority(PRIO_PROCESS, (id_t)syscall(SYS_gettid), 5);
#endif
}

/* ---- memory ---- */

void system_large_pages(void *at, size_t bytes)
{
#if defined(MADV_HUGEPAGE)
    madvise(at, bytes, MADV_HUGEPAGE);
#else
    (void)at, (void)bytes;
#endif
}

int system_memory_file(const char *name)
{
#if defined(MFD_CLOEXEC)
    int fd = memfd_create(name, MFD_CLOEXEC);
    if (fd >= 0)
        return fd;
#endif
    (void)name;
    char path[] = "/tmp/squill-memory-XXXXXX";
    int other = mkstemp(path);
    if (other >= 0) {
        unlink(path);
        fcntl(other, F_SETFD, FD_CLOEXEC);
    }
    return other;
}

bool system_random(void *out, size_t n)
{
    return getentropy(out, n) == 0; /* Linux, BSD and macOS have it by that name */
}

/* ---- files ---- */

bool system_pipe(int ends[2], bool no_wait)
{
#if defined(__APPLE__)
    if (pipe(ends) != 0)
        return false;
    for (int i = 0; i < 2; i++) {
        fcntl(ends[i], F_SETFD, FD_CLOEXEC);
        if (no_wait)
            fcntl(ends[i], F_SETFL, O_NONBLOCK);
    }
    return true;
#else
    return pipe2(ends, O_CLOEXEC | (no_wait ? O_NONBLOCK : 0)) == 0;
#endif
}

static bool rename_at_once(int from_folder, const char *from, int to_folder, const char *to)
{
#if defined(__GLIBC__) && defined(RENAME_NOREPLACE)
    int code = renameat2(from_folder, from, to_folder, to, RENAME_NOREPLACE);
#elif defined(SYS_renameat2) && defined(RENAME_NOREPLACE) /* other libraries have no name for it */
    int code = (int)syscall(SYS_renameat2, from_folder, from, to_folder, to, RENAME_NOREPLACE);
#elif defined(RENAME_EXCL)
    int code = renameatx_np(from_folder, from, to_folder, to, RENAME_EXCL);
#else
    (void)from_folder, (void)from, (void)to_folder, (void)to;
    int code = -1;
    errno = ENOSYS;
#endif
    if (code != 0 && (errno == EINVAL || errno == ENOTSUP))
        errno = ENOSYS;
    return code == 0;
}

void system_write_soon(int fd, off_t from, off_t n)
{
#if defined(SYNC_FILE_RANGE_WRITE)
    sync_file_range(fd, from, n, SYNC_FILE_RANGE_WRITE);
#else
    (void)fd, (void)from, (void)n;
#endif
}

bool system_is_mount(int folder, const char *name)
{
#if defined(STATX_ATTR_MOUNT_ROOT)
    struct statx st;
    return statx(folder, name, AT_SYMLINK_NOFOLLOW, 0, &st) == 0 &&
           (st.stx_attributes & STATX_ATTR_MOUNT_ROOT);
#else
    struct stat above, there; /* a mount within one file system is not seen */
    return fstat(folder, &above) == 0 && fstatat(folder, name, &there, AT_SYMLINK_NOFOLLOW) == 0 &&
           above.st_dev != there.st_dev;
#endif
}

const char *system_mark(const char *path)
{
#if defined(FS_IOC_GETFLAGS)
    int flags = 0, fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK);
    bool known = fd >= 0 && ioctl(fd, FS_IOC_GETFLAGS, &flags) == 0;
    if (fd >= 0)
        close(fd);
    if (known && (flags & FS_IMMUTABLE_FL))
        return "it is marked as immutable (chattr -i takes that away)";
    if (known && (flags & FS_APPEND_FL))
        return "it is marked as append-only (chattr -a takes that away)";
#elif defined(UF_IMMUTABLE)
    struct stat st;
    if (stat(path, &st) == 0 && (st.st_flags & (UF_IMMUTABLE | SF_IMMUTABLE)))
        return "it is marked as immutable (chflags takes that away)";
    if (stat(path, &st) == 0 && (st.st_flags & (UF_APPEND | SF_APPEND)))
        return "it is marked as append-only (chflags takes that away)";
#else
    (void)path;
#endif
    return NULL;
}

/* ---- the same on all of them ---- */

uint64_t system_now_ms(void)
{
    struct timespec t;
    clock_gettime(CLOCK_MONOTONIC, &t);
    return (uint64_t)t.tv_sec * 1000u + (uint64_t)t.tv_nsec / 1000000u;
}

bool system_thread(pthread_t *thread, void *(*run)(void *), void *ctx)
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

mode_t system_umask(void)
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

bool system_rename_new(int from_folder, const char *from, int to_folder, const char *to)
{
    if (rename_at_once(from_folder, from, to_folder, to))
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

ssize_t system_read_full(int fd, char *to, size_t cap)
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
