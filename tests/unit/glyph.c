#include "check.h"
#include "base/glyph.h"
#include "edit/cells.h"
#include "edit/glyph_reader.h"
#include "edit/move.h"

#include <stdlib.h>
#include <stdio.h>

#include <string.h>

static const struct {
    const char *name, *bytes;
    size_t cluster; /* bytes of the first cluster */
    int width;
    const char *escape;
} cases[] = {
    {"letter", "ab", 1, 1, ""},
    {"umlaut", "äb", 2, 1, ""},
    {"combining", "e\xcc\x81x", 3, 1, ""},
    {"wide", "漢x", 3, 2, ""},
    {"control", "\x07z", 1, 4, "\\x07"},
    {"escape", "\033[2J", 1, 4, "\\x1b"},
    {"del", "\x7f", 1, 4, "\\x7f"},
    {"no utf-8", "\xff\xfe", 1, 4, "\\xff"},
    {"cut short", "\xe2\x82", 1, 4, "\\xe2"},
    {"surrogate", "\xed\xa0\x80", 1, 4, "\\xed"},
    {"override", "\xe2\x80\xae", 3, 8, "\\u{202e}"},
    {"zero width", "\xe2\x80\x8b", 3, 8, "\\u{200b}"},
    {"c1 control", "\xc2\x9b", 2, 6, "\\u{9b}"},
    {"emoji", "⛴x", 3, 1, ""},
    {"crlf", "\r\nx", 2, 0, ""},
    {"tab", "\tx", 1, 0, ""},
};

TEST(one_character)
{
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Glyph g;
        check_case(cases[i].name);
        CHECK_INT(glyph_length(cases[i].bytes, strlen(cases[i].bytes)), cases[i].cluster);
        glyph_read(cases[i].bytes, strlen(cases[i].bytes), &g);
        CHECK_INT(g.bytes, cases[i].cluster);
        CHECK_INT(g.width, cases[i].width);
        CHECK_STR(g.escape, cases[i].escape);
    }
}

/* Left and right are each other's reverse, at every place of a nasty text. */
TEST(left_undoes_right)
{
    static const char nasty[] =
        "a\xcc\x81"
        "b\r\n\xff\xfe漢字\n👩‍👩‍👧‍👦 🇮🇸🇫🇷\t\xcc\x81x\r\r\n\xe2\x82 end";
    Text t = {0};
    size_t stops[sizeof nasty], n = 0;
    CHECK(text_insert(&t, 0, nasty, sizeof nasty - 1));
    for (size_t at = 0; at < text_len(t); at = move_right(t, at))
        stops[n++] = at;
    size_t at = text_len(t);
    while (n--) {
        at = move_left(t, at);
        CHECK_INT(at, stops[n]);
    }
    text_drop(&t);
}

/* Going left always gets somewhere, whatever the bytes are. */
TEST(left_never_stands_still)
{
    for (int round = 0; round < 300; round++) {
        char bytes[900];
        size_t n = 1 + check_random(sizeof bytes - 1), steps = 0;
        for (size_t i = 0; i < n; i++)
            bytes[i] = check_random(3) == 0 ? (char)(0x80 + check_random(64))
                       : check_random(5)    ? (char)check_random(256)
                                            : '\n';
        if (round % 3 == 0)
            memset(bytes, 0x80 + round % 64, n);
        Text t = {0};
        text_insert(&t, 0, bytes, n);
        for (size_t at = n; at > 0; steps++) {
            size_t before = move_left(t, at);
            CHECK(before < at);
            if (before >= at)
                break;
            at = before;
        }
        CHECK(steps <= n);
        text_drop(&t);
    }
}

TEST(columns_and_words)
{
    Text t = {0};
    const char *s = "a\tb漢c  foo_bar(x)\nsecond";
    CHECK(text_insert(&t, 0, s, strlen(s)));
    CHECK_INT(cells_before(t, 2, 8), 8);
    CHECK_INT(cells_before(t, 6, 8), 11);
    CHECK_INT(cells_place(t, 0, 10, 8), 3); /* within the wide one: before it */
    CHECK_INT(cells_place(t, 0, 500, 8), 19);
    CHECK_INT(cells_chars_before(t, 6), 4);
    CHECK_INT(cells_place_of_char(t, 1, 99), text_len(t));
    CHECK_INT(move_word_right(t, 6), 7);
    CHECK_INT(move_word_right(t, 7), 16);
    CHECK_INT(move_word_left(t, 16), 9);
    CHECK_INT(move_word_left(t, 21), 20);
    text_drop(&t);
}

