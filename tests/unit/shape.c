/* Paragraphs, columns, indentation, lines that are alike: by the commands, and the functions on random lines.
 */
#include "check.h"
#include "editors.h"
#include "app/app.h"
#include "edit/reshape.h"
#include "session/session_files.h"
#include "ui/command.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static const struct {
    const char *kind, *keys, *text, *want, *says;
} cases[] = {
    {"text", "Esc 2 0 l w", "The low tide is at five in the morning\n",
     "The low tide is at\nfive in the morning\n", "Wrapped at 20"},
    {"text", "Esc 2 0 l w", "The low\ntide is at five in the morning\n\nx\n",
     "The low tide is at\nfive in the morning\n\nx\n", NULL},
    {"text", "Esc l m", "The low\n  tide is\nat five\n\nnext\none\n",
     "The low tide is at five\n\nnext\none\n", "one line now"},
    {"text", "Esc 2 0 l w", "- the ramp is slippery at low tide\n- x\n",
     "- the ramp is\n  slippery at low\n  tide\n- x\n", NULL},
    {"text", "Esc 2 0 l w", " 12. the ramp is slippery\n     at low tide\n",
     " 12. the ramp is\n     slippery at low\n     tide\n", NULL},
    {"text", "Esc m a Esc 2 0 l w", "one two\nthree\n\n* four\nfive\n", "one two three\n\n* four five\n",
     NULL},
    {"text", "Esc 1 0 l w", "averyveryverylongword x\n", "averyveryverylongword\nx\n", NULL},
    {"text", "Esc 1 0 l w", "Fährschiffe länger\n", "Fährschiffe\nlänger\n", NULL},
    {"text", "Esc 1 2 l w", "a b c d e f g h i\r\nj\r\n", "a b c d e f\r\ng h i j\r\n", NULL},
    {"text", "Esc l w", "\nx\n", "\nx\n", "no paragraph here"},
    {"text", "Esc l w", "short\n", "short\n", "Nothing to change"},
    {"shell", "Esc 2 0 l w", "# Tides are told at each hour\nx=1\n",
     "# Tides are told at\n# each hour\nx=1\n", NULL},
    {"shell", "Esc 2 4 l w", "  ## Tides are told at each hour\n  ## and\n",
     "  ## Tides are told at\n  ## each hour and\n", NULL},
    {"c", "Esc 2 0 l w", "// - the ramp is wet today\n", "// - the ramp is wet\n//   today\n", NULL},
    {"markdown", "Esc m a Esc 1 6 l w",
     "# A heading that is long\nsome words that are many\n```\nleft as it is here\n```\n| a | b | c | d |\n",
     "# A heading that is long\nsome words that\nare many\n```\nleft as it is here\n```\n| a | b | c | d |\n",
     NULL},
    {"git-message", "Esc l w",
     "w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w\n",
     "w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w w\nw w w w\n", "Wrapped at 72"},
    {"text", "Ctrl+P w r a p - p a r a g r a p h Space x Enter", "a\n", "a\n", "A width is a number"},
    /* columns */
    {"conf", "Esc l l", "a 1 x\nlonger 22 yy\n\nz 1\n", "a      1  x\nlonger 22 yy\n\nz 1\n",
     "Aligned the columns"},
    {"conf", "Ctrl+P a l i g n - c o l u m n s Space = Enter", "a=1\nlonger = 2=3\n# x=1\n  b =4\n",
     "a      =1\nlonger = 2=3\n# x=1\n  b    =4\n", "Aligned by “=”"},
    {"yaml", "Ctrl+P a l i g n - c o l u m n s Space : Enter", "a: 1\nlonger: b:c\n",
     "a:      1\nlonger: b:c\n", NULL},
    {"text", "Ctrl+P a l i g n - c o l u m n s Space | Enter", "| a | b |\n| long | c |\n",
     "| a    | b |\n| long | c |\n", NULL},
    {"conf", "Esc l l", "name \"two words\" x\nn \"b\" yy\n", "name \"two words\" x\nn    \"b\"         yy\n",
     NULL},
    {"conf", "Esc l l", "a 1\nb 2\n", "a 1\nb 2\n", "Nothing to change"},
    /* indentation */
    {"c", "Ctrl+P c o n v e r t - i n d e n t a t i o n Space t a b s Enter",
     "{\n    a;\n        b;\n     c;\n}\n", "{\n\ta;\n\t\tb;\n\t c;\n}\n", "Indented by tabs now"},
    {"c", "Ctrl+P c o n v e r t - i n d e n t a t i o n Space s p a c e s Space 2 Enter",
     "{\n    a;\n        b;\n}\n", "{\n  a;\n    b;\n}\n", NULL},
    {"shell", "Ctrl+P c o n v e r t - i n d e n t a t i o n Space t a b s Enter",
     "if x; then\n    a='\n    b'\nfi\n", "if x; then\n\ta='\n    b'\nfi\n", NULL},
    {"c", "Esc l v Ctrl+A s p a c e s Space 3 x Enter", "{\n    a;\n}\n", "{\n    a;\n}\n",
     "is no indentation"},
    /* tables */
    {"csv", "Down Down Right Right Right Esc l h", "day,low,high\n3,04:10,1\n1,\"a,b\",20\n2,x,9\n",
     "day,low,high\n3,04:10,1\n1,\"a,b\",20\n2,x,9\n", "sorted by cell 2 already"},
    {"csv", "Down Esc l h", "day,low\n10,a\n9,b\n,c\n1,\"x\ny\"\n", "day,low\n1,\"x\ny\"\n9,b\n10,a\n,c\n",
     "Sorted by cell 1"},
    {"csv", "Shift+Down Shift+Down Shift+Down Esc l h", "b;1\na;2\nc;0\n", "a;2\nb;1\nc;0\n", NULL},
    {"text", "Esc l h", "a\nb\n", "a\nb\n", "This is no table"},
    {"csv", "Down Right Esc g i Esc g i x", "a,b,c\n1,2,3\n", "a,b,c\n1,2,x3\n", NULL},
    {"csv", "Down Esc g i", "a,b,c\n1,2,3\n", "a,b,c\n1,2,3\n", "b: cell 2 of 3"},
    {"csv", "Down End Esc g u Esc g u x", "a,b,c\n1,22,3\n", "a,b,c\n1,x22,3\n", NULL},
    /* which lines */
    {"text", "Esc l o", "b\na\nb\n\n\na\nc\n", "b\na\n\n\nc\n", "Removed 2 lines"},
    {"text", "Esc l o", "b\na\nb", "b\na", "Removed 1 line"},
    {"text", "Shift+Down Shift+Down Esc l o", "b\nb\nb\n", "b\nb\n", NULL},
    {"text", "Esc l o", "a\nb\n", "a\nb\n", "No line stands there twice"},
    {"text", "Esc l r", "a\nb\nc\n\nd\n", "c\nb\na\n\nd\n", "Reversed the order of 3 lines"},
    {"text", "Esc m a Esc l r", "a\r\nb\r\nc", "c\r\nb\r\na", NULL},
    {"text", "Esc l f t i d e Enter", "Tide 1\nx\nlow tide\n", "Tide 1\nlow tide\n", "Removed 1 line"},
    {"text", "Esc l g t i d e Enter", "Tide 1\nx\nlow tide\n", "x\n", "Removed 2 lines"},
    {"text", "Esc l g q Enter", "a\n", "a\n", "None of the lines has it"},
    {"text", "Esc l o Ctrl+Z", "b\nb\n", "b\nb\n", NULL},
};

