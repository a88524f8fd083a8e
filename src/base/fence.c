#include "base/fence.h"

#include <errno.h>

#if defined(__linux__) && defined(__has_include)
#if __has_include(<linux/seccomp.h>) && __has_include(<linux/filter.h>) && __has_include(<linux/capability.h>)
#define FENCE_LINUX
#endif
#endif

#ifdef FENCE_LINUX

#include "base/mem.h"
#include "base/paths.h"
#include "base/programs.h"

#include <elf.h>
#include <fcntl.h>
#include <linux/audit.h>
#include <linux/capability.h>
#include <linux/filter.h>
#include <linux/seccomp.h>
#include <stddef.h>
#include <stdint.h>
#include <stdlib.h>
#include <string.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/socket.h>
#include <sys/syscall.h>
#include <unistd.h>

/* ---- landlock(7), as far as older headers do not know it ---- */

enum {
    LL_CREATE = 444,
    LL_ADD_RULE = 445,
    LL_RESTRICT = 446,
    LL_VERSION = 1,
    LL_BENEATH = 1,
    LL_EXECUTE = 1 << 0,
    LL_WRITE_FILE = 1 << 1,
    LL_READ_FILE = 1 << 2,
    LL_READ_FOLDER = 1 << 3,
    LL_FIRST_FS = (1 << 13) - 1, /* all of version 1, */
    LL_REFER = 1 << 13,          /* and what came in 2, */
    LL_TRUNCATE = 1 << 14,       /* 3 */
    LL_IOCTL = 1 << 15,          /* and 5 */
    LL_BIND = 1,                 /* 4: TCP's bind, */
    LL_CONNECT = 2,              /* and connect */
    LL_SCOPES = 3,               /* 6: abstract sockets and signals to others */
};

typedef struct Ruleset {
    uint64_t fs, net, scoped;
} Ruleset;

typedef struct __attribute__((packed)) Beneath {
    uint64_t allowed;
    int32_t folder;
} Beneath;

static int landlock_version(void)
{
    return (int)syscall(LL_CREATE, NULL, 0, LL_VERSION);
}

bool fence_is_possible(void)
{
    return landlock_version() >= 1;
}

static bool allow(int rules, const char *path, uint64_t what)
{
    Beneath b = {.allowed = what, .folder = open(path, O_PATH | O_CLOEXEC)};
    if (b.folder < 0)
        return false;
    bool ok = syscall(LL_ADD_RULE, rules, LL_BENEATH, &b, 0) == 0;
    close(b.folder);
    return ok;
}

/* ---- what it takes to execute a program ---- */

/* The loader that an ELF file names, of either word size; false when it names none. */
static bool loader_of(int fd, const unsigned char *head, char *out, size_t cap)
{
    bool wide = head[EI_CLASS] == ELFCLASS64;
    const Elf64_Ehdr *h64 = (const void *)head;
    const Elf32_Ehdr *h32 = (const void *)head;
    uint64_t at = wide ? h64->e_phoff : h32->e_phoff;
    unsigned n = wide ? h64->e_phnum : h32->e_phnum;
    for (unsigned i = 0; i < n && i < 64; i++) {
        union {
            Elf64_Phdr wide;
            Elf32_Phdr narrow;
        } p;
        size_t size = wide ? sizeof p.wide : sizeof p.narrow;
        if (pread(fd, &p, size, (off_t)(at + i * size)) != (ssize_t)size)
            return false;
        if ((wide ? p.wide.p_type : p.narrow.p_type) != PT_INTERP)
            continue;
        ssize_t len = pread(fd, out, cap - 1, (off_t)(wide ? p.wide.p_offset : p.narrow.p_offset));
        out[len > 0 ? len : 0] = 0;
        return len > 0;
    }
    return false;
}

static bool is_shell(const char *path)
{
    static const char *const names[] = {"sh", "bash", "dash", "ash", "ksh", "zsh"};
    for (size_t i = 0; i < sizeof names / sizeof *names; i++)
        if (strcmp(path_base(path), names[i]) == 0)
            return true;
    return false;
}

/* A program, and what it names to be executed by: an ELF file's loader, or the program of a script's first
 * line, after env too. A shell script is there to begin other programs: it may, and they are fenced in, too.
 */
