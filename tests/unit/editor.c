/* The whole editor without a terminal: input in, a Frame out. */
#include "check.h"
#include "commands/help/key_test.h"
#include "commands/help/lesson.h"
#include "commands/menus.h"
#include "edit/move.h"
#include "editors.h"
#include "session/session_files.h"
#include "sound.h"
#include "ui/command.h"
#include "view/shown.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

static Editor *begin(const char *text, int rows, int cols)
{
    return editors_start(text, strlen(text), rows, cols);
}

TEST(messages_stay_two_seconds)
{
    Editor *ed = begin("tide\n", 24, 80);
    editors_press(ed, "Ctrl+Y");
    CHECK(editors_show(ed, "There is nothing to redo"));
    editors_press(ed, "Right");
    CHECK(editors_show(ed, "There is nothing to redo"));
    CHECK(app_wait(ed, editors_now) > 1500);
    app_tick(ed, editors_now += 2000);
    CHECK(!editors_show(ed, "There is nothing to redo"));
    CHECK_INT(app_wait(ed, editors_now), -1);
    editors_press(ed, "Ctrl+Y");
    editors_now += 2500;
    CHECK(editors_show(ed, "There is nothing to redo")); /* until the next key */
    editors_press(ed, "Left");
    CHECK(!editors_show(ed, "There is nothing to redo"));
    app_free(ed);
}

TEST(esc_rules)
{
    Editor *ed = begin("tide\n", 24, 80);
    Input arrow = {.kind = INPUT_KEY, .key = {.code = K_DOWN}, .takes_back_esc = true};
    editors_press(ed, "Esc");
    CHECK(ed->layer != NULL);
    app_input(ed, &arrow, editors_now += 300); /* the Esc was the head of an arrow key */
    CHECK(ed->layer == NULL && ed->panes.view->cursor.at == 5);
    editors_now += 2000;
    editors_press(ed, "Ctrl+O x Esc");
    CHECK(ed->layer == NULL);
    editors_now += 2000;
    editors_press(ed, "Ctrl+O x Alt+F"); /* in a prompt Alt goes back and is swallowed */
    CHECK(ed->layer == NULL && text_len(view_text(ed->panes.view)) == 5);
    editors_press(ed, "Ctrl+T Right Esc e Esc Esc");
    CHECK(ed->layer == NULL && ed->panes.view->marking == MARK_NONE);
    editors_press(ed, "Esc"); /* one that finds nothing left wakes the menus for a moment */
    CHECK(ed->layer != NULL && app_wait(ed, editors_now) <= ESC_BRIEF);
    app_tick(ed, editors_now += ESC_BRIEF - 100);
    CHECK(ed->layer != NULL);
    app_tick(ed, editors_now += 200);
    CHECK(ed->layer == NULL);
    for (int i = 1; i < 12; i++) { /* hammering */
        editors_press(ed, "Esc");
        CHECK((ed->layer != NULL) == (i % 2 == 1));
    }
    app_tick(ed, editors_now += ESC_BRIEF);
    CHECK(ed->layer == NULL);
    editors_press(ed, "Ctrl+F t Esc Esc m c"); /* out of a prompt, and a route at once */
    CHECK(ed->layer == NULL && ed->panes.view->columns && text_len(view_text(ed->panes.view)) == 5);
    app_tick(ed, editors_now += 2000);
    editors_press(ed, "Esc Esc");
    editors_press(ed, "Up Ctrl+F t Ctrl+Alt+D"); /* Esc and a chord that came as one */
    CHECK(ed->layer == NULL && text_len(view_text(ed->panes.view)) == 4);
    editors_press(ed, "Ctrl+Alt+Z");
    CHECK(ed->layer == NULL && text_len(view_text(ed->panes.view)) == 5); /* chords work from the menus too */
    editors_now += 2000;
    editors_press(ed, "Esc");
    CHECK(ed->layer != NULL);
    app_free(ed);
}

/* The rule of Esc as a model: what lies over the text, whether the bar stays, the mark, and what was typed.
 */
typedef struct EscModel {
    int layers; /* that one Esc each closes */
    enum { NO_BAR, BAR, BRIEF } bar;
    bool menu, mark, numbers;
    uint64_t last, until; /* the last Esc; when a brief bar goes */
    size_t typed;
} EscModel;

static void model_time(EscModel *m, uint64_t now)
{
    if (m->bar == BRIEF && now >= m->until) {
        m->bar = NO_BAR;
        m->mark = false;
        m->last = 0;
    }
}

static void model_esc(EscModel *m, uint64_t now)
{
    bool burst = m->last && now - m->last < 300, brief = m->bar == BRIEF;
    bool open = m->layers || m->bar != NO_BAR || m->menu;
    m->last = now;
    if (brief || (burst && open)) {
        m->layers = 0;
        m->bar = NO_BAR;
        m->menu = m->mark = false;
    } else if (m->menu) {
        m->menu = false;
        m->bar = BAR;
    } else if (m->bar == BAR) {
        m->bar = NO_BAR;
    } else if (m->layers) {
        m->layers--;
    } else {
        m->bar = burst ? BRIEF : BAR;
        m->until = now + 500;
    }
}

/* The letters of the route Esc v n, which switches line numbers; in a prompt they are its. */
static void model_letter(EscModel *m, char letter)
{
    m->last = 0;
    if (m->menu) {
        m->menu = letter == 'v' ? m->menu : false;
        m->numbers ^= letter == 'n';
    } else if (m->bar != NO_BAR) {
        m->bar = letter == 'v' ? NO_BAR : BAR;
        m->menu = letter == 'v';
    } else if (!m->layers) {
        m->typed++;
        m->mark = false;
    }
}

