/* The guided lesson: steps on practice copies of the sample files, each noticed as done by the real state of
 * the text. */
#ifndef LESSON_H
#define LESSON_H

#include "ui/editor.h"

extern const Command *const lesson_commands[];

/* A lesson ends when its text is closed. */
void lesson_observe(Editor *ed);
/* Begins at the first step, on a copy in the practice folder, which is made if need be. */
void lesson_start(Editor *ed);
/* Looks whether the present step is done; after every input. */
void lesson_look(Editor *ed);
void lesson_free(Editor *ed);

#endif
