/* Panes and the line of prompts, by random deeds. */
#include "check.h"
#include "editors.h"
#include "sound.h"
#include "app/app.h"
#include "frame/line_entry.h"
#include "ui/command.h"
#include "view/panes.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static const char three[] = "berth one\nberth two\nberth three\n";

/* Every cell of the area belongs to one pane, or is the border at the left of some. */
static void check_areas(const Editor *ed)
{
    const Pane *all = ed->panes.root;
    int hidden = 0, shown = 0;
    for (Pane *p = panes_first(&ed->panes); p; p = panes_after(p)) {
        hidden += p->rows == 0;
        shown += p->rows > 0;
    }
    bool now_is_there = false;
    for (Pane *p = panes_first(&ed->panes); p; p = panes_after(p))
        now_is_there = now_is_there || (&p->view == ed->panes.view && p->rows > 0);
    CHECK(now_is_there);
    CHECK(hidden == 0 || shown == 1);
    if (hidden)
        return;
    for (int row = all->row; row < all->row + all->rows; row++)
        for (int col = all->col; col < all->col + all->cols; col++) {
            int owners = 0, borders = 0;
            for (Pane *p = panes_first(&ed->panes); p; p = panes_after(p)) {
                bool rows = row >= p->row && row < p->row + p->rows;
                owners += rows && col >= p->col && col < p->col + p->cols;
                borders += rows && col == p->col - 1;
            }
            check_result(owners == 1 || (owners == 0 && borders > 0), __FILE__, __LINE__,
                         "%d,%d is of %d panes, %d borders", row, col, owners, borders);
            CHECK((panes_at(&ed->panes, row, col) != NULL) == (owners == 1));
        }
}

static void one_deed(Editor *ed)
{
    static const char *const commands[] = {"split-below", "split-beside", "next-pane",    "pane-before",
                                           "close-pane",  "pane-larger",  "pane-smaller", "next-pane"};
    unsigned what = check_random(12);
    if (what < 8) {
        command_run_line(ed, commands[what], 1, false);
    } else if (what == 8) {
        app_resize(ed, 3 + (int)check_random(50), 10 + (int)check_random(150));
    } else if (what == 9 && check_random(4) == 0) {
        command_run_line(ed, "this-pane-alone", 1, false);
    } else if (what == 10) {
        Pane *cut = NULL;
        for (int i = 0; i < 300 && !cut; i++)
            cut = panes_border_at(&ed->panes, (int)check_random((unsigned)ed->frame.rows),
                                  (int)check_random((unsigned)ed->frame.cols));
        if (cut)
            panes_move_border(cut, (int)check_random((unsigned)ed->frame.rows),
                              (int)check_random((unsigned)ed->frame.cols));
    } else {
        Input in = {.kind = INPUT_KEY, .key = {.code = K_CHAR, .ch = 'x'}};
        app_input(ed, &in, editors_now += 30);
    }
}

TEST(panes_cover_the_screen)
{
    for (int round = 0; round < 30; round++) {
        Editor *ed =
            editors_start(three, sizeof three - 1, 10 + (int)check_random(40), 30 + (int)check_random(120));
        for (int i = 0; i < 60; i++) {
            one_deed(ed);
            CHECK(screen_sound(ed));
            check_areas(ed);
        }
        command_run_line(ed, "this-pane-alone", 1, false);
        CHECK(screen_sound(ed));
        CHECK(!panes_many(&ed->panes) && &panes_first(&ed->panes)->view == ed->panes.view);
        check_areas(ed);
        size_t len = text_len(view_text(ed->panes.view)), at;
        CHECK(len >= 32);
        while (doc_undo(ed->panes.view->file->doc, &at))
            continue;
        CHECK_INT(text_len(view_text(ed->panes.view)), 32);
        app_free(ed);
    }
}

/* A border whose panes are closed by keys while the mouse holds it. */
TEST(what_the_mouse_holds_may_go)
{
    Editor *ed = editors_start(three, sizeof three - 1, 40, 100);
    command_run_line(ed, "split-beside", 1, false);
    app_paint(ed);
    Input in = {.kind = INPUT_MOUSE, .mouse = {.action = MOUSE_PRESS, .button = 1, .row = 10}};
    while (!panes_border_at(&ed->panes, 10, in.mouse.col))
        in.mouse.col++;
    app_input(ed, &in, editors_now += 100);
    in.mouse.action = MOUSE_DRAG;
    in.mouse.col += 9;
    app_input(ed, &in, editors_now += 100);
    app_paint(ed);
    CHECK(panes_border_at(&ed->panes, 10, in.mouse.col) != NULL);
    editors_press(ed, "Esc v a");
    app_input(ed, &in, editors_now += 100);
    CHECK(screen_sound(ed) && !panes_many(&ed->panes));
    /* The same with the words of a double click, in a text that is longer than the next one. */
    in.mouse = (Mouse){.action = MOUSE_PRESS, .button = 1, .row = 3, .col = 8};
    for (int i = 0; i < 2; i++)
        app_input(ed, &in, editors_now += 100);
    editors_press(ed, "Esc f n");
    in.mouse.action = MOUSE_DRAG;
    app_input(ed, &in, editors_now += 100);
    CHECK(screen_sound(ed) && ed->panes.view->mark.at == 0);
    app_free(ed);
}

/* ---- the line of prompts ---- */

static bool starts_character(const LineEntry *l, size_t at)
{
    for (size_t p = 0; p < l->text.len; p += glyph_length(bytes_str(&l->text) + p, l->text.len - p))
        if (p == at)
            return true;
    return at == l->text.len;
}

TEST(lines_of_prompts)
{
    static const char *const keys[] = {"Left",   "Right",      "Home",   "End",    "Backspace", "Delete",
                                       "Ctrl+W", "Ctrl+U",     "Ctrl+K", "Ctrl+A", "Ctrl+E",    "Ctrl+Left",
                                       "Left",   "Ctrl+Right", "Right",  "Ctrl+D", "Backspace", "Left"};
    static const char *const typed[] = {"a",         "/",    " ",  "quay", "\xe6\xbc\xa2",
                                        "e\xcc\x81", "\xff", "\t", "x\ny"};
    Frame f = {0};
    frame_resize(&f, 3, 40);
    for (int round = 0; round < 300; round++) {
        LineEntry l = {0};
        line_entry_set(&l, round % 2 ? "/harrow/kiosks/north quay.ini" : "");
        l.selected = round % 5 == 0;
        for (int i = 0; i < 80; i++) {
            Key k;
            unsigned what = check_random(30);
            if (what < sizeof keys / sizeof *keys) {
                CHECK(key_parse(keys[what], strlen(keys[what]), &k));
                line_entry_key(&l, k);
            } else {
                const char *bytes = typed[check_random(sizeof typed / sizeof *typed)];
                size_t before = l.selected ? 0 : l.text.len;
                line_entry_insert(&l, bytes, strlen(bytes));
                CHECK(!l.selected && l.text.len >= before && l.text.len <= before + strlen(bytes));
            }
            CHECK(l.at <= l.text.len && starts_character(&l, l.at));
            CHECK(!memchr(bytes_str(&l.text), '\n', l.text.len));
            int from = (int)check_random(20), to = from + 4 + (int)check_random(16);
            line_entry_paint(&l, &f, 1, from, to, ST_PROMPT);
            CHECK(f.cursor_row == 1 && f.cursor_col >= from && f.cursor_col < to);
            CHECK(frame_sound(&f));
        }
        line_entry_free(&l);
    }
    frame_free(&f);
}
