/* Opening files: those opened lately, and what lies in folders. */
#ifndef OPENING_H
#define OPENING_H

#include "ui/editor.h"

extern const Command *const opening_commands[];

/* Opens a path as a person typed it: "~" is home, a folder is a list. */
void opening_go(Editor *ed, const char *path);
/* Is it the name of a folder, to be walked? */
bool opening_is_folder(const char *path);

#endif
