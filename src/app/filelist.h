/* Going to files: the list of open ones, and the one to open others from. */
#ifndef FILELIST_H
#define FILELIST_H
#include "app/editor.h"

/* The open texts with their lines, size and state. */
void filelist_show(Editor *ed);
/* Open files first, then those opened lately, then what lies in a folder; `path`: what is typed to
 * begin with, or "". */
void filelist_open(Editor *ed, const char *path);
/* Asks for a file to be inserted at the cursor. */
void filelist_insert(Editor *ed, const char *path);
/* Opens a path as a person typed it: "~" is home, a folder is a list. */
void filelist_go(Editor *ed, const char *path);
/* To the next text (1) or the one before (-1). */
void filelist_step(Editor *ed, int by);

#endif
