/* The terminal itself: taking it over, giving it back at every exit, and the size. */
#ifndef TERMINAL_H
#define TERMINAL_H

#include "err.h"

#include <stdbool.h>
#include <stddef.h>

typedef struct Terminal {
    int fd;     /* the keyboard */
    bool ascii; /* it can show ASCII only */
} Terminal;

/* Takes over the controlling terminal: own screen, raw keys, paste and focus reports.
 * From here on it is restored at every exit, by signals too. */
bool terminal_open(Terminal *t, Err *e);
void terminal_close(Terminal *t);
/* Gives the terminal back, stops the program, and takes over again when it goes on. */
void terminal_suspend(Terminal *t);
/* Gives the terminal to a shell until that ends. */
void terminal_shell(Terminal *t);
/* After the program was continued: whoever had the terminal meanwhile may have changed it. */
void terminal_retake(void);
/* Asks the system for the size and tells curses. */
void terminal_size(const Terminal *t, int *rows, int *cols);
/* A string of the terminal's description by its terminfo name, or NULL. */
const char *terminal_capability(const char *name);
/* Mouse reports on or off. */
void terminal_mouse(bool on);
/* A bar between characters, or a block on them, where the terminal can (DECSCUSR). */
void terminal_cursor(bool bar);
/* Sends bytes past curses; it must not be in the middle of painting. Nothing is sent to
 * terminals that may not understand sequences of their own kind. */
void terminal_send(const char *bytes, size_t n);
/* Forgets what was typed but not yet read. */
void terminal_discard(const Terminal *t);

/* A pipe that gets a byte for each signal that the loop must see: 'W' the size changed,
 * 'T' asked to end, 'S' asked to stop, 'C' continued. Returns the end to read from. */
int terminal_signals(void);

#endif
