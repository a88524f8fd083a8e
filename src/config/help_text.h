/* The pages of help as they are written: read part by part, so that each reader can lay them out as wide as
 * it is.
 *
 * "= Title" is a heading, "- term  what it does" an item (two blanks between, lines that go on are indented),
 * other indented lines are left as they are, and all else are paragraphs, which an empty line ends. */
#ifndef HELP_TEXT_H
#define HELP_TEXT_H

#include "base/bytes.h"

#include <stdbool.h>

typedef enum HelpPart { HELP_HEADING, HELP_WORDS, HELP_ITEM, HELP_CODE } HelpPart;

typedef struct HelpBlock {
    HelpPart part;
    bool gap;    /* an empty line stands before it */
    Bytes term;  /* of an item */
    Bytes words; /* on one line; code without its indentation */
} HelpBlock;

/* Reads the next one, from `*at` on; false at `end`. Zeroed before the first call, freed by help_block_free.
 */
bool help_text_next(const char **at, const char *end, HelpBlock *b);
void help_block_free(HelpBlock *b);

#endif
