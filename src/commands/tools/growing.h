/* Numbers that grow with each use, and letters and dates likewise. */
#ifndef GROWING_H
#define GROWING_H

#include "ui/editor.h"

extern const Command *const growing_commands[];

void growing_begin(Editor *ed);
void growing_free(Editor *ed);

#endif
