#include "base/folder.h"

#include "base/bytes.h"
#include "base/for_root.h"
#include "base/mem.h"

#include <dirent.h>
#include <errno.h>
#include <fcntl.h>
#include <ftw.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <time.h>
#include <unistd.h>

bool folder_read(const char *path, bool (*entry)(int fd, const char *name, void *ctx), void *ctx)
{
    DIR *d = opendir(path);
    if (!d)
        return false;
    bool more = true;
    for (const struct dirent *e; more && (e = readdir(d));)
        if (strcmp(e->d_name, ".") != 0 && strcmp(e->d_name, "..") != 0)
            more = entry(dirfd(d), e->d_name, ctx);
    closedir(d);
    return true;
}

bool folder_at(const char *path)
{
    struct stat st;
    return stat(path, &st) == 0 && S_ISDIR(st.st_mode);
}

/* Where temporary files go; root takes no word of others for it. */
static const char *temporary(void)
{
    const char *tmp = getenv("TMPDIR");
    if (tmp && tmp[0] == '/' && (geteuid() != 0 || for_root_safe(tmp)))
        return tmp;
    return "/tmp";
}

char *folder_private(const char *name)
{
    Bytes path = {0};
    char *real = realpath(temporary(), NULL); /* so that no link on the way can be led elsewhere */
    if (geteuid() == 0 && (!real || !for_root_safe(real))) {
        free(real);
        errno = EACCES;
        return NULL;
    }
    bytes_printf(&path, "%s/%s-XXXXXX", real ? real : temporary(), name);
    free(real);
    if (mkdtemp(path.at))
        return path.at;
    bytes_free(&path);
    return NULL;
}

static int remove_one(const char *path, const struct stat *st, int type, struct FTW *at)
{
    (void)st;
    (void)type;
    (void)at;
    remove(path);
    return 0;
}

void folder_remove(const char *path)
{
    enum { OPEN_AT_ONCE = 16 };
    nftw(path, remove_one, OPEN_AT_ONCE, FTW_DEPTH | FTW_PHYS | FTW_MOUNT);
}

static bool sweep_one(int fd, const char *name, void *ctx)
{
    enum { OLD = 3600 /* s */ };
    const char *wanted = ctx;
    size_t n = strlen(wanted);
    struct stat st;
    Bytes path = {0};
    if (strncmp(name, wanted, n) != 0 || name[n] != '-' || fstatat(fd, name, &st, AT_SYMLINK_NOFOLLOW) != 0 ||
        !S_ISDIR(st.st_mode) || st.st_uid != geteuid() || st.st_mtime > time(NULL) - OLD)
        return true;
    bytes_printf(&path, "%s/%s", temporary(), name);
    folder_remove(path.at);
    bytes_free(&path);
    return true;
}

void folder_private_sweep(const char *name)
{
    folder_read(temporary(), sweep_one, (void *)name);
}

/* Goes down a path from its first folder that is there, making what is missing. As root, nothing is made
 * below a folder that somebody else could change, and what is made is entered itself and no link put in its
 * place. */
int folder_open_made(const char *path)
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
        (fstat(fd, &st) != 0 || st.st_uid != 0 || !(for_root_alone(&st) || (st.st_mode & S_ISVTX)))) {
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

bool folder_make(const char *path)
{
    int fd = folder_open_made(path);
    if (fd >= 0)
        close(fd);
    return fd >= 0;
}
