#include "base/folder.h"

#include <dirent.h>
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
