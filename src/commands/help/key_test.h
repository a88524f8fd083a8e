/* The key tester: what did the keyboard send, and what does it do here? */
#ifndef KEY_TEST_H
#define KEY_TEST_H

#include "ui/editor.h"

extern const Command *const key_test_commands[];

void key_test_open(Editor *ed);
/* To find a key for that command line. */
void key_test_open_for(Editor *ed, const char *command_line);

#endif
