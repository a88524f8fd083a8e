/* What divides a text: headings by kind, going between them, the section of a place. */
#include "check.h"
#include "editors.h"
#include "app/app.h"
#include "session/session_files.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/outlining.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static bool add(void *ctx, const Heading *h)
{
    Heading *all = ctx;
    size_t n = 0;
    while (all[n].to)
        n++;
    all[n] = *h;
    return n < 60;
}

static const struct {
    const char *kind, *text, *want; /* "LEVEL NAME|…" */
} cases[] = {
    {"ini", "# [no]\n[display]\na = [x]\n\n [printer]\n", "1 display|1 printer"},
    {"toml", "[a.b]\nx = [1]\n[[c]]\n", "1 a.b|1 c"},
    {"unit", "[Unit]\nAfter=x\n[Service]\n", "1 Unit|1 Service"},
    {"markdown", "# Ramp\ntext # no\n## Low tide ##\n#no\n###  At night\n", "1 Ramp|2 Low tide|3 At night"},
    {"shell", "tell() {\n  x\n}\nfunction ramp {\n}\nif true; then\n", "1 tell()|1 ramp"},
    {"python", "import x\nclass Tide:\n    def is_low(self):\n        pass\ndef main():\n    pass\n",
     "1 class Tide|2 is_low|1 main"},
    {"c",
     "#include <a.h>\nint x = 1;\nstatic bool low(int t)\n{\n    return f(t);\n}\nstruct Tide {\n};\nint "
     "g(void);\n",
     "1 low(|1 struct Tide"},
    {"javascript",
     "function a() {\n}\nexport class B {\n  low(t) {\n    if (t) {\n    }\n  }\n}\nconst c = (x) => x\n",
     "1 function a|1 class B|2 low(|1 c"},
    {"go", "package x\nfunc (t *Tide) Low() bool {\n}\ntype Tide struct {\n}\n", "1 Low|1 Tide"},
    {"rust", "pub fn low(t: u8) -> bool {\n}\nimpl Tide {\n    fn x() {}\n}\n",
     "1 fn low|1 impl Tide |2 fn x"},
    {"perl", "package Tide;\nsub low {\n}\n", "1 package Tide|1 sub low"},
    {"sql", "create table berths (\n  id int\n);\nINSERT INTO tides VALUES (1);\n",
     "1 table berths|2 INSERT INTO tides"},
    {"make", "X = 1\nall: a b\n\tcc\n.PHONY: all\nY := 2\n", "1 all|1 .PHONY"},
    {"docker", "FROM harrow:1 AS build\nRUN x\nFROM harrow:2\n", "1 harrow:1 AS build|1 harrow:2"},
    {"ssh", "Host kiosk\n  Port 22\nMatch user mira\n", "1 Host kiosk|1 Match user mira"},
    {"nginx", "http {\n    server {\n        location /tide {\n        }\n    }\n}\n",
     "1 http |2 server |3 location /tide "},
    {"haproxy", "global\n    maxconn 5\nfrontend web\n", "1 global|1 frontend web"},
    {"yaml", "kiosk:\n  image: x\n  ports:\n    - 80\nberths: &b\n", "1 kiosk|2 ports|1 berths"},
    {"json", "{\n  \"berths\": [\n    1\n  ],\n  \"tide\": 4\n}\n", "2 berths"},
    {"patch", "--- a\n+++ b/x.c\n@@ -1 +1 @@ f\n", "1 b/x.c|2 @@ -1 +1 @@ f"},
    {"css", ".berth > a {\n  x: y\n}\n@media print {\n}\n", "1 .berth > a|1 @media print"},
    {"html", "<h1>Ramp</h1>\n<p>\n<h2 id=x> Tide</h2>\n", "1 Ramp|2 Tide"},
    {"logrotate", "weekly\n/var/log/tide.log {\n  daily\n}\n", "1 /var/log/tide.log"},
    {"text", "x\n", NULL},
};

TEST(headings_by_kind)
{
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Heading all[64] = {{0}};
        Bytes found = {0};
        Text t = {0};
        const Outline *o = outline_of(kind_named(cases[i].kind), NULL);
        check_case(cases[i].kind);
        CHECK(text_insert(&t, 0, cases[i].text, strlen(cases[i].text)));
        if (o)
            outlining_each(t, o, 0, text_len(t), add, all);
        for (size_t k = 0; all[k].to; k++) {
            char *name = text_string(t, all[k].from, all[k].to);
            bytes_printf(&found, "%s%d %s", k ? "|" : "", all[k].level, name);
            free(name);
        }
        CHECK_STR(bytes_str(&found), cases[i].want ? cases[i].want : "");
        bytes_free(&found);
        text_drop(&t);
    }
}

