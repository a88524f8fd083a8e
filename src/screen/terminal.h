/* The terminal itself: taking it over, giving it back at every exit, and the size. */
#ifndef TERMINAL_H
#define TERMINAL_H

#include "base/err.h"

#include <stdbool.h>
#include <stddef.h>

typedef struct Terminal {
    int fd;          /* the keyboard */
    bool ascii;      /* it can show ASCII only */
    bool alone;      /* it is not the controlling terminal: no signal tells when its size changes */
    char doubt[160]; /* what a person should know about how it was chosen; "": nothing */
} Terminal;

/* Takes over the controlling terminal, or without one that of standard input, output or errors: own screen,
 * raw keys, paste and focus reports. A kind of terminal that is not known is taken for what most are.
 * From here on it is restored at every exit, by signals too. */
bool terminal_open(Terminal *t, Err *e);
void terminal_close(Terminal *t);
/* What is done first when the program fails or has no memory left; it may do only what signal handlers may.
 */
void terminal_emergency(void (*handler)(void));
/* Gives the terminal back, stops the program, and takes over again when it goes on. False, and nothing is
 * done, when nobody would let it go on. */
bool terminal_suspend(Terminal *t);
/* Gives the terminal to a shell until that ends. */
void terminal_shell(Terminal *t);
/* Says what it is about, and lends the terminal (as a descriptor) to what `use` does with it. */
void terminal_lend(Terminal *t, const char *about, void (*use)(int terminal, void *ctx), void *ctx);
/* Asks on a lent terminal for what nobody is to see; false when that was broken off. */
bool terminal_secret(int terminal, const char *question, char *out, size_t cap);
/* Says what it is about, and runs a program that may ask on the terminal, its standard input and output being
 * pipes to and from us: `talk` gets their ends, and closes them. Returns what that returns. */
bool terminal_ask(Terminal *t, const char *about, char *const argv[],
                  bool (*talk)(int to, int from, void *ctx), void *ctx);
/* After the program was continued: others may have changed the terminal meanwhile. */
void terminal_retake(void);
/* Asks the system for the size and tells curses. */
void terminal_size(const Terminal *t, int *rows, int *cols);
/* A string of the terminal's description by its terminfo name, or NULL. */
const char *terminal_capability(const char *name);
/* Mouse reports on or off. */
void terminal_mouse(bool on);
/* Is it one that answers what it does not understand with silence? */
bool terminal_answers(void);
/* A bar between characters, or a block on them, where the terminal can (DECSCUSR). */
void terminal_cursor(bool bar);
/* Sends bytes past curses; it must not be in the middle of painting. Nothing is sent to
 * terminals that may not understand sequences of their own kind. */
void terminal_send(const char *bytes, size_t n);
/* The same for what the terminal's own description says. */
void terminal_raw(const char *bytes, size_t n);
/* Hands what curses and we have written to the terminal, as much as it takes; nothing here ever waits for a
 * terminal that does not read. */
void terminal_flush(void);
/* Is there something left that it did not take? */
bool terminal_waits(void);
/* How many bytes it has taken. */
unsigned long long terminal_sent(void);
/* Forgets what was typed but not yet read; returns how many bytes. */
size_t terminal_discard(const Terminal *t);

/* A pipe that gets a byte for each signal that the loop must see: 'W' the size changed,
 * 'T' asked to end, 'S' asked to stop, 'C' continued. Returns the end to read from. */
int terminal_signals(void);
/* Was the program asked to end, whether that was read or not? */
bool terminal_ends(void);

#endif