TEST(commands_of_shape)
{
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char name[160];
        snprintf(name, sizeof name, "%s, %s: %.80s", cases[i].kind, cases[i].keys, cases[i].text);
        check_case(name);
        Editor *ed = editors_start(cases[i].text, strlen(cases[i].text), 24, 80);
        openfile_set_kind(ed->panes.view->file, kind_named(cases[i].kind));
        editors_press(ed, cases[i].keys);
        Text t = view_text(ed->panes.view);
        char *is = text_string(t, 0, text_len(t));
        CHECK_STR(is, cases[i].want);
        CHECK(!cases[i].says || editors_show(ed, cases[i].says));
        free(is);
        app_free(ed);
    }
}

static const char *const pieces[] = {"a",    "tide",         " ",    "  ", "\t", "\n", "\n", "\r\n",
                                     "- ",   "# ",           "=",    ":",  "\"", "'",  "|",  "```",
                                     "12. ", "\xe6\xbc\xa2", "\xff", "ä",  ","};

static size_t random_lines(char *out)
{
    size_t n = 0;
    for (int i = (int)check_random(40); i > 0; i--) {
        const char *p = pieces[check_random(sizeof pieces / sizeof *pieces)];
        memcpy(out + n, p, strlen(p));
        n += strlen(p);
    }
    return n;
}

/* What is no blank, without the signs that begin lines of comments. */
static size_t only_words(const char *s, size_t n, char *out)
{
    size_t k = 0;
    for (size_t i = 0; i < n; i++)
        if (!strchr(" \t\r\n#", s[i]) || !s[i])
            out[k++] = s[i];
    return k;
}

