/* What the tests of the session share: one on files in the test's folder, with a journal there. */
#ifndef SESSIONS_H
#define SESSIONS_H

#include "session/keeper.h"

extern Notices sessions_notices; /* of all of them; its clock stands still but in sessions_tick */

/* `observer` may be NULL. */
Session *sessions_start(const SessionEvents *observer);
/* Opens a file of the test's folder. */
OpenFile *sessions_open(Session *s, const char *name);
bool sessions_writing(const Session *s);
/* Until nothing is being written. */
void sessions_finish_writing(Session *s);
/* Two seconds go by, and the journal writes what it has. */
void sessions_tick(Session *s);

#endif