TEST(esc_follows_its_rule)
{
    enum { STEPS = 12 };
    static const unsigned gaps[] = {1, 40, 150, 299, 301, 400, 499, 501, 700, 1100, 2000};
    for (int round = check_rounds(2400); round > 0; round--) {
        Editor *ed = begin("tide\n", 24, 80);
        EscModel m = {.numbers = ed->config.settings.line_numbers};
        char did[400] = "";
        for (int i = 0; i < STEPS; i++) {
            static const char *const steps[] = {"Esc", "Esc",    "Esc",    "v",     "n",
                                                "F1",  "Ctrl+F", "Ctrl+O", "Ctrl+T"};
            unsigned what = check_random(sizeof steps / sizeof *steps);
            bool plain = !m.layers && m.bar == NO_BAR && !m.menu, opens = what >= 5;
            if ((opens && !plain) || (what == 4 && m.bar != NO_BAR))
                continue;
            unsigned gap = gaps[check_random(sizeof gaps / sizeof *gaps)];
            snprintf(did + strlen(did), sizeof did - strlen(did), " %u %s", gap, steps[what]);
            app_tick(ed, editors_now += gap);
            model_time(&m, editors_now);
            editors_now -= 20; /* which pressing adds */
            editors_press(ed, steps[what]);
            if (what < 3)
                model_esc(&m, editors_now);
            else if (what < 5)
                model_letter(&m, *steps[what]);
            else
                m.last = 0;
            m.layers += what >= 5 && what <= 7;
            m.mark = what == 8 ? !m.mark : m.mark;
            bool same =
                (ed->layer != NULL) == (m.layers || m.bar != NO_BAR || m.menu) &&
                (ed->panes.view->marking != MARK_NONE || m.layers == 1) == (m.mark || m.layers == 1) &&
                ed->config.settings.line_numbers == m.numbers &&
                (m.layers || text_len(view_text(ed->panes.view)) == 5 + m.typed);
            check_result(same, __FILE__, __LINE__, "layers %d, bar %d, menu %d, mark %d, typed %zu after%s",
                         m.layers, (int)m.bar, m.menu, m.mark, m.typed, did);
            if (!same)
                break;
        }
        app_free(ed);
    }
}

TEST(letters_of_other_alphabets)
{
    Editor *ed = begin("one two\n", 24, 80);
    Err e;
    CHECK(settings_set(&ed->config, "menu_letters",
                       "\xd1\x83"
                       "e\xd0\xb4l",
                       NULL, &e));
    editors_press(ed, "Esc \xd1\x83 \xd0\xb4"); /* Esc e l, by the places of the keys */
    CHECK_INT(text_len(view_text(ed->panes.view)), 1);
    app_free(ed);
}

TEST(questions_wait_for_eyes)
{
    Editor *ed = begin("tide\n", 24, 80);
    editors_press(ed, "x Ctrl+Q d d d");
    CHECK(!ed->host.leave && ed->layer && ed->host.discard_input);
    editors_now += 300;
    editors_press(ed, "d");
    CHECK(ed->host.leave);
    app_free(ed);
}

TEST(paths_lose_their_middle)
{
    Editor *ed = begin("x", 24, 80);
    openfile_set_path(ed->panes.view->file,
                      strdup("/srv/harrow/kiosks/north/quay/by/the/old/lighthouse/kiosk-17.ini"));
    CHECK(strstr(editors_row(ed, 0), "…") != NULL);
    CHECK(strstr(editors_row(ed, 0), "/kiosk-17.ini") != NULL);
    CHECK(strstr(editors_row(ed, 0), "/srv") != NULL);
    CHECK(strstr(editors_row(ed, 0), "changed") == NULL);
    app_resize(ed, 24, 30);
    CHECK(strstr(editors_row(ed, 0), "kiosk-17.ini") != NULL);
    app_free(ed);
}

TEST(hints_that_are_never_dropped)
{
    for (int cols = 40; cols < 140; cols += 7) {
        Editor *ed = begin("tide\n", 24, cols);
        CHECK(editors_show(ed, "Ctrl+Q Leave") && editors_show(ed, "Esc Commands") &&
              editors_show(ed, "F1 Help"));
        CHECK(screen_sound(ed));
        app_free(ed);
    }
}

/* ---- help lies over the text ---- */

static bool helps(const Editor *ed)
{
    return layers_covered(ed) && !ed->panes.view->file->id;
}

TEST(help_comes_and_goes)
{
    Editor *ed = begin("one two\nthree\n", 24, 80);
    const View *text = ed->panes.view;
    editors_press(ed, "Right F1");
    CHECK(helps(ed) && editors_show(ed, "Help: start") && editors_show(ed, "Esc Back to the text"));
    editors_press(ed, "Down Down x Enter"); /* moves in the page; nothing is typed */
    CHECK(helps(ed) && text_len(view_text(text)) == 14);
    editors_press(ed, "Ctrl+F k e y Enter");
    CHECK(helps(ed) && ed->panes.view->cursor.at > 0 && ed->matches.shown);
    editors_press(ed, "Ctrl+S");
    CHECK(helps(ed) && editors_show(ed, "A page of help is no file"));
    editors_press(ed, "Esc");
    CHECK(!ed->layer && ed->panes.view == text && text->cursor.at == 1);
    editors_now += 2000;
    editors_press(ed, "Ctrl+G 2 F1"); /* and comes back to what lay there */
    CHECK(helps(ed) && editors_show(ed, "Help: prompts"));
    editors_press(ed, "Esc");
    CHECK(ed->layer && editors_show(ed, "Go to line: 2"));
    editors_press(ed, "Enter");
    CHECK(!ed->layer && text->cursor.at == 8);
    editors_press(ed, "F1 Ctrl+G F1"); /* one page in the place of another, not above it */
    CHECK(helps(ed) && !ed->layer->below && editors_show(ed, "Help: prompts"));
    command_run_line(ed, "close", 1, false);
    CHECK(!ed->layer && ed->panes.view == text && ed->session->n_files == 1);
    app_free(ed);
}

