/* The daily handwork: marks, clips, lines, words, history. Keys in, file out. */
#include "check.h"
#include "drive.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>

static Pty *start_at(int rows, int cols, const char *text)
{
    check_put("work.ini", text);
    return pty_edit_at(rows, cols, "work.ini", NULL);
}

static const struct {
    const char *name, *before, *keys, *after;
} cases[] = {
    {"duplicate", "a\nb\n", "<Esc>ld", "a\na\nb\n"},
    {"duplicate the last", "a\nb", "<Down><Esc>ld", "a\nb\nb"},
    {"duplicate three times", "a\nb\n", "<Esc>3ld", "a\na\na\na\nb\n"},
    {"duplicate a mark", "a\nb\nc\n", "<Shift+Down><Shift+Down><Esc>ldX", "a\nb\nXc\n"},
    {"move down", "a\nb\nc\n", "<Alt+Down>x", "b\nxa\nc\n"},
    {"move down to an open end", "a\nb", "<Alt+Down>x", "b\nxa"},
    {"move up", "a\nb\nc\n", "<Ctrl+End><Up><Alt+Up>x", "a\nxc\nb\n"},
    {"move up from an open end", "a\nb", "<Down><Alt+Up>x", "xb\na"},
    {"move crlf", "a\r\nb", "<Alt+Down>x", "b\r\nxa"},
    {"move down twice, undo once", "a\nb\nc\n", "<Alt+Down><Alt+Down><Ctrl+Z>", "b\na\nc\n"},
    {"move at the end", "a\nb\n", "<Down><Alt+Down>", "a\nb\n"},
    {"join", "a\n  b\nc\n", "<Esc>lj", "a b\nc\n"},
    {"join three", "a\nb\nc\nd\n", "<Esc>2lj", "a b c\nd\n"},
    {"join the mark", "a\nb\nc\nd\n", "<Shift+Down><Shift+Down><Shift+Down><Esc>lj", "a b c\nd\n"},
    {"indent by Tab", "a\nb\nc\n", "<Shift+Down><Shift+Down><Tab>", "    a\n    b\nc\n"},
    {"unindent", "    a\n  b\n", "<Esc>ma<Shift+Tab>", "a\nb\n"},
    {"indent and back", "a\nb\n", "<Esc>ma<Tab><Tab><Shift+Tab>", "    a\n    b\n"},
    {"end sign", "a\nb\n", "<Esc>ma<Ctrl+P>line-end-character ;<Enter>", "a;\nb;\n"},
    {"sort the block", "x\n\nc\na\nb\n\nz\n", "<Down><Down><Esc>ls", "x\n\na\nb\nc\n\nz\n"},
    {"sort by numbers", "b10\nb9\n", "<Esc>ln", "b9\nb10\n"},
    {"trim all", "a  \nb\t\n", "<Esc>lt", "a\nb\n"},
    {"upper word", "one two\n", "<Esc>tu", "ONE two\n"},
    {"lower mark", "ONE TWO\n", "<Esc>ma<Esc>tl", "one two\n"},
    {"number up", "x = 9\n", "<Esc>t+", "x = 10\n"},
    {"number by count", "x = 9\n", "<Esc>20t-", "x = -11\n"},
    {"number again", "ip = 10.0.0.1\n", "<End><Esc>t+<Esc>t+", "ip = 10.0.0.3\n"},
    {"flip", "coins = Yes\n", "<End><Esc>tf", "coins = No\n"},
    {"flip back", "coins = yes\n", "<End><Esc>tf<Esc>tf", "coins = yes\n"},
    {"flip own pair", "gate open\n", "<Ctrl+P>set word_pairs open shut, hot cold<Enter><End><Esc>tf",
     "gate shut\n"},
    {"mark inside", "f(a, [b, c])\n", "<Right><Right><Right><Right><Right><Right><Esc>miX", "f(a, [X])\n"},
    {"mark further out", "f(a, [b, c])\n", "<Right><Right><Right><Right><Right><Right><Esc>mi<Esc>miX",
     "f(X)\n"},
    {"mark block", "a\nb\n\nc\n", "<Esc>mb<Delete>", "\nc\n"},
    {"swap ends", "abc\n", "<Shift+Right><Shift+Right><Esc>mx<Shift+Right><Delete>", "ac\n"},
    {"matching bracket", "a(b)c\n", "<Right><Esc>gmx", "a(bx)c\n"},
    {"bookmarks", "a\nb\nc\n", "<Down><Esc>gk<Ctrl+Home><Esc>gnx", "a\nxb\nc\n"},
    {"jump back", "a\nb\nc\n", "<Down><Ctrl+End><Esc>gjx", "a\nxb\nc\n"},
    {"jump forward", "a\nb\nc\n", "<Down><Ctrl+G>3<Enter><Esc>gj<Esc>gfx", "a\nb\nxc\n"},
    {"percent", "a\nb\nc\nd\n", "<Ctrl+G>50%<Enter>x", "a\nb\nxc\nd\n"},
    {"clip above the line", "a\nb\nc\n", "<Ctrl+X><Down><Right><Ctrl+V>", "b\na\nc\n"},
    {"paste three", "a\n", "<Ctrl+C><Esc>3<Ctrl+V>", "a\na\na\na\n"},
    {"paste over a mark", "abc\n", "<Shift+Right><Ctrl+X><Shift+Right><Ctrl+V>", "ac\n"},
    {"earlier clip", "abc\n", "<Shift+Right><Ctrl+X><Shift+Right><Ctrl+X><Ctrl+V><Esc>ew", "ac\n"},
    {"earlier clips", "abcd\n",
     "<Shift+Right><Ctrl+X><Shift+Right><Ctrl+X><Shift+Right><Ctrl+X><Ctrl+V><Esc>2ew", "ad\n"},
    {"shelf", "abc\n", "<Shift+Right><Ctrl+X><Shift+Right><Ctrl+X><Esc>es<Down><Enter>", "ac\n"},
    {"lines not gathered after a move", "a\nb\nc\n", "<Ctrl+C><Up><Ctrl+C><Ctrl+End><Ctrl+V>",
     "a\nb\nc\na\n"},
    {"columns cut", "abc\nabc\nabc\n", "<Right><Esc>mc<Right><Down><Down><Ctrl+X>", "ac\nac\nac\n"},
    {"columns type", "aa\naa\n", "<Right><Esc>mc<Down>xy<Esc><Esc>", "axya\naxya\n"},
    {"columns backspace", "axa\naxa\n", "<Right><Right><Esc>mc<Down><Backspace>", "aa\naa\n"},
    {"columns paste", "ab\nab\n\n",
     "<Right><Esc>mc<Down><Right><Ctrl+C><Esc><Esc><wait><wait><wait><Ctrl+End><Up><Ctrl+V>",
     "ab\nab\nb\nb\n"},
    {"undo by words", "", "grey heron flies<Ctrl+Z>", "grey heron "},
    {"undo twice by count", "", "grey heron flies<Esc>2<Ctrl+Z>", "grey "},
    {"undo splits at moving", "b\n", "a<Right>c<Ctrl+Z>", "ab\n"},
    {"branch stays", "", "one<Ctrl+Z>two<Esc>ehone<Enter>", "one"},
    {"history by arrows", "x\n", "a<Right>b<Right>c<Esc>eh<Down><Enter>", "axb\n"},
    {"history backed out", "x\n", "a<Right>b<Esc>eh<Down><Esc>c", "axbc\n"},
    {"unicode words",
     "gr\xc3\xbc\xc3\x9f"
     "e \xe6\xbc\xa2\xe5\xad\x97 x\n",
     "<Ctrl+Right><Ctrl+Right>|",
     "gr\xc3\xbc\xc3\x9f"
     "e \xe6\xbc\xa2\xe5\xad\x97| x\n"},
};

