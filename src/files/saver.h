/* Saving on a thread of its own, from a version that the main thread holds meanwhile: typing goes on. */
#ifndef SAVER_H
#define SAVER_H

#include "files/save.h"

typedef struct Saver Saver;

/* Begins to save `t`, which is kept until the end. What the wish asks to be called is called by the thread.
 * NULL when no thread can be started. */
Saver *saver_begin(const char *path, Text t, const SaveWish *wish);
/* Readable once it has ended. */
int saver_fd(const Saver *s);
bool saver_ended(const Saver *s);
/* How much is written, in percent. */
int saver_percent(const Saver *s);
/* Waits for the end and frees everything; the result is that of save_file. */
bool saver_finish(Saver *s, DiskState *disk, SaveFate *fate, Err *e);

#endif
