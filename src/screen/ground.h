/* What is behind the terminal's letters: what a person says, what the terminal answers, what it answered the
 * last time, or what its environment says. */
#ifndef GROUND_H
#define GROUND_H

#include "ui/editor.h"

typedef struct Ground {
    bool white; /* a light one, as far as is known */
    bool stays; /* so nearly black or white that letters for that can be read on it as it is */
} Ground;

Ground ground_now(Editor *ed);
/* Asks the terminal, once, after the first picture; nobody waits for the answer. */
void ground_ask(const Editor *ed);
/* It answered with a colour (0xRRGGBB). Too late to paint all again, it counts the next time. */
void ground_answered(Editor *ed, unsigned colour);
/* Before the terminal is given back: takes in an answer that may be on its way, so that the shell does not
 * get it. */
void ground_end(int terminal);

#endif