static bool allow_program(int rules, const char *path, int depth)
{
    union {
        unsigned char bytes[256];
        Elf64_Ehdr wide;
        Elf32_Ehdr narrow;
    } head = {{0}};
    char next[256] = "";
    int fd = open(path, O_RDONLY | O_CLOEXEC);
    if (fd < 0)
        return allow(rules, path, LL_EXECUTE); /* one that may be executed, and not read, is no script */
    ssize_t n = pread(fd, head.bytes, sizeof head.bytes - 1, 0);
    bool ok = n > 0 && depth < 4 && allow(rules, path, LL_EXECUTE);
    if (ok && n > 4 && memcmp(head.bytes, ELFMAG, SELFMAG) == 0) {
        if (loader_of(fd, head.bytes, next, sizeof next))
            ok = allow(rules, next, LL_EXECUTE);
    } else if (ok && head.bytes[0] == '#' && head.bytes[1] == '!') {
        char *rest = NULL, *line = (char *)head.bytes + 2;
        line[strcspn(line, "\n")] = 0;
        const char *word = strtok_r(line, " \t", &rest), *argument = strtok_r(NULL, " \t", &rest);
        ok = word && allow_program(rules, word, depth + 1);
        char *named =
            ok && argument && strcmp(path_base(word), "env") == 0 ? programs_find(argument, false) : NULL;
        ok = ok && (!named || allow_program(rules, named, depth + 1));
        if (ok && is_shell(named ? named : word))
            ok = allow(rules, "/", LL_EXECUTE);
        free(named);
    }
    close(fd);
    return ok;
}

bool fence_make(Fence *f)
{
    int version = landlock_version();
    f->rules = -1;
    if (version < 1) {
        errno = ENOSYS;
        return false;
    }
    uint64_t writes = LL_FIRST_FS & ~(LL_EXECUTE | LL_READ_FILE | LL_READ_FOLDER);
    writes |= (version >= 2 ? LL_REFER : 0u) | (version >= 3 ? LL_TRUNCATE : 0u);
    writes = f->writes ? 0 : writes;
    Ruleset r = {.fs = writes | LL_EXECUTE | (version >= 5 && !f->writes ? LL_IOCTL : 0u),
                 .net = version >= 4 ? (f->binds ? 0u : LL_BIND) | LL_CONNECT : 0,
                 .scoped = version >= 6 ? LL_SCOPES : 0};
    size_t size = version >= 6 ? sizeof r : version >= 4 ? 2 * sizeof r.fs : sizeof r.fs;
    f->rules = (int)syscall(LL_CREATE, &r, size, 0);
    if (f->rules < 0)
        return false;
    fcntl(f->rules, F_SETFD, FD_CLOEXEC);
    if (writes)
        allow(f->rules, "/dev/null", LL_WRITE_FILE | (r.fs & (LL_TRUNCATE | LL_IOCTL)));
    if (allow_program(f->rules, f->program, 0) &&
        (!f->folder || !writes || allow(f->rules, f->folder, writes)))
        return true;
    fence_free(f);
    return false;
}

void fence_free(Fence *f)
{
    if (f->rules >= 0)
        close(f->rules);
    f->rules = -1;
}

/* ---- system calls that are refused ---- */

/* Rights and attributes of files, which landlock leaves alone; and what only root can do to the machine. */
static const unsigned refused[] = {
#ifdef SYS_chmod
    SYS_chmod,
    SYS_chown,
    SYS_lchown,
    SYS_utime,
    SYS_utimes,
    SYS_futimesat,
    SYS_mknod,
#endif
    SYS_fchmod,
    SYS_fchmodat,
    452 /* fchmodat2 */,
    SYS_fchown,
    SYS_fchownat,
    SYS_utimensat,
    SYS_mknodat,
    SYS_setxattr,
    SYS_lsetxattr,
    SYS_fsetxattr,
    SYS_removexattr,
    SYS_lremovexattr,
    SYS_fremovexattr,
    SYS_ptrace,
    SYS_process_vm_writev,
    SYS_mount,
    SYS_umount2,
    SYS_pivot_root,
    SYS_chroot,
    SYS_setns,
    SYS_unshare,
    SYS_init_module,
    SYS_finit_module,
    SYS_delete_module,
    SYS_kexec_load,
    SYS_reboot,
    SYS_swapon,
    SYS_swapoff,
    SYS_sethostname,
    SYS_setdomainname,
    SYS_settimeofday,
    SYS_clock_settime,
    SYS_acct,
    SYS_quotactl,
    SYS_add_key,
    SYS_keyctl,
    SYS_request_key,
    SYS_bpf,
    SYS_perf_event_open,
    425 /* io_uring_setup */,
};

enum { N_REFUSED = sizeof refused / sizeof *refused };

#if defined(__x86_64__)
#define FENCE_ARCH AUDIT_ARCH_X86_64
#elif defined(__aarch64__)
#define FENCE_ARCH AUDIT_ARCH_AARCH64
#elif defined(__riscv) && __riscv_xlen == 64
#define FENCE_ARCH AUDIT_ARCH_RISCV64
#endif

