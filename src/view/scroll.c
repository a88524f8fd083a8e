#include "view/scroll.h"

#include "base/system.h"

#include "edit/cells.h"
#include "text/text_line.h"
#include "edit/move.h"
#include "view/aligned.h"
#include "view/hiding.h"
#include "view/rows.h"

enum { MARGIN = 2 };

/* Is a screen's row something else than the next line? */
static bool by_rows(const View *v)
{
    return v->wrap || v->hiding || v->aligned;
}

static void vertical_by_rows(View *v, long lines)
{
    Row row = row_at(v, v->cursor.at);
    if (!v->goal_kept)
        v->goal = row_cells(v, &row, v->cursor.at);
    while (lines > 0 && row_forward(v, &row))
        lines--;
    if (lines < 0)
        row = row_at(v, rows_up(v, row.from, (size_t)-lines));
    v->cursor.at = row_place(v, &row, v->goal);
    v->goal_kept = true;
}

void scroll_cursor(View *v, long lines)
{
    Text t = view_text(v);
    if (by_rows(v)) {
        vertical_by_rows(v, lines);
        return;
    }
    size_t line = text_line_of(t, v->cursor.at), last = text_newlines(t);
    if (!v->goal_kept)
        v->goal = cells_before(t, v->cursor.at, view_tab(v));
    size_t by = (size_t)(lines < 0 ? -lines : lines);
    if (lines < 0)
        line = line > by ? line - by : 0;
    else
        line = last - line > by ? line + by : last;
    v->cursor.at = cells_place(t, line, v->goal, view_tab(v));
    v->goal_kept = true;
}

void scroll_centre(View *v)
{
    size_t half = (size_t)(v->rows > 0 ? v->rows : 0) / 2;
    if (by_rows(v)) {
        v->top.at = rows_up(v, row_at(v, v->cursor.at).from, half);
        return;
    }
    Text t = view_text(v);
    size_t line = text_line_of(t, v->cursor.at);
    v->top.at = text_line_start(t, line > half ? line - half : 0);
}

/* With wrapping: the cursor's row must be among those from the top on. */
static void follow_rows(View *v)
{
    size_t shown = hiding_on(v, move_line_start(view_text(v), v->top.at));
    if (v->hiding && shown != move_line_start(view_text(v), v->top.at))
        v->top.at = shown != HIDING_NOWHERE ? shown : v->cursor.at;
    Row row = row_at(v, v->top.at);
    size_t want = row_at(v, v->cursor.at).from, first = row.from;
    int rows = v->rows > 1 ? v->rows : 1, margin = rows > 3 * MARGIN ? MARGIN : 0, i = 0;
    v->top.at = first;
    if (want < first || (margin && first > 0 && want < first + 1)) {
        v->top.at = rows_up(v, want, (size_t)margin);
        return;
    }
    while (i < rows && row.from != want && row_forward(v, &row))
        i++;
    if (row.from == want && i < margin && v->top.at > 0)
        v->top.at = rows_up(v, want, (size_t)margin);
    else if (row.from != want || i + margin >= rows)
        v->top.at = rows_up(v, want, (size_t)(rows - 1 - margin));
}

static void follow_vertically(View *v)
{
    if (by_rows(v)) {
        follow_rows(v);
        return;
    }
    Text t = view_text(v);
    size_t line = text_line_of(t, v->cursor.at), top = text_line_of(t, v->top.at);
    size_t rows = v->rows > 0 ? (size_t)v->rows : 1;
    size_t margin = rows > 3 * MARGIN ? MARGIN : 0;
    if (line + rows < top || line > top + 2 * rows)
        top = line > rows / 2 ? line - rows / 2 : 0;
    else if (line < top + margin)
        top = line > margin ? line - margin : 0;
    else if (line + margin + 1 > top + rows)
        top = line + margin + 1 - rows;
    if (top + rows > text_newlines(t) + 1 + margin) /* no more than the margin below the end */
        top = text_newlines(t) + 1 + margin > rows ? text_newlines(t) + 1 + margin - rows : 0;
    if (line < top)
        top = line;
    v->top.at = text_line_start(t, top);
}

/* By leaps: moving the whole screen with each letter at its edge would be hard to read, and much to send. */
static void follow_sideways(View *v)
{
    Row row = v->aligned ? row_at(v, v->cursor.at) : (Row){0};
    size_t cells =
        v->aligned ? row_cells(v, &row, v->cursor.at) : cells_before(view_text(v), v->cursor.at, view_tab(v));
    size_t room = v->cols - v->gutter > 1 ? (size_t)(v->cols - v->gutter) : 1;
    size_t margin = room > 20 ? 4 : room > 4, leap = room / 4;
    if (cells < v->left + (v->left ? margin : 0))
        v->left = cells > margin + leap ? cells - margin - leap : 0;
    if (cells + margin >= v->left + room)
        v->left = cells + margin + 1 - room + leap;
    if (cells + margin < room)
        v->left = 0;
}

