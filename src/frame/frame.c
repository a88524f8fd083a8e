#include "frame/frame.h"

#include "base/mem.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static void free_rows(Frame *f)
{
    for (int r = 0; f->lines && r < f->rows; r++)
        bytes_free(&f->lines[r].source);
    free(f->lines);
    free(f->cells);
}

void frame_resize(Frame *f, int rows, int cols)
{
    free_rows(f);
    f->rows = rows;
    f->cols = cols;
    f->cells = mem_get((size_t)rows * (size_t)cols * sizeof *f->cells);
    f->lines = mem_get((size_t)rows * sizeof *f->lines);
    for (int r = 0; r < rows; r++)
        frame_blank(f, r, 0, cols, ST_TEXT);
    f->cursor_row = -1;
}

void frame_free(Frame *f)
{
    free_rows(f);
    *f = (Frame){0};
}

static void written(Frame *f, int row)
{
    f->lines[row].written = ++f->writes;
}

static Cell *cell_at(Frame *f, int row, int col)
{
    return &f->cells[(size_t)row * (size_t)f->cols + (size_t)col];
}

const Cell *frame_cell(const Frame *f, int row, int col)
{
    return &f->cells[(size_t)row * (size_t)f->cols + (size_t)col];
}

static void put_code(Frame *f, int row, int col, uint32_t code, Style style)
{
    *cell_at(f, row, col) = (Cell){.codes = {code}, .n_codes = 1, .width = 1, .style = (uint8_t)style};
}

/* A wide glyph that is about to lose one half leaves a blank in the other. */
static void break_wide(Frame *f, int row, int col)
{
    if (col <= 0 || col >= f->cols)
        return;
    Cell *c = cell_at(f, row, col);
    if (c->width == 0) {
        put_code(f, row, col - 1, ' ', c->style);
        put_code(f, row, col, ' ', c->style);
    }
}

void frame_blank(Frame *f, int row, int from, int to, Style style)
{
    if (row < 0 || row >= f->rows)
        return;
    from = from < 0 ? 0 : from;
    to = to > f->cols ? f->cols : to;
    if (from >= to)
        return;
    break_wide(f, row, from);
    break_wide(f, row, to);
    Cell blank = {.codes = {' '}, .n_codes = 1, .width = 1, .style = (uint8_t)style};
    Cell *cells = cell_at(f, row, 0);
    written(f, row);
    for (int c = from; c < to; c++)
        cells[c] = blank;
}

int frame_glyph(Frame *f, int row, int col, int limit, const Glyph *g, Style style)
{
    limit = limit > f->cols ? f->cols : limit;
    if (row < 0 || row >= f->rows || col < 0)
        return col + g->width;
    if (g->n_codes == 0) {
        for (const char *p = g->escape; *p && col < limit; p++)
            frame_blank(f, row, col, col + 1, style), cell_at(f, row, col++)->codes[0] = (uint32_t)*p;
        return col;
    }
    if (col + g->width > limit) {
        frame_blank(f, row, col, limit, style);
        return limit;
    }
    break_wide(f, row, col);
    break_wide(f, row, col + g->width);
    written(f, row);
    Cell *c = cell_at(f, row, col);
    memcpy(c->codes, g->codes, sizeof c->codes);
    c->n_codes = (uint8_t)g->n_codes;
    c->width = (uint8_t)g->width;
    c->style = (uint8_t)style;
    for (int i = 1; i < g->width; i++)
        *cell_at(f, row, col + i) = (Cell){.style = (uint8_t)style};
    return col + g->width;
}

/* Our own signs, and what stands for them where only ASCII can be shown. */
static const struct {
    const char *sign, *ascii;
} signs[] = {{"…", ".."}, {"⋯", "..."}, {"␣", "_"}, {"·", "|"}, {"▎", "|"}, {"│", "|"},  {"─", "-"},
             {"▏", "|"},  {"▸", ">"},   {"•", "*"}, {"▔", "^"}, {"▁", "_"}, {"↳", "'"},  {"‹", "<"},
             {"›", ">"},  {"✓", "x"},   {"→", ">"}, {"↵", "<"}, {"¶", "<"}, {"“", "\""}, {"”", "\""}};

/* The next piece of a string: one of our signs' replacement, or the rest as it is. */
static const char *piece_at(const Frame *f, const char *s, size_t *used)
{
    for (size_t i = 0; f->ascii && (unsigned char)*s >= 0x80 && i < sizeof signs / sizeof *signs; i++) {
        *used = strlen(signs[i].sign);
        if (strncmp(s, signs[i].sign, *used) == 0)
            return signs[i].ascii;
    }
    *used = 0;
    return s;
}

