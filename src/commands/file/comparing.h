/* Comparing a text with its last save, its file on disk, or another text. */
#ifndef COMPARING_H
#define COMPARING_H

#include "ui/editor.h"

extern const Command *const comparing_commands[];

void comparing_observe(Editor *ed);
/* Shows the text against its file on disk, or against its last save. `then` is called when the view
 * is closed, or at once if there is nothing to show; it and `free_ctx` may be NULL. */
void comparing_with_disk(Editor *ed, OpenFile *f, void (*then)(Editor *, void *), void *ctx,
                         void (*free_ctx)(void *));
void comparing_with_save(Editor *ed, OpenFile *f, void (*then)(Editor *, void *), void *ctx,
                         void (*free_ctx)(void *));

#endif
