#include "screen/painter.h"

#include "base/mem.h"
#include "screen/terminal.h"

#include <curses.h>
#include <stdlib.h>
#include <string.h>

static struct {
    attr_t attrs[ST_COUNT];
    short pairs[ST_COUNT];
    Cell *shown;     /* the last frame, */
    uint64_t *as_of; /* and which write of each row that was */
    int rows, cols;
} painter;

/* Fewer colours than the theme has: 256 become the nearest of 8, and 8..15 their plain ones. */
static short fit_colour(short c, attr_t *attrs, bool is_fg)
{
    if (c < 0 || c < COLORS)
        return c;
    if (c >= 8 && c < 16) {
        if (is_fg && c == 8)
            *attrs |= A_DIM;
        return c == 8 ? (short)(is_fg ? COLOUR_NONE : 0) : (short)(c - 8);
    }
    int n = c - 16, red = n / 36, green = n / 6 % 6, blue = n % 6, from = 2;
    if (is_fg) { /* a dark letter keeps its hue */
        from = red > green ? red : green;
        from = (blue > from ? blue : from) / 2;
    }
    if (c >= 232)
        c = c < 244 ? 0 : 7;
    else
        c = (short)((red > from ? 1 : 0) | (green > from ? 2 : 0) | (blue > from ? 4 : 0));
    if (is_fg && c == 0) /* terminals make a bold black letter grey */
        *attrs &= ~(attr_t)A_BOLD;
    return c;
}

static attr_t attrs_of(unsigned ours)
{
    attr_t a = A_NORMAL;
    if (ours & ATTR_BOLD)
        a |= A_BOLD;
    if (ours & ATTR_UNDERLINE)
        a |= A_UNDERLINE;
    if (ours & ATTR_REVERSE)
        a |= A_REVERSE;
    if (ours & ATTR_DIM)
        a |= A_DIM;
    return a;
}

/* A theme that follows the terminal leaves its ground and its letters as they are, where they will do. */
static void leave_ground(Look looks[ST_COUNT])
{
    const Look text = looks[ST_TEXT];
    for (int i = 0; i < ST_COUNT; i++) {
        Look *l = &looks[i];
        bool same_ground = l->bg == text.bg;
        l->fg = same_ground && l->fg == text.fg ? COLOUR_NONE : l->fg;
        l->bg = same_ground ? COLOUR_NONE : l->bg;
    }
}

void painter_theme(const Theme *theme, bool white, bool stays)
{
    const char *wish = getenv("NO_COLOR");
    bool no_colour = wish && *wish; /* set but empty, it asks for nothing */
    bool colour = has_colors() && !no_colour;
    const Theme *plain = theme_named("mono");
    attr_t ignored = A_NORMAL;
    if (colour && start_color() == OK)
        use_default_colors();
    if (!colour)
        theme = plain;
    else if (COLORS < 256 && theme->follows) /* the terminal's own look best where they are all there are */
        theme = theme_named("terminal");
    Look looks[ST_COUNT];
    memcpy(looks, white ? theme->on_white : theme->looks, sizeof looks);
    if (stays && theme->follows)
        leave_ground(looks);
    for (int i = 0; i < ST_COUNT; i++) {
        const Look *look = &looks[i];
        painter.attrs[i] = attrs_of(look->attrs);
        painter.pairs[i] = 0;
        if (!colour)
            continue;
        short fg = fit_colour(look->fg, &painter.attrs[i], true);
        short bg = fit_colour(look->bg, &painter.attrs[i], false);
        const Look *text = &looks[ST_TEXT];
        bool told_apart = look->bg == text->bg || bg != fit_colour(text->bg, &ignored, false);
        if (!told_apart && (plain->looks[i].attrs & ATTR_REVERSE)) /* too few shades for a bar or a box */
            painter.attrs[i] |= A_REVERSE;
        if (fg == bg && fg != COLOUR_NONE) /* too few colours: let the attributes tell */
            painter.attrs[i] = attrs_of(plain->looks[i].attrs);
        else if (fg != COLOUR_NONE || bg != COLOUR_NONE) {
            painter.pairs[i] = (short)(i + 1);
            init_pair(painter.pairs[i], fg, bg);
        }
    }
    cchar_t back;
    setcchar(&back, L" ", painter.attrs[ST_TEXT], painter.pairs[ST_TEXT], NULL);
    bkgrndset(&back);
    idlok(stdscr, TRUE);
    leaveok(stdscr, FALSE);
    painter.rows = 0;
}

