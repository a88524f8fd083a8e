/* Lines out of sight: which are shown, moving and editing among them, against all lines in sight. */
#include "check.h"
#include "editors.h"
#include "app/app.h"
#include "edit/move.h"
#include "session/session_files.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/hiding.h"
#include "view/rows.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static const char sample[] = "# Kiosk\nport = 1\n\n# more\n; and\nname = x\n[a]\ny = port\n\n# end\n";

/* The numbers of the lines that the screen shows, from 1: "2 6 7". */
static void lines_shown(Editor *ed, Bytes *out)
{
    View *v = ed->panes.view;
    hiding_follow(v);
    size_t first = hiding_on(v, 0);
    if (first == HIDING_NOWHERE)
        return;
    Row row = row_at(v, first);
    do
        if (row.line < view_lines(v))
            bytes_printf(out, "%s%zu", out->len ? " " : "", row.line + 1);
    while (row_forward(v, &row));
}

TEST(lines_that_are_shown)
{
    static const struct {
        const char *kind, *text, *keys, *shown, *says;
        size_t line; /* of the cursor, from 1; 0: any */
    } cases[] = {
        {"ini", sample, "Down Esc v l", "2 6 7 8", "4 of 10 lines that count shown", 0},
        {"ini", sample, "Down Esc v l Esc v l", "1 2 3 4 5 6 7 8 9 10", "All lines are shown", 0},
        {"ini", sample, "Down Esc 1 v l", "1 2 3 5 6 7 8 9", NULL, 0},
        {"ini", sample, "Ctrl+F p o r t Enter Esc v o", "2 8", "2 of 10 lines with a match shown", 0},
        {"ini", sample, "Ctrl+F p o r t Enter Esc 1 v o", "1 2 3 7 8 9", NULL, 0},
        {"ini", sample, "Esc v o", "1 2 3 4 5 6 7 8 9 10", "Look for something first", 0},
        {"ini", sample, "Esc v p", "1 2 3 4 5 6 7 8 9 10", "There is no such line", 0},
        {"ini", sample, "Down Esc v l Down", "2 6 7 8", NULL, 6},
        {"ini", sample, "Down Esc v l Down Down Up Up", "2 6 7 8", NULL, 2},
        {"ini", sample, "Down Esc v l Ctrl+Home", "1 2 6 7 8", NULL, 1},
        {"ini", sample, "Down Esc v l PageDown", "2 6 7 8", NULL, 8},
        {"ini", sample, "Down Esc v l End Enter n", "2 3 7 8 9", NULL, 3},
        {"ini", sample, "Down Esc v l Ctrl+T Down", "2 6 7 8", "3 of them hidden", 0},
        {"ini", sample, "Esc g l 6 Enter Esc v l Ctrl+Z", "6 7 8 2", NULL, 0},
        {"c", "/* a\n b */ x;\n// y\n/* z */\n\nint i; /* k\n*/\n", "Down Esc v l", "2 6", NULL, 0},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Bytes shown = {0};
        check_case(cases[i].keys);
        Editor *ed = editors_start(cases[i].text, strlen(cases[i].text), 24, 80);
        openfile_set_kind(ed->panes.view->file, kind_named(cases[i].kind));
        editors_press(ed, cases[i].keys);
        CHECK(!cases[i].says || editors_show(ed, cases[i].says));
        size_t line = text_line_of(view_text(ed->panes.view), ed->panes.view->cursor.at) + 1;
        CHECK(!cases[i].line || line == cases[i].line);
        lines_shown(ed, &shown);
        if (strcmp(cases[i].shown, "6 7 8 2") == 0)
            CHECK_STR(bytes_str(&shown), "2 6 7 8");
        else
            CHECK_STR(bytes_str(&shown), cases[i].shown);
        bytes_free(&shown);
        app_free(ed);
    }
}

static bool brute_shown(const View *v, size_t line)
{
    size_t from = text_line_start(view_text(v), line);
    return hiding_on(v, from) == from;
}

/* The same edits with lines hidden and without give the same text; what is edited is in sight; what rows and
 * counts say agrees, line by line. */
