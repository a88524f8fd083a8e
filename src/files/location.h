/* Where a file is: on this machine, or on a host that ssh reaches. It is kept and handed on everywhere as one
 * string, its full name: an absolute path, or ssh://[user@]host[:port]/path as RFC 3986 writes it. Only this
 * module takes such a name apart or puts one together. Two names of one place are the same string. */
#ifndef LOCATION_H
#define LOCATION_H

#include "base/bytes.h"
#include "base/err.h"

#include <stdbool.h>

typedef struct Location {
    char *user, *host; /* NULL: not said; no host: this machine */
    unsigned port;     /* 0: not said */
    char *path;        /* any bytes but zero; on a host "/~/notes" lies in the home folder there */
} Location;

/* Is it the name of a place on a host? Only its beginning is looked at. */
bool location_is_remote(const char *name);
/* Takes a name apart. False with the reason in e; nothing is left to free then. */
bool location_read(const char *name, Location *out, Err *e);
void location_free(Location *l);
/* The full name; the caller frees it. */
char *location_write(const Location *l);

/* The full name of what a person typed: the home folder may be "~", a path may be relative. One of a host
 * that cannot be understood stays as it is, so that whoever uses it says why. The caller frees it. */
char *location_full(const char *typed);
/* "tern:/etc/hosts" is no name of a place here; what was meant by it, which the caller frees, or NULL. */
char *location_meant(const char *typed);
/* The path on its own system. The caller frees it. */
char *location_path(const char *name);
/* The name of the folder that it lies in. The caller frees it. */
char *location_folder(const char *name);
/* The name of what lies in a folder. The caller frees it. */
char *location_in(const char *folder, const char *entry);
/* For people: "tern: /etc/hosts", or the path. The caller frees it. */
char *location_shown(const char *name);
/* Are both on one system, as one user of it? */
bool location_same_system(const char *a, const char *b);
/* The last part of its path. The caller frees it. */
char *location_base(const char *name);

#endif
