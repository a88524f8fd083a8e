/* Themes: the form of their data files, and whether one can read what they paint. */
#include "check.h"
#include "base/bytes.h"
#include "base/data.h"
#include "frame/theme.h"

#include <math.h>
#include <stdio.h>
#include <stdlib.h>
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

/* Red, green or blue of a colour as xterm has it, as light (sRGB, linear). */
static double channel(int colour, int i)
{
    static const unsigned base[16] = {0x000000, 0xcd0000, 0x00cd00, 0xcdcd00, 0x0000ee, 0xcd00cd,
                                      0x00cdcd, 0xe5e5e5, 0x7f7f7f, 0xff0000, 0x00ff00, 0xffff00,
                                      0x5c5cff, 0xff00ff, 0x00ffff, 0xffffff};
    static const unsigned steps[6] = {0, 95, 135, 175, 215, 255};
    int n = colour - 16;
    unsigned part = colour < 16     ? base[colour] >> (16 - 8 * i) & 0xff
                    : colour >= 232 ? (unsigned)(8 + 10 * (colour - 232))
                                    : steps[(i == 0   ? n / 36
                                             : i == 1 ? n / 6
                                                      : n) %
                                            6];
    double c = part / 255.0;
    return c <= 0.04045 ? c / 12.92 : pow((c + 0.055) / 1.055, 2.4);
}

/* Relative luminance (WCAG 2.1). */
static double luminance(int colour)
{
    return 0.2126 * channel(colour, 0) + 0.7152 * channel(colour, 1) + 0.0722 * channel(colour, 2);
}

static double contrast_of(const Look *l, int own_fg, int own_bg)
{
    int fg = l->fg == COLOUR_NONE ? own_fg : l->fg, bg = l->bg == COLOUR_NONE ? own_bg : l->bg;
    double a = luminance(fg) + 0.05, b = luminance(bg) + 0.05;
    return a > b ? a / b : b / a;
}

static void check_looks(const char *theme, const Look *looks, int own_fg, int own_bg, double least)
{
    for (int i = 0; i < ST_COUNT; i++) {
        double ratio = contrast_of(&looks[i], own_fg, own_bg);
        /* In the terminal's own colours line numbers may be faint: they are not what one reads. */
        bool read = least >= 4.5 || (i != ST_GUTTER && i != ST_BOX_DIM);
        check_result(!read || ratio >= least, __FILE__, __LINE__, "%s, look %d: %d on %d has %.1f", theme, i,
                     looks[i].fg, looks[i].bg, ratio);
    }
}

/* Every look stands at 4.5 to 1 or more on its ground (WCAG 2, level AA), in the theme for contrast at 7 to 1
 * (AAA). What leaves the ground to the terminal is judged by xterm's colours. */
TEST(what_is_painted_can_be_read)
{
    const Theme *t;
    for (size_t i = 0; (t = theme_number(i)) != NULL; i++) {
        bool own = t->looks[ST_TEXT].bg != COLOUR_NONE;
        bool strong = strcmp(t->name, "contrast") == 0;
        check_case(t->name);
        check_looks(t->name, t->looks, 7, 0, own ? strong ? 7 : 4.5 : 3);
        check_looks(t->name, t->on_white, 0, 15, own ? 4.5 : 4);
    }
    CHECK(theme_named("contrast") && theme_named("distinct"));
    themes_end();
}

/* ---- the same for eyes that see fewer colours ---- */

/* As somebody sees it who lacks one sort of cones (Machado, Oliveira and Fernandes 2009), in Oklab (Ottosson
 * 2020). */
static void seen(int colour, const double by[3][3], double lab[3])
{
    double linear[3], lms[3];
    for (int i = 0; i < 3; i++)
        linear[i] = channel(colour, i);
    double r[3];
    for (int i = 0; i < 3; i++) {
        r[i] = by[i][0] * linear[0] + by[i][1] * linear[1] + by[i][2] * linear[2];
        r[i] = r[i] < 0 ? 0 : r[i] > 1 ? 1 : r[i];
    }
    lms[0] = cbrt(0.4122214708 * r[0] + 0.5363325363 * r[1] + 0.0514459929 * r[2]);
    lms[1] = cbrt(0.2119034982 * r[0] + 0.6806995451 * r[1] + 0.1073969566 * r[2]);
    lms[2] = cbrt(0.0883024619 * r[0] + 0.2817188376 * r[1] + 0.6299787005 * r[2]);
    lab[0] = 0.2104542553 * lms[0] + 0.7936177850 * lms[1] - 0.0040720468 * lms[2];
    lab[1] = 1.9779984951 * lms[0] - 2.4285922050 * lms[1] + 0.4505937099 * lms[2];
    lab[2] = 0.0259040371 * lms[0] + 0.7827717662 * lms[1] - 0.8086757660 * lms[2];
}

