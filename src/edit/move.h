/* Places in a text as a person sees them: characters (grapheme clusters), words,
 * columns. All positions are bytes; results are always the start of a character or the end. */
#ifndef MOVE_H
#define MOVE_H

#include "base/glyph.h"
#include "text/text.h"

/* The character at `at`; at the end its length is 0. */
void glyph_at(Text t, size_t at, Glyph *out);

/* The same for many characters near each other, for whom a piece of the text is looked up once.
 * Begin with {.text = t}. */
typedef struct GlyphReader {
    Text text;
    size_t from; /* private: where `run` begins */
    TextRun run;
} GlyphReader;

void glyph_next(GlyphReader *r, size_t at, Glyph *out);
/* The length of the whole character at `at`, of which a Glyph may be a part. *width: the cells it takes when
 * it begins `cells` from the line's start. */
size_t glyph_whole(GlyphReader *r, size_t at, size_t cells, size_t tab, size_t *width);
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

/* Cells from the line's start to `at`; tabs reach to the next multiple of `tab`. */
size_t cells_before(Text t, size_t at, size_t tab);
/* The same from another place of the line, which is taken for a tab stop. */
size_t cells_between(Text t, size_t from, size_t to, size_t tab);
/* The place in `line` that lies at, or next before, that many cells from its start. */
size_t place_at_cells(Text t, size_t line, size_t cells, size_t tab);
/* The same from another place, not after `end`. */
size_t place_after(Text t, size_t from, size_t end, size_t cells, size_t tab);

/* The character's number within its line, from 0, and back (past the end: the line's end). */
size_t chars_before(Text t, size_t at);
size_t place_at_char(Text t, size_t line, size_t chars);
/* Characters from one place to another, `most` at most. Both are starts of characters. */
size_t chars_between(Text t, size_t from, size_t to, size_t most);

/* How many cells a glyph takes that begins `cells` from the line's start. */
size_t glyph_cells(const Glyph *g, size_t cells, size_t tab);

#endif
