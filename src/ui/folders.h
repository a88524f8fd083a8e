/* What lies in the folder into which a person looks, here or on a host: asked for once, and kept until they
 * look into another one. */
#ifndef FOLDERS_H
#define FOLDERS_H

#include "config/offers.h"
#include "files/filesystem.h"
#include "ui/editor.h"

/* The entries of a folder, by its full name; valid until another one is asked for. NULL: they are not there,
 * for the reason in e, or without one while they are awaited; the uppermost panel is filled again then. */
const FolderEntries *folders_in(Editor *ed, const char *folder, Err *e);
/* What was kept may be old: the next time it is asked for. */
void folders_forget(Editor *ed);

typedef enum Lies { LIES_NOTHING, LIES_FILE, LIES_FOLDER } Lies;

/* What lies at a full name, as far as that is known without waiting. */
Lies folders_what(Editor *ed, const char *name);
/* The names of places on hosts that go on from `start`. False when it is none, or they are awaited, which was
 * said. */
bool folders_offer(Editor *ed, const char *start, Offers *o);

#endif