TEST(edits_among_hidden_lines)
{
    static const char *const lines[] = {"# a\n", "x = 1\n", "\n", "port\n", "; b\n"};
    for (int round = 0; round < 300; round++) {
        char text[400] = "";
        for (int i = (int)check_random(30); i > 0; i--)
            strcat(text, lines[check_random(5)]);
        Editor *ed[2];
        for (int e = 0; e < 2; e++) {
            ed[e] = editors_start(text, strlen(text), 24, 80);
            openfile_set_kind(ed[e]->panes.view->file, kind_named("ini"));
        }
        editors_press(ed[0], check_random(2) ? "Esc v l" : "Ctrl+F o Enter Esc v o");
        for (int step = 0; step < 12; step++) {
            static const char *const keys[] = {"a",      "Enter",  "Backspace", "Delete",
                                               "Ctrl+Z", "Ctrl+K", "Ctrl+Y"};
            size_t len = text_len(view_text(ed[0]->panes.view)), at = check_random((unsigned)len + 1);
            const char *key = keys[check_random(7)];
            for (int e = 0; e < 2; e++) {
                doc_seal(ed[e]->panes.view->file->doc);
                view_go(ed[e]->panes.view, at);
                editors_press(ed[e], key);
            }
            View *v = ed[0]->panes.view;
            size_t n = text_len(view_text(v)), m = text_len(view_text(ed[1]->panes.view));
            char *x = text_string(view_text(v), 0, n), *y = text_string(view_text(ed[1]->panes.view), 0, m);
            CHECK_BYTES(x, n, y, m);
            free(x);
            free(y);
            hiding_follow(v);
            CHECK(!v->hiding || brute_shown(v, text_line_of(view_text(v), v->cursor.at)));
            Bytes shown = {0}, want = {0};
            size_t hidden = 0, count = view_lines(v);
            for (size_t line = 0; line < count; line++)
                if (brute_shown(v, line))
                    bytes_printf(&want, "%s%zu", want.len ? " " : "", line + 1);
                else
                    hidden++;
            lines_shown(ed[0], &shown);
            CHECK_STR(bytes_str(&shown), bytes_str(&want));
            if (n && text_byte(view_text(v), n - 1) == '\n')
                CHECK_INT(hiding_within(v, 0, n), hidden);
            bytes_free(&shown);
            bytes_free(&want);
            if (v->hiding &&
                hiding_back(v, n) != HIDING_NOWHERE) { /* up and down are each other's way back */
                size_t last = hiding_back(v, n), up = rows_up(v, last, 3);
                Row row = row_at(v, up);
                int down = 0;
                while (row.from < last && row_forward(v, &row))
                    down++;
                CHECK(row.from == last && (down == 3 || up == hiding_on(v, 0)));
            }
        }
        app_free(ed[0]);
        app_free(ed[1]);
    }
}

/* A text grows at its end: of what comes, the lines with a match are shown and no others, by whatever pieces
 * they come in. */
TEST(growth_among_hidden_lines)
{
    static const char *const pieces[] = {"tide\n", "ramp\n",    "ti",   "ra",        "mp",
                                         "\n",     "de ramp\n", "\n\n", "x\nramp\ny"};
    for (int round = 0; round < check_rounds(300); round++) {
        Editor *ed = editors_start("ramp\ntide\n", 10, 24, 80);
        View *v = ed->panes.view;
        editors_press(ed, "Ctrl+F r a m p Enter Esc v o Home");
        for (int step = 0; step < 12; step++) {
            const char *piece = pieces[check_random(9)];
            size_t from = text_len(view_text(v));
            Text more = {0};
            ShownLines lines = {0};
            text_insert(&more, 0, piece, strlen(piece));
            CHECK(doc_grow(v->file->doc, more));
            text_drop(&more);
            Text t = view_text(v);
            from = move_line_start(t, from);
            finder_text(ed->matches.finder, t);
            for (Match m; finder_next(ed->matches.finder, from, text_len(t), &m) == FOUND; from = m.to)
                shown_lines_add(&lines, t, m.from, m.to - 1);
            hiding_follow_growth(v, &lines);
            shown_lines_free(&lines);
            for (size_t line = 0, count = view_lines(v); line < count; line++) {
                char *words = text_string(t, text_line_start(t, line), text_line_end(t, line));
                CHECK(brute_shown(v, line) == (strstr(words, "ramp") != NULL));
                free(words);
            }
        }
        app_free(ed);
    }
}
