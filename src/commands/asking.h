/* Asks the person what the session needs to know, and gives it the answers. */
#ifndef ASKING_H
#define ASKING_H

#include "session/plan.h"
#include "ui/editor.h"

/* Asks the next question, if there is one and nothing lies over the text. */
void asking_look(Editor *ed);
/* The terminal has the focus again, or another pane was entered: has the file changed on disk? */
void asking_focus(Editor *ed);
/* Its file was removed, or renamed by somebody else. */
void asking_tell_gone(Editor *ed, const OpenFile *f);
/* Begins a plan, as a person wants it, and asks what it needs. The file and the path may be NULL. */
void asking_begin(Editor *ed, PlanKind kind, const OpenFile *f, const char *path);

#endif