TEST(keys_in_file_out)
{
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].name);
        Pty *p = start_at(24, 80, cases[i].before);
        size_t n;
        pty_do(p, cases[i].keys);
        pty_do(p, "<wait><Ctrl+S>");
        SHOWS(p, "Saved work.ini");
        pty_do(p, "<Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
        char *bytes = check_read(check_path("work.ini"), &n);
        CHECK_BYTES(bytes, n, cases[i].after, strlen(cases[i].after));
    }
}

TEST(history_shows_each_state)
{
    Pty *p = start_at(24, 80, "x\n");
    pty_do(p, "berth <Down>quay<Ctrl+S>");
    SHOWS(p, "Saved");
    pty_do(p, "<Ctrl+X><Esc>eh");
    SHOWS(p, "typed “berth ”");
    SHOWS(p, "last saved");
    SHOWS(p, "Last line end");
    SHOWS(p, "Cut “quay");
    pty_do(p, "<Down><Down><Down><Down>");
    SHOWS(p, "5 of 5");
    CHECK_STR(pty_row(p, 1), "  1▎ x");
    LEAVE(p);
}

TEST(marks_are_counted)
{
    pty_theme("terminal");
    Pty *p = start_at(24, 100, "grey heron\ncurlew\nmorning tern\n");
    pty_do(p, "<Shift+Down><Shift+Down>");
    SHOWS(p, "marked 2 lines, 18 characters");
    CHECK_STR(pty_look(p, 2, 5), "r");
    pty_do(p, "<Esc><Esc><Ctrl+Home><Right><Esc>mc<Right><Right><Down>");
    SHOWS(p, "marked 2 columns of 2 lines");
    pty_do(p, "<Esc><Esc><wait><wait><wait><Esc>gw");
    SHOWS(p, "The text: 3 lines, 5 words, 31 characters, 31 bytes");
    LEAVE(p);
}

