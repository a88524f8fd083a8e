/* The main loop: one poll() on the keyboard and the signals; it sleeps otherwise. */
#ifndef LOOP_H
#define LOOP_H

#include "app/app.h"

/* Runs until the editor leaves. Returns the program's exit status, or 2 with the reason in e
 * when the terminal cannot be used. */
int loop_run(Editor *ed, Err *e);

#endif
