/* What keeps people from getting stuck: menus, routes, counts, hints, prompts, panels, help. */
#include "check.h"
#include "drive.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static const char sample[] = "grey heron\ncurlew\nmorning tern\n";

static Pty *start_at(int rows, int cols, const char *text)
{
    check_put("birds.txt", text);
    return pty_edit_at(rows, cols, "birds.txt", NULL);
}

static Pty *start(void)
{
    return start_at(24, 80, sample);
}

static void file_holds(const char *want)
{
    size_t n;
    char *bytes = check_read(check_path("birds.txt"), &n);
    CHECK_BYTES(bytes, n, want, strlen(want));
}

/* Keys in, file out, by every way to a command. */
static const struct {
    const char *name, *keys, *after;
} ways[] = {
    {"route at once", "<Alt+E>l", "\ncurlew\nmorning tern\n"},
    {"route slowly", "<Esc><wait>e<wait>l", "\ncurlew\nmorning tern\n"},
    {"capital letters", "<Esc>E<wait>L", "\ncurlew\nmorning tern\n"},
    {"arrows", "<F10><Right><Right><Right><Down><Down><Down><Down><Enter>",
     "grey heron\ngrey heron\ncurlew\nmorning tern\n"},
    {"alt in a menu", "<Esc>f<wait><Alt+E>l", "\ncurlew\nmorning tern\n"},
    {"unknown letter", "<Esc>%e<wait>l", "\ncurlew\nmorning tern\n"},
    {"back and typing", "<Esc>f<Esc><wait><Esc>x", "xgrey heron\ncurlew\nmorning tern\n"},
    {"double Esc", "<Esc>f<Esc><Esc>x", "xgrey heron\ncurlew\nmorning tern\n"},
    {"chord at the bar", "<Esc><Ctrl+K>", "\ncurlew\nmorning tern\n"},
    {"count and route", "<Esc>3ed", "y heron\ncurlew\nmorning tern\n"},
    {"count and key", "<Esc>2<Down>x", "grey heron\ncurlew\nxmorning tern\n"},
    {"count and chord", "<Esc>4<Ctrl+D>", " heron\ncurlew\nmorning tern\n"},
    {"count and character", "<Esc>12<Enter>-", "------------grey heron\ncurlew\nmorning tern\n"},
    {"count given up", "<Esc>12<Esc><wait>x", "xgrey heron\ncurlew\nmorning tern\n"},
    {"count is one step", "<Esc>4<Ctrl+D><Ctrl+Z>x", "xgrey heron\ncurlew\nmorning tern\n"},
    {"command by name", "<Ctrl+P>delwri<Enter>", " heron\ncurlew\nmorning tern\n"},
    {"with an argument", "<Esc>hcgo-line 3<Enter>x", "grey heron\ncurlew\nxmorning tern\n"},
    {"completed", "<Ctrl+P>set line_n<Tab>fal<Enter><Ctrl+P>cut-to-line-e<Tab><Enter>",
     "\ncurlew\nmorning tern\n"},
    {"letters pad", "<Esc>gs<wait>sddd<Esc>x", "grey heron\ncurxlew\nmorning tern\n"},
    {"go to line", "<Ctrl+G>2:4<Enter>x", "grey heron\ncurxlew\nmorning tern\n"},
    {"go down", "<Ctrl+G>+1<Enter>x", "grey heron\nxcurlew\nmorning tern\n"},
    {"too far", "<Ctrl+G>99<Enter>x", "grey heron\ncurlew\nmorning tern\nx\n"},
    {"mark and cut", "<Ctrl+T><Right><Right><Right><Right><Right><Ctrl+X><End><Ctrl+V>",
     "herongrey \ncurlew\nmorning tern\n"},
    {"cut gathers", "<Ctrl+X><Ctrl+X><Down><Ctrl+V>", "morning tern\ngrey heron\ncurlew\n"},
    {"copy lines", "<Ctrl+C><Ctrl+C><Ctrl+V>", "grey heron\ncurlew\ngrey heron\ncurlew\nmorning tern\n"},
    {"mark word", "<Esc>mwX", "X heron\ncurlew\nmorning tern\n"},
    {"mark all", "<Esc>ma<Backspace>", ""},
    {"mark lines", "<Esc>ml<Esc>ml<Delete>", "morning tern\n"},
    {"find", "<Ctrl+F>cur<Enter>x", "grey heron\nxcurlew\nmorning tern\n"},
    {"find again", "<Ctrl+F>r<Enter><Ctrl+N><Ctrl+N>x", "grey heron\ncuxrlew\nmorning tern\n"},
    {"find goes back", "<Down><Ctrl+F>tern<Esc>x", "grey heron\nxcurlew\nmorning tern\n"},
    {"replace all", "<Ctrl+R>r<Enter>R<Enter><wait>a", "gRey heRon\ncuRlew\nmoRning teRn\n"},
    {"replace some", "<Ctrl+R>r<Enter>R<Enter><wait>r<wait>k<wait>r<wait><Esc>",
     "gRey heron\ncuRlew\nmorning tern\n"},
    {"replace by name", "<Ctrl+P>replace-all r RR<Enter>", "gRRey heRRon\ncuRRlew\nmoRRning teRRn\n"},
    {"replace, undo", "<Ctrl+R>r<Enter>R<Enter><wait>a<wait><Ctrl+Z>x",
     "gxrey heron\ncurlew\nmorning tern\n"},
};