TEST(wrapping)
{
    char line[400] = "";
    for (int i = 0; i < 30; i++)
        sprintf(line + strlen(line), "word%02d ", i);
    strcat(line, "\nshort\n");
    Pty *p = start_at(24, 60, line);
    CHECK(pty_find(p, "word29") < 0);
    pty_do(p, "<Esc>vw");
    SHOWS(p, "word29");
    SHOWS(p, "Wrap: on, for this run");
    /* down goes by rows, and the column stays */
    pty_do(p, "<wait><wait><wait><wait><wait><wait><Down><Down>");
    SHOWS(p, "Line 1 of 2");
    int row, col;
    pty_cursor(p, &row, &col);
    CHECK_INT(row, 3);
    CHECK_INT(col, 5);
    pty_do(p, "<Ctrl+End>");
    SHOWS(p, "After line 2 of 2");
    pty_resize(p, 8, 30);
    pty_do(p, "<Ctrl+Home><End>");
    SHOWS(p, "word29");
    pty_do(p, "<PageUp><PageUp><PageUp>");
    SHOWS(p, "word00");
    LEAVE(p);
}

TEST(blanks_and_long_lines)
{
    char text[200] = "a b\tc \n";
    memset(text + strlen(text), 'x', 120);
    strcat(text, "end\n");
    Pty *p = start_at(24, 60, text);
    pty_do(p, "<Esc>vb");
    SHOWS(p, "a·b→");
    SHOWS(p, "c·¶");
    pty_do(p, "<Down><End>");
    SHOWS(p, "end¶");
    pty_do(p, "<Home>");
    HIDES(p, "end");
    pty_do(p, "<Insert>Z");
    SHOWS(p, "overtype");
    LEAVE(p);
}

