/* The colours of a text as it is shown: the same as if it were coloured from its beginning. */
#include "check.h"
#include "base/mem.h"
#include "edit/doc.h"
#include "sessions.h"
#include "text/text_line.h"
#include "view/colours.h"
#include "view/showing.h"
#include "session/session_run.h"
#include "session/session_files.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* All of it from the top. */
static uint8_t *coloured(const Kind *k, Text t)
{
    size_t len = text_len(t);
    char *bytes = text_string(t, 0, len);
    uint8_t *roles = mem_get(len + 1);
    ColourState s = COLOUR_START;
    for (size_t at = 0; at < len;) {
        const char *end = memchr(bytes + at, '\n', len - at);
        size_t n = end ? (size_t)(end - bytes) - at : len - at;
        size_t shown = end && n && bytes[at + n - 1] == '\r' ? n - 1 : n;
        colour_line(k, &s, &(ColourLine){bytes + at, shown, 0, shown + 1, true, true}, roles + at);
        at += n + 1;
    }
    free(bytes);
    return roles;
}

/* A screen of lines from `line` on is as it must be. */
static bool screen_is_right(OpenFile *f, size_t line, size_t rows, const uint8_t *want)
{
    Text t = doc_text(f->doc);
    size_t from = text_line_start(t, line), to = text_line_start(t, line + rows);
    uint8_t got[4096];
    if (!colours_begin(f, from, to))
        return false;
    for (size_t i = line; i < line + rows && i <= text_newlines(t); i++) {
        size_t start = text_line_start(t, i), end = text_line_end(t, i), n = end - start;
        n = n < sizeof got ? n : sizeof got;
        colours_state(f, start);
        colours_of(f, start, start, start + n, got);
        if (memcmp(got, want + start, n) != 0)
            return false;
    }
    return true;
}

static const char *const pieces[] = {
    "\"",    "'",      "/*",    "*/",       "//",        "#",        "\n",     "\n",      "\n",    "<<A\n",
    "A\n",   "\nA\n",  "${",    "}",        "{",         "(",        ")",      "$(",      "`",     "\\",
    "'''",   "\"\"\"", "x = 1", "if",       "then",      " ",        "word ",  "```sh\n", "```\n", "- a: |\n",
    "  b\n", "<!--",   "-->",   "<script>", "</script>", "[",        "]",      "$x",      "0x1f",  ";",
    "<",     ">",      "\r\n",  "=",        "%",         "=begin\n", "=end\n", "R\"x(",   ")x\""};

static void edit(OpenFile *f)
{
    Text t = doc_text(f->doc);
    size_t len = text_len(t), at = len ? check_random((unsigned)len + 1) : 0, cursor;
    const char *piece = pieces[check_random(sizeof pieces / sizeof *pieces)];
    size_t removed = check_random(3) ? 0 : check_random(40), n = strlen(piece);
    switch (check_random(12)) {
    case 0:
        doc_undo(f->doc, &cursor);
        return;
    case 1:
        doc_redo(f->doc, &cursor);
        return;
    case 2: /* lines go */
        removed = check_random(400);
        n = 0;
        break;
    default:
        break;
    }
    removed = removed < len - at ? removed : len - at;
    doc_replace(f->doc, at, removed, piece, n, STEP_WHOLE, at);
}

static OpenFile *begin(Panes *p, Session *s, const char *kind, size_t pieces_wanted)
{
    panes_begin(p);
    showing_begin(p, s);
    OpenFile *f = session_add(s, (Text){0});
    showing_show(p, f);
    f->kind = kind_named(kind);
    for (size_t i = 0; i < pieces_wanted; i++) {
        const char *piece = pieces[check_random(sizeof pieces / sizeof *pieces)];
        doc_replace(f->doc, text_len(doc_text(f->doc)), 0, piece, strlen(piece), STEP_TYPE, 0);
    }
    return f;
}

/* After every change, at once; texts small enough that nothing is guessed. */
TEST(colours_follow_every_change)
{
    static const char *const kinds[] = {
        "shell", "python", "c",   "cpp", "javascript", "html", "markdown", "yaml",        "ruby", "perl",
        "lua",   "php",    "xml", "sql", "make",       "ini",  "json",     "git-message", "rust", "css"};
    int rounds = check_rounds(600);
    for (size_t k = 0; k < sizeof kinds / sizeof *kinds; k++) {
        Session *s = sessions_start(NULL);
        Panes p = {0};
        OpenFile *f = begin(&p, s, kinds[k], 3000);
        check_case(kinds[k]);
        for (int i = 0; i < rounds && !check_failed(); i++) {
            for (unsigned n = check_random(3) ? 1 : check_random(80); n > 0;
                 n--) /* more than are remembered, too */
                edit(f);
            Text t = doc_text(f->doc);
            uint8_t *want = coloured(f->kind, t);
            for (int look = 0; look < 3; look++) {
                size_t line = check_random((unsigned)text_newlines(t) + 1);
                CHECK(screen_is_right(f, line, 24, want));
            }
            free(want);
        }
        panes_free(&p);
        session_free(s);
    }
}

