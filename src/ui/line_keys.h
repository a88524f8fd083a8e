/* What keys mean in a line of text entry: what they do in the text, own keys and layouts included. */
#ifndef LINE_KEYS_H
#define LINE_KEYS_H

#include "frame/line_entry.h"
#include "ui/editor.h"

/* The key by which a line entry knows what `k` does in the text. */
Key line_keys_meaning(const Config *c, Key k);
/* Puts the newest clip into a line when `k` is the paste key; true then. */
bool line_keys_take_clip(Editor *ed, LineEntry *l, Key k);

#endif
