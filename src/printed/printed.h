/* What is printed of the tables, for others to read: manual pages, completions of shells, lists. */
#ifndef PRINTED_H
#define PRINTED_H

#include "base/bytes.h"
#include "base/err.h"
#include "config/config.h"

/* Prints one by its name; `names`: those of commands for the table of keys. False with what there is in e. */
bool printed_print(const Config *c, const char *what, char *const *names, Bytes *out, Err *e);

/* ---- its parts ---- */
void printed_page(const Config *c, Bytes *out);     /* squill(1) */
void printed_settings(const Config *c, Bytes *out); /* squill-settings(5) */
void printed_scripts(const Config *c, Bytes *out);  /* squill-scripts(5) */
void printed_bash(const Config *c, Bytes *out);
void printed_zsh(const Config *c, Bytes *out);
void printed_fish(const Config *c, Bytes *out);

#endif