/* It lies over one pane; whoever goes elsewhere has left it. */
TEST(help_gives_way)
{
    static const char *const away[] = {"next-pane",  "pane-before", "split-beside", "this-pane-alone",
                                       "close-pane", "new",         "next-file",    "jump-back",
                                       "close",      "file-before"};
    for (size_t i = 0; i < sizeof away / sizeof *away; i++) {
        Editor *ed = begin("one two\nthree\n", 40, 120);
        check_case(away[i]);
        editor_show(ed, session_add(ed->session, (Text){0}));
        command_run_line(ed, "go-line 1", 1, false);
        command_run_line(ed, "split-below", 1, false);
        editors_press(ed, "F1");
        CHECK(helps(ed) && screen_sound(ed));
        command_run_line(ed, away[i], 1, false);
        CHECK(!layers_covered(ed) && ed->panes.view->file->id && screen_sound(ed));
        app_free(ed);
    }
    /* A click in the other pane goes there. */
    Editor *ed = begin("one two\nthree\n", 40, 120);
    command_run_line(ed, "split-below", 1, false);
    editors_press(ed, "F1");
    CHECK(screen_sound(ed));
    Input in = {.kind = INPUT_MOUSE, .mouse = {.action = MOUSE_PRESS, .button = 1, .row = 2, .col = 9}};
    app_input(ed, &in, editors_now += 500);
    CHECK(!layers_covered(ed) && ed->panes.view == &panes_first(&ed->panes)->view && screen_sound(ed));
    app_free(ed);
}

/* A list that lies over help and shows where its rows lead stays while help goes. */
TEST(lists_over_help_stay)
{
    Editor *ed = begin("a key\n", 30, 80);
    editors_press(ed, "Ctrl+F k e y Enter F1");
    command_run_line(ed, "list-matches-everywhere", 1, false);
    CHECK(layers_covered(ed) && ed->layer->below);
    editors_press(ed, "Down");
    CHECK(!layers_covered(ed) && ed->layer && !ed->layer->below && screen_sound(ed));
    editors_press(ed, "Enter");
    CHECK(!ed->layer && ed->panes.view->file->id && screen_sound(ed));
    app_free(ed);
}

TEST(a_character_many_times)
{
    static const struct {
        const char *line, *keys;
        size_t len;
    } cases[] = {{"", "Esc 5 Enter x", 5},
                 {"repeat-character 3", "x", 3},
                 {"repeat-character", "4 Enter -", 4},
                 {"repeat-character", "4 x Enter", 0}, /* no count */
                 {"repeat-character 3", "Esc", 0},
                 {"", "Esc 3 m n x", 3}};
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Editor *ed = begin("", 24, 80);
        check_case(cases[i].keys);
        if (cases[i].line[0])
            command_run_line(ed, cases[i].line, 1, false);
        editors_press(ed, cases[i].keys);
        CHECK_INT(text_len(view_text(ed->panes.view)), cases[i].len);
        app_free(ed);
        editors_now += 3000;
    }
}

TEST(fresh_indentation_leaves_nothing_behind)
{
    static const struct {
        const char *before, *keys, *after;
    } cases[] = {
        {"  a", "End Enter b", "  a\n  b"},
        {"  a", "End Enter Enter b", "  a\n\n  b"},
        {"\ta", "End Enter Enter Enter", "\ta\n\n\n\t"},
        {"  a", "End Enter Up b", "  ba\n"},
        {"  a", "End Enter Home", "  a\n  "}, /* still in that line */
        {"  a", "End Enter Home Home x", "  a\nx  "},
        {"  a", "End Enter Space Up", "  a\n   "}, /* a blank of one's own is meant */
        {"  a", "End Left Enter Up", "  \n  a"},   /* there is something behind it */
        {"  a", "End Enter Backspace Up", "  a\n "},
        {"  a", "End Enter Up Ctrl+Z", "  a\n  "},
        {"  a", "End Enter Up Ctrl+Z Ctrl+Z", "  a"},
        {"  a", "End Enter Enter Ctrl+Z", "  a\n  "},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Editor *ed = begin(cases[i].before, 24, 80);
        check_case(cases[i].keys);
        editors_press(ed, cases[i].keys);
        check_result(editors_text_is(ed, cases[i].after), __FILE__, __LINE__, "it is not “%s”",
                     cases[i].after);
        app_free(ed);
    }
}

/* Whatever is opened and backed out of: cursor, mark and view are as they were. */
TEST(backing_out_leaves_no_trace)
{
    static const char *const ways[] = {
        "Esc e h Down Down Esc",
        "Esc e h x Esc",
        "Ctrl+R b Esc",
        "Ctrl+R b Enter Esc",
        "Ctrl+R b Enter x Enter Wait Esc",
        "Ctrl+R b Enter x Enter Wait v Esc Wait Esc",
        "Ctrl+F b Esc",
        "Ctrl+F b Down Tab c Tab Esc",
        "Esc s k b Esc",
        "Esc s l Down Down Esc",
        "Esc f f Down Esc",
        "Esc e s Down Esc",
        "Esc v m Down Esc",
        "Esc v k Down Esc",
        "Esc f p Down Enter Esc",
        "Esc h s Down Esc",
        "Ctrl+P g o Down Esc",
        "Ctrl+G 3 Esc",
        "Ctrl+O x Down Esc",
        "F1 Down Down Esc",
        "F9 Down Esc",
        "Esc f Down Esc Esc",
    };
    for (size_t i = 0; i < 2 * sizeof ways / sizeof *ways; i++) {
        Bytes text = {0};
        for (int k = 0; k < 200; k++)
            bytes_printf(&text, "berth %d is free\n", k);
        Editor *ed = editors_start(text.at, text.len, 24, 80);
        View *v = ed->panes.view;
        check_case(ways[i / 2]);
        editors_press(ed, "Ctrl+F b Enter Ctrl+End x Ctrl+C Up Ctrl+Z Ctrl+G 1 0 0 Enter Up Up Up");
        if (i % 2)
            editors_press(ed, "Ctrl+T Right Right");
        app_paint(ed);
        size_t cursor = v->cursor.at, top = v->top.at, mark = v->mark.at;
        MarkKind marking = v->marking;
        editors_now += 3000;
        for (const char *at = ways[i / 2]; *at;) {
            char key[20] = "";
            size_t n = strcspn(at, " ");
            snprintf(key, sizeof key, "%.*s", (int)n, at);
            if (strcmp(key, "Wait") == 0)
                editors_now += 2000;
            else
                editors_press(ed, key);
            app_paint(ed);
            editors_now += strncmp(at + n, " Esc", 4) == 0 ? 1500 : 0;
            at += n + strspn(at + n, " ");
        }
        CHECK(!ed->layer && v == ed->panes.view);
        CHECK_INT(v->cursor.at, cursor);
        CHECK_INT(v->top.at, top);
        CHECK_INT(v->marking, marking);
        CHECK(marking == MARK_NONE || v->mark.at == mark);
        app_free(ed);
        bytes_free(&text);
        editors_now += 3000;
    }
}