/* What is guessed after a jump comes right, and stays so. */
TEST(guesses_come_right)
{
    static const char *const kinds[] = {"c", "shell", "markdown", "html"};
    for (size_t k = 0; k < sizeof kinds / sizeof *kinds; k++) {
        Session *s = sessions_start(NULL);
        Panes p = {0};
        OpenFile *f = begin(&p, s, kinds[k], 60000);
        check_case(kinds[k]);
        for (int i = 0; i < 20 && !check_failed(); i++) {
            edit(f);
            Text t = doc_text(f->doc);
            size_t line = check_random((unsigned)text_newlines(t) + 1), steps = 0;
            uint8_t *want = coloured(f->kind, t);
            colours_begin(f, text_line_start(t, line), text_line_start(t, line + 24));
            while (colours_step(f, text_line_start(t, line + 24)) && steps < 10000)
                steps++;
            CHECK(steps < 10000);
            CHECK(screen_is_right(f, line, 24, want));
            free(want);
        }
        panes_free(&p);
        session_free(s);
    }
}

/* Long lines are coloured by pieces. */
TEST(long_lines_are_coloured_in_pieces)
{
    Session *s = sessions_start(NULL);
    Panes p = {0};
    OpenFile *f = begin(&p, s, "json", 0);
    Bytes line = {0};
    for (int i = 0; i < 40000; i++)
        bytes_printf(&line, "{\"pier\": %d, \"at\": \"tide \\\"%d\\\"\"}, ", i, i);
    doc_replace(f->doc, 0, 0, line.at, line.len, STEP_WHOLE, 0);
    uint8_t *want = coloured(f->kind, doc_text(f->doc)), got[200];
    static const size_t steps[] = {0, 100, 5000, 70000, 200000, 900000, 500000};
    for (size_t i = 0; i < sizeof steps / sizeof *steps; i++) {
        size_t at = steps[i];
        CHECK(colours_begin(f, 0, line.len));
        colours_of(f, 0, at, at + sizeof got, got); /* a guess, if it is far */
        int n = 0;
        while (colours_step(f, at + sizeof got) && n < 10000)
            n++;
        CHECK(colours_begin(f, 0, line.len));
        colours_of(f, 0, at, at + sizeof got, got);
        CHECK(n < 10000 && memcmp(got, want + at, sizeof got) == 0);
    }
    free(want);
    bytes_free(&line);
    panes_free(&p);
    session_free(s);
}

/* Any place of texts whose lines are long, and of many parts, can be shown; looking elsewhere first makes no
 * difference. (Many checkpoints are made on the way, so that what holds them moves.) */
TEST(any_place_of_long_lines_is_shown)
{
    static const char *const cases[][2] = {
        {"sql", "INSERT INTO berths VALUES (1, 'pier ''2''', \"x\"), ('tide', 3); "},
        {"markdown", "a `berth` *b* [pier 4](x) ![y `z` 5 "},
        {"perl", "$x{'1'} = q{berth 2} . \"$y[3]\" . "},
        {"json", "{\"berth\": [1, \"2\", {\"a\": 3}]}, "},
    };
    for (size_t k = 0; k < sizeof cases / sizeof *cases; k++) {
        Session *s = sessions_start(NULL);
        Panes p = {0};
        OpenFile *f = begin(&p, s, cases[k][0], 0);
        Bytes all = {0};
        check_case(cases[k][0]);
        while (all.len < 2000000) {
            for (size_t n = all.len + 2000 + check_random(12000); all.len < n;)
                bytes_add_str(&all, check_random(9) ? cases[k][1] : "x");
            bytes_add_str(&all, "\n");
        }
        doc_replace(f->doc, 0, 0, all.at, all.len, STEP_WHOLE, 0);
        uint8_t roles[100];
        for (int i = 0; i < 400; i++) { /* screens of lines that are cut at the side: PageDown, and jumps */
            enum { ROWS = 26 };
            Text t = doc_text(f->doc);
            size_t len = text_len(t), lines = text_newlines(t);
            size_t first = i < 150 ? (size_t)i * ROWS % lines : check_random((unsigned)lines);
            size_t last = first + ROWS < lines ? first + ROWS : lines;
            bool right = colours_begin(f, text_line_start(t, first), text_line_start(t, last));
            for (size_t line = first; line < last; line++) {
                size_t at = text_line_start(t, line), to = at + sizeof roles < len ? at + sizeof roles : len;
                memset(roles, 0xff, sizeof roles);
                colours_of(f, at, at, to, roles);
                for (size_t b = at; b < to; b++)
                    right = right && roles[b - at] < ROLE_COUNT;
            }
            CHECK(right);
            const char *piece = pieces[check_random(sizeof pieces / sizeof *pieces)];
            if (i > 200 && i % 7 == 0)
                doc_replace(f->doc, check_random((unsigned)len), 0, piece, strlen(piece), STEP_WHOLE, 0);
        }
        bytes_free(&all);
        panes_free(&p);
        session_free(s);
    }
    check_case(NULL);
}