static int by_byte(const void *a, const void *b)
{
    return *(const char *)a - *(const char *)b;
}

static bool same_words(const char *a, size_t n, const char *b, size_t m, bool any_order)
{
    char x[2000], y[2000];
    size_t i = only_words(a, n, x), k = only_words(b, m, y);
    if (any_order) {
        qsort(x, i, 1, by_byte);
        qsort(y, k, 1, by_byte);
    }
    return i == k && memcmp(x, y, i) == 0;
}

/* Nothing that is said is lost or changed; done twice, nothing more happens. */
TEST(nothing_is_lost_in_shape)
{
    const CommentSigns signs = {.sign = "#"};
    static const char *const align[] = {NULL, "=", ":", "|", ","};
    for (int round = 0; round < 30000; round++) {
        char in[1000];
        size_t n = random_lines(in);
        unsigned width = (unsigned)check_random(30);
        const char *sign = align[check_random(5)];
        Bytes out[8] = {{0}};
        reshape_wrap(in, n, width, 8, &signs, &out[0]);
        reshape_wrap(bytes_str(&out[0]), out[0].len, width, 8, &signs, &out[1]);
        CHECK(same_words(in, n, bytes_str(&out[0]), out[0].len, false));
        CHECK_BYTES(bytes_str(&out[1]), out[1].len, bytes_str(&out[0]), out[0].len);
        reshape_align(in, n, sign, 8, &signs, &out[2]);
        reshape_align(bytes_str(&out[2]), out[2].len, sign, 8, &signs, &out[3]);
        CHECK(same_words(in, n, bytes_str(&out[2]), out[2].len, false));
        CHECK_BYTES(bytes_str(&out[3]), out[3].len, bytes_str(&out[2]), out[2].len);
        reshape_reverse(in, n, &out[4]);
        CHECK(same_words(in, n, bytes_str(&out[4]), out[4].len, true));
        reshape_without_doubles(in, n, &out[5]);
        CHECK_INT(reshape_without_doubles(bytes_str(&out[5]), out[5].len, &out[6]), 0);
        Indentation to = {1 + (unsigned)check_random(8), check_random(2), 1 + (unsigned)check_random(8), 8,
                          NULL};
        reshape_indentation(in, n, &to, &out[7]);
        CHECK(same_words(in, n, bytes_str(&out[7]), out[7].len, false));
        for (int i = 0; i < 8; i++)
            bytes_free(&out[i]);
    }
}

/* The date in the form that was taken last; a form that makes none is refused. */
TEST(dates)
{
    Editor *ed = editors_start("", 0, 24, 80);
    Text t;
    editors_press(ed, "Esc e m Enter");
    t = view_text(ed->panes.view);
    CHECK_INT(text_len(t), 10); /* 2026-11-30 */
    CHECK_INT(text_byte(t, 4), '-');
    app_free(ed);
    ed = editors_start("", 0, 24, 80);
    editors_press(ed, "Ctrl+P i n s e r t - d a t e Space % Y Enter");
    CHECK_INT(text_len(view_text(ed->panes.view)), 4);
    editors_press(ed, "Ctrl+P i n s e r t - d a t e Space Y Enter");
    CHECK(editors_show(ed, "makes no date"));
    app_free(ed);
}

TEST(the_ruler_stands_at_the_width)
{
    Editor *ed = editors_start("a\n", 2, 24, 80);
    editors_press(ed, "Ctrl+P s e t Space t e x t _ w i d t h Space 2 0 Enter Esc v r");
    CHECK(editors_show(ed, "Ruler: on"));
    int col = ed->panes.view->col + ed->panes.view->gutter + 20;
    for (int row = 1; row < 20; row++)
        CHECK_INT(frame_cell(&ed->frame, row, col)->codes[0], 0x2502);
    editors_press(ed, "End 1 2 3 4 5 6 7 8 9 0 1 2 3 4 5 6 7 8 9 0 1 2");
    CHECK(editors_show(ed, "901"));
    CHECK_INT(frame_cell(&ed->frame, 1, col)->codes[0], '0'); /* never over the text */
    CHECK_INT(frame_cell(&ed->frame, 2, col)->codes[0], 0x2502);
    editors_press(ed, "Esc v r");
    CHECK(editors_show(ed, "Ruler: off"));
    CHECK_INT(frame_cell(&ed->frame, 2, col)->codes[0], ' ');
    app_free(ed);
}