TEST(the_wheel_only_looks)
{
    for (int wrap = 0; wrap < 2; wrap++) {
        Bytes text = {0};
        for (int k = 0; k < 200; k++)
            bytes_printf(&text, "berth %d is free\n", k);
        Editor *ed = editors_start(text.at, text.len, 24, 80);
        View *v = ed->panes.view;
        v->wrap = wrap;
        editors_press(ed, "Ctrl+T Down Right");
        app_paint(ed);
        size_t cursor = v->cursor.at;
        Input wheel = {.kind = INPUT_MOUSE, .mouse = {.action = MOUSE_WHEEL_DOWN, .row = 5, .col = 20}};
        for (int i = 0; i < 100; i++)
            app_input(ed, &wheel, editors_now += 20);
        CHECK(editors_show(ed, "berth 199 is free") && !editors_show(ed, "berth 170 is"));
        CHECK(v->cursor.at == cursor && v->mark.at == 0 && v->marking == MARK_KEY);
        CHECK(ed->frame.cursor_row < 0);
        wheel.mouse.action = MOUSE_WHEEL_UP;
        app_input(ed, &wheel, editors_now += 20);
        app_input(ed, &wheel, editors_now += 20);
        CHECK(!editors_show(ed, "berth 199 is free"));
        editors_press(ed, "Right"); /* the cursor counts again */
        CHECK(editors_show(ed, "berth 1 is free") && v->cursor.at == cursor + 1 && v->mark.at == 0);
        app_free(ed);
        bytes_free(&text);
    }
}

/* Each field of the status line opens its own chooser. */
TEST(fields_can_be_clicked)
{
    static const char *const fields[][2] = {{"text", "Kind of file"},
                                            {"utf-8", "Encoding to save in"},
                                            {"lf", "All line ends become"},
                                            {"spaces 4", "Indentation: spaces 4"}};
    for (size_t i = 0; i < sizeof fields / sizeof *fields; i++) {
        Editor *ed = begin("berth\n", 24, 80);
        check_case(fields[i][0]);
        app_paint(ed);
        const char *row = editors_row(ed, 22), *at = strstr(row, fields[i][0]);
        int col = at ? 0 : -1;
        for (const char *p = row; at && p < at; p++) /* characters, not bytes */
            col += ((unsigned char)*p & 0xc0) != 0x80;
        Input click = {.kind = INPUT_MOUSE,
                       .mouse = {.action = MOUSE_PRESS, .button = 1, .row = 22, .col = col}};
        app_input(ed, &click, editors_now += 20);
        check_result(editors_show(ed, fields[i][1]), __FILE__, __LINE__, "“%s” is not shown", fields[i][1]);
        app_free(ed);
    }
}