TEST(every_way_to_a_command)
{
    for (size_t i = 0; i < sizeof ways / sizeof *ways; i++) {
        if (!ways[i].after)
            continue;
        check_case(ways[i].name);
        Pty *p = start();
        pty_do(p, ways[i].keys);
        pty_do(p, "<wait><Ctrl+S>");
        SHOWS(p, "Saved birds.txt");
        pty_do(p, "<Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
        file_holds(ways[i].after);
    }
}

/* Out of whatever lies over the text, and a route: all at once, with the route after a while, or with all
 * slowly. No letter of it is typed into the text. */
TEST(routes_after_backing_out)
{
    static const char *const over[] = {"",         "<Ctrl+F>cu", "<Ctrl+R>x", "<Ctrl+G>2",
                                       "<Ctrl+O>", "<Ctrl+P>so", "<F1>",      "<Esc>eh",
                                       "<Esc>fp",  "<Esc>hs",    "<F10>",     "<Ctrl+F>cu<Tab>",
                                       "<Esc>vk",  "<Esc>gs",    "x<Ctrl+Q>", "<F1><Ctrl+F>"};
    for (size_t i = 0; i < 3 * sizeof over / sizeof *over; i++) {
        const char *layers = over[i / 3];
        bool typed = *layers == 'x', two = strstr(layers, "<F1><") != NULL;
        if (i % 3 && i / 3 != 1) /* the slow ways for one */
            continue;
        check_case(layers);
        Pty *p = start();
        pty_do(p, layers);
        pty_rest(p);
        if (i % 3 == 0) {
            pty_send(p, two ? "\033\033\033el" : "\033\033el", two ? 5 : 4);
        } else {
            for (int k = 0; k < 1 + two; k++) {
                pty_send(p, "\033", 1);
                pty_pause(p, 600);
            }
            if (!*layers) /* the bar is awake, and goes */
                pty_send(p, "\033", 1);
            pty_pause(p, 600);
            pty_send(p, i % 3 == 1 ? "\033el" : "\033", i % 3 == 1 ? 3 : 1);
            pty_pause(p, 600);
            pty_send(p, "el", i % 3 == 2 ? 2 : 0);
        }
        pty_do(p, "<wait><Ctrl+S>");
        SHOWS(p, "Saved birds.txt");
        file_holds(typed ? "x\ncurlew\nmorning tern\n" : "\ncurlew\nmorning tern\n");
        LEAVE(p);
    }
}

TEST(sequences_split_by_slow_lines)
{
    Pty *p = start();
    pty_send(p, "\033", 1);
    SHOWS(p, "Back to the text"); /* the bar is awake */
    pty_send(p, "[B", 2);
    SHOWS(p, "Line 2 of 3");
    HIDES(p, "Back to the text");
    pty_send(p, "\033[99~\033[?1;2c\033[201~", 18);
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "Saved");
    file_holds("grey heron\nxcurlew\nmorning tern\n");
    LEAVE(p);
}

TEST(menus_show_chords_and_what_does_not_apply)
{
    Pty *p = start();
    pty_do(p, "<Esc>");
    SHOWS(p, "Esc Back to the text");
    pty_do(p, "e");
    SHOWS(p, "Undo");
    SHOWS(p, "Ctrl+Z");
    SHOWS(p, "(Paste)");
    pty_do(p, "v");
    SHOWS(p, "Paste: Nothing was cut or copied yet");
    SHOWS(p, "(Paste)");
    LEAVE(p);
}

