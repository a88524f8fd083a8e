/* What must be true of every Frame, whatever is on it. */
#ifndef SOUND_H
#define SOUND_H

#include "frame.h"

/* Every cell is whole: wide ones have their right half, nothing is empty, nothing that a terminal would obey
 * is shown, the cursor is inside. Otherwise it says where, and false. */
bool frame_sound(const Frame *f);

#endif
