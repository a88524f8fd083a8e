#include "base/folder.h"

#include "base/bytes.h"

#include <dirent.h>
#include <ftw.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>

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

char *folder_private(const char *name)
{
    const char *tmp = getenv("TMPDIR");
    Bytes path = {0};
    bytes_printf(&path, "%s/%s-XXXXXX", tmp && tmp[0] == '/' ? tmp : "/tmp", name);
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
