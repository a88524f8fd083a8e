/* Lines of a text. They count from 0; a text has one more than it has newlines. */
#ifndef TEXT_LINE_H
#define TEXT_LINE_H

#include "text/text.h"

/* The line in which byte `at` stands (0 <= at <= length). */
size_t text_line_of(Text t, size_t at);
/* Where a line begins; a line after the last one begins at the text's end. */
size_t text_line_start(Text t, size_t line);
/* Where a line ends: the place of its '\n', or the text's end. */
size_t text_line_end(Text t, size_t line);

/* Lines as people count them: what stands after the last newline only if there is something. */
size_t text_line_count(Text t);

#endif
