/* What keeps work safe while it is edited: the journal, and knowing about others who
 * change the same file. */
#ifndef RECOVERY_H
#define RECOVERY_H

#include "editor.h"
#include "journal.h"

/* Hands to the journal what changed, when it is time; recovery_wait: ms until then, -1: nothing is due. */
void recovery_look(Editor *ed);
int recovery_wait(const Editor *ed);
/* A text was saved, its changes were given up on purpose, or it is closed. */
void recovery_saved(Editor *ed, OpenFile *f);
void recovery_dropped(Editor *ed, OpenFile *f);
/* Everything to the journal, at the end of the program: what was dropped by answering so is marked. */
void recovery_end(Editor *ed);

/* Asks what is to be known about the text that is shown: unsaved work from an earlier run,
 * somebody else who edits it, another version on disk. Does nothing while something lies over it. */
void recovery_ask(Editor *ed);
/* A file was just opened: is there something to ask? */
void recovery_opened(Editor *ed, OpenFile *f);
/* The terminal has the focus again, or another pane was entered. */
void recovery_focus(Editor *ed);

/* The list of everything that can be brought back. */
void recovery_list(Editor *ed);
/* The same as lines of text, for a pipe. */
void recovery_print(Editor *ed, Bytes *out);

#endif
