/* Rows, wrapping, scrolling and columns, on random texts and screens. */
#include "check.h"
#include "editors.h"
#include "sound.h"
#include "app/app.h"
#include "edit/cells.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/columns.h"
#include "view/rows.h"
#include "view/scroll.h"
#include "view/shown.h"

#include <stdlib.h>
#include <string.h>

static Editor *start(const char *text, size_t n, int rows, int cols, bool wrap)
{
    Editor *ed = editors_start(text, n, rows, cols);
    ed->panes.view->wrap = wrap;
    app_paint(ed);
    return ed;
}

static size_t random_text(char *out, size_t max)
{
    static const char *const bits[] = {
        "berth", " ", "\n", "\t", "\xe6\xbc\xa2", "e\xcc\x81", "\xff", "-", "longerwordthanthat", "\r\n"};
    size_t n = 0;
    while (n + 20 < max) {
        const char *bit = bits[check_random(10)];
        memcpy(out + n, bit, strlen(bit));
        n += strlen(bit);
    }
    return n;
}

/* While nobody types, a long line is counted bit by bit, and that comes to an end. */
TEST(a_long_line_is_counted_ahead)
{
    enum { LINE = 1500 * 1000 };
    char *text = malloc(LINE);
    size_t n = 0, rounds = 0;
    while (n + 1600 < LINE)
        n += random_text(text + n, 1500);
    for (size_t i = 0; i < n; i++)
        text[i] = text[i] == '\n' || text[i] == '\r' ? 'x' : text[i];
    Editor *ed = start(text, n, 24, 80, false);
    do
        app_tick(ed, 1000 + rounds);
    while (app_wait(ed, 1000 + rounds) == 0 && ++rounds < 10000);
    CHECK(rounds > 1 && rounds < 1000);
    CHECK(!scroll_look_ahead(ed->panes.view));
    view_go(ed->panes.view, n);
    app_paint(ed);
    CHECK(ed->frame.cursor_col > 0 && ed->frame.cursor_col < 80);
    CHECK_INT(cells_before(view_text(ed->panes.view), n, 8),
              ed->panes.view->left + (size_t)ed->frame.cursor_col - (size_t)ed->panes.view->gutter);
    app_free(ed);
    free(text);
}

/* Going down row by row visits every place once, and going up comes back the same way. */
TEST(rows_there_and_back)
{
    for (int round = 0; round < 120; round++) {
        char text[1500];
        size_t n = random_text(text, 200 + check_random(1200)), starts[2000], count = 0;
        Editor *ed = start(text, n, 24, 12 + (int)check_random(60), round % 4 != 0);
        View *v = ed->panes.view;
        Row row = row_at(v, 0);
        do {
            CHECK(count == 0 || row.from > starts[count - 1]);
            CHECK_INT(row_at(v, row.from).to, row.to);
            CHECK(row.to >= row.from);
            starts[count++] = row.from;
        } while (row_forward(v, &row) && count < 2000);
        CHECK_INT(row.line, text_newlines(view_text(v)));
        for (size_t i = 0; i < count; i++) {
            size_t up = check_random((unsigned)count + 3);
            CHECK_INT(rows_up(v, starts[i], up), up < i ? starts[i - up] : 0);
            CHECK_INT(rows_up(v, starts[i], 1), i ? starts[i - 1] : 0);
        }
        app_free(ed);
    }
}