TEST(small_screens)
{
    Pty *p = start_at(15, 40, sample);
    SHOWS(p, "birds.txt");
    CHECK(pty_find(p, "File") < 0);
    SHOWS(p, "Ctrl+S Save   Ctrl+Q Leave");
    SHOWS(p, "Esc Commands   F1 Help");
    pty_do(p, "<Esc>");
    SHOWS(p, "File");
    pty_do(p, "h<Up>"); /* around to the last entry */
    SHOWS(p, "About");
    pty_do(p, "<Enter>");
    SHOWS(p, "Steady Quill 0.");
    pty_resize(p, 6, 40);
    pty_do(p, "<wait><wait><wait><wait><wait><wait><Esc>e");
    SHOWS(p, "Undo");
    pty_do(p, "<Up>");
    SHOWS(p, "Overtype");
    LEAVE(p);
}

TEST(count_is_shown_and_limited)
{
    Pty *p = start();
    pty_do(p, "<Esc>999");
    SHOWS(p, "999 times");
    pty_do(p, "99");
    SHOWS(p, "A count goes up to 9999");
    pty_do(p, "<Esc>");
    SHOWS(p, "Nothing is repeated");
    LEAVE(p);
}

TEST(hints_follow_the_work)
{
    Pty *p = start();
    SHOWS(p, "Ctrl+S Save   Ctrl+Q Leave   Ctrl+F Find");
    pty_do(p, "<Shift+Right>");
    SHOWS(p, "Ctrl+X Cut   Ctrl+C Copy");
    SHOWS(p, "marked 1 line, 1 character");
    pty_do(p, "<Ctrl+F>");
    SHOWS(p, "Tab Options");
    pty_do(p, "<Tab>");
    SHOWS(p, "w Whole words: off");
    pty_do(p, "<Tab><Esc><wait><wait><wait>");
    pty_do(p, "<Esc>vh");
    HIDES(p, "Ctrl+Q Leave");
    pty_do(p, "<Esc>");
    SHOWS(p, "Back to the text"); /* in a menu the way out is shown all the same */
    pty_do(p, "vh");              /* at the side there is no room: that is said, and passed over */
    SHOWS(p, "Hints: on a line");
    pty_resize(p, 30, 120);
    pty_do(p, "<Esc>vh<Esc>vh");
    SHOWS(p, "Hints: at the side, for this run; Esc h s keeps it");
    SHOWS(p, "Esc Esc     Plain text");
    LEAVE(p);
}

TEST(prompts_complete_and_remember)
{
    mkdir(check_path("berths"), 0755);
    check_write(check_path("berths/north.txt"), "north", 5);
    check_write(check_path("berths/north-2.txt"), "two", 3);
    check_write(check_path("berths/.hidden"), "", 0);
    Pty *p = start();
    pty_do(p, "<Esc>fa<Ctrl+U>ber<Tab>");
    SHOWS(p, "Save as: berths/");
    pty_do(p, "<Tab>");
    SHOWS(p, "Save as: berths/north");
    SHOWS(p, "north-2.txt");
    CHECK(pty_find(p, ".hidden") < 0);
    pty_do(p, "<Tab><Tab>");
    SHOWS(p, "Save as: berths/north.txt");
    pty_do(p, "~<Enter>");
    SHOWS(p, "Saved north.txt~");
    LEAVE(p);
    /* the next run remembers */
    p = start();
    pty_do(p, "<Esc>fa<Up>");
    SHOWS(p, "Save as: berths/north.txt~");
    pty_do(p, "<Ctrl+U>zzz<Tab>");
    SHOWS(p, "Nothing begins with");
    LEAVE(p);
    const char *args[] = {"--plain", NULL};
    p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "no name yet");
    pty_do(p, "<Esc>fa<Up><Up>");
    CHECK(pty_find(p, "north") < 0);
    LEAVE(p);
}

TEST(help_and_keys_come_from_the_table)
{
    Pty *p = start();
    pty_do(p, "<F1>");
    SHOWS(p, "Help: start");
    pty_do(p, "<Ctrl+F>moving about<Enter><Home><Right><Enter>");
    SHOWS(p, "Help: moving");
    SHOWS(p, "Ctrl+G (Esc g l)");
    pty_do(p, "xyz");
    SHOWS(p, "look only");
    pty_do(p, "<Esc>");
    SHOWS(p, "birds.txt");
    pty_do(p, "<wait><wait><wait><Esc>hk");
    SHOWS(p, "All keys and routes");
    pty_do(p, "<Ctrl+F>esc v m<Enter>");
    SHOWS(p, "Theme…");
    pty_do(p, "<wait><wait><wait><Esc>");
    SHOWS(p, "grey heron");
    /* from within a panel: help on panels, and back to it with what was typed */
    pty_do(p, "<Ctrl+O>half a na<F1>");
    SHOWS(p, "Help: panels");
    pty_do(p, "<wait><wait><wait><Esc>");
    SHOWS(p, "Open: half a na");
    LEAVE(p);
}

