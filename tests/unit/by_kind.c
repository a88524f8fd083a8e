/* What editing knows of the kind of file: comments, indentation, brackets, line-end characters. */
#include "check.h"
#include "editors.h"
#include "app/app.h"
#include "edit/comment.h"
#include "ui/command.h"
#include "view/brackets.h"
#include "session/session_files.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>

static Editor *begin(const char *kind, const char *text)
{
    Editor *ed = editors_start(text, strlen(text), 24, 80);
    const Kind *k = kind_named(kind);
    CHECK(k != NULL);
    if (k)
        openfile_set_kind(ed->panes.view->file, k);
    return ed;
}

static void text_must_be(const Editor *ed, const char *want)
{
    Text t = view_text(ed->panes.view);
    char *is = text_string(t, 0, text_len(t));
    CHECK_STR(is, want);
    free(is);
}

/* Keys in, text out, and some words on the screen unless `says` is NULL. */
static void keys_must_make(const char *kind, const char *text, const char *keys, const char *want,
                           const char *says)
{
    char name[100];
    snprintf(name, sizeof name, "%s, %s: %s", kind, keys, text);
    check_case(name);
    Editor *ed = begin(kind, text);
    editors_press(ed, keys);
    text_must_be(ed, want);
    CHECK(!says || editors_show(ed, says));
    app_free(ed);
}

