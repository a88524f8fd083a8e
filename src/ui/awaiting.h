/* What a person waits for from a disk or a host: a layer that says so, and stops waiting by Esc. What answers
 * at once is never seen to be waited for. */
#ifndef AWAITING_H
#define AWAITING_H

#include "files/filesystem.h"
#include "ui/editor.h"

typedef void (*AwaitedDone)(Editor *ed, Errand *e, void *ctx);

/* Begins the errand and calls `done` with what came of it, perhaps at once; never, when the person backs out
 * of it. After either `free_ctx` (or NULL) is called. What the errand loaded may be taken over. */
void await_errand(Editor *ed, const Errand *what, AwaitedDone done, void *ctx, void (*free_ctx)(void *ctx));

#endif
