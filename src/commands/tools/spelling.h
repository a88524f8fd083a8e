/* Words that no dictionary of the machine knows. */
#ifndef SPELLING_H
#define SPELLING_H

#include "ui/editor.h"

extern const Command *const spelling_commands[];

/* Before the editor ends: no words are looked up any more. */
void spelling_end(Editor *ed);

#endif
