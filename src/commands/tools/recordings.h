/* The list of recordings: play, name, change and remove them. */
#ifndef RECORDINGS_H
#define RECORDINGS_H

#include "ui/editor.h"

extern const Command *const recordings_commands[];

#endif