/* For the names of the columns, and for what is on the screen. */
static void widen_columns(View *v)
{
    if (!v->aligned)
        return;
    Row row = row_at(v, 0);
    aligned_widen(v, row.line_from, row.line_to);
    row = row_at(v, v->top.at);
    for (int i = 0; i < v->rows; i++) {
        aligned_widen(v, row.line_from, row.line_to);
        if (!row_forward(v, &row))
            return;
    }
}

void scroll_to_cursor(View *v)
{
    hiding_follow(v);
    if (!v->away)
        follow_vertically(v);
    widen_columns(v);
    if (v->away)
        return;
    if (v->wrap)
        v->left = 0;
    else
        follow_sideways(v);
}

/* Pieces that are counted lie across the ends of what is looked at, so that overlaps. */
enum { AHEAD_FROM = 128 * 1024, AHEAD = 512 * 1024, AHEAD_OVERLAP = 32 * 1024 };

bool scroll_look_ahead(View *v)
{
    Text t = view_text(v);
    uint64_t begun = system_now_ms();
    size_t line = text_line_of(t, v->cursor.at), from = text_line_start(t, line), to = text_line_end(t, line);
    if (to - from < AHEAD_FROM || v->wrap)
        return false;
    if (from != v->ahead_line || view_tab(v) != v->ahead_tab || v->ahead_to < from) {
        v->ahead_line = v->ahead_to = from;
        v->ahead_tab = view_tab(v);
    }
    while (v->ahead_to + AHEAD_OVERLAP < to && system_now_ms() - begun < 2) {
        size_t start = v->ahead_to > from + AHEAD_OVERLAP ? v->ahead_to - AHEAD_OVERLAP : from;
        v->ahead_to = to - v->ahead_to > AHEAD ? v->ahead_to + AHEAD : to;
        cells_between(t, start, v->ahead_to, view_tab(v));
    }
    return v->ahead_to + AHEAD_OVERLAP < to;
}

size_t scroll_place_at(const View *v, int row, int col)
{
    Text t = view_text(v);
    row = row < v->row ? 0 : row >= v->row + v->rows ? v->rows - 1 : row - v->row;
    int text_col = v->col + v->gutter;
    size_t cells = v->left + (size_t)(col > text_col ? col - text_col : 0);
    if (by_rows(v)) {
        Row r = row_at(v, v->top.at);
        for (; row > 0; row--)
            if (!row_forward(v, &r))
                return text_len(t);
        return row_place(v, &r, cells);
    }
    size_t line = text_line_of(t, v->top.at) + (size_t)(row > 0 ? row : 0);
    if (line > text_newlines(t))
        return text_len(t);
    return cells_place(t, line, cells, view_tab(v));
}

void scroll_lines(View *v, long lines)
{
    Text t = view_text(v);
    size_t by = (size_t)(lines < 0 ? -lines : lines), rows = v->rows > 1 ? (size_t)v->rows : 1;
    v->away = true;
    if (by_rows(v)) {
        Row row = row_at(v, v->top.at);
        size_t bottom = rows_up(v, row_at(v, text_len(t)).from, rows > MARGIN ? rows - 1 - MARGIN : 0);
        for (; lines > 0 && row.from < bottom && row_forward(v, &row); lines--)
            continue;
        v->top.at = lines < 0 ? rows_up(v, row.from, by) : row.from;
        return;
    }
    size_t top = text_line_of(t, v->top.at), last = text_newlines(t);
    size_t bottom = last + 1 + MARGIN > rows ? last + 1 + MARGIN - rows : 0;
    top = lines < 0 ? (top > by ? top - by : 0) : top >= bottom ? top : top + by < bottom ? top + by : bottom;
    v->top.at = text_line_start(t, top);
}

void scroll_back(View *v)
{
    v->away = false;
}

/* A screen less two lines, so that one keeps one's place. */
void scroll_screens(View *v, long n)
{
    long by = v->rows > 3 ? v->rows - 2 : 1;
    Text t = view_text(v);
    size_t top = text_line_of(t, v->top.at);
    scroll_cursor(v, n * by);
    size_t move = (size_t)(n < 0 ? -n * by : n * by);
    if (v->hiding) {
        Row row = row_at(v, v->top.at);
        for (size_t i = 0; n > 0 && i < move && row_forward(v, &row); i++)
            continue;
        v->top.at = n > 0 ? row.from : rows_up(v, row.from, move);
        return;
    }
    v->top.at = text_line_start(t, n > 0 ? top + move : top > move ? top - move : 0);
}
