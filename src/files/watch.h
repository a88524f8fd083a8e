/* Notices from the system that a file changes, so that nobody has to look. */
#ifndef WATCH_H
#define WATCH_H

#include <stdbool.h>

/* Begin with {.fd = -1}. */
typedef struct Watch {
    int fd; /* readable when something happened; -1: nothing is watched */
} Watch;

/* Watches what has that path now, with links resolved. False where it is not there or the system does not
 * tell. */
bool watch_begin(Watch *w, const char *path);
/* Also whether a name comes into that folder; after watch_begin, or alone. */
bool watch_folder(Watch *w, const char *folder);
/* Did something happen to it? It may be nothing that counts. */
bool watch_news(Watch *w);
void watch_end(Watch *w);

#endif
