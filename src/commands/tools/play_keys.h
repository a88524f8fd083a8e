/* The commands that play recordings. */
#ifndef PLAY_KEYS_H
#define PLAY_KEYS_H

#include "ui/editor.h"

extern const Command *const play_keys_commands[];

#endif
