/* How a file differs on its disk from what is known of it, found out beside the keys: a disk answers at once,
 * after a while, or never. */
#ifndef LOOKING_H
#define LOOKING_H

#include "session/session.h"

typedef struct Looked {
    bool ok; /* else nobody knows, for the reason in e */
    DiskNews news;
    DiskState now;
    Err e;
} Looked;

/* Called when it is known, at once where the disk answers at once. The file may be closed by it. */
typedef void (*LookingTold)(void *ctx, OpenFile *f, const Looked *l);

/* Looks at a file that has a name. What was asked of it before and is not answered yet is not asked any
 * more. */
void looking_begin(Session *s, OpenFile *f, LookingTold told, void *ctx);
/* The file is closed, has another name, or nobody wants to know. */
void looking_forget(OpenFile *f);

#endif
