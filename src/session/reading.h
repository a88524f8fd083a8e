/* Reading the rest of a large file, or of a pipe, while its beginning is looked at. */
#ifndef READING_H
#define READING_H

#include "files/loader.h"
#include "session/session.h"

#define BINARY_FORMAT "%s is look-only, as it is no text (zero bytes). {look-only} changes that"

/* Begins; takes over the loader. Reading pauses until the first screen is painted (Session.reading). */
void reading_begin(Session *s, OpenFile *f, Loader *loader);
/* Stops it: what is there can be looked at. False when nothing is being read. */
bool reading_stop(Session *s, OpenFile *f);
/* Waits for the end; false when it cannot be read, which was reported. */
bool reading_finish(Session *s, OpenFile *f);
/* The file is closed. */
void reading_forget(Session *s, OpenFile *f);

/* Why a text is not whole and so cannot be changed or saved now; false when it is whole. */
bool reading_unready(const OpenFile *f, char words[TASK_WORDS_MAX]);

#endif