/* What is on the screen after some keys. */
TEST(what_keys_show)
{
    static const struct {
        const char *keys, *shows, *hides;
        int rows, cols;
    } cases[] = {
        /* help on what is chosen */
        {"Esc f Down F1", "save-as ", "Help: start", 24, 80},
        {"Ctrl+P d u p F1", "duplicate-lines", "Help: panels", 24, 80},
        {"Esc f Down F1 Esc", "Write the text to a file with another name", NULL, 24, 80}, /* and back */
        /* what is pale says why */
        {"Esc e Down Down Down Down Down", "Nothing was cut or copied yet", NULL, 24, 80},
        {"Esc f End", "Leave, cancel the caller", NULL, 24, 80},
        {"Esc f PageDown Enter", "", "a letter Run", 24, 80},
        /* thin lines between groups, where there is room */
        {"Esc f", "──────", NULL, 30, 80},
        {"Esc f", "Save", "──────", 14, 80},
        {"Esc f", "Ctrl+S", NULL, 24, 30},
        /* completing goes on */
        {"Ctrl+P g o - l Tab", "Command: go-line", NULL, 24, 80},
        /* letters inside of words do not count, and what ends something wants its own name */
        {"Ctrl+P t a i l", "▸ tail   No command matches", "leave", 24, 80},
        {"Ctrl+P b o a t", "▸ boat   No command matches", "duplicate", 24, 80},
        {"Ctrl+P s o f t", "▸ wrap", "rename", 24, 80},
        {"Ctrl+P l e a v e", "▸ leave ", NULL, 24, 80},
        {"Ctrl+P q u i t", "▸ leave ", NULL, 24, 80},
        {"Ctrl+P d e l w r i", "▸ delete-word-right", NULL, 24, 80},
        {"Ctrl+P s u d o Enter", "Help on “sudo”", NULL, 24, 80},
        {"Ctrl+P s u d o Enter Enter", "Help: checking", NULL, 24, 80},
        {"Ctrl+P x y z z y Enter", "the help does not have it", NULL, 24, 80},
        {"Ctrl+P t h e m e Tab Space Tab", "Command: theme auto", NULL, 24, 80},
        {"Ctrl+P t h e m e Space Tab Tab", "Command: theme terminal", NULL, 24, 80},
        {"Ctrl+P s e t Space m o u Tab", "Command: set mouse", NULL, 24, 80},
        {"Ctrl+P s e t Space m o u s e Space Tab Tab", "Command: set mouse false", NULL, 24, 80},
        /* each chooser on its own subject, at what is now */
        {"Esc t e", "▸ utf-8", "Properties", 24, 80},
        {"Esc t d", "▸ lf", "Properties", 24, 80},
        {"Esc t i", "Indentation: spaces 4", "Properties", 24, 80},
        {"Esc v m", "▸ auto", NULL, 24, 80},
        {"Esc v m End", "▸ mono", NULL, 24, 80},
        {"Esc v k Home", "1 of ", NULL, 24, 80},
        /* a switch says what is now, and how to keep it */
        {"Esc v n", "Line numbers: off, for this run; Esc h s keeps it", NULL, 24, 80},
        {"Esc v h Esc v h", "Hints: on a line, for this run; Esc h s keeps it. There is no room at the side",
         NULL, 24, 85},
        /* nothing is cut off, and the way back is there */
        {"Esc h s", "its own, dark", "…", 15, 40},
        {"Esc h s", "Esc Back", NULL, 12, 30},
        {"Esc h k", "Esc Back to the text", "…", 12, 30},
        {"Esc h h", "Esc Back to the text", "…", 12, 30},
        {"Esc h w Ctrl+A", "start", NULL, 15, 40},
        {"Ctrl+F a Tab", "m In the mark: off", NULL, 12, 30},
        {"Ctrl+F a Tab", "Tab Back", NULL, 12, 30},
        {"", "Ctrl+S Save", NULL, 15, 40},
        {"", "Esc Commands   F1 Help", NULL, 12, 30},
        /* a mark, and a count, are not hidden by what was said before */
        {"Ctrl+C Ctrl+T Down", "marked 1 line", "Copied", 24, 80},
        {"Ctrl+C Esc 4", "4 times", "Copied", 24, 80},
        {"Ctrl+T", "Drop the mark", NULL, 24, 100},
        {"Ctrl+C Esc 4 Ctrl+V", "Pasted 1 line 4 times", NULL, 24, 80},
        {"Ctrl+C", "Leaving is Ctrl+Q", NULL, 24, 80},
        /* finding goes around, and extends a mark that a key began */
        {"Ctrl+End Ctrl+F b", "1 of 2, on from the top", NULL, 24, 80},
        {"Ctrl+F b", "1 of 2", "on from the top", 24, 80},
        {"Ctrl+T Ctrl+F 2 Enter", "marked 3 lines, 15 characters", NULL, 24, 80},
        {"Ctrl+T Ctrl+F b Enter Ctrl+N", "marked 2 lines, 9 characters", NULL, 24, 80},
        {"Ctrl+T Ctrl+F 2 Esc", "Ctrl+X Cut", "marked", 24, 80},
        {"Ctrl+P l a y o u t Space s h e l l Enter Ctrl+R b", "F3 Next", "Ctrl+N Next", 24, 90},
        /* which of several texts it is */
        {"Esc f n", "2 of 2", NULL, 24, 80},
        /* what only looks like a blank */
        {"a Space   Space b Esc v b", "a·␣·b", NULL, 24, 80},
        /* differences end with the text */
        {"Ctrl+End Backspace End x F9", "3 + berth 2x", "   4", 24, 80},
        {"Ctrl+End 3 F9", "4 + 3", "   5", 24, 80},
        {"Home q u i t Enter", "Leaving is Ctrl+Q. “quit” went into the text", NULL, 24, 80},
        {"Home : q Enter", "Leaving is Ctrl+Q", NULL, 24, 80},
        {"Down e x i t Enter", "Leaving is Ctrl+Q. “exit” went into the text", NULL, 24,
         80}, /* before what stands there */
        {"Down Ctrl+U", "Nothing is left of the cursor in this line", NULL, 24, 80},
        /* what does not hold any more is not said any more */
        {"Esc l d Ctrl+Z", "Line ", "uplicated", 24, 80},
        {"F5 Esc f n", "Line 1", "omment", 24, 80},
        {"Esc l d Ctrl+F", "Find:", "opied", 24, 80},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Editor *ed = begin("\nberth 1\nberth 2\n", cases[i].rows, cases[i].cols);
        char name[120];
        snprintf(name, sizeof name, "%s, %dx%d", cases[i].keys, cases[i].cols, cases[i].rows);
        check_case(name);
        editors_press(ed, cases[i].keys);
        check_result(editors_show(ed, cases[i].shows), __FILE__, __LINE__, "“%s” is not shown",
                     cases[i].shows);
        check_result(!cases[i].hides || !editors_show(ed, cases[i].hides), __FILE__, __LINE__,
                     "“%s” is shown", cases[i].hides ? cases[i].hides : "");
        app_free(ed);
        editors_now += 3000;
    }
}

/* ---- every command, wherever one may be ---- */

static void in_plain_text(Editor *ed)
{
    (void)ed;
}

static void with_a_mark(Editor *ed)
{
    editors_press(ed, "Down Shift+Down Shift+Right");
}

static void with_columns(Editor *ed)
{
    editors_press(ed, "Down");
    command_run_line(ed, "mark-columns", 1, false);
    editors_press(ed, "Down Right Right");
}

static void while_looking_only(Editor *ed)
{
    command_run_line(ed, "look-only", 1, false);
}

static void on_a_help_page(Editor *ed)
{
    editors_press(ed, "F1");
}

static void on_help_over_a_prompt(Editor *ed)
{
    editors_press(ed, "Ctrl+F e F1");
}

static void in_the_menus(Editor *ed)
{
    editors_press(ed, "Esc e");
}

static void in_a_prompt(Editor *ed)
{
    editors_press(ed, "Ctrl+G 1");
}

static void in_two_panes(Editor *ed)
{
    command_run_line(ed, "split-below", 1, false);
}

static void with_wrapped_lines(Editor *ed)
{
    command_run_line(ed, "wrap", 1, false);
}

static void at_the_end(Editor *ed)
{
    editors_press(ed, "Ctrl+End");
}

static void after_a_search(Editor *ed)
{
    editors_press(ed, "Ctrl+F e Enter");
}

/* Nothing breaks, the way back stays, and a text that may only be looked at stays what it is. */
/* Is this case tried today? One of `usual`; of four times as many under the sanitizers, all with ROUNDS. */
static bool one_in(int usual)
{
    int most = getenv("ROUNDS") ? 1 : usual * 12 / check_rounds(12);
    return check_random((unsigned)most) == 0;
}

