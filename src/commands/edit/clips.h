/* Cutting, copying and pasting, and the shelf of the last fifty clips. */
#ifndef CLIPS_H
#define CLIPS_H

#include "ui/editor.h"

extern const Command *const clip_commands[];

void clips_begin(Editor *ed);
void clips_free(Editor *ed);
/* Cuts a piece onto the shelf. The same command given again adds to that clip, `in_front` of what it has or
 * after it. */
void clips_cut(Editor *ed, size_t from, size_t to, bool in_front);

#endif
