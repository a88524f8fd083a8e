#include "base/folder.h"

#include "base/bytes.h"
#include "base/sys.h"

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
    if (tmp && tmp[0] == '/' && (geteuid() != 0 || sys_safe_for_root(tmp)))
        return tmp;
    return "/tmp";
}

char *folder_private(const char *name)
{
    Bytes path = {0};
    char *real = realpath(temporary(), NULL); /* so that no link on the way can be led elsewhere */
    if (geteuid() == 0 && (!real || !sys_safe_for_root(real))) {
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
