/* Versions of a file that package managers leave beside it, known by the endings that their manuals give. */
#ifndef VERSIONS_H
#define VERSIONS_H

#include <stdbool.h>
#include <stddef.h>

typedef struct PackageVersion {
    char *path;
    const char *words; /* what it is, for people */
    bool newer;        /* it came with an upgrade, and was not taken */
} PackageVersion;

/* Those that lie beside a file of this machine, the newer ones first; *n of them. The caller frees each path
 * and all of it; NULL when there are none. */
PackageVersion *versions_beside(const char *path, size_t *n);
void versions_free(PackageVersion *all, size_t n);
/* Does a file lie in a work tree of git? Only looked at, nothing is asked. */
bool versions_in_work_tree(const char *path);

#endif
