/* What the tests of the whole editor share: one without a terminal, on a clock that the test moves. */
#ifndef EDITORS_H
#define EDITORS_H

#include "app/app.h"

extern uint64_t editors_now; /* ms */

/* The time of day stands still from here on, or goes on. */
void editors_stop_the_clock(bool stop);

/* One that shows a text of n bytes without a name, painted once; nothing stored is used. */
Editor *editors_start(const char *text, size_t n, int rows, int cols);
/* A key, or keys by their names ("Ctrl+F t Enter"), each 20 ms after the one before. */
void editors_press_key(Editor *ed, Key k);
void editors_press(Editor *ed, const char *names);
/* Hammers on Esc, and waits a moment: there is nothing but the text then. */
void editors_plain(Editor *ed);
/* The keys pressed last, for failures. */
const char *editors_keys(void);
/* What a row of the screen shows, without blanks at its end; valid until the next call. */
const char *editors_row(Editor *ed, int row);
/* Are these words on the screen? */
bool editors_show(Editor *ed, const char *words);
/* Is this the text that is shown? */
bool editors_text_is(const Editor *ed, const char *want);

#endif
