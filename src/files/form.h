/* The outer form of a text file: what its line ends, letters and indentation look like. */
#ifndef FORM_H
#define FORM_H

#include "text.h"

typedef enum LineEnds { ENDS_LF, ENDS_CRLF, ENDS_MIXED } LineEnds;

typedef struct Form {
    LineEnds ends;
    bool utf8;       /* no byte seen that is no UTF-8 */
    bool tabs;       /* lines are indented by tabs */
    unsigned indent; /* cells of one level of indentation */
} Form;

/* Judges by the first 64 KiB. */
Form form_of(Text t);
/* Lines as people count them: what stands behind the last newline only if there is something. */
size_t lines_of(Text t);
/* What Enter inserts. */
const char *form_line_end(const Form *f);
/* As shown on the status line. */
const char *form_ends_name(const Form *f);

#endif
