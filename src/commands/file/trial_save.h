/* Saving on trial: the file takes effect at once, and is taken back by itself unless the person says in time
 * that it works. */
#ifndef TRIAL_SAVE_H
#define TRIAL_SAVE_H

#include "ui/editor.h"

extern const Command *const trial_commands[];

/* Root's helper is asked to save this file: is it to be on trial? Then these are the words for it, and once
 * it is saved, these the pipes to its guard, which are taken over. */
bool trial_save_by_root(Editor *ed, const OpenFile *f, char seconds[16], const char **command);
void trial_save_by_root_done(Editor *ed, OpenFile *f, int to, int from);

void trial_save_begin(Editor *ed);
void trial_save_free(Editor *ed);
/* Leaving: is a trial under way? Then it is asked about, and `leave` follows if that is wanted. */
bool trial_save_asks(Editor *ed, void (*leave)(Editor *ed));
/* Says what guards did since an editor was here last. */
void trial_save_tell_results(Editor *ed);

#endif
