/* The guided lesson: steps on practice copies of the sample files, each noticed as
 * done by the real state of the text. */
#ifndef LESSON_H
#define LESSON_H
#include "app/editor.h"

typedef struct Lesson Lesson;

/* Begins at the first step, on a copy in the practice folder, which is made if need be. */
void lesson_start(Editor *ed);
/* To the next step or back, by hand. */
void lesson_go(Editor *ed, int by);
void lesson_stop(Editor *ed);
/* Looks whether the present step is done; after every input. */
void lesson_look(Editor *ed);
/* Rows it takes above the status line, 0 when none is going on. */
int lesson_height(const Editor *ed, const Frame *f);
void lesson_paint(Editor *ed, Frame *f, int row, int rows);
void lesson_free(Editor *ed);

/* Before a text is closed: a lesson on it ends. */
void lesson_forget(Editor *ed, const OpenFile *f);

#endif