TEST(every_command_everywhere)
{
    static const struct {
        const char *name;
        void (*set)(Editor *ed);
    } situations[] = {
        {"plain text", in_plain_text},   {"mark", with_a_mark},
        {"columns", with_columns},       {"looking only", while_looking_only},
        {"help page", on_a_help_page},   {"menus", in_the_menus},
        {"prompt", in_a_prompt},         {"panes", in_two_panes},
        {"wrapped", with_wrapped_lines}, {"the end", at_the_end},
        {"search", after_a_search},      {"help over a prompt", on_help_over_a_prompt},
    };
    static const char *const texts[] = {"", "one two\n(berth [3])\n\ttrue 17\n\nlast",
                                        "\xff\xe6\xbc\xa2\r\n"};
    static const char *const given[] = {"", "1", "no such thing at all"};
    CHECK(chdir(check_folder()) == 0);
    setenv("HOME", check_folder(), 1);
    setenv("SHELL", "/bin/true", 1);
    Registry all = {0};
    menus_register(&all);
    for (size_t i = 0; i < all.n; i++)
        for (size_t s = 0; s < sizeof situations / sizeof *situations; s++)
            for (size_t k = 0; k < 9; k++) {
                if (!one_in(1))
                    continue;
                const Command *c = all.commands[i];
                const char *text = texts[k % 3], *args = given[k / 3];
                char name[100];
                snprintf(name, sizeof name, "%s %s, %s, text %zu", c->name, args, situations[s].name, k % 3);
                check_case(name);
                Editor *ed = begin(text, k == 4 ? 3 : 24, k == 4 ? 12 : 80);
                ed->session->rules.dry_run = true;
                situations[s].set(ed);
                Doc *d = ed->panes.view->file->doc;
                bool look = ed->panes.view->file->look_only;
                command_run(ed, c, k == 8 ? 3 : 1, k == 8, args);
                CHECK(screen_sound(ed));
                editors_now += 3000;
                app_tick(ed, editors_now);
                if (look && ed->panes.view->file->look_only && ed->panes.view->file->doc == d)
                    CHECK(!doc_changed(d));
                CHECK(text_check(view_text(ed->panes.view)) && screen_sound(ed));
                if (!ed->host.leave) {
                    editors_plain(ed);
                    CHECK(ed->layer == NULL && screen_sound(ed));
                }
                app_free(ed);
            }
    registry_free(&all);
}

static void mouse_at(Editor *ed, MouseAction action, int row, int col)
{
    Input in = {.kind = INPUT_MOUSE, .mouse = {.action = action, .button = 1, .row = row, .col = col}};
    app_paint(ed);
    app_input(ed, &in, editors_now += 700); /* no double click */
    app_paint(ed);
}

static int row_showing(Editor *ed, const char *words)
{
    for (int r = 0; r < ed->frame.rows; r++)
        if (strstr(editors_row(ed, r), words))
            return r;
    return -1;
}

/* Menus, panels, questions and hints by the mouse, on small screens too. */
TEST(the_mouse_on_every_screen)
{
    static const int sizes[][2] = {{24, 80}, {15, 40}, {12, 30}};
    for (size_t i = 0; i < 3; i++) {
        char name[32];
        Editor *ed = begin("berth 1\nberth 2\nberth 3\n", sizes[i][0], sizes[i][1]);
        snprintf(name, sizeof name, "%dx%d", sizes[i][1], sizes[i][0]);
        check_case(name);
        editors_press(ed, "Esc e"); /* an entry of a menu */
        mouse_at(ed, MOUSE_PRESS, row_showing(ed, "Cut"), 5);
        CHECK(ed->layer == NULL && editors_text_is(ed, "berth 2\nberth 3\n"));
        editors_press(ed, "Ctrl+Z Esc f"); /* the wheel, and beside the menu */
        mouse_at(ed, MOUSE_WHEEL_DOWN, 3, 5);
        CHECK(ed->layer != NULL);
        editors_plain(ed);
        editors_press(ed, "Ctrl+P g o - l i n e"); /* a row of a panel */
        mouse_at(ed, MOUSE_WHEEL_DOWN, row_showing(ed, "▸"), 5);
        mouse_at(ed, MOUSE_WHEEL_UP, row_showing(ed, "▸"), 5);
        mouse_at(ed, MOUSE_PRESS, row_showing(ed, "▸"), 5);
        CHECK(editors_show(ed, "Go to line:"));
        editors_press(ed, "1 2"); /* inside the line of a prompt: the 3 stands between */
        mouse_at(ed, MOUSE_PRESS, row_showing(ed, "Go to line:"), 1 + (int)strlen("Go to line: ") + 1);
        editors_press(ed, "3");
        CHECK(editors_show(ed, "Go to line: 132"));
        editors_plain(ed);
        editors_press(ed, "x Ctrl+Q"); /* an answer */
        CHECK(editors_show(ed, "Drop them"));
        editors_now += 1000;
        int row = row_showing(ed, "Esc Stay");
        mouse_at(ed, MOUSE_PRESS, row,
                 (int)(strstr(editors_row(ed, row), "Esc Stay") - editors_row(ed, row)) + 1);
        CHECK(ed->layer == NULL && !ed->host.leave);
        mouse_at(ed, MOUSE_PRESS, 2, ed->panes.view->gutter + 3); /* a drag marks */
        mouse_at(ed, MOUSE_DRAG, 3, ed->panes.view->gutter + 2);
        size_t from, to;
        CHECK(view_marked(ed->panes.view, &from, &to) && to > from);
        app_free(ed);
    }
}

/* A mark made with Shift ends with any movement without it, one by the key stays, whatever moves. */
TEST(what_moves_keeps_or_drops_the_mark)
{
    static const char *const ways[] = {"Down",
                                       "Left",
                                       "Ctrl+End",
                                       "Esc g b",
                                       "Ctrl+Home",
                                       "Esc g t",
                                       "Ctrl+G 5 Enter",
                                       "Esc g l 5 Enter",
                                       "Ctrl+G + 2 Enter",
                                       "Ctrl+F 7 Enter",
                                       "Esc s f 7 Enter",
                                       "Ctrl+N",
                                       "Esc s n",
                                       "PageDown",
                                       "Ctrl+Right",
                                       "Esc g e",
                                       "Ctrl+P g o - b o t t o m Enter",
                                       "Esc 3 Down"};
    for (size_t i = 0; i < 2 * sizeof ways / sizeof *ways; i++) {
        Editor *ed =
            begin("berth 1\nberth 2\nberth 3\nberth 4\nberth 5\nberth 6\nberth 7\nberth 8\n", 24, 80);
        check_case(ways[i / 2]);
        editors_press(ed, "Ctrl+F b e r t h Enter Down Right");
        editors_press(ed, i % 2 ? "Ctrl+T Down" : "Shift+Down");
        size_t cursor = ed->panes.view->cursor.at;
        editors_now += 2000;
        editors_press(ed, ways[i / 2]);
        CHECK(ed->panes.view->cursor.at != cursor && ed->layer == NULL);
        CHECK_INT(ed->panes.view->marking, i % 2 ? MARK_KEY : MARK_NONE);
        app_free(ed);
    }
}