#define LOAD(what) BPF_STMT(BPF_LD | BPF_W | BPF_ABS, (unsigned)offsetof(struct seccomp_data, what))
#define JUMP(test, value, yes, no) BPF_JUMP(BPF_JMP | (test) | BPF_K, (value), (yes), (no))
#define RETURN(value) BPF_STMT(BPF_RET | BPF_K, (value))

/* Sockets to services of this machine would lead out: they have them do things. Names can still be looked up.
 */
static bool refuse_calls(void)
{
#ifdef FENCE_ARCH
    struct sock_filter code[N_REFUSED + 16];
    unsigned n = 0;
    code[n++] = (struct sock_filter)LOAD(arch);
    code[n++] = (struct sock_filter)JUMP(BPF_JEQ, FENCE_ARCH, 1, 0);
    code[n++] = (struct sock_filter)RETURN(SECCOMP_RET_ERRNO | ENOSYS);
    code[n++] = (struct sock_filter)LOAD(nr);
    code[n++] =
        (struct sock_filter)JUMP(BPF_JGE, 0x40000000, 0, 1); /* the same calls by other numbers (x32) */
    code[n++] = (struct sock_filter)RETURN(SECCOMP_RET_ERRNO | ENOSYS);
    code[n++] = (struct sock_filter)JUMP(BPF_JEQ, SYS_socket, 0, 4);
    code[n++] = (struct sock_filter)LOAD(args[0]);
    code[n++] = (struct sock_filter)JUMP(BPF_JEQ, AF_UNIX, 0, 1);
    code[n++] = (struct sock_filter)RETURN(SECCOMP_RET_ERRNO | EACCES);
    code[n++] = (struct sock_filter)RETURN(SECCOMP_RET_ALLOW);
    for (unsigned i = 0; i < N_REFUSED; i++)
        code[n++] = (struct sock_filter)JUMP(BPF_JEQ, refused[i], (unsigned char)(N_REFUSED - i), 0);
    code[n++] = (struct sock_filter)RETURN(SECCOMP_RET_ALLOW);
    code[n++] = (struct sock_filter)RETURN(SECCOMP_RET_ERRNO | EPERM);
    struct sock_fprog program = {(unsigned short)n, code};
    return prctl(PR_SET_SECCOMP, SECCOMP_MODE_FILTER, &program) == 0;
#else
    return true; /* this processor's numbers are not known here; the rest holds */
#endif
}

static bool give_up_powers(bool binds)
{
    struct __user_cap_header_struct head = {_LINUX_CAPABILITY_VERSION_3, 0};
    uint32_t kept = binds ? 1u << CAP_NET_BIND_SERVICE : 0;
    struct __user_cap_data_struct left[2] = {{kept, kept, 0}, {0, 0, 0}};
    if (geteuid() != 0)
        return true;
    for (int i = 0; i < 64; i++)
        if (i >= 32 || !(kept & 1u << i))
            prctl(PR_CAPBSET_DROP, i, 0, 0, 0);
    return syscall(SYS_capset, &head, left) == 0;
}

#ifdef __GLIBC__
typedef enum __rlimit_resource FenceLimit;
#else
typedef int FenceLimit;
#endif

static void bound(unsigned what, rlim_t most)
{
    struct rlimit l;
    if (getrlimit((FenceLimit)what, &l) != 0)
        return;
    l.rlim_max = l.rlim_max < most ? l.rlim_max : most;
    l.rlim_cur = l.rlim_cur < l.rlim_max ? l.rlim_cur : l.rlim_max;
    setrlimit((FenceLimit)what, &l);
}

bool fence_enter(const Fence *f)
{
    enum { MEGABYTE = 1 << 20, FILE_MOST = 64, MEMORY_MOST = 2048 /* megabytes */ };
    bound(RLIMIT_CORE, 0);
    bound(RLIMIT_FSIZE, (rlim_t)FILE_MOST * MEGABYTE);
    bound(RLIMIT_DATA, (rlim_t)MEMORY_MOST * MEGABYTE);
    bound(RLIMIT_CPU, f->seconds);
    return (f->powers || give_up_powers(f->binds)) && prctl(PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0) == 0 &&
           syscall(LL_RESTRICT, f->rules, 0) == 0 && refuse_calls();
}

#else

bool fence_is_possible(void)
{
    return false;
}

bool fence_make(Fence *f)
{
    f->rules = -1;
    errno = ENOSYS;
    return false;
}

bool fence_enter(const Fence *f)
{
    (void)f;
    return false;
}

void fence_free(Fence *f)
{
    (void)f;
}

#endif
