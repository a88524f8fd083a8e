/* Picking a command by its name. */
#ifndef PICK_H
#define PICK_H

#include "ui/editor.h"

extern const Command *const pick_commands[];

/* Has a command line chosen for something else than running it. ctx is freed by free_ctx. */
void pick_line(Editor *ed, const char *title, void (*chosen)(Editor *ed, const char *line, void *ctx),
               void *ctx, void (*free_ctx)(void *));

#endif
