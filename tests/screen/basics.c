/* Opening, typing, saving, leaving: what everybody does first. */
#include "check.h"
#include "drive.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static Pty *edit(const char *name, const char *bytes, size_t n)
{
    if (bytes)
        check_write(check_path(name), bytes, n);
    const char *args[] = {name, NULL};
    Pty *p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, name);
    SHOWS(p, "F1 Help"); /* painted last */
    return p;
}

static void file_holds(const char *name, const char *want, size_t n_want)
{
    size_t n;
    char *bytes = check_read(check_path(name), &n);
    CHECK_BYTES(bytes, n, want, n_want);
}

/* Keys in, file out. */
static const struct {
    const char *before, *keys, *after;
} cases[] = {
    {"", "grey heron", "grey heron"},
    {"", "one<Enter>two<Enter>", "one\ntwo\n"},
    {"", "  a<Enter><wait>b", "  a\n  b"}, /* at once it would be a paste */
    {"berth 3\n", "<End>7", "berth 37\n"},
    {"berth\n", "<Delete><Delete>", "rth\n"},
    {"berth\n", "<Right><Right><Backspace>", "brth\n"},
    {"a\nb\n", "<Down><Home><Backspace>", "ab\n"},
    {"a\nb\n", "<Ctrl+End>c", "a\nb\nc\n"},
    {"a\nb\n", "<Down><Down><Down><Down>c", "a\nb\nc\n"},
    {"long line\nx\nlong line\n", "<End><Down><Down>!", "long line\nx\nlong line!\n"},
    {"one two three\n", "<Ctrl+Right><Ctrl+Right>,", "one two, three\n"},
    {"one two three\n", "<End><Ctrl+W><Ctrl+W>", "one \n"},
    {"one two\n", "<End><Ctrl+Left><Ctrl+K>", "one \n"},
    {"one two\n", "<End><Ctrl+Left><Ctrl+U>", "two\n"},
    {"one\n", "x y z<Ctrl+Z><Ctrl+Z>", "x one\n"},
    {"one\n", "x y<Ctrl+Z><Ctrl+Z><Ctrl+Y>", "x one\n"},
    {"one\n", "<Shift+Right><Shift+Right>X", "Xe\n"},
    {"one two\n", "<Ctrl+Right><Shift+Home><Backspace>", " two\n"},
    {"abc\n", "<Insert>XY", "XYc\n"},
    {"  x\n", "<End><Home>y<Home><Home>z", "z  yx\n"},
    {"a\n", "<Tab>b", "    ba\n"},
    {"\ta\n\tb\n", "<End><Enter>c", "\ta\n\tc\n\tb\n"},
    {"", "gr\xc3\xbc\xc3\x9f<Backspace>n", "gr\xc3\xbcn"},
    {"a\xcc\x81z\n", "<Delete>", "z\n"},
};

TEST(keys_in_file_out)
{
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].keys);
        Pty *p = edit("case.txt", cases[i].before, strlen(cases[i].before));
        SHOWS(p, "Line 1 of");
        pty_do(p, cases[i].keys);
        pty_do(p, "<Ctrl+S>");
        SHOWS(p, "Saved case.txt");
        pty_do(p, "<Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
        file_holds("case.txt", cases[i].after, strlen(cases[i].after));
    }
}

TEST(new_file_is_made_by_the_first_save)
{
    Pty *p = edit("fresh.txt", NULL, 0);
    SHOWS(p, "new");
    pty_do(p, "first words<Enter>");
    SHOWS(p, "new, changed");
    CHECK(access(check_path("fresh.txt"), F_OK) != 0);
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Saved fresh.txt: 1 line, 12 bytes");
    HIDES(p, "new");
    file_holds("fresh.txt", "first words\n", 12);
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
}

TEST(no_name_asks_for_one)
{
    check_write(check_path("taken.txt"), "mine", 4);
    Pty *p = pty_start(SQUILL, 24, 80, NULL);
    SHOWS(p, "(no name yet)");
    pty_do(p, "abc<Ctrl+S>");
    SHOWS(p, "Save as:");
    pty_do(p, "<Esc>");
    SHOWS(p, "Nothing was saved");
    pty_do(p, "<wait><wait><wait><Ctrl+S>");
    SHOWS(p, "Save as:");
    pty_do(p, "taken.txt<Enter>");
    SHOWS(p, "There is a ");
    pty_do(p, "<wait>a");
    SHOWS(p, "Save as:");
    file_holds("taken.txt", "mine", 4);
    pty_do(p, "wrong<Ctrl+U>new.xxt<Left><Left><Backspace>t<End><Enter>");
    SHOWS(p, "Saved new.txt");
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
    file_holds("new.txt", "abc", 3);
}

