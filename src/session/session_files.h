/* The files of a session come and go: opening, reading again, another name, closing. */
#ifndef SESSION_FILES_H
#define SESSION_FILES_H

#include "session/session.h"

/* Adds a text without a name; takes over `t`. */
OpenFile *session_add(Session *s, Text t);
/* Opens a path, or finds the text that has it already. NULL with the reason in e. */
OpenFile *session_open(Session *s, const char *path, Err *e);
/* What is asked of the state folder for texts just opened: their undo history, work to be recovered, who else
 * has them. Not before they are on the screen, as a disk may be slow, but before the next key. */
void session_settle(Session *s);
/* The part of it that others wait for: they see that the texts just opened are in use. */
void session_show_use(Session *s);
/* Closes a text, whatever its changes: they can be recovered for some days. Nothing may be writing it. */
void session_close(Session *s, OpenFile *f);
/* Takes the bytes on disk, as they were loaded just now, in place of the text, read in an encoding (NULL: the
 * one it has). */
bool session_read_again(Session *s, OpenFile *f, Text raw, const DiskState *disk, const Encoding *as);
/* Its file has another name now. */
void session_renamed(Session *s, OpenFile *f, const char *path);
/* Closes all, as the session ends; nothing is kept of them. */
void session_forget_all(Session *s);

#endif
