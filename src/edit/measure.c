#include "edit/measure.h"

#include "base/glyph.h"
#include "base/mem.h"

#include <stdlib.h>

enum {
    PIECE = 16 * 1024,
    ENDING = 256,  /* bytes before a block's end in which its last piece may end */
    USUAL_TAB = 8, /* what is taken while any will do */
};

/* UNFIT: nobody can tell from the piece itself where its characters begin (letters joined without end). Then
 * it is ADOPTED from where somebody arrived that came along the line, and serves whoever arrives there again.
 */
typedef enum State { UNKNOWN, STARTED, MEASURED, UNFIT, ADOPTED } State;

/* Piece k begins at the first place at or after k * PIECE where a character surely begins, the first one
 * after the block's first byte: whether one begins there depends on the block before. */
typedef struct Piece {
    uint32_t start, end, chars, cells, before_tab; /* cells: after the first tab, if there is one */
    uint16_t tab;                                  /* what it was measured for, 0: there is none in it */
    uint8_t state;
} Piece;

static void find_start(const Block *b, Piece *p, uint32_t k)
{
    uint32_t at = k ? k * PIECE : 1, end = (k + 1) * PIECE < b->len ? (k + 1) * PIECE : b->len;
    if (p->state != UNKNOWN || at + 4 > b->len) /* it may still grow */
        return;
    while (at < end && !glyph_begins(b->bytes, at, b->len))
        at++;
    if (at == end && b->len < (k + 1) * PIECE)
        return;
    p->start = at;
    p->state = at < end ? STARTED : UNFIT;
}

static bool known(const Piece *p, size_t tab)
{
    return p->state == MEASURED && (!p->tab || !tab || p->tab == tab);
}

/* What is before the first tab is kept apart, as the tab's width depends on where the piece begins. */
static size_t after_tab(Piece *p, size_t cells, size_t tab)
{
    if (p->tab)
        return cells + tab - cells % tab;
    p->tab = (uint16_t)tab;
    p->before_tab = (uint32_t)cells;
    return 0;
}

/* Of a whole character of `len` bytes, which may be shown in parts. Where it ends is known: each byte is
 * looked at once. */
static size_t cells_of(const char *s, size_t len)
{
    Glyph g;
    size_t cells = 0;
    for (size_t q = 0; q < len; q += g.bytes) {
        glyph_read_known(s + q, len - q, &g);
        cells += (size_t)g.width;
    }
    return cells;
}

static void measure(const Block *b, Piece *p, uint32_t end, size_t tab)
{
    size_t cells = 0, chars = 0, at = p->start;
    if (p->state == UNFIT || p->state == ADOPTED || (p->end == end && known(p, tab)))
        return;
    tab = tab ? tab : USUAL_TAB;
    p->end = end;
    p->tab = 0;
    p->before_tab = 0;
    p->state = MEASURED;
    for (;;) {
        GlyphSpan most = {end - at, SIZE_MAX, SIZE_MAX}, span = glyph_span(b->bytes + at, b->len - at, most);
        at += span.bytes;
        cells += span.cells;
        chars += span.chars;
        if (at == end)
            break;
        const char *s = b->bytes + at;
        chars++;
        if (*s == '\t') {
            cells = after_tab(p, cells, tab);
            at++;
            continue;
        }
        size_t n = glyph_length(s, b->len - at);
        if (n >= GLYPH_MAX_BYTES || at + n > end) {
            p->state = UNFIT; /* cut for its length: elsewhere it might be cut differently */
            return;
        }
        cells += cells_of(s, n);
        at += n;
    }
    p->cells = (uint32_t)cells;
    p->chars = (uint32_t)chars;
}

/* After them stands what all of them together come to. */
static Piece *pieces_of(Block *b, Piece **whole)
{
    size_t n = b->cap / PIECE + 2;
    if (!b->measure)
        b->measure = mem_get((n + 1) * sizeof(Piece));
    *whole = (Piece *)b->measure + n;
    return b->measure;
}

/* Cells after a piece that begins `cells` from the line's start. */
static size_t after(const Piece *p, size_t cells, size_t tab)
{
    if (!p->tab)
        return cells + p->cells;
    cells += p->before_tab;
    tab = tab ? tab : p->tab;
    return cells + tab - cells % tab + p->cells;
}

static void join(Piece *a, const Piece *b, size_t tab)
{
    if (a->tab) {
        a->cells = (uint32_t)after(b, a->cells, tab);
    } else if (b->tab) {
        a->tab = b->tab;
        a->before_tab = a->cells + b->before_tab;
        a->cells = b->cells;
    } else {
        a->cells += b->cells;
    }
    a->chars += b->chars;
    a->end = b->end;
}

