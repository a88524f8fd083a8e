/* Reading what stands after a command's name. A word may stand in quotation marks: in double ones \" \\ \n
 * and \t stand for a quotation mark, a backslash, a line's end and a tab; in single ones all is literal. */
#ifndef ARGUMENTS_H
#define ARGUMENTS_H

#include "base/bytes.h"

#include <stdbool.h>

/* Takes the next word from *line, and moves *line past it; false when there is none. It is added to `out`.
 */
bool arguments_word(const char **line, Bytes *out);
/* The same with all of the line, as it stands, when it does not begin with a quotation mark. *surplus is what
 * follows a quoted one. */
bool arguments_text(const char *line, Bytes *out, const char **surplus);
/* Bytes of the first of several commands, which end at ';' or a line's end outside of quotation marks. */
size_t arguments_command(const char *lines);
/* Adds the string as one word of a POSIX shell, whatever it holds. */
void arguments_for_shell(const char *word, Bytes *out);

#endif
