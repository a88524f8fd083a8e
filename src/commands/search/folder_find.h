/* Finding and replacing in all files of a folder: the commands, and what they ask. */
#ifndef FOLDER_FIND_H
#define FOLDER_FIND_H

#include "ui/editor.h"

extern const Command *const folder_find_commands[];

/* Searches these folders or files, by their full names, as the options of finding are, and shows the list;
 * `with`: of what would replace it, or NULL. False with the reason in e. */
bool folder_find_start(Editor *ed, const char *words, const char *with, char *const *folders, size_t n,
                       const char *names, Err *e);
/* Splits what a person typed into a full name and patterns of names: "/srv/harrow" and "*.ini" from
 * "/srv/harrow/" followed by "*.ini". The caller frees both. */
void folder_find_split(const char *typed, char **folder, char **names);

#endif
