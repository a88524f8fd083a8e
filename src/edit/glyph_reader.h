/* Reading characters of a text. */
#ifndef GLYPH_READER_H
#define GLYPH_READER_H

#include "base/glyph.h"
#include "text/text.h"

/* For many characters near each other a piece of the text is looked up once. Begin with {.text = t}; the text
 * must not change. */
typedef struct GlyphReader {
    Text text;
    size_t from; /* private: where `run` begins */
    TextRun run;
} GlyphReader;

/* The character at `at`; at the end its length is 0. */
void glyph_reader_next(GlyphReader *r, size_t at, Glyph *out);
/* The same for a single one. */
void glyph_reader_at(Text t, size_t at, Glyph *out);
/* The length of the whole character at `at`; 0 at the end. */
size_t glyph_reader_length(GlyphReader *r, size_t at);
/* The same of a character of which a Glyph may be a part. *width: the cells it takes when it begins `cells`
 * from the line's start. */
size_t glyph_reader_whole(GlyphReader *r, size_t at, size_t cells, size_t tab, size_t *width);

#endif
