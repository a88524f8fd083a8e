/* The key tester: what did the keyboard send, and what does it do here? */
#ifndef KEYTEST_H
#define KEYTEST_H
#include "app/editor.h"

void keytest_open(Editor *ed);

#endif
