/* Running commands. */
#ifndef COMMAND_H
#define COMMAND_H

#include "base/task.h"
#include "ui/editor.h"

/* The command of that name, or NULL. */
const Command *command_named(const Editor *ed, const char *name);
/* Why it does not apply now, written into `words` or lasting; NULL when it does. */
const char *command_disabled_reason(const Editor *ed, const Command *c, char words[TASK_WORDS_MAX]);
/* Runs it as often as `count` says, or says why it does not apply. `text` may be "". */
void command_run(Editor *ed, const Command *c, unsigned count, bool counted, const char *text);
/* Does something at each of many cursors, as one step if `flags` of a command say that it changes the text;
 * they say too whether once for a line. There must be cursors. */
void command_run_each(Editor *ed, unsigned flags, void (*run)(void *ctx, size_t i, size_t n), void *ctx);
/* Runs the command that stands on a key, as often as that. */
void command_run_binding(Editor *ed, const Binding *b, unsigned count, bool counted);
/* Runs "name arguments" as typed by a person; false and a message when there is no such command. */
bool command_run_line(Editor *ed, const char *line, unsigned count, bool counted);

/* Writes its first key, or with none its route, and returns it. */
enum { COMMAND_KEY_MAX = KEY_NAME_MAX };
const char *command_key(const Editor *ed, const Command *c, char out[COMMAND_KEY_MAX]);
/* The same by its name, in memory of the block in which it stands, for the arguments of a message. */
#define KEY_FOR(ed, name) command_key(ed, command_named(ed, name), (char[COMMAND_KEY_MAX]){0})

#endif
