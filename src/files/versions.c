#include "files/versions.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/paths.h"
#include "files/state.h"

#include <stdlib.h>
#include <string.h>

static const char newer[] = "the package's new version", older[] = "the version before the package's";

/* dpkg(1), ucf(1), rpm(8), pacman(8), apk-add(8) */
static const struct {
    const char *ending;
    bool newer;
} endings[] = {{".dpkg-dist", true}, {".dpkg-new", true}, {".ucf-dist", true}, {".ucf-new", true},
               {".rpmnew", true},    {".pacnew", true},   {".apk-new", true},  {".dpkg-old", false},
               {".ucf-old", false},  {".rpmsave", false}, {".rpmorig", false}, {".pacsave", false},
               {".pacorig", false}};

PackageVersion *versions_beside(const char *path, size_t *n)
{
    PackageVersion *all = NULL;
    *n = 0;
    for (size_t i = 0; i < sizeof endings / sizeof *endings; i++) {
        FileState state;
        char *name = mem_get(strlen(path) + strlen(endings[i].ending) + 1);
        strcat(strcpy(name, path), endings[i].ending);
        if (!state_of(name, &state) || state.type != FILE_PLAIN) {
            free(name);
            continue;
        }
        all = array_room(all, *n, sizeof *all);
        all[(*n)++] = (PackageVersion){name, endings[i].newer ? newer : older, endings[i].newer};
    }
    return all;
}

bool versions_in_work_tree(const char *path)
{
    char *at = mem_string(path);
    bool found = false;
    for (char *slash; !found && (slash = strrchr(at, '/'));) {
        FileState state;
        *slash = 0;
        char *git = path_in(*at ? at : "/", ".git");
        found = state_of(git, &state);
        free(git);
    }
    free(at);
    return found;
}

void versions_free(PackageVersion *all, size_t n)
{
    for (size_t i = 0; i < n; i++)
        free(all[i].path);
    free(all);
}
