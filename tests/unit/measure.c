/* Distances along very long lines are those that counting letter by letter gives. */
#include "check.h"
#include "edit/cells.h"
#include "edit/glyph_reader.h"
#include "edit/move.h"
#include "text/text_line.h"

#include <stdlib.h>
#include <string.h>

enum { LENGTH = 130 * 1024 };

static Text long_line(unsigned style)
{
    static const char *const bits[] = {"berth ",
                                       "harbour",
                                       "\t",
                                       "\xe6\xbc\xa2\xe5\xad\x97",
                                       "e\xcc\x81",
                                       "\xff",
                                       "\xc3\xa4",
                                       "\xf0\x9f\x91\xa8\xe2\x80\x8d\xf0\x9f\x91\xa9",
                                       "\xf0\x9f\x87\xa9\xf0\x9f\x87\xaa",
                                       "\xcc\x81\xcc\x81\xcc\x81",
                                       "\x01",
                                       "\r",
                                       "\xe1\x84\x80", /* letters that join without end */
                                       "\xcc\x81",     /* one letter with marks without end */
                                       "\xfe"};
    static const unsigned least[] = {0, 3, 9}, many[] = {2, 3, 1}; /* plain; wide; clusters without end */
    Text t = {0};
    char *bytes = malloc(LENGTH + 64);
    size_t n = 0;
    while (n < LENGTH) {
        const char *bit = style > 3    ? bits[8 + style]
                          : style == 3 ? bits[check_random(15)]
                                       : bits[least[style] + check_random(many[style])];
        memcpy(bytes + n, bit, strlen(bit));
        n += strlen(bit);
    }
    CHECK(text_insert(&t, 0, "short\n", 6));
    for (size_t done = 0; done < n;) { /* in blocks of their own, cut anywhere */
        size_t part = 30000 + check_random(60000);
        part = part < n - done ? part : n - done;
        CHECK(text_insert(&t, 6 + done, bytes + done, part));
        done += part;
    }
    CHECK(text_insert(&t, 6 + n, "\nlast", 5));
    free(bytes);
    return t;
}

static size_t count(Text t, size_t at, size_t tab, size_t *chars)
{
    size_t cells = 0, p = move_line_start(t, at);
    *chars = 0;
    while (p < at) {
        size_t next = move_right(t, p);
        Glyph g;
        for (size_t q = p; q < next && q < at; q += g.bytes) {
            glyph_reader_at(t, q, &g);
            cells += glyph_cells(&g, cells, tab);
        }
        p = next;
        ++*chars;
    }
    return cells;
}

static size_t some_place(Text t, bool joined)
{
    size_t at = 6 + check_random(LENGTH + 20), start = at > 300 && !joined ? at - 300 : 0;
    size_t p = move_line_start(t, at) > start ? move_line_start(t, at) : start;
    while (p < at && !joined && ((unsigned char)text_byte(t, p) & 0x80)) /* where a character surely begins */
        p++;
    while (p < at)
        p = move_right(t, p);
    return p;
}

TEST(long_lines_are_measured_right)
{
    for (unsigned round = 0; round < 14; round++) {
        Text t = long_line(round % 7);
        for (int edit = 0; edit < 8; edit++) {
            size_t tab = check_random(3) ? 8 : 3, chars, at = some_place(t, round % 7 > 3);
            /* the reference counts from the line's start, so it decides what begins a character */
            size_t cells = count(t, at, tab, &chars);
            size_t whole = cells_place_of_char(t, text_line_of(t, at), chars);
            CHECK_INT(cells_chars_before(t, at), chars);
            CHECK_INT(cells_before(t, at, tab), cells);
            CHECK(whole >= at);
            CHECK_INT(cells_place(t, text_line_of(t, whole), cells_before(t, whole, tab), tab), whole);
            /* at once again, from what was kept, and after changes */
            CHECK_INT(cells_before(t, at, tab), cells);
            CHECK_INT(cells_chars_between(t, 6, 6 + LENGTH / 2, 20), 20);
            if (edit % 2)
                continue;
            CHECK(text_insert(&t, 6 + check_random(LENGTH), "quay\t\xe6\xbc\xa2", 8));
            CHECK(text_delete(&t, 6 + check_random(LENGTH - 100), check_random(60)));
        }
        text_drop(&t);
    }
}
