#include "base/paths.h"

#include "base/bytes.h"
#include "base/mem.h"

#include <limits.h>
#include <pwd.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

const char *path_base(const char *path)
{
    const char *slash = strrchr(path, '/');
    return slash ? slash + 1 : path;
}

char *path_folder(const char *path)
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

char *path_in(const char *folder, const char *name)
{
    Bytes b = {0};
    bytes_printf(&b, "%s%s%s", folder, strcmp(folder, "/") == 0 ? "" : "/", name);
    return b.at;
}

char *path_full(const char *path)
{
    const char *name = path_base(path);
    bool plain = *name && strcmp(name, ".") != 0 && strcmp(name, "..") != 0;
    char real[PATH_MAX];
    if (plain) {
        char *folder = name == path       ? mem_string(".")
                       : name == path + 1 ? mem_string("/")
                                          : mem_string_n(path, (size_t)(name - path) - 1);
        bool known = realpath(folder, real) != NULL;
        free(folder);
        if (known)
            return path_in(real, name);
    } else if (realpath(path, real)) {
        return mem_string(real);
    }
    if (path[0] == '/')
        return tidy(path);
    if (!getcwd(real, sizeof real))
        return mem_string(path);
    char *joined = path_in(real, path);
    char *full = tidy(joined);
    free(joined);
    return full;
}

const char *path_home(void)
{
    const char *h = getenv("HOME");
    if (h && h[0] == '/')
        return h;
    const struct passwd *me = getpwuid(getuid());
    return me && me->pw_dir[0] == '/' ? me->pw_dir : NULL;
}

char *path_expand_home(const char *path)
{
    if (path[0] != '~' || (path[1] != '/' && path[1] != 0) || !path_home())
        return mem_string(path);
    Bytes b = {0};
    bytes_printf(&b, "%s%s", path_home(), path + 1);
    return b.at;
}

char *path_short_home(const char *path)
{
    const char *above = path_home();
    size_t n = above ? strlen(above) : 0;
    if (n < 2 || strncmp(path, above, n) != 0 || (path[n] != '/' && path[n] != 0))
        return mem_string(path);
    Bytes b = {0};
    bytes_printf(&b, "~%s", path + n);
    return b.at;
}
