/* What .editorconfig files ask for a file: https://editorconfig.org, read by its library. */
#ifndef RULES_H
#define RULES_H

#include "files/encoding.h"
#include "files/text_format.h"

typedef enum Wish { WISH_NONE, WISH_NO, WISH_YES } Wish;

typedef struct Rules {
    bool indentation, tab_width, line_ends, charset; /* is it asked for? */
    TextFormat format;                               /* tabs, indent, ends, where asked for */
    unsigned width;                                  /* of a line at most, in cells; 0: none is asked for */
    unsigned tab;                                    /* cells */
    Encoding encoding;
    Wish trim, last_newline;
} Rules;

/* For a full path; nothing is asked for when there are no such files, or when root would follow
 * one that others may write. */
Rules rules_for(const char *full_path);

#endif