TEST(going_between_sections)
{
    static const struct {
        const char *kind, *text, *keys, *says;
        size_t line; /* of the cursor afterwards, from 1 */
    } steps[] = {
        {"ini", "[a]\nx=1\n[b]\ny=1\n", "Esc g d", NULL, 3},
        {"ini", "[a]\nx=1\n[b]\ny=1\n", "Esc g d Esc g d", "There is no section after this", 3},
        {"ini", "[a]\nx=1\n[b]\ny=1\n", "Ctrl+End Esc g h", NULL, 3},
        {"ini", "[a]\nx=1\n[b]\ny=1\n", "Esc g d Esc g h", NULL, 1},
        {"ini", "[a]\nx=1\n[b]\ny=1\n", "Esc g h", "There is no section before this", 1},
        {"ini", "[a]\nx=1\n[b]\ny=1\n", "Down", "in [a]", 2},
        {"c", "int f(void)\n{\n    x;\n}\n\nint y;\n", "Down Down", "in f()", 3},
        {"c", "int f(void)\n{\n    x;\n}\n\nint y;\n", "Ctrl+End Up", NULL, 6},
        {"ini", "[a]\nx=1\n[b]\ny=1\n", "Esc g o b Enter", NULL, 3},
        {"ini", "[a]\nx=1\n[b]\ny=1\n", "Esc g o Down Esc", NULL, 1},
        {"ini", "x=1\n", "Esc g o", "Nothing divides this text", 1},
        {"gettext", "x\n", "Esc g o", "Nothing is known of what divides", 1},
        {"ini", "[a]\nx=1\n\n[b]\n", "Esc m d Ctrl+X", NULL, 1},
        {"python", "def f():\n    x\n\n    y\n\nz\n", "Down Esc m d Ctrl+X", NULL, 1},
    };
    for (size_t i = 0; i < sizeof steps / sizeof *steps; i++) {
        check_case(steps[i].keys);
        Editor *ed = editors_start(steps[i].text, strlen(steps[i].text), 24, 100);
        openfile_set_kind(ed->panes.view->file, kind_named(steps[i].kind));
        editors_press(ed, steps[i].keys);
        CHECK(!steps[i].says || editors_show(ed, steps[i].says));
        CHECK_INT(text_line_of(view_text(ed->panes.view), ed->panes.view->cursor.at) + 1, steps[i].line);
        app_free(ed);
    }
}

/* The lists of headings that are found forward, back and one by one are the same, in texts of random lines.
 */
TEST(headings_from_both_sides)
{
    static const char *const lines[] = {"def f():\n", "    def g(x):\n", "class A:\n", "    x = 1\n",
                                        "\n",         "# def no\n",      "y = 2\n",    "\tdef h():\n"};
    const Outline *o = outline_of(kind_named("python"), NULL);
    for (int round = 0; round < 2000; round++) {
        Text t = {0};
        Heading all[64] = {{0}}, h;
        for (int i = (int)check_random(50); i > 0; i--) {
            const char *l = lines[check_random(8)];
            text_insert(&t, text_len(t), l, strlen(l));
        }
        outlining_each(t, o, 0, text_len(t), add, all);
        size_t n = 0, at = 0;
        while (all[n].to)
            n++;
        size_t k = n && all[0].at == 0 ? 1 : 0;
        for (; k < n; k++) {
            CHECK(outlining_next(t, o, at, (Stop){0}, &h) && h.at == all[k].at && h.level == all[k].level);
            at = h.at;
        }
        CHECK(!outlining_next(t, o, at, (Stop){0}, &h));
        at = text_len(t);
        for (k = n; k > 0; k--) {
            if (all[k - 1].at == at)
                continue;
            CHECK(outlining_before(t, o, at, (Stop){0}, &h) && h.at == all[k - 1].at);
            at = h.at;
        }
        for (k = 0; k < n; k++) {
            size_t from, to;
            outlining_section(t, o, &all[k], (Stop){0}, &from, &to);
            CHECK(from == all[k].at && to > from && to <= text_len(t));
            for (size_t m = k + 1; m < n && all[m].at < to; m++)
                CHECK(all[m].level > all[k].level);
        }
        text_drop(&t);
    }
}

/* What the status line remembers of the section while one types is what looking anew finds. */
TEST(the_section_while_typing)
{
    static const char *const keys[] = {"x",    "Enter", "Backspace",           "Up",     "Down",
                                       "Home", "Tab",   "d e f Space f ( ) :", "Ctrl+Z", "Delete"};
    for (int round = 0; round < 60; round++) {
        static const char text[] = "class A:\n    def f():\n        x\n\ndef g():\n    y\nz\n";
        Editor *ed = editors_start(text, sizeof text - 1, 24, 80);
        openfile_set_kind(ed->panes.view->file, kind_named("python"));
        View *v = ed->panes.view;
        const Outline *o = outline_of(v->file->kind, NULL);
        for (int step = 0; step < 40; step++) {
            Heading a = {0}, b = {0};
            editors_press(ed, keys[check_random(10)]);
            bool x = outlining_of_view(v, o, 400, &a),
                 y = outlining_around(view_text(v), o, v->cursor.at, 400, &b);
            CHECK_INT(x, y);
            CHECK(!x || a.at == b.at);
        }
        app_free(ed);
    }
}
