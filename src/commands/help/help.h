/* Help: pages that lie over the text, and what else the Help menu has for beginners. */
#ifndef HELP_H
#define HELP_H

#include "ui/editor.h"

extern const Command *const help_commands[];

/* Shows a text as a page of help, from that byte on. */
void help_show_text(Editor *ed, const char *title, const Bytes *text, size_t at);

/* Shows a page that lists where the help has the words; false when it does not. */
bool help_search(Editor *ed, const char *words);

#endif
