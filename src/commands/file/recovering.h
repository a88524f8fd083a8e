/* Bringing back work that was not saved, or was dropped, and whole versions of saves that were broken off. */
#ifndef RECOVERING_H
#define RECOVERING_H

#include "ui/editor.h"

extern const Command *const recovering_commands[];

/* Asks about work of an earlier run, which there is; about a whole version that lies beside the file. */
void recovering_ask(Editor *ed, OpenFile *f);
void recovering_ask_copy(Editor *ed, OpenFile *f);
/* The list of everything that can be brought back. */
void recovering_list(Editor *ed);
/* The same as lines of text, for a pipe; false, with the reason in e, when it cannot be looked at. */
bool recovering_print(Editor *ed, Bytes *out, Err *e);

#endif