/* A command is put on the key that was shown, kept in keys.lua beside what stands there, and taken away
 * again. */
TEST(key_tester_puts_a_command_on_a_key)
{
    static const char keys[] = "-- mine\ndoes[\"F4\"] = \"go-top\"\ndoes['Ctrl+L'] = false";
    mkdir(check_path(".config"), 0755);
    mkdir(check_path(".config/steady-quill"), 0755);
    check_put(".config/steady-quill/keys.lua", keys);
    check_put("work.ini", "a\nb\n");
    Pty *p = pty_edit("work.ini", NULL);
    pty_do(p, "<Esc>hw<F4>");
    SHOWS(p, "go-top");
    pty_do(p, "pduplicate-l<Enter>");
    SHOWS(p, "F4 does duplicate-lines now, and in later runs");
    check_holds(".config/steady-quill/keys.lua",
                "-- mine\ndoes[\"F4\"] = \"duplicate-lines\"\ndoes['Ctrl+L'] = false\n");
    pty_do(p, "<F11>pgo-line 2<wait><Enter><wait><wait><wait><Esc><Esc>");
    check_holds(".config/steady-quill/keys.lua",
                "-- mine\ndoes[\"F4\"] = \"duplicate-lines\"\ndoes['Ctrl+L'] = "
                "false\ndoes[\"F11\"] = \"go-line 2\"\n");
    pty_do(p, "<F4><F11>x<Ctrl+S>");
    check_holds("work.ini", "a\nxa\nb\n");
    pty_do(p, "<Esc>hw<F11>t");
    SHOWS(p, "F11 is as it was; its line in keys.lua is gone");
    pty_do(p, "<Ctrl+D>t");
    SHOWS(p, "Ctrl+D does nothing now");
    pty_do(p, "<wait><wait><wait><Esc><Esc><wait><wait><wait>");
    check_holds(".config/steady-quill/keys.lua",
                "-- mine\ndoes[\"F4\"] = \"duplicate-lines\"\ndoes['Ctrl+L'] = "
                "false\ndoes[\"Ctrl+D\"] = false\n");
    pty_do(p, "<Ctrl+D>");
    SHOWS(p, "Ctrl+D does nothing here");
    LEAVE(p);
}

TEST(key_tester)
{
    const char *args[] = {"--keys", NULL};
    Pty *p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "Press any key or route");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Arrived: Ctrl+S");
    SHOWS(p, "As bytes: 13");
    SHOWS(p, "Also by: Esc f s");
    pty_do(p, "<Shift+Left>");
    SHOWS(p, "with Shift it marks");
    pty_do(p, "<Ctrl+Q>");
    SHOWS(p, "leave: End the program");
    pty_do(p, "<Esc>");
    SHOWS(p, "Wakes the menus");
    pty_do(p, "e<wait>u");
    SHOWS(p, "undo: Take back");
    pty_do(p, "<F11>");
    SHOWS(p, "Does nothing here yet");
    pty_do(p, "<wait><wait><Esc><Esc>");
    HIDES(p, "Press any key");
    LEAVE(p);
}

TEST(the_lost_are_found)
{
    Pty *p = pty_start(SQUILL, 24, 80, NULL);
    SHOWS(p, "no name yet");
    pty_do(p, "exit<Enter>");
    SHOWS(p, "Leaving is Ctrl+Q");
    LEAVE(p);
    static const char *const reflexes[] = {"<Ctrl+C>", "<Ctrl+X>", "<Ctrl+D>"};
    for (size_t i = 0; i < 3; i++) {
        check_case(reflexes[i]);
        p = start();
        pty_do(p, reflexes[i]);
        SHOWS(p, "Leaving is Ctrl+Q");
        pty_do(p, "<Ctrl+Z>");
        SHOWS(p, "grey heron");
        LEAVE(p);
    }
}

static void click(Pty *p, int row, int col)
{
    char report[32];
    int n =
        snprintf(report, sizeof report, "\033[<0;%d;%dM\033[<0;%d;%dm", col + 1, row + 1, col + 1, row + 1);
    pty_send(p, report, (size_t)n);
    pty_pause(p, 450); /* not a double click */
}

