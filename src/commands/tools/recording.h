/* Recording what a person presses. */
#ifndef RECORDING_H
#define RECORDING_H

#include "input/recorded.h"
#include "ui/editor.h"

extern const Command *const recording_commands[];

void recording_begin(Editor *ed);
void recording_free(Editor *ed);
/* What a person does next, before it is done. `pasted`: this key counts as a part of a paste; `goes_on`: one
 * that came before. */
void recording_note(Editor *ed, const Input *in, bool pasted, bool goes_on);
/* What was recorded last, or NULL. */
const Recorded *recording_last(const Editor *ed);
/* The recording that is kept under that name, or with NULL the last one; NULL when there is none, which is
 * said. */
const Recorded *recording_find(Editor *ed, const char *name);

#endif
