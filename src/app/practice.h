/* Copies of the sample files, to practise on. */
#ifndef PRACTICE_H
#define PRACTICE_H
#include "app/editor.h"

/* Makes a new folder with them, if there is none yet in this run: Editor.practice_folder. */
bool practice_make(Editor *ed, Err *e);

#endif
