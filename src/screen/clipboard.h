/* The system's clipboard: set through the terminal's own sequence (OSC 52), which works
 * over a network too, and through a helper program where the desktop has one; read
 * through such a program. Nothing here waits. */
#ifndef CLIPBOARD_H
#define CLIPBOARD_H

#include "app/app.h"

typedef enum ClipFate {
    CLIP_GIVEN,
    CLIP_TOO_LONG, /* no way here takes so much */
    CLIP_DOUBTFUL, /* a multiplexer decides whether the terminal hears of it */
} ClipFate;

/* Gives a text to the clipboard, and to the multiplexer's own one. */
ClipFate clipboard_send(Text t);
/* Starts to read it; app_fetched is called when it has come. */
void clipboard_fetch(Editor *ed);
/* Where what is being read arrives, -1: nothing is under way. */
int clipboard_fd(void);
/* Takes in what has arrived there. */
void clipboard_take(Editor *ed);

#endif