void frame_read(const char *s, size_t n, Glyph *g)
{
    glyph_read(s, n, g);
    if (g->n_codes && g->width == 0) { /* tab and line end are no layout here */
        strcpy(g->escape, g->codes[0] == '\t' ? "\\t" : "\\n");
        g->n_codes = 0;
        g->width = 2;
    }
}

/* As many cells as bytes, as most are; -1: there is more to look at. */
static int plain_width(const char *s)
{
    int n = 0;
    for (; s[n]; n++)
        if (s[n] < ' ' || s[n] > '~')
            return -1;
    return n;
}

int frame_width(const Frame *f, const char *s)
{
    int width = plain_width(s);
    if (width >= 0)
        return width;
    width = 0;
    for (const char *end = s + strlen(s); s < end;) {
        size_t used;
        const char *piece = piece_at(f, s, &used);
        Glyph g = {.bytes = used};
        if (used)
            g.width = (int)strlen(piece);
        else
            frame_read(s, (size_t)(end - s), &g);
        width += g.width;
        s += g.bytes;
    }
    return width;
}

int frame_text(Frame *f, int row, int col, int limit, Style style, const char *s)
{
    limit = limit > f->cols ? f->cols : limit;
    const char *more = f->ascii ? ".." : "…";
    int room = limit - col;
    bool cut = frame_width(f, s) > room;
    int stop = cut ? limit - (f->ascii ? 2 : 1) : limit;
    for (const char *end = s + strlen(s); s < end;) {
        size_t used;
        const char *piece = piece_at(f, s, &used);
        Glyph g;
        if (!used)
            frame_read(s, (size_t)(end - s), &g);
        int width = used ? (int)strlen(piece) : g.width;
        if (col + width > stop)
            break;
        if (used) {
            for (; *piece; piece++) {
                frame_read(piece, strlen(piece), &g);
                g.bytes = 1;
                col = frame_glyph(f, row, col, limit, &g, style);
            }
            s += used;
        } else {
            col = frame_glyph(f, row, col, limit, &g, style);
            s += g.bytes;
        }
    }
    if (cut && room > 2)
        for (const char *p = more; *p && col < limit;) {
            Glyph g;
            glyph_read(p, strlen(p), &g);
            col = frame_glyph(f, row, col, limit, &g, style);
            p += g.bytes;
        }
    return col;
}

void frame_restyle(Frame *f, int row, int from, int to, Style style)
{
    if (row < 0 || row >= f->rows)
        return;
    written(f, row);
    for (int c = from < 0 ? 0 : from; c < to && c < f->cols; c++)
        cell_at(f, row, c)->style = (uint8_t)style;
}

bool frame_kept(const Frame *f, int row, const Bytes *source)
{
    if (row < 0 || row >= f->rows)
        return false;
    const FrameRow *r = &f->lines[row];
    return r->kept == r->written && r->source.len == source->len && source->len &&
           memcmp(r->source.at, source->at, source->len) == 0;
}

void frame_keep(Frame *f, int row, const Bytes *source)
{
    if (row < 0 || row >= f->rows)
        return;
    FrameRow *r = &f->lines[row];
    bytes_clear(&r->source);
    bytes_add(&r->source, source->at, source->len);
    r->kept = r->written;
}

/* How many bytes of s go into one row of `room` cells. */
static size_t row_of(const Frame *f, const char *s, int room)
{
    size_t fits = 0, blank = 0;
    int width = 0;
    for (const char *at = s, *end = s + strlen(s); at < end;) {
        size_t used;
        const char *piece = piece_at(f, at, &used);
        Glyph g = {.bytes = used};
        if (used)
            g.width = (int)strlen(piece);
        else
            frame_read(at, (size_t)(end - at), &g);
        width += g.width;
        if (*at == ' ')
            blank = (size_t)(at - s);
        at += g.bytes;
        if (width > room)
            return blank ? blank : fits ? fits : g.bytes;
        fits = (size_t)(at - s);
    }
    return fits;
}

int frame_wrapped(Frame *f, int row, int col, int limit, int rows, Style style, const char *s)
{
    int n = 0;
    for (; *s; n++) {
        char line[400];
        size_t len = row_of(f, s, limit - col);
        bool cut = n == rows - 1 && s[len + strspn(s + len, " ")]; /* its ellipsis says that more follows */
        snprintf(line, sizeof line, "%.*s", cut ? (int)sizeof line : (int)len, s);
        if (n < rows)
            frame_text(f, row + n, col, limit, style, line);
        s += len;
        s += strspn(s, " ");
    }
    return n;
}