/* Clicks on the row that shows a text. */
static void click_on(Pty *p, const char *text, int col)
{
    SHOWS(p, text);
    pty_idle(p);
    click(p, pty_find(p, text), col);
}

TEST(mouse)
{
    char text[3000] = "";
    for (int i = 1; i <= 100; i++)
        sprintf(text + strlen(text), "tide row %d\n", i);
    Pty *p = start_at(24, 80, text);
    click(p, 3, 10);
    SHOWS(p, "Line 3 of 100 · Column 6");
    pty_send(p, "\033[<65;5;5M\033[<65;5;5M", 20);
    SHOWS(p, "tide row 26");
    click(p, 0, 2);
    SHOWS(p, "Save as");
    click(p, pty_find(p, "About") >= 0 ? 1 : 10, 70); /* beside it: closes */
    HIDES(p, "Save as");
    click(p, 0, 2);
    SHOWS(p, "Open…");
    click_on(p, "Open…", 8);
    SHOWS(p, "Open:");
    pty_do(p, "<Esc><wait><wait><wait>");
    click(p, 22, 3); /* the position */
    SHOWS(p, "Go to line:");
    pty_do(p, "50<Enter>");
    SHOWS(p, "Line 50 of 100");
    SHOWS(p, "Ctrl+Q Leave");
    click_on(p, "Ctrl+Q Leave", 18);
    CHECK_INT(pty_end(p), 0);
    /* a double click marks a word; questions can be clicked */
    p = start();
    pty_send(p, "\033[<0;8;2M\033[<0;8;2m\033[<0;8;2M\033[<0;8;2m", 36);
    SHOWS(p, "marked 1 line");
    pty_do(p, "X<Ctrl+Q>");
    SHOWS(p, "Drop them");
    pty_pause(p, 400);
    int row = pty_find(p, "Drop them");
    click(p, row, (int)(strstr(pty_row(p, row), "Drop") - pty_row(p, row)) + 1);
    CHECK_INT(pty_end(p), 0);
    file_holds(sample);
}

TEST(panels_and_hints_can_be_clicked)
{
    Pty *p = start();
    pty_do(p, "<Esc>vm");
    SHOWS(p, "Theme: ");
    click_on(p, "contrast", 4);
    SHOWS(p, "Theme: contrast, for this run");
    pty_do(p, "<wait><wait><wait><wait><wait><wait><Esc>vm");
    SHOWS(p, "Theme: ");
    pty_send(p, "\033[<65;5;20M", 12); /* the wheel goes to the next row */
    SHOWS(p, "6 of 7");
    click(p, 23, 1); /* the hint "Enter" */
    SHOWS(p, "Theme: distinct, for this run");
    pty_do(p, "<Esc>vu<wait><wait><wait><wait><wait><wait>");
    size_t n;
    const char *raw = pty_raw(p, &n);
    CHECK(memmem(raw, n, "\033[?1002l", 8) != NULL);
    LEAVE(p);
}

TEST(keys_mean_the_same_in_prompts)
{
    Pty *p = start();
    pty_do(p, "<Shift+End><Ctrl+C><Ctrl+F>x<Ctrl+V>y<Ctrl+A>z");
    SHOWS(p, "Find: zxgrey herony");
    pty_do(p, "<Esc><wait><wait><wait><Ctrl+P>layout shell<Enter><Ctrl+R>abc<Ctrl+B><Ctrl+B>-<Ctrl+F>+");
    SHOWS(p, "Find: a-b+c");
    LEAVE(p);
}

TEST(help_links_to_commands)
{
    Pty *p = start();
    pty_do(p, "<F1><Ctrl+F>Ctrl+S<Enter><Enter>");
    SHOWS(p, "Help: commands");
    SHOWS(p, "Write the text to its file");
    LEAVE(p);
}

TEST(lesson_from_the_menu_has_its_own_copy)
{
    Pty *p = start();
    pty_do(p, "<Esc>hl");
    SHOWS(p, "1 of 12");
    SHOWS(p, "kiosk.ini");
    pty_do(p, "abc<Ctrl+S>");
    SHOWS(p, "Saved kiosk.ini");
    file_holds(sample);
    LEAVE(p);
}

TEST(home_and_hidden_files_complete)
{
    check_write(check_path("harbour.hosts"), "x", 1);
    check_write(check_path(".secret"), "x", 1);
    Pty *p = start();
    pty_do(p, "<Ctrl+O>~/harb<Tab>");
    SHOWS(p, "Open: ~/harbour.hosts");
    pty_do(p, "<Ctrl+U>~/.se<Tab>");
    SHOWS(p, "Open: ~/.secret");
    pty_do(p, "<Ctrl+U>~<Tab>");
    SHOWS(p, "harbour.hosts");
    HIDES(p, ".secret");
    pty_do(p, "<Ctrl+U>~/harbour.hosts<Enter>");
    SHOWS(p, "/harbour.hosts");
    LEAVE(p);
}