/* The same in a line that is too long to be read for each row, from places anywhere in it. */
TEST(rows_of_a_very_long_line)
{
    enum { SIZE = 300 * 1000 };
    char *text = malloc(SIZE);
    for (int round = 0; round < 8; round++) {
        size_t n = random_text(text, SIZE), visited = 0;
        for (size_t i = 0; i < n; i++)
            text[i] = text[i] == '\n' || text[i] == '\r' ? '_' : round == 7 ? '\xcc' : text[i];
        Editor *ed = start(text, n, 24, 30 + (int)check_random(90), true);
        View *v = ed->panes.view;
        for (int i = 0; i < 12; i++) {
            Row row = row_at(v, i ? check_random((unsigned)n + 1) : n), before = row, first = row;
            size_t down = 0;
            for (; down < 50 && row_forward(v, &row); down++) {
                CHECK(row.from == before.to && row.to > row.from && row.to <= n);
                CHECK_INT(row_at(v, row.from).to, row.to);
                CHECK_INT(row_at(v, row.from + (row.to - row.from) / 2).from, row.from);
                CHECK_INT(rows_up(v, row.from, 1), before.from);
                before = row;
                visited++;
            }
            CHECK_INT(rows_up(v, row.from, down), first.from);
            view_go(v, row.from);
            const Frame *f = app_paint(ed);
            CHECK(f->cursor_row >= v->row && f->cursor_row < v->row + v->rows);
            CHECK_INT(scroll_place_at(v, f->cursor_row, f->cursor_col), row.from);
        }
        CHECK(visited > 200); /* some begin near the end */
        app_free(ed);
    }
    free(text);
}

/* Wherever the cursor goes, it is on the screen, and a click there finds the same place. */
/* Where the character at a place begins. */
static size_t character_at(Text t, size_t at)
{
    size_t from = move_line_start(t, at);
    for (size_t next = from; next <= at; next = move_right(t, from)) {
        from = next;
        if (next == text_len(t))
            break;
    }
    return from;
}

TEST(the_cursor_is_always_seen)
{
    for (int round = check_rounds(150); round > 0; round--) {
        char text[3000];
        size_t n = random_text(text, sizeof text);
        Editor *ed = start(text, n, 6 + (int)check_random(30), 25 + (int)check_random(60), round % 2);
        View *v = ed->panes.view;
        for (int i = 0; i < 40; i++) {
            size_t at = check_random((unsigned)n + 1);
            switch (check_random(4)) {
            case 0:
                scroll_cursor(v, (long)check_random(60) - 30);
                break;
            case 1:
                scroll_lines(v, (long)check_random(20) - 10);
                CHECK(screen_sound(ed));
                scroll_back(v);
                break;
            default:
                view_go(v, character_at(view_text(v), at));
            }
            CHECK(screen_sound(ed));
            const Frame *f = &ed->frame;
            CHECK(f->cursor_row >= v->row && f->cursor_row < v->row + v->rows);
            if (f->cursor_row < 0)
                continue;
            size_t found = scroll_place_at(v, f->cursor_row, f->cursor_col);
            CHECK_INT(cells_before(view_text(v), found, view_tab(v)),
                      cells_before(view_text(v), v->cursor.at, view_tab(v)));
            CHECK_INT(text_line_of(view_text(v), found), text_line_of(view_text(v), v->cursor.at));
        }
        app_free(ed);
    }
}

/* Whatever changes the look of a row, it is painted again: screen_sound compares with all painted again. */
TEST(rows_are_kept_only_while_they_look_the_same)
{
    static const char *const deeds[] = {
        "bookmark",       "wrap",         "mark-line",    "mark-columns",    "go-right",    "mark-all",
        "undo",           "go-screen-up", "go-top",       "duplicate-lines", "delete-left", "go-word-right",
        "go-screen-down", "go-line-end",  "split-beside", "next-pane",       "close-pane",  "line-ends crlf",
        "line-ends lf",   "go-bottom",    "wrap"};
    for (int round = check_rounds(60); round > 0; round--) {
        char text[3000];
        size_t blank = 850 + check_random(140), n = random_text(text + blank, sizeof text - blank);
        memset(text, '\n', blank); /* so that the numbers get their fourth digit */
        Editor *ed = start(text, blank + n, 6 + (int)check_random(30), 30 + (int)check_random(90), round % 2);
        view_go(ed->panes.view, blank);
        for (int i = 0; i < 100; i++) {
            Input in = {.kind = INPUT_KEY, .key = {.code = K_CHAR, .ch = (uint32_t) "x \t"[check_random(3)]}};
            unsigned what = check_random(12);
            if (what == 0)
                ed->config.settings.line_numbers = !ed->config.settings.line_numbers;
            else if (what == 1)
                ed->config.settings.show_blanks = !ed->config.settings.show_blanks;
            else if (what == 2)
                ed->panes.view->file->shown->tab = 1 + check_random(8);
            else if (what == 3)
                ed->config.settings.hints = check_random(2) ? HINTS_SIDE : HINTS_LINE;
            else if (what < 6)
                app_input(ed, &in, (uint64_t)i * 20);
            else
                command_run_line(ed, deeds[check_random(sizeof deeds / sizeof *deeds)], 1, false);
            CHECK(screen_sound(ed));
        }
        app_free(ed);
    }
}

