/* The session as a whole: its beginning, what goes on by itself, its end. */
#ifndef SESSION_RUN_H
#define SESSION_RUN_H

#include "session/session.h"

Session *session_new(Notices *notices);
/* Waits for saves under way and brings unsaved work to safety; false, with which, when it could not be.
 * Nothing may be changed any more. */
bool session_end(Session *s, Err *e);
/* The same, and frees everything. The files' `closing` is called. */
void session_free(Session *s);
/* Goes on with all that goes on by itself. */
void session_poll(Session *s);
/* Waits for the next thing that happens, `most` ms at most, and goes on with it: for callers without a
 * loop. */
void session_pass(Session *s, int most);
/* Without a loop: until no plan waits for a disk or a host any more, or Session.rules.stop says so. */
void session_finish_plans(Session *s);
/* ms until that is due, -1: nothing is. */
int session_wait(const Session *s);
/* The program ends by a failure: lets the journal finish what it has. For signal handlers. */
void session_emergency(const Session *s);

#endif