/* What is cut from a wide letter's middle by the screen's edge stays harmless. */
TEST(wide_letters_agree_with_the_terminal)
{
    const char *text =
        "\xe6\xbc\xa2\xe5\xad\x97 e\xcc\x81 \xe2\x9b\xb4 \xf0\x9f\x9a\xa2 \x01 \xe2\x80\x8b \xc2\xad|end\n";
    Pty *p = start_at(24, 80, text);
    pty_do(p, "<End>");
    SHOWS(p, "|end");
    int row, col;
    pty_cursor(p, &row, &col);
    pty_do(p, "X");
    SHOWS(p, "|endX");
    int row2, col2;
    pty_cursor(p, &row2, &col2);
    CHECK_INT(col2, col + 1);
    for (int i = 0; i < 40; i++)
        pty_do(p, "<Left>");
    SHOWS(p, "Column 1 ");
    pty_do(p, "<Right><Right>|");
    SHOWS(p, "\xe6\xbc\xa2\xe5\xad\x97|");
    LEAVE(p);
}

TEST(system_clipboard)
{
    static const char copy[] =
        "#!/bin/sh\ncase \"$*\" in *-out*) cat $HOME/clip;; *) cat > $HOME/clip.new && mv "
        "$HOME/clip.new $HOME/clip;; esac\n";
    mkdir(check_path("bin"), 0755);
    check_write(check_path("bin/xclip"), copy, sizeof copy - 1);
    chmod(check_path("bin/xclip"), 0755);
    char path[300];
    size_t n = 0;
    snprintf(path, sizeof path, "%s/bin:%s", check_folder(), getenv("PATH"));
    pty_env("PATH", path);
    pty_env("DISPLAY", ":77");
    pty_env("WAYLAND_DISPLAY", NULL);
    Pty *p = start_at(24, 80, "grey heron\ncurlew\n");
    pty_do(p, "<Shift+End><Ctrl+C>");
    SHOWS(p, "Copied 10 characters");
    struct stat st;
    UNTIL(p, stat(check_path("clip"), &st) == 0 && st.st_size == 10);
    const char *raw = pty_raw(p, &n);
    CHECK(memmem(raw, n, "\033]52;c;Z3JleSBoZXJvbg==\a", 24) != NULL);
    char *got = check_read(check_path("clip"), &n);
    CHECK_BYTES(got, n, "grey heron", 10);
    check_write(check_path("clip"), "from outside\n", 13);
    pty_do(p, "<Ctrl+End><Esc>eg");
    SHOWS(p, "from outside");
    /* off means off */
    pty_do(p, "<Ctrl+P>set system_clipboard false<Enter><Ctrl+Home><Ctrl+X>");
    SHOWS(p, "Cut 1 line");
    pty_idle(p);
    got = check_read(check_path("clip"), &n);
    CHECK_BYTES(got, n, "from outside\n", 13);
    LEAVE(p);
    pty_env("DISPLAY", NULL);
    p = start_at(24, 80, "x\n");
    pty_do(p, "<Esc>eg");
    SHOWS(p, "use the terminal's own paste");
    LEAVE(p);
}

TEST(undo_outlives_the_program)
{
    Pty *p = start_at(24, 80, "first\n");
    pty_do(p, "one <Right>two <Ctrl+S>");
    SHOWS(p, "Saved");
    pty_do(p, "dropped <Ctrl+Q>");
    SHOWS(p, "has changes");
    pty_pause(p, 400);
    pty_do(p, "d");
    CHECK_INT(pty_end(p), 0);
    const char *args[] = {"work.ini", NULL};
    p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "one ftwo irst");
    pty_do(p, "<Ctrl+Z>");
    SHOWS(p, "one first");
    pty_do(p, "<Ctrl+Z>");
    HIDES(p, "one");
    pty_do(p, "<Ctrl+Y><Ctrl+Y><Ctrl+Y>"); /* what was dropped is there too */
    SHOWS(p, "one ftwo dropped irst");
    LEAVE(p);
    /* changed by somebody else: its history would not fit */
    check_write(check_path("work.ini"), "other\n", 6);
    p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "other");
    pty_do(p, "<Ctrl+Z>");
    SHOWS(p, "nothing to undo");
    LEAVE(p);
    /* a file that others may not read leaves no trace */
    chmod(check_path("work.ini"), 0600);
    p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "other");
    pty_do(p, "x<Ctrl+S>");
    SHOWS(p, "Saved");
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
    p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "xother");
    pty_do(p, "<Ctrl+Z>");
    SHOWS(p, "nothing to undo");
    LEAVE(p);
    struct stat st;
    CHECK(stat(check_path(".local/state/steady-quill/state.db"), &st) == 0 && (st.st_mode & 077) == 0);
}