static const double eyes[4][3][3] = {
    {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}},
    {{0.152286, 1.052583, -0.204868}, {0.114503, 0.786281, 0.099216}, {-0.003882, -0.048116, 1.051998}},
    {{0.367322, 0.860646, -0.227968}, {0.280085, 0.672501, 0.047413}, {-0.011820, 0.042940, 0.968881}},
    {{1.255528, -0.076749, -0.178779}, {-0.078411, 0.930809, 0.147602}, {0.004733, 0.691367, 0.303900}}};

/* How far two colours are apart for the eyes that see them most alike. */
static double least_apart(int a, int b)
{
    double least = 1;
    for (int e = 0; e < 4; e++) {
        double x[3], y[3], sum = 0;
        seen(a, eyes[e], x);
        seen(b, eyes[e], y);
        for (int i = 0; i < 3; i++)
            sum += (x[i] - y[i]) * (x[i] - y[i]);
        least = sqrt(sum) < least ? sqrt(sum) : least;
    }
    return least;
}

/* Pieces of a text that stand beside each other: in the themes with colours of their own any two are told
 * apart by everybody. */
TEST(pieces_are_told_apart_by_all_eyes)
{
    static const Style pieces[] = {ST_TEXT, ST_COMMENT, ST_QUOTED, ST_NUMBER, ST_NAME};
    static const char *const own[] = {"dark", "light", "contrast", "distinct"};
    for (size_t t = 0; t < 4; t++) {
        const Look *looks = theme_named(own[t])->looks;
        check_case(own[t]);
        for (size_t i = 0; i < 5; i++)
            for (size_t k = i + 1; k < 5; k++)
                CHECK(least_apart(looks[pieces[i]].fg, looks[pieces[k]].fg) >= 0.07);
        CHECK(looks[ST_KEYWORD].attrs != looks[ST_TEXT].attrs &&
              looks[ST_SECTION].attrs != looks[ST_NAME].attrs);
    }
    themes_end();
}

/* The table of docs/themes.md, on the standard output: what there is on which ground, with its contrast. */
static void print_table(const char *theme, const Look *looks)
{
    static const struct {
        Style style;
        const char *of;
    } shown[] = {
        {ST_TEXT, "text"},      {ST_GUTTER, "line numbers"}, {ST_COMMENT, "comment"}, {ST_QUOTED, "quoted"},
        {ST_NUMBER, "number"},  {ST_NAME, "name"},           {ST_MARK, "mark"},       {ST_MATCH, "match"},
        {ST_HINT_KEY, "key"},   {ST_HINT, "hint"},           {ST_STATUS, "status"},   {ST_BOX, "list"},
        {ST_BOX_NOW, "chosen"}, {ST_BOX_DIM, "faint there"}, {ST_WARNING, "warning"}, {ST_OLD, "removed"},
        {ST_NEW, "added"}};
    double least = 99;
    printf("| %s |", theme);
    for (size_t i = 0; i < sizeof shown / sizeof *shown; i++)
        printf(" %s %.1f%s", shown[i].of, contrast_of(&looks[shown[i].style], 7, 0),
               i + 1 < sizeof shown / sizeof *shown ? "," : " |");
    for (int i = 0; i < ST_COUNT; i++)
        least = contrast_of(&looks[i], 7, 0) < least ? contrast_of(&looks[i], 7, 0) : least;
    printf(" %.1f |\n", least);
}

TEST(table_of_contrasts)
{
    static const char *const own[] = {"dark", "light", "contrast", "distinct"};
    for (size_t t = 0; t < 4; t++) {
        const Theme *theme = theme_named(own[t]);
        CHECK(theme != NULL);
        if (getenv("TABLE"))
            print_table(theme->name, theme->looks);
    }
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
