/* Checking the text, and going to what is wrong in it. What needs no other program is checked by itself while
 * nobody types. */
#ifndef PROBLEMS_H
#define PROBLEMS_H

#include "ui/editor.h"

extern const Command *const problems_commands[];

void problems_begin(Editor *ed);
void problems_end(Editor *ed);
/* Goes to the first problem of a file, which is shown. */
void problems_go_first(Editor *ed, OpenFile *f);

/* Shows what the programs said, as a page of help. */
void problems_show_said(Editor *ed, OpenFile *f);

/* Tells what root's checkers have found, or `why` they could not be asked. */
void problems_tell(Editor *ed, OpenFile *f, const char *why);

#endif