TEST(mouse_marks)
{
    Pty *p = start_at(24, 80, "grey heron flies\ncurlew\nmorning tern\n");
    static const char drag[] = "\033[<0;6;2M\033[<32;11;2M\033[<0;11;2m";
    pty_send(p, drag, sizeof drag - 1);
    SHOWS(p, "marked 1 line, 5 characters");
    pty_pause(p, 500);
    /* a double click and a drag mark whole words, a triple click and a drag whole lines */
    static const char words[] = "\033[<0;8;2M\033[<0;8;2m\033[<0;8;2M\033[<32;13;2M\033[<0;13;2m";
    pty_send(p, words, sizeof words - 1);
    SHOWS(p, "marked 1 line, 10 characters");
    pty_pause(p, 500);
    static const char lines[] =
        "\033[<0;8;2M\033[<0;8;2m\033[<0;8;2M\033[<0;8;2m\033[<0;8;2M\033[<32;8;3M\033[<0;8;3m";
    pty_send(p, lines, sizeof lines - 1);
    SHOWS(p, "marked 2 lines, 24 characters");
    LEAVE(p);
}

/* What Ctrl+K and Ctrl+U take can be pasted; several in a row come back together, in their order. */
TEST(cuts_to_the_ends_of_a_line_gather)
{
    static const struct {
        const char *keys, *after;
    } pieces[] = {
        {"<Ctrl+K><Down><End><Enter><Ctrl+V>", "\nquay 2\nberth 1\n"},
        {"<Ctrl+K><Ctrl+K><Ctrl+K><Ctrl+V><Ctrl+V>", "berth 1\nquay 2berth 1\nquay 2\n"},
        {"<Down><End><Ctrl+U><Ctrl+U><Ctrl+U><Ctrl+V>", "berth 1\nquay 2\n"},
        {"<Ctrl+K><Right><Ctrl+K><Ctrl+V>", "\nquay 2\n"},
    };
    for (size_t i = 0; i < sizeof pieces / sizeof *pieces; i++) {
        check_case(pieces[i].keys);
        check_put("x.txt", "berth 1\nquay 2\n");
        Pty *p = pty_edit("x.txt", NULL);
        pty_do(p, pieces[i].keys);
        pty_do(p, "<Ctrl+S><Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
        check_holds("x.txt", pieces[i].after);
    }
}

/* The word at the cursor is the one that it is in or directly behind, for every command, and never another
 * line's. */
TEST(the_word_at_the_cursor)
{
    static const struct {
        const char *text, *keys, *after;
    } places[] = {
        {"quay berth", "<Right><Esc>tu", "QUAY berth"},
        {"quay berth", "<Right><Right><Right><Right><Esc>tu", "QUAY berth"},
        {"quay  berth", "<Right><Right><Right><Right><Right><Esc>tu", "quay  berth"},
        {"quay\nberth", "<End><Esc>mw<Ctrl+X>", "\nberth"},
        {"\nberth", "<Esc>mw<Esc>tu", "\nberth"},
        {"berth\nquay berth", "<Ctrl+End><Esc>sw<wait><Enter><Ctrl+K>", "berth\nquay "},
        {"(quay)", "<End><Esc>mw<Delete>", "(quay"},
        {"(quay)", "<Right><Esc>mw<Delete>", "()"},
    };
    for (size_t i = 0; i < sizeof places / sizeof *places; i++) {
        check_case(places[i].keys);
        check_put("x.txt", places[i].text);
        Pty *p = pty_edit("x.txt", NULL);
        pty_do(p, places[i].keys);
        pty_do(p, "<Ctrl+S><Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
        check_holds("x.txt", places[i].after);
    }
}
