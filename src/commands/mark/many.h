/* Many places at once: the next same word or mark, all of them, a cursor on each marked line. */
#ifndef MANY_H
#define MANY_H

#include "ui/editor.h"

extern const Command *const many_commands[];

/* Before the editor ends: nothing is looked for any more. */
void many_end(Editor *ed);

#endif
