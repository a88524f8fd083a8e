#include "edit/cells.h"

#include "edit/glyph_reader.h"
#include "edit/measure.h"
#include "edit/move.h"
#include "text/text_line.h"

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
    size_t width, next = w->at + glyph_reader_whole(&r, w->at, w->cells, tab ? tab : 1, &width),
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
        glyph_reader_at(t, w.at, &g);
        w.cells += glyph_cells(&g, w.cells, tab);
    }
    return w.cells;
}

size_t cells_before(Text t, size_t at, size_t tab)
{
    return cells_between(t, move_line_start(t, at), at, tab);
}

size_t cells_place_after(Text t, size_t from, size_t end, size_t cells, size_t tab)
{
    LinePos w = {.at = from}, limit = {end, cells, FAR_AWAY};
    size_t again = first_try(from, end);
    while (w.at < limit.at && w.cells < cells && step(t, &w, limit, tab, &again))
        continue;
    return w.at;
}

size_t cells_place(Text t, size_t line, size_t cells, size_t tab)
{
    size_t next, end = move_end_of_line(t, line, &next);
    return cells_place_after(t, text_line_start(t, line), end, cells, tab);
}

size_t cells_chars_between(Text t, size_t from, size_t to, size_t most)
{
    LinePos w = {.at = from}, limit = {to, FAR_AWAY, most};
    size_t again = first_try(from, to);
    while (w.at < to && w.chars < most && step(t, &w, limit, ANY_TAB, &again))
        continue;
    return w.chars;
}

size_t cells_chars_before(Text t, size_t at)
{
    return cells_chars_between(t, move_line_start(t, at), at, FAR_AWAY);
}

size_t cells_place_of_char(Text t, size_t line, size_t chars)
{
    size_t start = text_line_start(t, line), next, end = move_end_of_line(t, line, &next);
    LinePos w = {.at = start}, limit = {end, FAR_AWAY, chars};
    size_t again = first_try(start, end);
    while (w.at < limit.at && w.chars < chars && step(t, &w, limit, ANY_TAB, &again))
        continue;
    return w.at;
}
