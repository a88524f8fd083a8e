/* Playing keys that were recorded: so many times, as often as it works, or on each marked line. A playing is
 * one step for undo, whatever it does and in however many files. Long ones go on in parts, between which the
 * screen is painted; keys wait meanwhile, but for Esc, which stops it. */
#ifndef PLAYING_H
#define PLAYING_H

#include "input/recorded.h"
#include "ui/editor.h"

typedef enum PlayHow {
    PLAY_TIMES,
    PLAY_WHILE_IT_WORKS, /* until a step fails, the text ends, or nothing changes any more */
    PLAY_MARKED_LINES,
} PlayHow;

void playing_begin(Editor *ed);
void playing_free(Editor *ed);
/* What keys are played, and what is changed then, goes on when the present command has ended. `what` is
 * copied; `name` is how it is called, NULL: it has none. */
void playing_start(Editor *ed, const Recorded *what, const char *name, PlayHow how, unsigned times);
/* Ends it where it is, without a word. */
void playing_stop(Editor *ed);
/* Is something being played? */
bool playing_on(const Editor *ed);
/* Plays on for about so many milliseconds. */
void playing_go_on(Editor *ed, int ms);
/* How many recordings play each other; and plays until only so many are left, for callers that cannot wait
 * for the loop. */
size_t playing_depth(const Editor *ed);
void playing_finish(Editor *ed, size_t depth);
/* Milliseconds until it wants to go on, -1: nothing is played. */
int playing_wait(const Editor *ed);

#endif