TEST(leaving_unchanged_writes_nothing)
{
    struct stat before, after;
    Pty *p = edit("still.txt", "calm\n", 5);
    SHOWS(p, "calm");
    CHECK(stat(check_path("still.txt"), &before) == 0);
    pty_do(p, "<Down><Up>x<Ctrl+Z><Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
    CHECK(stat(check_path("still.txt"), &after) == 0);
    CHECK(before.st_mtim.tv_nsec == after.st_mtim.tv_nsec && before.st_mtim.tv_sec == after.st_mtim.tv_sec);
    CHECK(before.st_ino == after.st_ino);
}

TEST(leaving_with_changes_asks)
{
    Pty *p = edit("bad.txt", "good\n", 5);
    SHOWS(p, "good");
    /* typed ahead: the d must not answer */
    pty_do(p, "bad <Ctrl+Q>d");
    SHOWS(p, "bad.txt has changes that are not saved");
    SHOWS(p, "s Save and leave   d Drop them   v View them   Esc Stay");
    pty_pause(p, 400);
    pty_do(p, "q7 ");
    SHOWS(p, "has changes");
    pty_do(p, "<Esc>");
    HIDES(p, "has changes");
    SHOWS(p, "bad good");
    pty_pause(p, 1100);
    pty_do(p, "<Ctrl+Q>");
    SHOWS(p, "has changes");
    pty_pause(p, 400);
    pty_do(p, "d");
    CHECK_INT(pty_end(p), 0);
    file_holds("bad.txt", "good\n", 5);
    p = edit("bad.txt", NULL, 0);
    SHOWS(p, "good");
    pty_do(p, "very <Ctrl+Q>");
    SHOWS(p, "has changes");
    pty_pause(p, 400);
    pty_do(p, "S");
    CHECK_INT(pty_end(p), 0);
    file_holds("bad.txt", "very good\n", 10);
}

TEST(one_letter_changes_one_letter)
{
    static const char before[] = "first\r\nsecond \xff\x00 third\r\nno newline at the end";
    static const char after[] = "first\r\nsecondx \xff\x00 third\r\nno newline at the end";
    Pty *p = edit("odd.bin", before, sizeof before - 1);
    SHOWS(p, "second \\xff\\x00 third");
    SHOWS(p, "odd.bin is look-only, as it is no text (zero bytes). Esc f l changes that");
    pty_do(p, "<wait><Esc>fl<wait>");
    pty_do(p, "<Down>");
    SHOWS(p, "bytes · crlf");
    pty_do(p, "<Ctrl+Right>x<Ctrl+S>");
    SHOWS(p, "Saved odd.bin: 3 lines");
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
    file_holds("odd.bin", after, sizeof after - 1);
}

TEST(paste_is_literal_and_one_step)
{
    static const char paste[] = "\033[200~  if x:\r    y\r\tz \023\021\033[201~";
    Pty *p = edit("paste.txt", "    end", 7);
    SHOWS(p, "end");
    pty_do(p, "<End>");
    pty_send(p, paste, sizeof paste - 1);
    SHOWS(p, "\\x13\\x11");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Saved");
    file_holds("paste.txt", "    end  if x:\n    y\n\tz \x13\x11", 26);
    pty_do(p, "<Ctrl+Z><Ctrl+S>");
    SHOWS(p, "1 line, 7 bytes");
    file_holds("paste.txt", "    end", 7);
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
}

/* Terminals without bracketed paste send it as keys: it is literal and one step too, of any size. */
TEST(paste_by_plain_keys)
{
    static const struct {
        const char *paste, *holds;
    } pastes[] = {
        {"if berth; then\r    open ramp\r    if night; then\r        whisper\r    fi\rfi\r",
         "  \nif berth; then\n    open ramp\n    if night; then\n        whisper\n    fi\nfi\n"},
        {"a\rb", "  \na\nb\n"},
        {"a\r\n\tb\r\n", "  \na\n\tb\n"},
        {"gr\xc3\xbcn\r  \xe2\x82\xac", "  \ngr\xc3\xbcn\n  \xe2\x82\xac\n"},
    };
    for (size_t i = 0; i < sizeof pastes / sizeof *pastes; i++) {
        check_case(pastes[i].paste);
        Pty *p = edit("keys.sh", "  \n", 3);
        SHOWS(p, "Line 1 of 1");
        pty_do(p, "<Ctrl+End>");
        pty_send(p, pastes[i].paste, strlen(pastes[i].paste));
        pty_idle(p);
        pty_do(p, "<Ctrl+S>");
        SHOWS(p, "Saved");
        file_holds("keys.sh", pastes[i].holds, strlen(pastes[i].holds));
        pty_do(p, "<Ctrl+Z><Ctrl+Z><Ctrl+S><Ctrl+Q>"); /* the line end that saving gave it, too */
        CHECK_INT(pty_end(p), 0);
        file_holds("keys.sh", "  \n", 3);
    }
}

TEST(large_paste)
{
    enum { LINES_N = 100000 };
    char *big = malloc(LINES_N * 20 + 100), *at = big;
    at += sprintf(at, "\033[200~");
    for (int i = 0; i < LINES_N; i++)
        at += sprintf(at, "tide line %08d\r", i);
    at += sprintf(at, "\033[201~");
    Pty *p = edit("large.txt", "", 0);
    SHOWS(p, "Line 1 of 1");
    pty_send(p, big, (size_t)(at - big));
    SHOWS(p, "tide line 00099999");
    pty_do(p, "<Ctrl+Z>");
    SHOWS(p, "Line 1 of 1");
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
    free(big);
}

TEST(look_only)
{
    check_write(check_path("look.txt"), "keep\n", 5);
    const char *args[] = {"-l", "look.txt", NULL};
    Pty *p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "look only");
    pty_do(p, "xyz");
    SHOWS(p, "look.txt is open to look only");
    HIDES(p, "Ctrl+S Save");
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
}

