/* Replacing in all files of a folder, once the person has seen what would change: file by file, each saved as
 * always. */
#ifndef FOLDER_REPLACE_H
#define FOLDER_REPLACE_H

#include "ui/editor.h"

/* Asks whether what the list takes is to be replaced, and does it. */
void folder_replace_ask(Editor *ed);
/* Lists the files in which it was not done. */
void folder_replace_show_failures(Editor *ed);

#endif