TEST(bare_text_shows_nothing_else)
{
    Pty *p = start();
    pty_do(p, "<Esc>vt");
    HIDES(p, "Ctrl+Q");
    HIDES(p, "birds.txt");
    HIDES(p, "View");
    CHECK_STR(pty_row(p, 0), "grey heron");
    size_t n;
    const char *raw = pty_raw(p, &n);
    CHECK(memmem(raw, n, "\033[?1002l", 8) != NULL); /* the mouse is the terminal's */
    pty_do(p, "<Down><Esc>");
    SHOWS(p, "Ctrl+Q Leave");
    LEAVE(p);
}

TEST(themes_and_plain_terminals)
{
    static const struct {
        const char *theme, *look; /* of the status line's first letter */
    } themes[] = {{"terminal", "r"}, {"dark", "fg"}, {"light", "fg"}, {"mono", "r"}};
    for (size_t i = 0; i < 4; i++) {
        char keys[128];
        check_case(themes[i].theme);
        Pty *p = start();
        snprintf(keys, sizeof keys, "<Ctrl+P>theme %s<Enter><wait><wait><wait><wait><wait><wait><Right>",
                 themes[i].theme);
        pty_do(p, keys);
        SHOWS(p, "Column 2");
        CHECK_STR(pty_look(p, 22, 1), themes[i].look);
        LEAVE(p);
    }
    pty_env("NO_COLOR", "1");
    Pty *p = start();
    CHECK_STR(pty_look(p, 23, 1), "b"); /* keys stand out without colour */
    CHECK_STR(pty_look(p, 23, 8), "");
    LEAVE(p);
}

TEST(settings_are_kept_and_read)
{
    const char *path = check_path(".config/steady-quill/settings.lua");
    Pty *p = start();
    pty_do(p, "<Esc>hs");
    SHOWS(p, "theme = auto");
    pty_do(p, "line_num<Enter>");
    SHOWS(p, "line_numbers = false");
    SHOWS(p, "this run");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Kept 1 setting");
    LEAVE(p);
    size_t n;
    char *bytes = check_read(path, &n);
    CHECK_BYTES(bytes, n, "line_numbers = false\n", 21);
    const char *more = "-- mine\nline_numbers = false\ntheme = \"purple\"\ntab_width = 4\nwhile true do "
                       "end\nhints = \"off\"\n";
    check_put(".config/steady-quill/settings.lua", more);
    check_put(".config/steady-quill/keys.lua", "key[\"F5\"] = \"go-line 3\"\nkey[\"F6\"] = \"fly\"\n");
    const char *args[] = {"birds.txt", NULL};
    p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "settings.lua, line 3: theme is one of");
    HIDES(p, "Ctrl+S Save");
    CHECK_STR(pty_row(p, 1), "  grey heron");
    pty_do(p, "<wait><wait><wait><wait><wait><wait><F5>");
    SHOWS(p, "Line 3 of 3");
    pty_do(p, "<Esc>hs");
    SHOWS(p, "hints = off");
    pty_do(p, "tab_w");
    SHOWS(p, "tab_width = 4");
    pty_do(p, "<Esc><wait><wait><wait><Ctrl+P>help settings<Enter>");
    SHOWS(p, "keys.lua, line 2: there is no command");
    SHOWS(p, "settings.lua, line 5: it does not come to an end");
    LEAVE(p);
}

TEST(layout_shell)
{
    Pty *p = start();
    pty_do(p, "<Ctrl+P>layout shell<Enter><Ctrl+N><Ctrl+F><Ctrl+F>x<Ctrl+P><Ctrl+B><Ctrl+S>");
    SHOWS(p, "Saved");
    file_holds("grey heron\ncuxrlew\nmorning tern\n");
    SHOWS(p, "Ctrl+R Find");
    LEAVE(p);
}