/* Goes over a piece if that passes no limit. */
static bool go_over(LinePos *w, const Piece *p, LinePos limit, size_t tab)
{
    size_t cells = after(p, w->cells, tab);
    if (cells > limit.cells || w->chars + p->chars > limit.chars)
        return false;
    *w = (LinePos){w->at + (p->end - p->start), cells, w->chars + p->chars};
    return true;
}

/* Where piece k ends: at the next one, or shortly before the block's end. 0 when it cannot be told or lies
 * after `most`. `more`: another piece follows at once. */
static uint32_t piece_end(const Block *b, Piece *all, uint32_t k, size_t most, bool *more)
{
    size_t next = (k + 1) * (size_t)PIECE;
    *more = false;
    if (next + 4 <= b->len && next < most) {
        find_start(b, &all[k + 1], k + 1);
        *more = (all[k + 1].state == STARTED || all[k + 1].state == MEASURED) && all[k + 1].start <= most;
        return *more ? all[k + 1].start : 0;
    }
    if (most < b->len || b->len < 8)
        return 0;
    uint32_t end = b->len - 4, least = end > ENDING ? end - ENDING : 1;
    while (end > least && !glyph_begins(b->bytes, end, b->len))
        end--;
    return end > least ? end : 0;
}

/* Measures such a piece from `offset` on, character by character, up to the first place after its end; not
 * where the bytes that follow in the text may be others. False when nothing can be said. */
static bool adopt(const Block *b, Piece *p, uint32_t k, uint32_t offset, size_t slice_end, size_t tab)
{
    size_t end = (k + 1) * (size_t)PIECE, at = offset, cells = 0, chars = 0;
    size_t usable = slice_end > 2 * GLYPH_MAX_BYTES ? slice_end - 2 * GLYPH_MAX_BYTES : 0;
    end = end < usable ? end : usable;
    if (p->state == ADOPTED && p->start == offset && p->end <= usable && (!p->tab || !tab || p->tab == tab))
        return true;
    if (end <= offset || b->len < 2 * GLYPH_MAX_BYTES)
        return false;
    *p = (Piece){.start = offset, .state = ADOPTED};
    tab = tab ? tab : USUAL_TAB;
    while (at < end) {
        GlyphSpan most = {end - at, SIZE_MAX, SIZE_MAX}, span = glyph_span(b->bytes + at, b->len - at, most);
        at += span.bytes;
        cells += span.cells;
        chars += span.chars;
        if (at >= end)
            break;
        const char *s = b->bytes + at;
        size_t n = glyph_length(s, b->len - at);
        chars++;
        if (*s == '\t')
            cells = after_tab(p, cells, tab);
        else
            cells += cells_of(s, n);
        at += n;
    }
    p->end = (uint32_t)at;
    p->cells = (uint32_t)cells;
    p->chars = (uint32_t)chars;
    return true;
}

void measure_skip(Text t, LinePos *w, LinePos limit, size_t tab, size_t *again)
{
    while (w->at < limit.at) {
        size_t offset, left;
        Block *b = text_block(t, w->at, &offset, &left);
        size_t slice_end =
            offset + left < offset + (limit.at - w->at) ? offset + left : offset + (limit.at - w->at);
        *again = w->at + left + 1; /* in the next block */
        if (left <= PIECE)
            return;
        Piece *whole, *all = pieces_of(b, &whole), sum = {.start = (uint32_t)offset, .state = MEASURED};
        uint32_t k = (uint32_t)(offset / PIECE);
        if (known(whole, tab) && whole->start == offset && whole->end <= slice_end &&
            go_over(w, whole, limit, tab)) {
            *again = w->at;
            continue;
        }
        find_start(b, &all[k], k);
        if (all[k].state == UNFIT || all[k].state == ADOPTED) {
            if (!adopt(b, &all[k], k, (uint32_t)offset, slice_end, tab) || !go_over(w, &all[k], limit, tab)) {
                *again = w->at + PIECE;
                return;
            }
            *again = w->at;
            continue;
        }
        if (all[k].state == UNKNOWN || all[k].start != offset) { /* on to the next start, glyph by glyph */
            k += all[k].state == UNKNOWN || all[k].start < offset;
            if (k <= b->len / PIECE)
                find_start(b, &all[k], k);
            if (k <= b->len / PIECE && (all[k].state == STARTED || all[k].state == MEASURED) &&
                all[k].start > offset)
                *again = w->at + all[k].start - offset;
            else if (left > 2 * PIECE)
                *again = w->at + PIECE;
            return;
        }
        for (bool more = true; more; k++) {
            Piece *p = &all[k];
            uint32_t end = piece_end(b, all, k, slice_end, &more);
            *again = w->at + PIECE;
            if (end <= p->start)
                return;
            measure(b, p, end, tab);
            *again = w->at + (end - p->start);
            if (p->state == UNFIT || p->state == ADOPTED || !go_over(w, p, limit, tab))
                return;
            join(&sum, p, tab);
        }
        if (tab && offset < PIECE) /* it began with the first one */
            *whole = sum;
    }
}
