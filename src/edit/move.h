/* Moving in a text as a person does: by characters (grapheme clusters), words and lines. All positions are
 * bytes; results are always the start of a character or the end. */
#ifndef MOVE_H
#define MOVE_H

#include "base/glyph.h"
#include "text/text.h"

/* The first place in [from, to) where a character begins whatever stands before it, best after a blank; `to`
 * if there is none nearby. For places in the middle of long lines, which nobody wants to read from their
 * start. */
size_t move_to_sure_start(Text t, size_t from, size_t to);

/* One character on or back; stays put at the text's ends. "\r\n" is one character. */
size_t move_right(Text t, size_t at);
size_t move_left(Text t, size_t at);

/* Start of the line that holds `at`; its end, before "\n" or "\r\n". */
size_t move_line_start(Text t, size_t at);
size_t move_line_end(Text t, size_t at);
/* The same by the line's number. *next: where the line after it begins, or the text's end. */
size_t move_end_of_line(Text t, size_t line, size_t *next);
/* The first character of the line that is no blank; its end if there are only blanks. */
size_t move_past_blanks(Text t, size_t at);

/* To the end of this or the next word; to the start of this or the word before. */
size_t move_word_right(Text t, size_t at);
size_t move_word_left(Text t, size_t at);
/* The word that `at` is in or right after; of letters if there is one, else of other signs. False when
 * there is none. */
bool move_word_at(Text t, size_t at, size_t *from, size_t *to);

#endif
