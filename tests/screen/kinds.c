/* Kinds of file as a person meets them: colours, comments, words, kinds and themes of one's own. */
#include "check.h"
#include "drive.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>

static Pty *start(const char *file)
{
    const char *args[] = {file, NULL};
    pty_theme("terminal");
    return pty_start(SQUILL, 24, 80, args);
}

TEST(texts_have_colours)
{
    check_put("kiosk.ini", "# tide\n[display]\nlow = \"80\n");
    Pty *p = start("kiosk.ini");
    SHOWS(p, "ini");
    CHECK_STR(pty_look(p, 1, 5), "f");  /* a comment */
    CHECK_STR(pty_look(p, 2, 5), "bf"); /* a section */
    CHECK_STR(pty_look(p, 3, 5), "b");  /* a name */
    pty_do(p, "<Ctrl+P>theme mono<Enter><wait><wait><wait><wait><wait><wait><Right>");
    CHECK_STR(pty_look(p, 2, 5), "bu");
    LEAVE(p);
    check_put("tide.py", "x = \"low\ny = '''\nlow\n'''\n");
    p = start("tide.py");
    CHECK_STR(pty_look(p, 1, 9), "uf"); /* its end is missing */
    CHECK_STR(pty_look(p, 3, 5), "f");
    pty_do(p, "<Down><Delete><wait>");
    CHECK_STR(pty_look(p, 3, 5), "f"); /* still in quotes */
    pty_do(p, "<End><Backspace><Backspace><Backspace><wait>");
    CHECK_STR(pty_look(p, 3, 5), ""); /* not any more */
    pty_do(p, "<Esc>fc");
    SHOWS(p, "d Drop");
    pty_do(p, "<wait><wait><wait><wait>d");
    LEAVE(p);
}

TEST(comments_and_words)
{
    check_put("say.sh", "if low; then\n  ring\nfi\n");
    Pty *p = start("say.sh");
    pty_do(p, "<Down><F5>");
    SHOWS(p, "Commented 1 line");
    SHOWS(p, "  # ring");
    pty_do(p, "<F5><wait><wait><wait><wait><wait><wait><wait><wait><End><Enter><wait>r<Ctrl+Space><wait>");
    SHOWS(p, "  3▎   ring");
    SHOWS(p, "Tab Next word");
    pty_do(p, "<Enter><wait><Down><End><Enter><wait>w<Ctrl+Space><wait>");
    SHOWS(p, "while");
    pty_do(p, "<Enter><Ctrl+S>");
    SHOWS(p, "Saved say.sh");
    LEAVE(p);
    check_holds("say.sh", "if low; then\n  ring\n  ring\nfi\nwait\n");
}

/* A person's own are used; what is wrong in one is said, with its line, and spoils nothing. */
TEST(kinds_and_themes_of_ones_own)
{
    static const char *const folders[] = {".config", ".config/steady-quill", ".config/steady-quill/kinds",
                                          ".config/steady-quill/themes"};
    for (size_t i = 0; i < sizeof folders / sizeof *folders; i++)
        CHECK(mkdir(check_path(folders[i]), 0700) == 0);
    check_put(".config/steady-quill/kinds/tide.lua",
              "name = \"tide\"\nendings = { \"tide\" }\ncomment_sign = \";\"\n"
              "parts = { { words = { \"low\" }, as = \"keyword\" } }\n");
    check_put(".config/steady-quill/kinds/wrong.lua", "name = \"wrong\"\n\nparts = { { like = \"(\" } }\n");
    check_put(".config/steady-quill/themes/bay.lua",
              "name = \"bay\"\nlooks = { keyword = { underlined = true } }\n");
    check_put(".config/steady-quill/settings.lua", "theme = \"bay\"\n");
    check_put("a.tide", "low high\n");
    const char *first[] = {"a.tide", NULL};
    Pty *p = pty_start(SQUILL, 24, 80, first);
    SHOWS(p, "kinds/wrong.lua, line 3: like: not a valid expression");
    CHECK_STR(pty_look(p, 1, 5), "u");
    CHECK_STR(pty_look(p, 1, 9), "");
    pty_do(p, "<wait><wait><wait><wait><wait><wait><F5>");
    SHOWS(p, "; low high");
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Saved a.tide");
    LEAVE(p);
    check_put("b.txt", "low\n");
    const char *args[] = {"-k", "tide", "b.txt", NULL};
    p = pty_start(SQUILL, 24, 80, args);
    CHECK_STR(pty_look(p, 1, 5), "u");
    LEAVE(p);
}

