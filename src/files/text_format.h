/* The outer form of a text file: what its line ends, letters and indentation look like. */
#ifndef TEXT_FORMAT_H
#define TEXT_FORMAT_H

#include "text/text.h"

typedef enum LineEnds { ENDS_LF, ENDS_CRLF, ENDS_MIXED } LineEnds;

typedef struct TextFormat {
    LineEnds ends;
    bool utf8;       /* no byte seen that is no UTF-8 */
    bool indented;   /* the text has indented lines, from which the next two are; else they are the usual */
    bool tabs;       /* lines are indented by tabs */
    unsigned indent; /* cells of one level of indentation */
} TextFormat;

/* Judges by the first 64 KiB. */
TextFormat text_format_of(Text t);
/* The same lines with these ends; false when there is no memory. */
bool text_format_convert(Text t, LineEnds ends, Text *out);
/* Is there a zero byte among the first 64 KiB? No text has one. */
bool text_format_is_binary(Text t);
/* What Enter inserts. */
const char *text_format_line_end(const TextFormat *f);
/* As shown on the status line. */
const char *text_format_ends_name(const TextFormat *f);

#endif
