/* The person's file of keys. Reading it is the script room's work. */
#ifndef KEYS_FILE_H
#define KEYS_FILE_H

#include "config/config.h"

typedef enum KeyWish { KEY_RUNS, KEY_IS_FREE, KEY_AS_SHIPPED } KeyWish;

/* Has a key run a command line from now on, or nothing, or what it runs without that file; the line of that
 * key in the file is changed, the others are left alone. `keep` false: for this run only. False with the
 * reason in e. */
bool keys_file_put(Config *c, Key key, KeyWish wish, const char *command_line, bool keep, Err *e);

#endif