/* Who only looks writes nothing, by whatever way. */
TEST(look_only_never_writes)
{
    static const struct {
        const char *keys, *says;
    } ways[] = {
        {"<Ctrl+S>", "look only and was not saved"},
        {"<Ctrl+P>rename quay.txt<Enter>", "look only and was not renamed"},
        {"<Ctrl+P>save-as look.txt<Enter>", "look only and was not saved"},
        {"<Ctrl+P>save-as ./link.txt<Enter>", "look only and was not saved"},
        {"<Ctrl+P>save-every-file<Enter>", "No file has changes"},
        {"<Ctrl+P>encoding utf-16le<Enter><Ctrl+S>", "look only"},
    };
    struct stat before, after;
    check_put("look.txt", "keep\n");
    CHECK(symlink("look.txt", check_path("link.txt")) == 0);
    stat(check_path("look.txt"), &before);
    const char *args[] = {"-l", "look.txt", NULL};
    Pty *p = pty_start(SQUILL, 24, 100, args);
    SHOWS(p, "look only");
    for (size_t i = 0; i < sizeof ways / sizeof *ways; i++) {
        check_case(ways[i].keys);
        pty_do(p, ways[i].keys);
        SHOWS(p, ways[i].says);
        pty_do(p, "<Esc><Esc>");
    }
    pty_do(p, "<Ctrl+P>save-as copy.txt<Enter>");
    SHOWS(p, "Saved copy.txt");
    LEAVE(p);
    stat(check_path("look.txt"), &after);
    CHECK(before.st_ino == after.st_ino && before.st_mtim.tv_nsec == after.st_mtim.tv_nsec);
    check_holds("look.txt", "keep\n");
}

TEST(several_files_are_each_asked_about)
{
    check_write(check_path("a.txt"), "a\n", 2);
    check_write(check_path("b.txt"), "b\n", 2);
    const char *args[] = {"a.txt", "b.txt", NULL};
    Pty *p = pty_start(SQUILL, 24, 80, args);
    SHOWS(p, "/a.txt");
    pty_do(p, "x<Ctrl+Q>");
    SHOWS(p, "a.txt has changes");
    pty_pause(p, 400);
    pty_do(p, "s");
    CHECK_INT(pty_end(p), 0);
    file_holds("a.txt", "xa\n", 3);
    file_holds("b.txt", "b\n", 2);
}

/* The last line end that a file had stays, also when something was typed after it; or its lack. */
TEST(the_last_newline_is_kept)
{
    static const struct {
        const char *name, *before, *keys, *after;
    } ends[] = {
        {"a new last line", "berth\n", "<Ctrl+End>quay", "berth\nquay\n"},
        {"taken away by mistake", "berth\n", "<Ctrl+End><Backspace>", "berth\n"},
        {"there was none", "berth", "<Ctrl+End><Enter>quay", "berth\nquay"},
        {"lines that end in two bytes", "berth\r\n", "<Ctrl+End>quay", "berth\r\nquay\r\n"},
        {"a new file", NULL, "quay", "quay"},
        {"typing goes on where it was", "berth\n", "<Ctrl+End>quay<Ctrl+S> 4", "berth\nquay 4\n"},
        {"twice", "berth\n", "<Ctrl+End>quay<Ctrl+S><Ctrl+End>4", "berth\nquay\n4\n"},
    };
    for (size_t i = 0; i < sizeof ends / sizeof *ends; i++) {
        check_case(ends[i].name);
        unlink(check_path("x.txt"));
        if (ends[i].before)
            check_put("x.txt", ends[i].before);
        Pty *p = pty_edit("x.txt", NULL);
        pty_do(p, ends[i].keys);
        pty_do(p, "<Ctrl+S><Ctrl+Q>");
        CHECK_INT(pty_end(p), 0);
        check_holds("x.txt", ends[i].after);
    }
}

/* A letter and Backspace: nothing is changed, and nothing is asked. */
TEST(taken_back_by_hand_is_not_changed)
{
    check_put("x.txt", "berth\n");
    Pty *p = pty_edit("x.txt", NULL);
    pty_do(p, "x");
    SHOWS(p, "changed");
    pty_do(p, "<Backspace>");
    HIDES(p, "changed");
    pty_do(p, "<Ctrl+Q>");
    CHECK_INT(pty_end(p), 0);
}
