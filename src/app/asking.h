/* Asks the person what the session needs to know, and gives it the answers. */
#ifndef ASKING_H
#define ASKING_H
#include "app/editor.h"
#include "session/plan.h"

/* Asks the next question, if there is one and nothing lies over the text. */
void asking_look(Editor *ed);
/* Does something lie over the texts, so that none may be closed under it? */
bool asking_held(const Editor *ed);
/* The terminal has the focus again, or another pane was entered: has the file changed on disk? */
void asking_focus(Editor *ed);

/* What people ask for. A path may be NULL. */
void asking_begin(Editor *ed, PlanKind kind, const OpenFile *f, const char *path);

/* The list of everything that can be brought back. */
void asking_list(Editor *ed);
/* The same as lines of text, for a pipe. */
void asking_print(Editor *ed, Bytes *out);

#endif
