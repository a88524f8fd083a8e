/* Following a text as its file grows: the screen goes along while the cursor is at the end. */
#ifndef FOLLOW_COMMAND_H
#define FOLLOW_COMMAND_H

#include "ui/editor.h"

extern const Command *const follow_commands[];

void follow_observe(Editor *ed);
/* Follows it, or does so as soon as it is read. False with the reason in e. */
bool follow_file(Editor *ed, OpenFile *f, Err *e);
/* The same with a pipe, in a text of its own, which is shown; takes over `fd`. */
void follow_input(Editor *ed, int fd);
/* Ends that; what is not the file's text any more is reloaded. */
void follow_end_of(Editor *ed, OpenFile *f);
/* A key was pressed: what came so far was seen. */
void follow_seen(Editor *ed);

#endif