TEST(lines_become_comments)
{
    static const struct {
        const char *kind, *keys, *text, *want, *says;
    } cases[] = {
        {"shell", "F5", "a\nb\n", "# a\nb\n", "Commented 1 line"},
        {"shell", "F5 F5", "a\nb\n", "a\nb\n", "Uncommented 1 line"},
        {"shell", "Shift+Down Shift+Down Shift+Down F5", "  a\n\n\tb\n", "#   a\n\n# \tb\n",
         "Commented 3 lines"},
        {"shell", "Shift+Down Shift+Down F5", "    a\n      b\n", "    # a\n    #   b\n",
         "Commented 2 lines"},
        {"shell", "Shift+Down Shift+Down F5", "# a\nb\n", "# # a\n# b\n", NULL},
        {"shell", "Shift+Down Shift+Down F5", "#a\n  # b\n", "a\n   b\n", "Uncommented 2 lines"},
        {"shell", "Esc l c", "a\r\n", "# a\r\n", NULL},
        {"c", "F5", "  x();", "  // x();", NULL},
        {"sql", "F5", "x", "-- x", NULL},
        {"shell", "F5", "#    include x;\n", "    include x;\n", "Uncommented 1 line"},
        {"shell", "F5", "#     x;\n", "    x;\n", "Uncommented 1 line"},
        {"shell", "Esc m a F5", "#a\n#\n#  b\n", "a\n\n  b\n", "Uncommented 3 lines"},
        {"shell", "Esc m a F5", "# a\n#\n#   b\n", "a\n\n  b\n", "Uncommented 3 lines"},
        {"shell", "F5", "#!/bin/sh\nx\n", "#!/bin/sh\nx\n", "nothing here to comment"},
        {"shell", "Esc m a F5", "#!/bin/sh\n# x\n", "#!/bin/sh\nx\n", "Uncommented"},
        {"shell", "Esc m a F5", "#!/bin/sh\nx\n", "#!/bin/sh\n# x\n", "Commented"},
        {"xml", "F5", "  <a/>  \n", "  <!-- <a/> -->  \n", "Commented 1 line"},
        {"xml", "F5 F5", "  <a/>  \n", "  <a/>  \n", "Uncommented 1 line"},
        {"xml", "Shift+Down Shift+Down F5", "<a>\n</a>\n", "<!-- <a>\n</a> -->\n", "Commented 2 lines"},
        {"css", "Shift+Down Shift+Down F5", "a /* b */\nc\n", "a /* b */\nc\n",
         "There is a comment in it already"},
        {"text", "F5", "a\n", "a\n", "Files of the kind text have no comments"},
        {"json", "F5", "1\n", "1\n", "Files of the kind json have no comments"},
        {"shell", "F5", "\n", "\n", "There is nothing here to comment"},
        {"html", "Down F5", "<script>\nf()\n</script>\n", "<script>\n// f()\n</script>\n", NULL},
        /* line-end characters */
        {"ini", "F5", "; x\n", "x\n", "Uncommented 1 line"},
        {"ini", "Esc m a F5", "; x\n# y\n", "x\ny\n", "Uncommented 2 lines"},
        {"ini", "Esc m a F5", "; x\ny\n", "# ; x\n# y\n", "Commented 2 lines"},
        {"json", "Esc l e", "1\n", "1,\n", NULL},
        {"c", "Esc l e", "x\n", "x;\n", NULL},
        {"ini", "Esc l e", "x\n", "x\n", "end with no character"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        keys_must_make(cases[i].kind, cases[i].text, cases[i].keys, cases[i].want, cases[i].says);
    }
}

/* Commented and uncommented, any lines are what they were. */
TEST(comments_go_byte_for_byte)
{
    static const char signs[] = "  \t\n\nab#/*-<!>\r";
    static const char *const also[] = {"a", "//", NULL};
    static const CommentSigns all[] = {{.sign = "#", .also = also},
                                       {.sign = "//"},
                                       {.open = "<!--", .close = "-->"},
                                       {.open = "/*", .close = "*/"}};
    for (int round = 0; round < 50000; round++) {
        char in[40];
        size_t n = check_random(sizeof in);
        for (size_t i = 0; i < n; i++)
            in[i] = signs[check_random(sizeof signs - 1)];
        const CommentSigns *s = &all[check_random(4)];
        Bytes there = {0}, back = {0};
        Commented done = comment_lines(in, n, s, &there);
        if (done == COMMENT_ADDED) {
            CHECK(comment_lines(bytes_str(&there), there.len, s, &back) == COMMENT_REMOVED);
            CHECK_BYTES(bytes_str(&back), back.len, in, n);
        }
        bytes_free(&there);
        bytes_free(&back);
    }
}

TEST(new_lines_are_indented)
{
    static const struct {
        const char *kind, *text, *keys, *want;
    } cases[] = {
        {"c", "  if (x) {", "End Enter y", "  if (x) {\n    y"},
        {"c", "x() {", "End Enter y ; Enter }", "x() {\n    y;\n}"},
        {"c", "x() {", "End Enter }", "x() {\n}"},
        {"c", "// x {", "End Enter y", "// x {\ny"},
        {"c", "s = \"{", "End Enter y", "s = \"{\ny"},
        {"c", "{\n    f(\n", "Ctrl+End Space Space Space Space )", "{\n    f(\n    )"},
        {"python", "def f(x):", "End Enter y", "def f(x):\n    y"},
        {"python", "x = [", "End Enter ]", "x = [\n]"},
        {"python", "# like this:", "End Enter y", "# like this:\ny"},
        {"shell", "if true; then", "End Enter y Enter f i Enter", "if true; then\n    y\nfi\n"},
        {"shell", "  for i in *; do", "End Enter y Enter d o n e Enter z",
         "  for i in *; do\n    y\n  done\n  z"},
        {"shell", "if x; then\n  y\nfi", "Ctrl+End Enter z", "if x; then\n  y\nfi\nz"},
        {"shell", "echo fi", "End Enter z", "echo fi\nz"},
        {"yaml", "berths:", "End Enter a", "berths:\n  a"},
        {"yaml", "a: 1", "End Enter b", "a: 1\nb"},
        {"make", "all: x", "End Enter y", "all: x\n\ty"},
        {"json", "{", "End Enter \" a Enter }", "{\n  \"a\n}"},
        {"nginx", "server {", "End Enter l", "server {\n    l"},
        {"ruby", "def x", "End Enter y Enter e n d Enter", "def x\n  y\nend\n"},
        {"lua", "if x then", "End Enter y Enter e n d Enter", "if x then\n  y\nend\n"},
        {"html", "<ul>", "End Enter x", "<ul>\n  x"},
        {"text", "see (", "End Enter x", "see (\nx"},
        {"shell", "case $x in",
         "End Enter a ) Enter y Enter ; ; Enter b ) Enter z Enter ; ; Enter e s a c Enter w",
         "case $x in\n    a)\n        y\n        ;;\n    b)\n        z\n        ;;\nesac\nw"},
        {"python", "if x:", "End Enter y Enter e l s e : Enter z", "if x:\n    y\nelse:\n    z"},
        {"python", "def f():\n    if x:",
         "Ctrl+End Enter r e t u r n Space 1 Enter e l i f Space y : Enter p a s s Enter z",
         "def f():\n    if x:\n        return 1\n    elif y:\n        pass\n    z"},
        {"python", "try:", "End Enter y Enter e x c e p t Space E : Enter z",
         "try:\n    y\nexcept E:\n    z"},
        {"python", "def f():", "End Enter r e t u r n Space ( Enter x", "def f():\n    return (\n        x"},
        {"c", "if (x)", "End Enter y ; Enter z ;", "if (x)\n    y;\nz;"},
        {"c", "  if (x) {\n    y;", "Ctrl+End Enter } Space e l s e Enter z ; Enter w ;",
         "  if (x) {\n    y;\n  } else\n    z;\n  w;"},
        {"c", "for (;;)", "End Enter i f Space ( y ) Enter z ; Enter w",
         "for (;;)\n    if (y)\n        z;\n    w"},
        {"haproxy", "frontend a", "End Enter b i n d Enter b a c k e n d Space b Enter x",
         "frontend a\n    bind\nbackend b\n    x"},
        {"network", "iface a inet dhcp", "End Enter m t u Space 9 Enter a u t o Space b Enter x",
         "iface a inet dhcp\n    mtu 9\nauto b\nx"},
        {"toml", "a = [", "End Enter 1 , Enter ]", "a = [\n    1,\n]"},
        {"toml", "[a]", "End Enter b", "[a]\nb"},
        {"c", "f() {}", "End Left Enter", "f() {\n}"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        keys_must_make(cases[i].kind, cases[i].text, cases[i].keys, cases[i].want, NULL);
    }
    check_case("a paste");
    Editor *ed = begin("c", "x() {");
    editors_press(ed, "End");
    const char paste[] = "\ny\n  }\n";
    app_input(ed, &(Input){.kind = INPUT_PASTE, .bytes = paste, .n_bytes = sizeof paste - 1}, editors_now);
    text_must_be(ed, "x() {\ny\n  }\n");
    app_free(ed);
    check_case("undone at once");
    ed = begin("c", "x() {");
    editors_press(ed, "End Enter y ; Enter }");
    editors_press(ed, "Ctrl+Z");
    text_must_be(ed, "x() {\n    y;\n    ");
    app_free(ed);
}

TEST(brackets_are_those_of_the_code)
{
    static const struct {
        const char *kind, *text;
        int at, partner; /* -1: none */
    } cases[] = {
        {"c", "f(\")\", a)", 1, 8},  {"c", "f(/* ) */ a)", 1, 11},
        {"c", "/* ( */ )", 3, -1},   {"c", "\"( )\" (", 1, 3},
        {"shell", "( # )\n)", 0, 6}, {"text", "f(\")\", a)", 1, 3},
        {"c", "({[]})", 0, 5},       {"python", "x = '''\n(\n''' + (1)", 16, 18},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        size_t partner = 0;
        check_case(cases[i].text);
        Editor *ed = begin(cases[i].kind, cases[i].text);
        const View *v = ed->panes.view;
        bool found = brackets_partner(v, (size_t)cases[i].at, &partner);
        CHECK(found == (cases[i].partner >= 0));
        CHECK(!found || (int)partner == cases[i].partner);
        CHECK(!found || (brackets_partner(v, partner, &partner) && (int)partner == cases[i].at));
        app_free(ed);
    }
}

TEST(inside_of_comments_and_quotes)
{
    static const struct {
        const char *kind, *text;
        unsigned at;
        int again; /* more times */
        const char *want;
    } cases[] = {
        {"c", "f(a, \"b (c\")", 7, 0, "b (c"},
        {"c", "f(a, \"b (c\")", 3, 0, "a, \"b (c\""},
        {"c", "x // low tide\ny", 7, 0, "low tide"},
        {"c", "x /* low\n tide */", 7, 0, "low\n tide"},
        {"c", "(x /* low */)", 7, 0, "low"},
        {"c", "(x /* low */)", 7, 1, "x /* low */"},
        {"c", "// a (b c) d", 7, 0, "b c"},
        {"python", "x = '''a\nb'''", 8, 0, "a\nb"},
        {"shell", "echo 'it # is' # low", 8, 0, "it # is"},
        {"text", "a (b c) d", 4, 0, "b c"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        size_t from, to;
        check_case(cases[i].text);
        Editor *ed = begin(cases[i].kind, cases[i].text);
        view_go(ed->panes.view, cases[i].at);
        for (int k = 0; k <= cases[i].again; k++)
            command_run_line(ed, "mark-inside", 1, false);
        CHECK(view_marked(ed->panes.view, &from, &to));
        char *is = text_string(view_text(ed->panes.view), from, to);
        CHECK_STR(is, cases[i].want);
        free(is);
        app_free(ed);
    }
}

TEST(indentation_follows_the_kind)
{
    static const struct {
        const char *kind, *text;
        bool tabs;
        unsigned indent;
    } cases[] = {
        {"make", "", true, 8},          {"yaml", "", false, 2},         {"python", "", false, 4},
        {"text", "", false, 4},         {"json", "{\n    1", false, 4}, /* its own lines say otherwise */
        {"yaml", "a:\n\tb\n", true, 8},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].kind);
        Editor *ed = begin(cases[i].kind, cases[i].text);
        const TextFormat *f = &ed->panes.view->file->format;
        CHECK(f->tabs == cases[i].tabs && f->indent == cases[i].indent);
        app_free(ed);
    }
}

TEST(words_are_completed)
{
    static const struct {
        const char *kind, *text, *keys, *want, *says;
    } cases[] = {
        {"text", "berth brine b", "End Ctrl+Space Enter", "berth brine brine", NULL},
        {"text", "berth brine b", "End Ctrl+Space Ctrl+Space Enter", "berth brine berth", NULL},
        {"text", "berth brine b", "End Ctrl+Space Tab Tab Enter", "berth brine brine", NULL},
        {"text", "berth brine b", "End Ctrl+Space Up Enter", "berth brine berth", NULL},
        {"text", "berth brine b", "End Ctrl+Space Tab Esc", "berth brine b", NULL},
        {"text", "berth brine b", "End Ctrl+Space x", "berth brine brinex", NULL},
        {"text", "berth brine b", "End Ctrl+Space Left y",
         "berth brine briny"
         "e",
         NULL},
        {"text", "berth brine b", "End Ctrl+Space Tab Enter Ctrl+Z", "berth brine b", NULL},
        {"text", "berth b", "End Ctrl+Space", "berth berth", NULL},
        {"text", "Berth b", "End Ctrl+Space", "Berth berth", NULL},
        {"text", "Berth BERTH b", "End Ctrl+Space Enter", "Berth BERTH bERTH", NULL},
        {"text", "berth/be", "End Ctrl+Space", "berth/berth", NULL},
        {"html", "<division></div", "End Ctrl+Space", "<division></division", NULL},
        {"text", "b\nberth\nbrine\n", "End Ctrl+Space Enter", "berth\nberth\nbrine\n", "brine"},
        {"text", "low-tide lo", "End Ctrl+Space", "low-tide low-tide", NULL},
        {"text", "low-tide low-t", "End Ctrl+Space", "low-tide low-tide", NULL},
        {"c", "low-tide lo", "End Ctrl+Space", "low-tide low", NULL},
        {"text", "café ca", "End Ctrl+Space", "café café", NULL},
        {"text", "one ", "End Ctrl+Space", "one ", "Type the beginning of a word first"},
        {"text", "one x", "End Ctrl+Space", "one x", "No completion found"},
        {"python", "whi", "End Ctrl+Space", "while", NULL},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        keys_must_make(cases[i].kind, cases[i].text, cases[i].keys, cases[i].want, cases[i].says);
    }
    check_case("names of files");
    char before[200], after[200];
    check_put("tide.log", "");
    check_put("tide.txt", "");
    CHECK(mkdir(check_path("bay"), 0700) == 0);
    snprintf(before, sizeof before, "x=%s/ti", check_folder());
    snprintf(after, sizeof after, "x=%s/tide.txt", check_folder());
    Editor *ed = begin("text", before);
    editors_press(ed, "End Ctrl+Space Tab Enter");
    text_must_be(ed, after);
    app_free(ed);
    snprintf(before, sizeof before, "tide %s/b", check_folder());
    snprintf(after, sizeof after, "tide %s/bay/", check_folder());
    ed = begin("text", before);
    editors_press(ed, "End Ctrl+Space");
    text_must_be(ed, after);
    app_free(ed);
    check_case("a paste ends it");
    ed = begin("text", "berth brine b");
    editors_press(ed, "End Ctrl+Space");
    app_input(ed, &(Input){.kind = INPUT_PASTE, .bytes = "!", .n_bytes = 1}, editors_now);
    text_must_be(ed, "berth brine brine!");
    CHECK(ed->layer == NULL);
    app_free(ed);
    check_case("another open text");
    ed = begin("text", "gull gannet");
    Text t = {0};
    CHECK(text_insert(&t, 0, "ga", 2));
    editor_show(ed, session_add(ed->session, t));
    editors_press(ed, "End Ctrl+Space");
    text_must_be(ed, "gannet");
    app_free(ed);
}
