/* The system's manual on the word at the cursor: the pages that the kind of the file names are looked through
 * for its entry, beside the keys. */
#ifndef MANUAL_H
#define MANUAL_H

#include "ui/editor.h"

extern const Command *const manual_commands[];

void manual_free(Editor *ed);

#endif
