/* The Lua side: settings and keys as plain data. */
#ifndef SCRIPT_H
#define SCRIPT_H

#include "base/notices.h"
#include "config/config.h"

/* Reads kinds and themes, settings.lua and keys.lua, those of the machine first, then the person's. A wrong
 * line is left out and noted in Config.problems, of which the first is reported in `notices`; the others
 * count. */
void script_load_settings(Config *c, Notices *notices);
/* Kinds and themes alone, once: they are the same for every text. What is wrong in them is reported by the
 * former. */
void script_load_data(void);

#endif
