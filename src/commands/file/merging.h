/* Merging: what somebody else made of the file, or another version of it, and what is on the screen; and
 * going through the places where both changed the same. */
#ifndef MERGING_H
#define MERGING_H

#include "ui/editor.h"

extern const Command *const merging_commands[];

/* Merges what is on disk into the text. */
void merging_with_disk(Editor *ed, OpenFile *f);
/* Merges another version into it, of which nobody knows what both began from: every difference is asked
 * about. */
void merging_with(Editor *ed, OpenFile *f, Text theirs);
/* Goes to the first lines of the shown text that are marked as changed by both, and asks. */
void merging_go_first(Editor *ed);

#endif
