/* Telling a test when the program has done all it can: before it sleeps it writes a line to the descriptor
 * that SQUILL_PULSE_FD names, "TAKEN SENT TIMER HALF": bytes taken from the terminal and given to it so far,
 * ms until something is due by itself (-1: nothing), and 1 while a key is only half there. Nobody has to
 * guess how long to wait then. */
#ifndef PULSE_H
#define PULSE_H

#include <stdbool.h>

/* True if somebody wants it. */
bool pulse_begin(void);
void pulse_sleeps(unsigned long long taken, unsigned long long sent, int timer_ms, bool half);

#endif
