#include "edit/glyph_reader.h"

/* Enough of the bytes from `at` on to tell the character there; copied to buffer where they lie in pieces. */
static size_t window_at(GlyphReader *r, size_t at, char *buffer, const char **start)
{
    if (at < r->from || at - r->from >= r->run.len) {
        r->from = at;
        r->run = text_run(r->text, at);
    }
    size_t left = r->run.len - (at - r->from);
    *start = r->run.at + (at - r->from);
    if (left >= GLYPH_MAX_BYTES)
        return GLYPH_MAX_BYTES;
    bool two_ascii = left >= 2 && (unsigned char)(*start)[0] < 0x80 && (unsigned char)(*start)[1] < 0x80;
    if (two_ascii || at + left >= text_len(r->text))
        return left;
    *start = buffer;
    return text_read(r->text, at, buffer, GLYPH_MAX_BYTES);
}

void glyph_reader_next(GlyphReader *r, size_t at, Glyph *out)
{
    char buffer[GLYPH_MAX_BYTES];
    const char *start;
    size_t n = window_at(r, at, buffer, &start);
    glyph_read(start, n, out);
}

size_t glyph_reader_length(GlyphReader *r, size_t at)
{
    char buffer[GLYPH_MAX_BYTES];
    const char *start;
    size_t n = window_at(r, at, buffer, &start);
    return glyph_length(start, n);
}

void glyph_reader_at(Text t, size_t at, Glyph *out)
{
    GlyphReader r = {.text = t};
    glyph_reader_next(&r, at, out);
}

size_t glyph_reader_whole(GlyphReader *r, size_t at, size_t cells, size_t tab, size_t *width)
{
    char buffer[GLYPH_MAX_BYTES];
    const char *start;
    size_t n = window_at(r, at, buffer, &start), len = glyph_length(start, n), used;
    Glyph g;
    *width = 0;
    for (used = 0; used < len; used += g.bytes) {
        glyph_read_known(start + used, used ? glyph_length(start + used, n - used) : len, &g);
        *width += glyph_cells(&g, cells + *width, tab);
    }
    return used;
}
