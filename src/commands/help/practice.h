/* Copies of the sample files, to practise on. */
#ifndef PRACTICE_H
#define PRACTICE_H

#include "session/session.h"

/* Makes a new folder with them, if there is none yet in this run: Session.practice_folder. */
bool practice_make(Session *s, Err *e);

/* Removes them and the folder, at the end; what else was put there stays, and so does the folder then. */
void practice_remove(Session *s);

#endif
