/* Recordings that are kept under a name: in recordings.lua of the machine and of the person, as commands of
 * that name, and in a list. The file's form:
 *
 *   recordings = {
 *     ["tick-line"] = [[
 *   Home
 *   "* "
 *   Down
 *   ]],
 *   }
 *
 * with a recording in each pair of brackets, as input/recorded.h says. The name may be any text; the
 * command's is made of its letters and digits: "Tick the line" is played by tick-the-line. */
#ifndef KEPT_H
#define KEPT_H

#include "input/recorded.h"
#include "ui/editor.h"

extern const Command *const kept_commands[];

void kept_begin(Editor *ed);
void kept_free(Editor *ed);
/* Reads both files; what is wrong in them goes to Config.problems. */
void kept_load(Editor *ed);
/* Nothing lies over the text: reads again what was saved meanwhile. */
void kept_look(Editor *ed);
/* The one of that name, or NULL. */
const Recorded *kept_find(const Editor *ed, const char *name);

#endif
