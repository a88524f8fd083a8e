/* Notices that the file that is shown changes on disk, also while nobody comes back to the terminal. */
#ifndef WATCHING_H
#define WATCHING_H

#include "ui/editor.h"

void watching_begin(Editor *ed);
void watching_free(Editor *ed);

#endif
