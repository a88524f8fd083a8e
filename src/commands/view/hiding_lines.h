/* Hiding lines that do not count: comments and blank ones, those without a match, a change or a problem. */
#ifndef HIDING_LINES_H
#define HIDING_LINES_H

#include "config/registry.h"

#include "ui/editor.h"

/* Gives up what is looked for. */
void hiding_lines_end(Editor *ed);

extern const Command *const hiding_commands[];

#endif
