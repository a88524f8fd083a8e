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

#define KEPT_FILE_NAME "recordings.lua"

/* One of them; it is a command too. */
typedef struct Kept {
    Command command; /* first: a command that runs is found as what it is part of */
    Recorded what;
    char *name, *label;
    char *own;        /* the command's name */
    bool there;       /* it was found when the files were read last */
    bool machine;     /* from the machine's file, which is not ours to change */
    unsigned line, n; /* where it stands in its file, from 1, and how many lines it has */
} Kept;

/* `play` runs such a command: Editor.running.now is the first part of its record. */
void kept_begin(Editor *ed, void (*play)(Editor *ed, const Args *args));
void kept_free(Editor *ed);
/* Reads both files; what is wrong in them goes to Config.problems. */
void kept_load(Editor *ed);
/* Nothing lies over the text, and none of them is played: reads again what was saved meanwhile. */
void kept_look(Editor *ed);
/* The one of that name, or else of that command's name, or NULL; valid until the next kept_look. */
const Kept *kept_named(const Editor *ed, const char *name);
size_t kept_count(const Editor *ed);
const Kept *kept_at(const Editor *ed, size_t i);
/* Keeps a copy of `what` under `name`, in place of the one called `old` (NULL: as a new one); `what` NULL:
 * takes that away. In the person's file, or with --plain for this run. False when it failed, which is said.
 */
bool kept_put(Editor *ed, const char *old, const char *name, const Recorded *what);

#endif
