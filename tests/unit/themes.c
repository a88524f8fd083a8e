/* Themes: the form of their data files, and whether one can read what they paint. */
#include "check.h"
#include "base/bytes.h"
#include "base/data.h"
#include "frame/theme.h"

#include <math.h>
#include <stdio.h>
#include <string.h>

static void note(void *ctx, unsigned line, const char *words)
{
    bytes_printf(ctx, "%u: %s\n", line, words);
}

TEST(wrong_themes_are_reported)
{
    static const struct {
        const char *in, *want;
        bool usable;
    } cases[] = {
        {"name = 'bay' looks = {}", "", true},
        {"name = 'bay'", "1: looks = { … } is expected\n", true},
        {"looks = {}", "1: a line such as name = \"harbour\" is expected\n", false},
        {"name = 'a|b' looks = {}", "1: name: one word is expected\n", false},
        {"name = 'bay'\nfont = 'big'\nlooks = {}",
         "2: “font” means nothing in a theme: name, about, like, looks or on_white is expected\n", true},
        {"name = 'bay'\nlike = 'fog'\nlooks = {}", "2: like: there is no theme “fog” before this one\n",
         true},
        {"name = 'bay' looks = {\nsea = {} }", "2: there is no look of the name “sea”\n", true},
        {"name = 'bay' looks = {\ntext = 3 }",
         "2: text: a look such as { colour = \"red\", bold = true } is expected\n", true},
        {"name = 'bay' looks = {\ntext = { colour = 'pink' } }",
         "2: colour: a number from 0 to 255, none, or black, red, green, yellow, blue, magenta, cyan, white, "
         "each also "
         "bright, is expected\n",
         true},
        {"name = 'bay' looks = {\ntext = { italic = true } }",
         "2: “italic” means nothing in a look: colour, ground, bold, underlined, reversed or dim is "
         "expected\n",
         true},
        {"name = 'bay' looks = { text = {\nbold = 1 } }", "2: bold: true or false is expected\n", true},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Bytes got = {0};
        check_case(cases[i].in);
        CHECK(theme_add(cases[i].in, strlen(cases[i].in), note, &got) == cases[i].usable);
        CHECK_STR(bytes_str(&got), cases[i].want);
        bytes_free(&got);
    }
    themes_end();
    for (size_t i = 0; i < data_file_count; i++) {
        Bytes got = {0};
        if (strncmp(data_files[i].path, "themes/", 7) == 0) {
            check_case(data_files[i].path);
            CHECK(theme_add(data_files[i].bytes, data_files[i].len, note, &got));
            CHECK_STR(bytes_str(&got), "");
        }
        bytes_free(&got);
    }
    themes_end();
}

/* Relative luminance (WCAG 2.1) of a colour as xterm has it. */
static double luminance(int colour)
{
    static const unsigned base[16] = {0x000000, 0xcd0000, 0x00cd00, 0xcdcd00, 0x0000ee, 0xcd00cd,
                                      0x00cdcd, 0xe5e5e5, 0x7f7f7f, 0xff0000, 0x00ff00, 0xffff00,
                                      0x5c5cff, 0xff00ff, 0x00ffff, 0xffffff};
    static const unsigned steps[6] = {0, 95, 135, 175, 215, 255};
    static const double parts[3] = {0.2126, 0.7152, 0.0722};
    unsigned rgb[3];
    double sum = 0;
    for (int i = 0; i < 3; i++) {
        int n = colour - 16;
        rgb[i] = colour < 16     ? base[colour] >> (16 - 8 * i) & 0xff
                 : colour >= 232 ? (unsigned)(8 + 10 * (colour - 232))
                                 : steps[(i == 0   ? n / 36
                                          : i == 1 ? n / 6
                                                   : n) %
                                         6];
        double c = rgb[i] / 255.0;
        sum += parts[i] * (c <= 0.04045 ? c / 12.92 : pow((c + 0.055) / 1.055, 2.4));
    }
    return sum;
}

static void check_looks(const char *theme, const Look *looks, int own_fg, int own_bg, double least)
{
    for (int i = 0; i < ST_COUNT; i++) {
        const Look *l = &looks[i];
        int fg = l->fg == COLOUR_NONE ? own_fg : l->fg, bg = l->bg == COLOUR_NONE ? own_bg : l->bg;
        double a = luminance(fg) + 0.05, b = luminance(bg) + 0.05, ratio = a > b ? a / b : b / a;
        /* Line numbers may be faint: they are not what one reads. */
        bool read = i != ST_GUTTER && i != ST_BOX_DIM;
        check_result(!read || ratio >= least, __FILE__, __LINE__, "%s, look %d: %d on %d has %.1f", theme, i,
                     fg, bg, ratio);
    }
}

TEST(what_is_painted_can_be_read)
{
    const Theme *t;
    for (size_t i = 0; (t = theme_number(i)) != NULL; i++) {
        bool own = t->looks[ST_TEXT].bg != COLOUR_NONE;
        bool strong = strcmp(t->name, "contrast") == 0;
        check_case(t->name);
        check_looks(t->name, t->looks, 7, 0, own ? strong ? 7 : 4 : 3);
        if (!own)
            check_looks(t->name, t->on_white, 0, 15, 4);
    }
    CHECK(theme_named("contrast") && theme_named("distinct"));
    themes_end();
}

/* Colour is never the only sign that something is wrong. */
TEST(what_is_wrong_has_more_than_a_colour)
{
    const Theme *t;
    for (size_t i = 0; (t = theme_number(i)) != NULL; i++)
        CHECK(t->looks[ST_WRONG].attrs & ATTR_UNDERLINE && t->on_white[ST_WRONG].attrs & ATTR_UNDERLINE);
    themes_end();
}
