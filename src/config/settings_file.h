/* The person's file of settings. Reading it is the script room's work. */
#ifndef SETTINGS_FILE_H
#define SETTINGS_FILE_H

#include "config/config.h"

/* Its path; NULL when there is no home folder. The caller frees it. */
char *settings_file_path(void);
/* Writes what was set in this run to it, leaving its other lines alone. *n: how many. False with the reason
 * in e. */
bool settings_file_keep(Config *c, size_t *n, Err *e);

#endif
