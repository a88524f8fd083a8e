/* What a question is about. That may be closed, or no longer asked, by the time it is answered: it is looked
 * up then. */
#ifndef ABOUT_H
#define ABOUT_H

#include "session/session.h"

typedef struct About {
    unsigned plan;
    FileId file;
    int64_t row; /* of the journal */
    DiskState disk;
} About;

/* A copy, for the ctx of a question. Free with free(). */
About *about_new(About a);

#endif
