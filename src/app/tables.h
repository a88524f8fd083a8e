/* The tables of commands, one file for each; commands.c puts them together. */
#ifndef TABLES_H
#define TABLES_H

#include "commands.h"

enum {
    N_FILE_COMMANDS = 3,
    N_EDIT_COMMANDS = 8,
    N_GO_COMMANDS = 7,
    N_KEY_COMMANDS = 9,
};

extern const Command file_commands[N_FILE_COMMANDS];
extern const Command edit_commands[N_EDIT_COMMANDS];
extern const Command go_commands[N_GO_COMMANDS];
extern const Command key_commands[N_KEY_COMMANDS];

#endif
