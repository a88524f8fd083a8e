#include "edit/move.h"

#include "edit/measure.h"
#include "text/text_line.h"

#include <string.h>
#include <utf8proc.h>

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

void glyph_next(GlyphReader *r, size_t at, Glyph *out)
{
    char buffer[GLYPH_MAX_BYTES];
    const char *start;
    size_t n = window_at(r, at, buffer, &start);
    glyph_read(start, n, out);
}

void glyph_at(Text t, size_t at, Glyph *out)
{
    GlyphReader r = {.text = t};
    glyph_next(&r, at, out);
}

size_t glyph_whole(GlyphReader *r, size_t at, size_t cells, size_t tab, size_t *width)
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

size_t move_to_sure_start(Text t, size_t from, size_t to)
{
    char bytes[256];
    if (from == 0)
        return 0;
    size_t n = text_read(t, from - 1, bytes, sizeof bytes), sure = 0;
    n = from - 1 + n > to ? to - (from - 1) : n;
    for (size_t i = 1; i + 3 < n; i++) {
        if (!character_begins(bytes, i, n))
            continue;
        if (bytes[i - 1] == ' ')
            return from - 1 + i;
        sure = sure ? sure : i;
    }
    return sure ? from - 1 + sure : to;
}

size_t move_right(Text t, size_t at)
{
    char buffer[GLYPH_MAX_BYTES];
    const char *start;
    GlyphReader r = {.text = t};
    size_t n = window_at(&r, at, buffer, &start);
    return at + glyph_length(start, n);
}

size_t move_left(Text t, size_t at)
{
    char buffer[4 * GLYPH_MAX_BYTES];
    if (at == 0)
        return 0;
    size_t n = at < sizeof buffer ? at : sizeof buffer;
    text_read(t, at - n, buffer, n);
    /* Begin after the nearest line end or between two plain letters: a character begins there. */
    size_t from = n - 1;
    if (from > 0 && buffer[from] == '\n')
        from--;
    while (
        from > 0 && buffer[from - 1] != '\n' &&
        !(buffer[from] >= 0x20 && buffer[from] < 0x7f && buffer[from - 1] >= 0x20 && buffer[from - 1] < 0x7f))
        from--;
    /* Where the window cuts a character, its rest is no character of its own. */
    for (int i = 0;
         i < 3 && from == (size_t)i && at > n && from + 1 < n && ((unsigned char)buffer[from] & 0xc0) == 0x80;
         i++)
        from++;
    return at - n + from + glyph_before(buffer + from, n - from);
}

size_t move_line_start(Text t, size_t at)
{
    return text_line_start(t, text_line_of(t, at));
}

size_t move_end_of_line(Text t, size_t line, size_t *next)
{
    size_t end = text_line_end(t, line);
    *next = end < text_len(t) ? end + 1 : end;
    bool crlf = *next > end && text_byte(t, end - 1) == '\r' && end > text_line_start(t, line);
    return crlf ? end - 1 : end;
}

size_t move_line_end(Text t, size_t at)
{
    size_t next;
    return move_end_of_line(t, text_line_of(t, at), &next);
}

size_t move_past_blanks(Text t, size_t at)
{
    size_t p = move_line_start(t, at);
    for (int c = text_byte(t, p); c == ' ' || c == '\t';)
        c = text_byte(t, ++p);
    return p;
}

typedef enum Class { CLASS_BLANK, CLASS_WORD, CLASS_OTHER } Class;

static Class class_at(Text t, size_t at)
{
    char buffer[4];
    int32_t code;
    size_t n = text_read(t, at, buffer, 4);
    if (n == 0)
        return CLASS_BLANK;
    utf8_decode(buffer, n, &code);
    if (code == ' ' || code == '\t' || code == '\n' || code == '\r' || code == 0xa0)
        return CLASS_BLANK;
    if (code == '_')
        return CLASS_WORD;
    if (code < 0)
        return CLASS_OTHER;
    utf8proc_category_t c = utf8proc_category(code);
    return c >= UTF8PROC_CATEGORY_LU && c <= UTF8PROC_CATEGORY_NO ? CLASS_WORD : CLASS_OTHER;
}

size_t move_word_right(Text t, size_t at)
{
    size_t end = text_len(t);
    while (at < end && class_at(t, at) == CLASS_BLANK)
        at = move_right(t, at);
    if (at == end)
        return at;
    Class c = class_at(t, at);
    while (at < end && class_at(t, at) == c)
        at = move_right(t, at);
    return at;
}