/* The short cuts agree with the long way, on texts in many small pieces. */
TEST(short_cuts_agree)
{
    static const char *const bits[] = {"a",
                                       " ",
                                       "\t",
                                       "\xc3\xa9",
                                       "e\xcc\x81",
                                       "\xe6\xbc\xa2",
                                       "\xff",
                                       "\r\n",
                                       "\xe2\x80\xae",
                                       "🇮🇸",
                                       "👩‍👧",
                                       "\xe2\x82",
                                       "\xed\x95\x9c",
                                       "\n",
                                       "berth 3",
                                       "\xcc\x81",
                                       "ก็",
                                       "⛴",
                                       "⛴️",
                                       "☎‍☎️",
                                       "❤️‍🔥",
                                       "क्ष",
                                       "\xe2\x80\x8d",
                                       "\xef\xb8\x8f",
                                       "\x07"};
    enum { MOST = 2000 };
    size_t taken = 0;
    for (int round = 0; round < 200; round++) {
        Text t = {0};
        size_t starts[MOST + 1], n = 0, width;
        bool is_start[MOST + 1] = {false};
        while (text_len(t) + 20 < MOST) { /* inserted anywhere: pieces are cut up */
            const char *bit = bits[check_random(sizeof bits / sizeof *bits)];
            size_t at = check_random(3) ? text_len(t) : check_random((unsigned)text_len(t) + 1);
            CHECK(text_insert(&t, at, bit, strlen(bit)));
        }
        for (size_t at = 0; at < text_len(t); at = move_right(t, at)) {
            is_start[at] = true;
            starts[n++] = at;
        }
        GlyphReader r = {.text = t};
        for (int k = 0; k < 400; k++) {
            size_t i = check_random((unsigned)n), at = starts[i];
            Glyph a, b;
            glyph_reader_at(t, at, &a);
            glyph_reader_next(&r, at, &b);
            CHECK(memcmp(&a, &b, sizeof a) == 0);
            size_t next = i + 1 < n ? starts[i + 1] : text_len(t), cells = check_random(20);
            CHECK_INT(glyph_reader_whole(&r, at, cells, 8, &width), next - at);
            size_t sum = 0;
            for (size_t q = at; q < next; q += a.bytes) {
                glyph_reader_at(t, q, &a);
                sum += glyph_cells(&a, cells + sum, 8);
            }
            CHECK_INT(width, sum);
            size_t from = check_random((unsigned)text_len(t)),
                   sure = move_to_sure_start(t, from, text_len(t));
            CHECK(sure >= from && (sure == text_len(t) || is_start[sure]));
        }
        char all[MOST];
        size_t len = text_read(t, 0, all, sizeof all);
        for (size_t i = 0; i < n; i++) { /* from any character to the end of any other */
            GlyphSpan most = {check_random(9) ? len : check_random(30),
                              check_random(4) ? len : check_random(20),
                              check_random(4) ? len : check_random(20)};
            GlyphSpan span = glyph_span(all + starts[i], len - starts[i], most);
            size_t cells = 0, chars = 0, end = starts[i] + span.bytes;
            for (size_t q = starts[i]; q < end; chars++, cells += width)
                q += glyph_reader_whole(&r, q, 0, 8, &width);
            CHECK_INT(span.chars, chars);
            CHECK_INT(span.cells, cells);
            CHECK(end <= len && (end == len || is_start[end]));
            CHECK(span.bytes <= most.bytes && cells <= most.cells && chars <= most.chars);
            taken += span.bytes;
        }
        text_drop(&t);
    }
    CHECK(taken > 100000);
}

/* Unicode's own cases (Debian's package unicode-data), through the movement of the cursor both ways. */
TEST(grapheme_break_test)
{
    FILE *f = fopen("/usr/share/unicode/auxiliary/GraphemeBreakTest.txt", "r");
    char line[1024];
    size_t lines = 0;
    while (f && fgets(line, sizeof line, f)) {
        Text t = {0};
        size_t breaks[64], n = 0, at = 0;
        line[strcspn(line, "#\n")] = 0;
        for (char *word = strtok(line, " \t"); word; word = strtok(NULL, " \t")) {
            char bytes[4];
            if (strcmp(word, "\xc3\xb7") == 0) {
                breaks[n++] = at;
            } else if (strcmp(word, "\xc3\x97") != 0) {
                size_t len = utf8_write((uint32_t)strtoul(word, NULL, 16), bytes);
                CHECK(text_insert(&t, at, bytes, len));
                at += len;
            }
        }
        if (n == 0)
            continue;
        lines++;
        for (size_t i = 0; i + 1 < n; i++) {
            check_result(move_right(t, breaks[i]) == breaks[i + 1], __FILE__, __LINE__, "case %zu, break %zu",
                         lines, i);
            check_result(move_left(t, breaks[i + 1]) == breaks[i], __FILE__, __LINE__,
                         "case %zu, back from %zu", lines, i + 1);
        }
        text_drop(&t);
    }
    if (f)
        fclose(f);
    CHECK(!f || lines > 500);
}
