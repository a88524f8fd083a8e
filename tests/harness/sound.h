/* What must be true of every Frame, whatever is on it. */
#ifndef SOUND_H
#define SOUND_H

#include "app/app.h"

/* Every cell is whole: wide ones have their right half, nothing is empty, nothing that a terminal would obey
 * is shown, the cursor is inside. Otherwise it says where, and false. */
bool frame_sound(const Frame *f);
/* Lays out the screen: that is true of it, and the rows that were kept from the last time look as they do
 * when all is painted again. */
bool screen_sound(Editor *ed);

#endif