TEST(find_shows_and_explains)
{
    pty_theme("terminal");
    Pty *p = start();
    pty_do(p, "<Ctrl+F>er");
    SHOWS(p, "1 of 2");
    CHECK_STR(pty_look(p, 1, 11), "fg"); /* h[er]on: the present match */
    CHECK_STR(pty_look(p, 3, 14), "bu"); /* t[er]n */
    pty_do(p, "<Ctrl+N>");
    SHOWS(p, "2 of 2");
    pty_do(p, "<Enter><Ctrl+N>");
    SHOWS(p, "That was the last match; on at the first: 1 of 2");
    pty_do(p, "<Ctrl+F>TERN<Enter>");
    SHOWS(p, "With any letter");
    pty_do(p, "<Ctrl+F><Tab>x<Tab>a(b");
    SHOWS(p, "at character 4");
    CHECK_STR(pty_look(p, 22, 10), "bfg"); /* Find: a(b[ ] */
    pty_do(p, "<Esc><wait><wait><wait><Ctrl+F>r<Enter><Esc>sl");
    SHOWS(p, "Matching lines: ");
    SHOWS(p, "1 of 3");
    pty_do(p, "tern<Enter>");
    SHOWS(p, "Line 3 of 3");
    LEAVE(p);
}

/* The whole lesson, as a learner does it. */
TEST(lesson)
{
    static const struct {
        const char *step, *keys;
    } steps[] = {
        {"1 of 12", "hello"},
        {"2 of 12", "<Ctrl+Z>"},
        {"3 of 12", "<Down><Down><End>"},
        {"4 of 12", "<Backspace><Backspace>90"},
        {"5 of 12", "<Home><Shift+End>"},
        {"6 of 12", "<Ctrl+X><Down><Ctrl+V>"},
        {"7 of 12", "<Ctrl+F>berth<Enter>"},
        {"8 of 12", "<Ctrl+R>volume<Enter>loudness<Enter><wait>a"},
        {"9 of 12", "<Ctrl+S>"},
        {"10 of 12", "<F1><wait><wait><wait><Esc>"},
        {"11 of 12", "<wait><wait><wait><Esc>f<wait><Esc><Esc>"},
        {"12 of 12", "<wait><wait><wait><Esc>hx"},
    };
    static const int sizes[][2] = {{24, 80}, {15, 40}};
    const char *args[] = {"--lesson", NULL};
    for (size_t k = 0; k < 2; k++) {
        Pty *p = pty_start(SQUILL, sizes[k][0], sizes[k][1], args);
        for (size_t i = 0; i < sizeof steps / sizeof *steps; i++) {
            check_case(steps[i].step);
            SHOWS(p, steps[i].step);
            SHOWS(p, "Esc h n"); /* the ways on and out are never cut */
            SHOWS(p, "Esc h x");
            pty_do(p, steps[i].keys);
        }
        SHOWS(p, "The lesson is over");
        HIDES(p, "12 of 12");
        LEAVE(p);
    }
}

TEST(second_part_of_the_lesson)
{
    static const struct {
        const char *step, *keys;
    } steps[] = {
        {"1 of 13", "<Esc>gonetw<wait><Enter>"},
        {"2 of 13", "<wait><Esc>gd<wait><Esc>gd"},
        {"3 of 13", "<wait><Esc>md"},
        {"4 of 13", "<wait><Ctrl+T><wait><Esc>vl"},
        {"5 of 13", "<wait><Esc>vl"},
        {"6 of 13", "<wait><Ctrl+F>night<Enter><wait><Esc>vo"},
        {"7 of 13", "<wait><Esc>vo"},
        {"8 of 13", "<wait><Ctrl+End>show_d<Ctrl+Space><wait><Enter>"},
        {"9 of 13", "<wait><Up><End><Esc>ms<wait>show_ferries<wait><Esc><wait><wait><Esc>"},
        {"10 of 13", "<wait><F2>"},
        {"11 of 13", "<wait><Ctrl+Home><Down><Down><F8><Home>#<Down><F8><wait><F7><wait><F7>"},
        {"12 of 13", "<wait><Esc>gonetw<wait><Enter><wait><Esc>md<wait><Ctrl+P>align-columns =<Enter>"},
        {"13 of 13", "<wait><wait><wait><Esc>hx"},
    };
    const char *args[] = {"--lesson", NULL};
    Pty *p = pty_start(SQUILL, 15, 40, args);
    SHOWS(p, "Lesson 1 of 12");
    pty_do(p, "<Esc>ho");
    for (size_t i = 0; i < sizeof steps / sizeof *steps; i++) {
        check_case(steps[i].step);
        SHOWS(p, "Second part");
        SHOWS(p, steps[i].step);
        SHOWS(p, "Esc h x");
        pty_do(p, steps[i].keys);
    }
    SHOWS(p, "The lesson is over");
    LEAVE(p);
}