/* The theme is as the terminal's ground: by its answer, at once or from the next start on; what nobody asked
 * for, or stands in a paste, is no answer, and nothing of it is typed. */
TEST(the_ground_is_asked_for)
{
    static const char white[] = "\033]11;rgb:c0c0/c0c0/b0b0\033\\", black[] = "\033]11;rgb:0/0/0\007";
    static const char pasted[] = "\033[200~\033]11;rgb:0/0/0\007\033[201~";
    static const char plain[] = "\033]11;rgb:fbfb/fafa/f7f7\033\\";
    enum { DARK = 234, LIGHT = 231 };
    check_put("berths.txt", "berth 3\n");
    Pty *p = pty_edit("berths.txt", NULL);
    SHOWS(p, "berth 3");
    CHECK_INT(pty_ground(p, 5, 20), DARK); /* nothing is known */
    pty_send(p, white, 9);                 /* in two pieces */
    pty_send(p, white + 9, sizeof white - 10);
    pty_do(p, "x");
    SHOWS(p, "xberth 3");
    pty_send(p, black, sizeof black - 1); /* a second one */
    pty_do(p, "y<Ctrl+S>");
    SHOWS(p, "Saved berths.txt");
    LEAVE(p);
    check_holds("berths.txt", "xyberth 3\n");
    p = pty_edit("berths.txt", NULL);
    SHOWS(p, "xyberth 3");
    CHECK_INT(pty_ground(p, 5, 20), LIGHT); /* remembered */
    pty_send(p, pasted, sizeof pasted - 1);
    pty_do(p, "<Ctrl+S>");
    SHOWS(p, "Saved berths.txt");
    LEAVE(p);
    p = pty_edit("berths.txt", NULL);
    SHOWS(p, "berth 3");
    CHECK_INT(pty_ground(p, 5, 20), LIGHT);
    pty_send(p, plain, sizeof plain - 1);
    pty_do(p, "x<Ctrl+Z>");
    LEAVE(p);
    p = pty_edit("berths.txt", NULL);
    SHOWS(p, "berth 3");
    CHECK_INT(pty_ground(p, 5, 20), -1); /* so nearly white that it can stay */
    LEAVE(p);
}

TEST(a_kind_that_was_said_is_remembered)
{
    check_put("notes", "# low\n");
    Pty *p = start("notes");
    pty_do(p, "<Esc>vkmarkdown<Enter>");
    SHOWS(p, "notes is now of the kind markdown");
    LEAVE(p);
    p = start("notes");
    SHOWS(p, "markdown · utf-8");
    LEAVE(p);
}

/* Something is made of it: its signs stand out, nothing beside them is wrong, and it is not checked. */
TEST(templates)
{
    check_put("berths.json.j2", "{\n  \"berth\": {{ berth }},\n  {% if tide %}\n  \"a\": @TIDE@\n}\n");
    Pty *p = pty_edit("berths.json.j2", NULL);
    SHOWS(p, "json");
    SHOWS(p, "{{ berth }}");
    const char *variable = pty_look(p, 2, 16);
    char look[20];
    snprintf(look, sizeof look, "%s", variable);
    CHECK(strchr(look, 'f') != NULL);
    CHECK_STR(pty_look(p, 2, 20), look);
    CHECK_STR(pty_look(p, 3, 8), look);
    CHECK_STR(pty_look(p, 4, 12), look);
    pty_do(p, "<F2>");
    SHOWS(p, "It is a template: what is made of it can be checked, not berths.json.j2 itself");
    LEAVE(p);
    CHECK_INT(check_shell_said(SQUILL " --check berths.json.j2"), 0);
    CHECK(check_said("not checked: it is a template"));
}