/* At the edge the screen goes sideways by leaps, not with each letter; the other rows are left alone between.
 */
TEST(sideways_by_leaps)
{
    static const char text[] = "a berth\nanother berth\n";
    for (int cols = 4; cols < 140; cols += 17) {
        Editor *ed = start(text, sizeof text - 1, 10, cols, false);
        View *v = ed->panes.view;
        size_t left = 0;
        int moves = 0, seen = 0;
        for (int way = 0; way < 2; way++)
            for (int i = 0; i < 500; i++) {
                Input in = {.kind = INPUT_KEY, .key = {.code = way ? K_LEFT : K_CHAR, .ch = way ? 0 : 'x'}};
                uint64_t below = ed->frame.lines[v->row + 1].written;
                app_input(ed, &in, (uint64_t)(way * 500 + i) * 20);
                app_paint(ed);
                seen += ed->frame.cursor_col >= v->gutter && ed->frame.cursor_col < cols;
                moves += v->left != left;
                if (v->left == left)
                    CHECK_INT(ed->frame.lines[v->row + 1].written, below);
                left = v->left;
                if (v->gutter)
                    CHECK_INT(frame_cell(&ed->frame, v->row + 1, v->gutter - 1)->codes[0],
                              left ? 0x2039 : ' ');
            }
        CHECK_INT(seen, 1000);
        check_result(moves <= 2 * 500 / (cols / 4 > 1 ? (cols - v->gutter) / 4 : 1) + 4, __FILE__, __LINE__,
                     "%d columns: %d moves", cols, moves);
        CHECK_INT(v->left, 0);
        app_free(ed);
    }
}

/* Cutting a block of columns and pasting it in the same place changes nothing. */
TEST(columns_cut_and_pasted)
{
    static const char text[] = "grey heron 12\ncurlew ferry 7\nmorning tern 9\nshort\nsaltmarsh boat\n";
    for (int round = 0; round < 60; round++) {
        Editor *ed = start(text, sizeof text - 1, 24, 80, false);
        View *v = ed->panes.view;
        size_t left = check_random(4), right = left + 1 + check_random(1 + (unsigned)(4 - left));
        size_t first = check_random(3), last = first + check_random(2);
        v->mark.at = cells_place_of_char(view_text(v), first, left);
        view_go(v, cells_place_of_char(view_text(v), last, right));
        v->marking = MARK_KEY;
        v->columns = true;
        Columns c;
        CHECK(columns_marked(v, &c) && c.left == left && c.right == right && c.first == first &&
              c.last == last);
        command_run_line(ed, "cut", 1, false);
        CHECK_INT(text_len(view_text(v)), sizeof text - 1 - (last - first + 1) * (right - left));
        view_go(v, cells_place_of_char(view_text(v), first, left));
        command_run_line(ed, "paste", 1, false);
        char back[sizeof text];
        size_t n = text_read(view_text(v), 0, back, sizeof back);
        CHECK_BYTES(back, n, text, sizeof text - 1);
        app_free(ed);
    }
}
