/* The properties of a text: a panel that shows its form and changes it. */
#ifndef PROPERTIES_H
#define PROPERTIES_H
#include "app/editor.h"

void properties_open(Editor *ed);
/* What the commands with arguments do; they say what happened. */
void properties_set_encoding(Editor *ed, const char *name);
void properties_read_as(Editor *ed, const char *name);
void properties_set_line_ends(Editor *ed, const char *name);
void properties_set_indent(Editor *ed, const char *words);

#endif
