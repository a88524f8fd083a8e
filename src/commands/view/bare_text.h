/* Nothing but the text on the screen, to be copied with the terminal's mouse. */
#ifndef BARE_TEXT_H
#define BARE_TEXT_H

#include "config/registry.h"

extern const Command *const bare_text_commands[];

#endif
