/* Asking a checker of another machine, where the file lies: a line for the shell there, which takes the text
 * from standard input, and lays a copy down in a private folder if the checker wants one. */
#ifndef CHECK_THERE_H
#define CHECK_THERE_H

#include "base/bytes.h"
#include "kinds/judging.h"
#include "text/text.h"

enum { THERE_NOT_INSTALLED = 127, THERE_NOT_POSSIBLE = 126 /* exit statuses */ };

/* Can it be asked there? Not what needs to be fenced in, more than a copy of the text, or root; *why says so.
 */
bool check_there_can(const Check *c, const char **why);
/* The line for a shell; `path` is that of the text there, `bytes` are as they would be saved. */
void check_there_script(const Check *c, const char *path, Text bytes, Bytes *out);
/* What it said, with the real folder's name in place of the private one's. False when the line was not run to
 * its end there: then that is what ssh said. */
bool check_there_translate(const char *path, const Bytes *said, Bytes *out);

#endif
