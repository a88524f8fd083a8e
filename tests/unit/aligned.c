/* The cells of a table under each other, on the screen only. */
#include "check.h"
#include "editors.h"
#include "app/app.h"
#include "edit/move.h"
#include "session/session_files.h"
#include "text/text_line.h"
#include "view/aligned.h"
#include "view/rows.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static const char fares[] = "route,berth,adult\nNorth pier,3,4.20\n\"Bay, east\",12,\nTīde,7,1.00\n";

static Editor *with_table(const char *text, int rows, int cols)
{
    Editor *ed = editors_start(text, strlen(text), rows, cols);
    openfile_set_kind(ed->panes.view->file, kind_named("csv"));
    return ed;
}

TEST(columns_under_each_other)
{
    static const char *const shown[] = {"  1  route,       berth, adult", "  2  North pier,  3,     4.20",
                                        "  3  \"Bay, east\", 12,", "  4  Tīde,        7,     1.00"};
    Editor *ed = with_table(fares, 12, 60);
    editors_press(ed, "Esc v d");
    CHECK(editors_show(ed, "on the screen only"));
    for (int i = 0; i < 4; i++)
        CHECK_STR(editors_row(ed, i + 1), shown[i]);
    CHECK(editors_text_is(ed, fares));
    editors_press(ed, "Down End Up"); /* under the last cell of the second row */
    CHECK_INT(ed->panes.view->cursor.at, strlen("route,berth,adul"));
    editors_press(ed, "Home x"); /* wider by a cell */
    CHECK_STR(editors_row(ed, 1), "  1  xroute,      berth, adult");
    editors_press(ed, "Esc v d");
    CHECK_STR(editors_row(ed, 3), "  3  \"Bay, east\",12,");
    app_free(ed);
}

TEST(what_is_no_table)
{
    Editor *ed = with_table("Tide log\nof Harrow Bay\n", 12, 60);
    editors_press(ed, "Esc v d");
    CHECK(editors_show(ed, "are not divided by the same"));
    CHECK(!ed->panes.view->aligned);
    app_free(ed);
}

/* Any place and its cells belong together; what stands on the screen is where the cursor is; short cells of a
 * column begin below each other; moving up and down leads to the same column again. */
TEST(places_of_cells)
{
    static const char *const cells[] = {"a",          "berth", "",          "\"x, y\"", "Tīde Ħill",
                                        "港の渡し船", "1.25",  "e\xcc\x81", "\xff"};
    static const char signs[] = ",;\t|";
    for (int round = 0; round < check_rounds(300); round++) {
        Bytes text = {0};
        char sign[2] = {signs[check_random(4)]};
        size_t columns = 2 + check_random(5);
        for (size_t line = 0; line < 8; line++) {
            size_t n = line < 3 || check_random(6) ? columns : 1 + check_random((unsigned)columns);
            for (size_t i = 0; i < n; i++)
                bytes_printf(&text, "%s%s", i ? sign : "", cells[check_random(9)]);
            bytes_add_str(&text, "\n");
        }
        Editor *ed = with_table(bytes_str(&text), 20, 24 + (int)check_random(80));
        View *v = ed->panes.view;
        Text t = view_text(v);
        editors_press(ed, "Esc v d");
        if (!v->aligned) {
            bytes_free(&text);
            app_free(ed);
            continue;
        }
        editors_row(ed, 0); /* painted, it knows how wide they are */
        size_t begins[8] = {0};
        for (size_t line = 0; line < 8; line++) {
            AlignedRow a;
            Row row = row_at(v, text_line_start(t, line));
            aligned_row(v, row.line_from, row.line_to, &a);
            for (size_t i = 0; i < a.n && i < 8; i++) {
                CHECK(begins[i] == 0 || begins[i] == a.after[i]);
                begins[i] = a.after[i];
            }
            for (size_t at = row.line_from; at <= row.line_to; at = move_right(t, at)) {
                CHECK_INT(row_place(v, &row, row_cells(v, &row, at)), at);
                if (at == row.line_to)
                    break;
                CHECK(row_cells(v, &row, move_right(t, at)) > row_cells(v, &row, at));
            }
        }
        for (int i = 0; i < 6; i++) {
            view_go(v, text_line_start(t, check_random(8)));
            editors_press(ed, "Home");
            for (unsigned k = check_random(30); k > 0; k--)
                editors_press(ed, "Right");
            editors_row(ed, 0);
            Row row = row_at(v, v->cursor.at);
            CHECK_INT(ed->frame.cursor_col,
                      v->col + v->gutter + (int)(row_cells(v, &row, v->cursor.at) - v->left));
            CHECK(ed->frame.cursor_col < ed->frame.cols);
            size_t at = v->cursor.at;
            editors_press(ed, text_line_of(t, at) ? "Up Down" : "Down Up");
            CHECK_INT(v->cursor.at, at);
        }
        bytes_free(&text);
        app_free(ed);
    }
}
