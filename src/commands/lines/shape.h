/* Putting lines into shape: paragraphs, columns, indentation, lines that are alike or match. */
#ifndef SHAPE_H
#define SHAPE_H

#include "config/registry.h"

extern const Command *const shape_commands[];

#endif
