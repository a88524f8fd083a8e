/* What there is about an open file: who else has it open, what .editorconfig asks for, copies of broken-off
 * saves, work to be recovered. */
#ifndef SESSION_AROUND_H
#define SESSION_AROUND_H

#include "session/session.h"

/* What .editorconfig asks for it. */
void session_follow_rules(Session *s, OpenFile *f);
/* Lets others see that it is being edited; f->used says if somebody has it already. */
void session_take_use(Session *s, OpenFile *f);
/* The version that lies beside a file as a save of it was broken off; false when it cannot be read. */
bool session_copy_text(Session *s, OpenFile *f, Text *t);
typedef enum CopyFate {
    COPY_LATER,
    COPY_TAKE /* into the text; it goes when that is saved */,
    COPY_REMOVE
} CopyFate;
void session_settle_copy(Session *s, OpenFile *f, CopyFate fate);
/* All of the text was taken from its file: looks at what it is like, and who else has it. */
void session_reloaded(Session *s, OpenFile *f);
/* All that there is about each of these, which were read whole: asked for all at once, as there may be
 * thousands. */
void session_look_around(Session *s, OpenFile *const *files, size_t n_files);

#endif
