/* Cutting, copying and pasting, and the shelf of the last fifty clips. */
#ifndef CLIPS_H
#define CLIPS_H

#include "ui/editor.h"

extern const Command *const clip_commands[];

void clips_begin(Editor *ed);
void clips_free(Editor *ed);

#endif
