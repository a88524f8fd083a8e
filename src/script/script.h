/* What the machine's and the person's files say: settings, keys, kinds, themes, recordings, scripts. The
 * machine's are read first. A wrong line is left out and noted in Config.problems. */
#ifndef SCRIPT_H
#define SCRIPT_H

#include "ui/editor.h"

/* All of it. The first thing that is wrong is reported; the others count. */
void script_load(Editor *ed);
/* Runs a script of n bytes, called `name` in messages, on the file that is shown. False with the reason in e,
 * and then nothing was changed. */
bool script_run(Editor *ed, const char *name, const char *bytes, size_t n, Err *e);
/* What scripts wanted called for files that were opened or saved meanwhile; for callers without a loop. */
void script_run_events(Editor *ed);
/* What it holds; after app_end. */
void script_free(Editor *ed);
/* Describes the calls of scripts for help. */
void script_describe(Editor *ed);
/* Settings, kinds and themes alone: nothing of it runs. */
void script_load_settings(Config *c);

#endif
