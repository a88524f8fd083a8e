#include "sound.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static bool whole(const Frame *f, int r, int c)
{
    const Cell *cell = frame_cell(f, r, c);
    if (cell->width == 0)
        return c > 0 && frame_cell(f, r, c - 1)->width == 2;
    if (cell->width == 2 && (c + 1 == f->cols || frame_cell(f, r, c + 1)->width != 0))
        return false;
    for (int i = 0; i < cell->n_codes; i++) {
        uint32_t code = cell->codes[i];
        bool turns = code == 0x200e || code == 0x200f || (code >= 0x202a && code <= 0x202e) ||
                     (code >= 0x2066 && code <= 0x2069);
        if (code < 0x20 || (code >= 0x7f && code < 0xa0) || turns)
            return false;
    }
    return cell->width <= 2 && cell->n_codes > 0;
}

bool frame_sound(const Frame *f)
{
    for (int r = 0; r < f->rows; r++)
        for (int c = 0; c < f->cols; c++)
            if (!whole(f, r, c)) {
                const Cell *cell = frame_cell(f, r, c);
                fprintf(stderr, "cell %d,%d: width %d, codes %d, first %x\n", r, c, cell->width,
                        cell->n_codes, cell->codes[0]);
                return false;
            }
    bool inside = f->cursor_row < f->rows && f->cursor_col >= 0 && f->cursor_col < f->cols;
    if (!inside && f->cursor_row >= 0)
        fprintf(stderr, "cursor %d,%d of %dx%d\n", f->cursor_row, f->cursor_col, f->rows, f->cols);
    return inside || f->cursor_row < 0;
}

static bool same(const Cell *a, const Cell *b)
{
    return a->n_codes == b->n_codes && a->width == b->width && a->style == b->style &&
           memcmp(a->codes, b->codes, a->n_codes * sizeof *a->codes) == 0;
}

bool screen_sound(Editor *ed)
{
    const Frame *f = app_paint(ed);
    if (!frame_sound(f))
        return false;
    size_t n = (size_t)f->rows * (size_t)f->cols;
    int cursor_row = f->cursor_row, cursor_col = f->cursor_col;
    Cell *kept = malloc(n * sizeof *kept);
    memcpy(kept, f->cells, n * sizeof *kept);
    frame_resize(&ed->frame, f->rows, f->cols); /* forgets what was there */
    app_paint(ed);
    bool ok = f->cursor_row == cursor_row && f->cursor_col == cursor_col;
    if (!ok)
        fprintf(stderr, "cursor %d,%d; painted again %d,%d\n", cursor_row, cursor_col, f->cursor_row,
                f->cursor_col);
    for (size_t i = 0; i < n && ok; i++)
        if (!same(&kept[i], &f->cells[i])) {
            fprintf(stderr, "cell %zu,%zu: kept %x style %d, painted again %x style %d\n",
                    i / (size_t)f->cols, i % (size_t)f->cols, kept[i].codes[0], kept[i].style,
                    f->cells[i].codes[0], f->cells[i].style);
            ok = false;
        }
    free(kept);
    return ok;
}