/* What is known of the place stands there whole, on narrow screens in more rows; a mark says more than it. */
TEST(what_is_known_of_a_place_is_whole)
{
    static const int sizes[][2] = {{24, 80}, {12, 30}};
    for (int i = 0; i < 2; i++) {
        Editor *ed = editors_start("0 4 * * 1 /bin/tide\n", 20, sizes[i][0], sizes[i][1]);
        openfile_set_kind(ed->panes.view->file, kind_named("schedule"));
        app_paint(ed);
        Bytes foot = {0};
        for (int r = sizes[i][0] - 7; r < sizes[i][0]; r++)
            bytes_printf(&foot, "%s", editors_row(ed, r));
        CHECK(strstr(bytes_str(&foot), "field 1 of 6: minute,") && strstr(bytes_str(&foot), "next: Mon"));
        CHECK(strstr(bytes_str(&foot), "1:1") && !strstr(bytes_str(&foot), "…"));
        editors_press(ed, "Shift+Right");
        CHECK(editors_show(ed, "marked 1") && !editors_show(ed, "field 1"));
        bytes_free(&foot);
        app_free(ed);
    }
}

/* What a message names stands among the hints. */
TEST(the_way_in_a_message_is_hinted)
{
    Editor *ed = editors_start("berth\n", 6, 24, 80);
    editors_press(ed, "Esc v x"); /* another pane, of which there is none */
    CHECK(editors_show(ed, "There is only one pane; Esc v s and Esc v e split it"));
    CHECK(strstr(editors_row(ed, 23), "Esc v s Split") && strstr(editors_row(ed, 23), "Esc v e Split"));
    editors_now += 5000;
    editors_press(ed, "Right");
    CHECK(!editors_show(ed, "Esc v s"));
    app_free(ed);
}

/* What a person sees and has, to compare two ways to the same command. */
static void note_state(Editor *ed, Bytes *out)
{
    const View *v = ed->panes.view;
    bytes_printf(out, "cursor %zu top %zu left %zu mark %d %zu layer %d leave %d bytes %zu\n", v->cursor.at,
                 v->top.at, v->left, (int)v->marking, v->marking ? v->mark.at : 0, ed->layer != NULL,
                 (int)ed->host.leave, text_len(view_text(v)));
    for (int r = 0; r < ed->frame.rows; r++)
        bytes_printf(out, "%2d %s\n", r, editors_row(ed, r));
}

static void first_difference(const char *a, const char *b, char out[400])
{
    while (*a && strcspn(a, "\n") == strcspn(b, "\n") && strncmp(a, b, strcspn(a, "\n") + 1) == 0) {
        size_t n = strcspn(a, "\n");
        a += n + (a[n] == '\n');
        b += n + (b[n] == '\n');
    }
    snprintf(out, 400, "“%.*s”, not “%.*s”", (int)strcspn(a, "\n"), a, (int)strcspn(b, "\n"), b);
}

/* Every command does the same by its route, by each of its keys and by its name, from the same state. */
TEST(a_command_is_the_same_by_every_way)
{
    static const char *const states[] = {"Ctrl+G 4 0 Enter Right Right",
                                         "Ctrl+G 4 0 Enter Up Up Up Ctrl+T Down Right",
                                         "Ctrl+F b e r t h Enter Ctrl+End Up x"};
    Bytes text = {0};
    for (int k = 0; k < 60; k++)
        bytes_printf(
            &text,
            "berth %d is free (a, b) in the long, long morning of the ferries and of the gulls there\n", k);
    setenv("SHELL", "/bin/true", 1);
    CHECK(chdir(check_folder()) == 0);
    Registry all = {0};
    menus_register(&all);
    editors_stop_the_clock(true); /* some lists show the time of day to the second */
    for (size_t i = 0; i < all.n; i++)
        for (size_t s = 0; s < 2 * sizeof states / sizeof *states; s++) {
            if (!one_in(2))
                continue;
            const Command *c = all.commands[i];
            Bytes want = {0};
            char key[KEY_NAME_MAX], route[ROUTE_MAX];
            registry_route(&all, c, route);
            for (size_t way = 0; way < 6; way++) {
                Editor *ed = editors_start(text.at, text.len, s % 2 ? 14 : 24, s % 2 ? 36 : 80);
                Bytes state = {0};
                keymap_key_of(&ed->config.keys, c, way < 2 ? 0 : way - 2, key);
                editors_press(ed, states[s / 2]);
                app_paint(ed);
                app_tick(ed, editors_now += 5000);
                editors_now = editors_now / 100000 * 100000 + 200000; /* what is shown may depend on it */
                app_tick(ed, editors_now);
                app_paint(ed);
                char why[TASK_WORDS_MAX];
                bool there = !command_disabled_reason(ed, c, why) /* the menu stays, and says why */
                             &&
                             strncmp(c->name, "lesson", 6) != 0; /* whose folder has another name each time */
                if (!there)
                    ;
                else if (way == 0)
                    command_run(ed, command_named(ed, c->name), 1, false, "");
                else if (way == 1 && *route)
                    for (const char *p = route; *p; p++) {
                        char one[8];
                        snprintf(one, sizeof one, "%.*s", (int)strcspn(p, " "), p);
                        editors_press(ed, one);
                        app_paint(ed);
                        p += strcspn(p, " ");
                        if (!*p)
                            break;
                    }
                else if (way > 1 && *key && strcmp(key, "Esc") != 0 &&
                         strcmp(key, "Ctrl+D") != 0) /* which tells the way out, too */
                    editors_press(ed, key);
                else
                    there = false;
                if (way == 1 && strlen(route) > strlen("Esc g s")) { /* out of the pad of letters */
                    editors_now += 1000;
                    editors_press(ed, "Esc");
                }
                app_paint(ed);
                note_state(ed, &state);
                if (way == 0) {
                    bytes_add_str(&want, state.at);
                } else if (there && strcmp(want.at, state.at) != 0) {
                    char what[400], name[120];
                    snprintf(name, sizeof name, "%s by %s, state %zu", c->name, way == 1 ? route : key, s);
                    check_case(name);
                    first_difference(state.at, want.at, what);
                    check_result(false, __FILE__, __LINE__, "%s", what);
                } else {
                    CHECK(true);
                }
                bytes_free(&state);
                app_free(ed);
            }
            bytes_free(&want);
        }
    editors_stop_the_clock(false);
    bytes_free(&text);
    registry_free(&all);
}

