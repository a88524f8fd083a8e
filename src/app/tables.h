/* The tables of commands, one file for each; commands.c puts them together. */
#ifndef TABLES_H
#define TABLES_H
#include "app/commands.h"

enum {
    N_FILE_COMMANDS = 19,
    N_EDIT_COMMANDS = 15,
    N_MARK_COMMANDS = 8,
    N_LINES_COMMANDS = 10,
    N_SEARCH_COMMANDS = 9,
    N_GO_COMMANDS = 14,
    N_VIEW_COMMANDS = 17,
    N_TOOLS_COMMANDS = 11,
    N_HELP_COMMANDS = 12,
    N_KEY_COMMANDS = 11,
};

extern const Command file_commands[N_FILE_COMMANDS];
extern const Command edit_commands[N_EDIT_COMMANDS];
extern const Command mark_commands[N_MARK_COMMANDS];
extern const Command lines_commands[N_LINES_COMMANDS];
extern const Command search_commands[N_SEARCH_COMMANDS];
extern const Command go_commands[N_GO_COMMANDS];
extern const Command view_commands[N_VIEW_COMMANDS];
extern const Command tools_commands[N_TOOLS_COMMANDS];
extern const Command help_commands[N_HELP_COMMANDS];
extern const Command key_commands[N_KEY_COMMANDS];

#endif