size_t move_word_left(Text t, size_t at)
{
    while (at > 0 && class_at(t, move_left(t, at)) == CLASS_BLANK)
        at = move_left(t, at);
    if (at == 0)
        return 0;
    Class c = class_at(t, move_left(t, at));
    while (at > 0 && class_at(t, move_left(t, at)) == c)
        at = move_left(t, at);
    return at;
}

size_t glyph_cells(const Glyph *g, size_t cells, size_t tab)
{
    if (g->n_codes == 1 && g->codes[0] == '\t')
        return tab - cells % tab;
    return (size_t)g->width;
}

enum {
    FAR = 48 * 1024, /* bytes from which a way is worth measuring in pieces */
    ANY_TAB = 0,     /* where only characters count */
};

/* Where pieces are to be tried first on such a way. */
static size_t first_try(size_t from, size_t to)
{
    return to > from + FAR ? 0 : (size_t)-1;
}

/* A step along a line: pieces that were measured, letters as most are, or one character. `again` is where
 * pieces are to be tried next. False when a whole character would pass a limit. */
static bool step(Text t, LinePos *w, LinePos limit, size_t tab, size_t *again)
{
    if (w->at >= *again)
        measure_skip(t, w, limit, tab, again);
    GlyphSpan most = {limit.at - w->at, limit.cells - w->cells, limit.chars - w->chars};
    if (*again > w->at && most.bytes > *again - w->at)
        most.bytes = *again - w->at;
    TextRun run = text_run(t, w->at);
    GlyphSpan span = glyph_span(run.at, run.len, most);
    *w = (LinePos){w->at + span.bytes, w->cells + span.cells, w->chars + span.chars};
    if (span.bytes || w->at >= limit.at)
        return w->at < limit.at && w->cells < limit.cells && w->chars < limit.chars;
    /* Whole characters, though they may be shown in parts. */
    GlyphReader r = {.text = t};
    size_t width, next = w->at + glyph_whole(&r, w->at, w->cells, tab ? tab : 1, &width),
                  cells = w->cells + width;
    if (cells > limit.cells || w->chars >= limit.chars)
        return false;
    *w = (LinePos){next, cells, w->chars + 1};
    return w->at < limit.at && w->cells < limit.cells && w->chars < limit.chars;
}

static const size_t FAR_AWAY = (size_t)-1 / 2;

size_t cells_between(Text t, size_t from, size_t to, size_t tab)
{
    LinePos w = {.at = from}, limit = {to, FAR_AWAY, FAR_AWAY};
    size_t again = first_try(from, to);
    while (w.at < to) { /* up to the last character, of which a part may be meant */
        LinePos before = w;
        if (!step(t, &w, limit, tab, &again) && w.at > to)
            w = before;
        if (w.at == before.at)
            break;
    }
    Glyph g;
    for (; w.at < to; w.at += g.bytes) {
        glyph_at(t, w.at, &g);
        w.cells += glyph_cells(&g, w.cells, tab);
    }
    return w.cells;
}

size_t cells_before(Text t, size_t at, size_t tab)
{
    return cells_between(t, move_line_start(t, at), at, tab);
}

size_t place_after(Text t, size_t from, size_t end, size_t cells, size_t tab)
{
    LinePos w = {.at = from}, limit = {end, cells, FAR_AWAY};
    size_t again = first_try(from, end);
    while (w.at < limit.at && w.cells < cells && step(t, &w, limit, tab, &again))
        continue;
    return w.at;
}

size_t place_at_cells(Text t, size_t line, size_t cells, size_t tab)
{
    size_t next, end = move_end_of_line(t, line, &next);
    return place_after(t, text_line_start(t, line), end, cells, tab);
}

size_t chars_between(Text t, size_t from, size_t to, size_t most)
{
    LinePos w = {.at = from}, limit = {to, FAR_AWAY, most};
    size_t again = first_try(from, to);
    while (w.at < to && w.chars < most && step(t, &w, limit, ANY_TAB, &again))
        continue;
    return w.chars;
}

size_t chars_before(Text t, size_t at)
{
    return chars_between(t, move_line_start(t, at), at, FAR_AWAY);
}

size_t place_at_char(Text t, size_t line, size_t chars)
{
    size_t start = text_line_start(t, line), next, end = move_end_of_line(t, line, &next);
    LinePos w = {.at = start}, limit = {end, FAR_AWAY, chars};
    size_t again = first_try(start, end);
    while (w.at < limit.at && w.chars < chars && step(t, &w, limit, ANY_TAB, &again))
        continue;
    return w.at;
}