static Key random_key(void)
{
    static const char typed[] = "abcdefghijklmnopqrstuvwxyz0123456789 .,;()[]{}\"'-_+$%#/\\";
    Key k = {0};
    switch (check_random(10)) {
    case 0:
    case 1:
        k.code = (KeyCode)(K_ENTER + check_random(K_F1 + 10 - K_ENTER));
        k.mods = check_random(3) ? 0 : check_random(8);
        break;
    case 2:
        k = (Key){.code = K_ESC};
        break;
    case 3:
    case 4:
        k = (Key){.code = K_CHAR, .mods = MOD_CTRL, .ch = 'a' + check_random(26)};
        break;
    case 5:
        k = (Key){.code = K_CHAR, .mods = MOD_ALT, .ch = 'a' + check_random(26)};
        break;
    case 6:
        k = (Key){.code = check_random(6) ? K_CHAR : K_BYTE, .ch = check_random(2) ? 0x6f22 : 0xe9};
        if (k.code == K_BYTE)
            k.ch = 128 + check_random(128);
        break;
    default:
        k = (Key){.code = K_CHAR, .ch = (uint32_t)typed[check_random(sizeof typed - 1)]};
    }
    return k;
}

static void random_mouse(Editor *ed)
{
    Input in = {.kind = INPUT_MOUSE};
    in.mouse = (Mouse){.action = (MouseAction)check_random(5),
                       .button = 1 + (int)check_random(3),
                       .row = (int)check_random((unsigned)ed->frame.rows + 1),
                       .col = (int)check_random((unsigned)ed->frame.cols + 1)};
    app_input(ed, &in, editors_now += check_random(500));
}

static void random_paste(Editor *ed)
{
    static const char bytes[] = "past\re\n\x1b[A\xff\t\xe6\xbc\xa2";
    Input in = {.kind = INPUT_PASTE,
                .bytes = bytes,
                .n_bytes = check_random(sizeof bytes),
                .paste_goes_on = check_random(4) == 0};
    app_input(ed, &in, editors_now += 10);
}

/* Random keys, mouse, pastes and sizes: the editor stays whole, and Esc Esc ends in plain text. */
TEST(random_keys)
{
    enum { KEYS = 300 };
    static const char nasty[] =
        "grey heron\r\n\t\xe6\xbc\xa2\xe5\xad\x97 (a[b]c) \"q\" true 0x1f 10.0.0.255\n\n\xff\xfe\x01 "
        "e\xcc\x81\n"
        "a very long line that goes on and on and on and on and on and on and on and on and on\n";
    CHECK(chdir(check_folder()) == 0);
    setenv("HOME", check_folder(), 1);
    setenv("SHELL", "/bin/true", 1); /* random letters must not become commands */
    int rounds = check_rounds(400);
    for (int round = 0; round < rounds; round++) {
        char name[32];
        int rows = check_random(4) ? 5 + (int)check_random(40) : 1 + (int)check_random(6);
        int cols = check_random(4) ? 20 + (int)check_random(120) : 1 + (int)check_random(20);
        Editor *ed = begin(round % 3 ? nasty : "", rows, cols);
        snprintf(name, sizeof name, "round %d", round);
        check_case(name);
        if (round % 25 == 0)
            lesson_start(ed);
        if (round % 7 == 0)
            key_test_open(ed);
        for (int i = 0; i < KEYS && !ed->host.leave; i++) {
            unsigned what = check_random(40);
            if (what == 0)
                app_resize(ed, 1 + (int)check_random(50), 1 + (int)check_random(150));
            else if (what < 4)
                random_mouse(ed);
            else if (what == 4)
                random_paste(ed);
            else
                editors_press_key(ed, random_key());
            editors_now += check_random(30) ? 5 : 1500;
            app_tick(ed, editors_now);
            size_t len = text_len(view_text(ed->panes.view));
            bool inside = ed->panes.view->cursor.at <= len && ed->panes.view->top.at <= len &&
                          ed->panes.view->mark.at <= len;
            check_result(inside, __FILE__, __LINE__, "outside of the text after %s",
                         ed->running.before ? ed->running.before->name : "a key");
            if (!inside || (i % 4 == 0 && !screen_sound(ed))) {
                CHECK(false);
                break;
            }
            ed->host.fetch_clip = ed->host.send_clip = ed->host.suspend = false;
        }
        if (!ed->host.leave) {
            editors_now += 3000;
            editors_plain(ed);
            check_result(ed->layer == NULL && ed->panes.view->file->id, __FILE__, __LINE__,
                         "left over: %s%s; row 0: %s; after:%s", ed->layer ? "layer " : "",
                         ed->layer && ed->layer->kind->help ? ed->layer->kind->help : "", editors_row(ed, 0),
                         editors_keys());
        }
        size_t at;
        Doc *d = ed->panes.view->file->doc;
        CHECK(text_check(doc_text(d)));
        while (doc_undo(d, &at))
            ;
        CHECK(text_check(doc_text(d)));
        app_free(ed);
    }
}