static void paint_cell(int row, int col, const Cell *c)
{
    wchar_t text[GLYPH_MAX_CODES + 1];
    for (int i = 0; i < c->n_codes; i++)
        text[i] = (wchar_t)c->codes[i];
    text[c->n_codes] = 0;
    cchar_t out;
    setcchar(&out, text, painter.attrs[c->style], painter.pairs[c->style], NULL);
    mvadd_wch(row, col, &out);
}

static bool blank(const Cell *c)
{
    return c->style == ST_TEXT && c->n_codes == 1 && c->codes[0] == ' ';
}

/* Frames are made of zeros, so gaps in a cell are the same too; if not, it would only be painted again. */
static bool same_cell(const Cell *a, const Cell *b)
{
    return memcmp(a, b, sizeof *a) == 0; /* NOLINT(bugprone-suspicious-memory-comparison) */
}

/* Paints what differs from what was there. */
static void paint_row(const Frame *f, int row, const Cell *old)
{
    const Cell *now = frame_cell(f, row, 0);
    int from = 0, end = f->cols, tail = f->cols;
    while (same_cell(&old[from], &now[from]))
        from++;
    while (same_cell(&old[end - 1], &now[end - 1]))
        end--;
    while (from > 0 && (old[from].width == 0 || now[from].width == 0)) /* not from the middle of a wide one */
        from--;
    while (tail > from && blank(&now[tail - 1])) /* a blank tail is cheapest as cleared */
        tail--;
    for (int col = from; col < end && col < tail; col++)
        if (now[col].width)
            paint_cell(row, col, &now[col]);
    if (end > tail) {
        move(row, tail);
        clrtoeol();
    }
}

enum { WORTH = 8 /* cells that need not be sent again */ };

/* A letter was typed in the middle of a row: curses would send the rest of the row again. If the terminal's
 * cursor stands there, the terminal can make room by itself, and what curses believes is shown is
 * shifted along. */
static void make_room(const Frame *f, const Cell *old, int row)
{
    int at = f->cursor_col - 1, y, x;
    const Cell *now = frame_cell(f, row, 0);
    const char *ich = tigetstr("ich");
    getyx(curscr, y, x);
    if (row != f->cursor_row || at < 0 || at + WORTH >= f->cols || y != row || x != at || !ich ||
        ich == (char *)-1)
        return;
    for (int col = 0; col < f->cols; col++)
        if (now[col].width != 1 || old[col].width != 1)
            return;
    size_t tail = (size_t)(f->cols - 1 - at) * sizeof *now;
    if (memcmp(old, now, (size_t)at * sizeof *now) != 0 || memcmp(old + at, now + at + 1, tail) != 0 ||
        memcmp(old + at, now + at, tail) == 0)
        return;
    const char *bytes = tiparm(ich, 1);
    terminal_raw(bytes, strlen(bytes));
    winsch(curscr, ' ');
}

void painter_show(const Frame *f, bool all)
{
    size_t row_bytes = (size_t)f->cols * sizeof(Cell);
    if (f->rows != painter.rows || f->cols != painter.cols) {
        painter.rows = f->rows;
        painter.cols = f->cols;
        free(painter.shown);
        free(painter.as_of);
        painter.shown = mem_get(row_bytes * (size_t)f->rows);
        painter.as_of = mem_get((size_t)f->rows * sizeof *painter.as_of);
        erase();
    }
    for (int row = 0; row < f->rows; row++) {
        Cell *old = painter.shown + (size_t)row * (size_t)f->cols;
        const Cell *now = frame_cell(f, row, 0);
        if (painter.as_of[row] == f->lines[row].written)
            continue;
        painter.as_of[row] = f->lines[row].written;
        if (memcmp(old, now, row_bytes) == 0)
            continue;
        if (!all)
            make_room(f, old, row);
        paint_row(f, row, old);
        memcpy(old, now, row_bytes);
    }
    if (all)
        clearok(curscr, TRUE);
    bool cursor = f->cursor_row >= 0 && f->cursor_row < f->rows && f->cursor_col >= 0;
    curs_set(cursor);
    if (cursor)
        move(f->cursor_row, f->cursor_col < f->cols ? f->cursor_col : f->cols - 1);
    refresh();
}
