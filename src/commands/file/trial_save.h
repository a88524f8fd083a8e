/* Saving on trial: the file takes effect at once, and is taken back by itself unless the person says in time
 * that it works. */
#ifndef TRIAL_SAVE_H
#define TRIAL_SAVE_H

#include "ui/editor.h"

extern const Command *const trial_commands[];

void trial_save_begin(Editor *ed);
void trial_save_free(Editor *ed);
/* Leaving: is a trial under way? Then it is asked about, and `leave` follows if that is wanted. */
bool trial_save_asks(Editor *ed, void (*leave)(Editor *ed));
/* Says what guards did since an editor was here last. */
void trial_save_tell_results(Editor *ed);

#endif