TEST(lesson_back_skip_and_small)
{
    const char *args[] = {"--lesson", NULL};
    Pty *p = pty_start(SQUILL, 15, 40, args);
    SHOWS(p, "1 of 12");
    pty_do(p, "<Esc>hn");
    SHOWS(p, "2 of 12");
    pty_do(p, "<Esc>hb");
    SHOWS(p, "1 of 12");
    LEAVE(p);
}

/* Who calls a commit off is believed; who changes their mind again, too. */
TEST(leaving_with_failure)
{
    static const struct {
        const char *name, *keys;
        int status;
    } kinds[] = {
        {"the route", "<Esc>fr", 1},
        {"by an everyday word", "<Ctrl+P>abort<Enter>", 1},
        {"by its name", "<Ctrl+P>leave-with-failure<Enter>", 1},
        {"called off, then left", "x<Esc>fr<wait><Esc><wait><Backspace><Ctrl+Q>", 0},
    };
    mkdir(check_path(".git"), 0755);
    for (size_t i = 0; i < sizeof kinds / sizeof *kinds; i++) {
        check_case(kinds[i].name);
        check_put(".git/COMMIT_EDITMSG", "berth 4\n");
        Pty *p = pty_edit_at(24, 100, ".git/COMMIT_EDITMSG", NULL);
        SHOWS(p, "Esc f r Abort");
        pty_do(p, kinds[i].keys);
        CHECK_INT(pty_end(p), kinds[i].status);
        check_holds(".git/COMMIT_EDITMSG", "berth 4\n");
    }
    static const int sizes[][2] = {{24, 80}, {15, 40}, {12, 30}};
    for (size_t i = 0; i < 3; i++) {
        Pty *p = pty_edit_at(sizes[i][0], sizes[i][1], ".git/COMMIT_EDITMSG", NULL);
        SHOWS(p, "Ctrl+Q Leave");
        SHOWS(p, "Esc f r Abort");
        LEAVE(p);
    }
}

/* The list of commands finds by what a command does and by the words that people bring along. */
TEST(commands_by_everyday_words)
{
    static const struct {
        const char *typed, *first;
    } cases[] = {{"exit", "leave"},           {"uppercase", "upper-case"},
                 {"select all", "mark-all"},  {"clipboard", "cut"},
                 {"abort", "leave-with"},     {"preferences", "settings"},
                 {"whitespace", "trim-blan"}, {"save", "save"},
                 {"go-l", "go-line"},         {"read only", "look-only"},
                 {"crash", "recover-work"},   {"end the program", "end the program   No command matches"}};
    Pty *p = start_at(24, 120, sample);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].typed);
        pty_do(p, "<Ctrl+P>");
        pty_do(p, cases[i].typed);
        int row = pty_find(p, "Command: ");
        const char *first = row >= 0 ? pty_row(p, row + 1) : "";
        while (*first && !((*first >= 'a' && *first <= 'z')))
            first++;
        check_result(strncmp(first, cases[i].first, strlen(cases[i].first)) == 0, __FILE__, __LINE__,
                     "first is: %s", first);
        pty_do(p, "<Esc><Esc>");
    }
    LEAVE(p);
}

/* Stopping the lesson leads back, and nothing of it is left lying about. */
TEST(the_lesson_tidies_up)
{
    Pty *p = start();
    pty_resize(p, 24, 160);
    pty_do(p, "<Esc>hl");
    SHOWS(p, "/kiosk.ini");
    char folder[200] = "", path[300];
    const char *row = pty_row(p, 0), *at = strstr(row, "/squill-demo-");
    CHECK(at && sscanf(at, "/%100[^/]", folder) == 1);
    snprintf(path, sizeof path, "%s", check_path(folder));
    CHECK(access(path, F_OK) == 0);
    pty_do(p, "typed<Ctrl+P>lesson-stop<Enter>");
    SHOWS(p, "birds.txt");
    HIDES(p, "kiosk.ini");
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
    CHECK(access(path, F_OK) != 0);
}

/* Whoever begins with an empty text for the first time is told what the written keys mean; once. */
TEST(the_first_start)
{
    Pty *p = pty_start(SQUILL, 24, 80, NULL);
    SHOWS(p, "Ctrl+S means: hold Ctrl down");
    LEAVE(p);
    p = pty_start(SQUILL, 24, 80, NULL);
    SHOWS(p, "Line 1 of 1");
    pty_do(p, "<F1>");
    SHOWS(p, "means: hold Ctrl down and press S");
    LEAVE(p);
}
