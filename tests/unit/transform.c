#include "check.h"
#include "edit/transform.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef void (*Lines)(const char *in, size_t n, Bytes *out);

static void sort_plain(const char *in, size_t n, Bytes *out)
{
    transform_sort(in, n, false, (Stop){0}, out);
}

static void sort_numbers(const char *in, size_t n, Bytes *out)
{
    transform_sort(in, n, true, (Stop){0}, out);
}

static void indent(const char *in, size_t n, Bytes *out)
{
    transform_indent(in, n, "  ", out);
}

static void unindent(const char *in, size_t n, Bytes *out)
{
    transform_unindent(in, n, 4, out);
}

static void end_sign(const char *in, size_t n, Bytes *out)
{
    transform_end_sign(in, n, ';', out);
}

static void upper(const char *in, size_t n, Bytes *out)
{
    transform_case(in, n, true, out);
}

static void lower(const char *in, size_t n, Bytes *out)
{
    transform_case(in, n, false, out);
}

static const struct {
    const char *name;
    Lines fn;
    const char *in, *out;
} cases[] = {
    {"sort", sort_plain, "b\na\nc\n", "a\nb\nc\n"},
    {"sort, open end", sort_plain, "b\na", "a\nb"},
    {"sort crlf", sort_plain, "b\r\na\r\n", "a\r\nb\r\n"},
    {"sort is stable", sort_plain, "x\nx\na\n", "a\nx\nx\n"},
    {"sort bytes", sort_plain, "berth10\nberth9\n", "berth10\nberth9\n"},
    {"sort numbers", sort_numbers, "berth10\nberth9\nberth09\n", "berth9\nberth09\nberth10\n"},
    {"sort addresses", sort_numbers, "10.20.3.17\n10.20.3.2\n", "10.20.3.2\n10.20.3.17\n"},
    {"trim", transform_trim, "a \t\n\t\nb", "a\n\nb"},
    {"trim crlf", transform_trim, "a  \r\n", "a\r\n"},
    {"indent", indent, "a\n\nb\n", "  a\n\n  b\n"},
    {"unindent", unindent, "      a\n\tb\n  \tc\n d\n", "  a\nb\nc\nd\n"},
    {"join", transform_join, "a  \n  b\n\nc\n", "a b c\n"},
    {"join open end", transform_join, "a\nb", "a b"},
    {"join crlf", transform_join, "a\r\nb\r\n", "a b\r\n"},
    {"end sign on", end_sign, "a\nb;\n\n", "a;\nb;\n\n"},
    {"end sign off", end_sign, "a;\nb;\n", "a\nb\n"},
    {"upper", upper, "kai \xc3\xa4\xc3\x9f \xff", "KAI \xc3\x84SS \xff"},
    {"lower", lower, "KAI \xc3\x84 \xce\xa3", "kai \xc3\xa4 \xcf\x83"},
};

TEST(lines)
{
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Bytes out = {0};
        check_case(cases[i].name);
        cases[i].fn(cases[i].in, strlen(cases[i].in), &out);
        CHECK_BYTES(bytes_str(&out), out.len, cases[i].out, strlen(cases[i].out));
        bytes_free(&out);
    }
}

static void put(const char *line, size_t from, size_t to, const Bytes *by, Bytes *out)
{
    bytes_add(out, line, from);
    bytes_add(out, bytes_str(by), by->len);
    bytes_add_str(out, line + to);
}

TEST(numbers)
{
    static const struct {
        const char *line;
        size_t at;
        long long by;
        const char *want; /* NULL: no number, or it would be below 0 */
    } numbers[] = {
        {"x = 9", 0, 1, "x = 10"},
        {"x = 9", 5, 1, "x = 10"},
        {"x = 10", 5, -1, "x = 9"},
        {"007", 0, 1, "008"},
        {"099", 0, 1, "100"},
        {"x=-1", 0, 1, "x=0"},
        {"x=0", 2, -1, "x=-1"},
        {"a-1", 0, 1, "a-2"},
        {"0x0f", 0, 1, "0x10"},
        {"0xFF", 2, 1, "0x100"},
        {"10.20.3.254", 10, 5, "10.20.3.255"},
        {"10.20.3.17", 4, 1, "10.21.3.17"},
        {"10.0.0.0", 9, -1, "10.0.0.0"},
        {"v 1 2 3", 4, 10, "v 1 12 3"},
        {"none", 0, 1, NULL},
        {"1 x", 2, 1, NULL},
        {"berth3", 2, 1, "berth4"},
        {"03:59", 0, 1, "04:59"},
        {"9223372036854775807", 0, 1, "9223372036854775808"},
        {"99999999999999999999", 0, 1, "100000000000000000000"},
        {"-99999999999999999999", 3, 1, "-99999999999999999998"},
        {"100000000000000000000", 3, -1, "99999999999999999999"},
        {"000000000000000000000000", 0, 12, "000000000000000000000012"},
        {"0xffffffffffffffff", 4, 1, "0x10000000000000000"},
        {"0x10000000000000000", 4, -1, "0x0ffffffffffffffff"},
        {"0xABCDEF0123456789ABCDEF", 4, 0x11, "0xABCDEF0123456789ABCE00"},
        {"0x00", 0, -1, NULL},
        {"5", 0, -12, "-7"},
        {"-5", 0, 12, "7"},
        {"-3", 0, 3, "0"},
    };
    for (size_t i = 0; i < sizeof numbers / sizeof *numbers; i++) {
        size_t from, to;
        Bytes by = {0}, out = {0};
        const char *line = numbers[i].line;
        check_case(line);
        bool found = transform_number(line, strlen(line), numbers[i].at, numbers[i].by, &from, &to, &by) ==
                     NUMBER_ADDED;
        CHECK(found == (numbers[i].want != NULL));
        if (found && numbers[i].want) {
            put(line, from, to, &by, &out);
            CHECK_STR(bytes_str(&out), numbers[i].want);
        }
        bytes_free(&by);
        bytes_free(&out);
    }
}

/* As the processor does it, where it can. */
TEST(numbers_are_added_to)
{
    for (int round = 0; round < 20000; round++) {
        char line[40], want[40];
        long long n = (long long)(((unsigned long long)check_random(1u << 31) << 31 |
                                   check_random(1u << 31)) >>
                                  check_random(61)),
                  by = (long long)((unsigned long long)check_random(1u << 31) << 20 >> check_random(50));
        n = check_random(2) ? n : -n;
        by = check_random(2) ? by : -by;
        size_t from, to;
        Bytes got = {0}, all = {0};
        snprintf(line, sizeof line, "%lld", n);
        snprintf(want, sizeof want, "%lld", n + by);
        CHECK(transform_number(line, strlen(line), 0, by, &from, &to, &got) == NUMBER_ADDED);
        put(line, from, to, &got, &all);
        CHECK_STR(all.at, want);
        bytes_free(&got);
        bytes_free(&all);
    }
}

TEST(words_and_signs)
{
    static const char pairs[] = "# pairs\ntrue false\nyes no\nenabled disabled\n";
    static const struct {
        const char *line;
        size_t at;
        const char *want;
    } words[] = {{"x = true", 5, "x = false"},
                 {"x = FALSE", 9, "x = TRUE"},
                 {"Yes", 0, "No"},
                 {"login=Disabled;", 8, "login=Enabled;"},
                 {"maybe", 0, NULL},
                 {"", 0, NULL}};
    for (size_t i = 0; i < sizeof words / sizeof *words; i++) {
        size_t from, to;
        Bytes by = {0}, out = {0};
        check_case(words[i].line);
        bool found =
            transform_flip_word(words[i].line, strlen(words[i].line), words[i].at, pairs, &from, &to, &by);
        CHECK(found == (words[i].want != NULL));
        if (found && words[i].want) {
            put(words[i].line, from, to, &by, &out);
            CHECK_STR(bytes_str(&out), words[i].want);
        }
        bytes_free(&by);
        bytes_free(&out);
    }
    static const struct {
        const char *in;
        size_t at;
        int partner; /* -1: none */
        int from, to;
    } signs[] = {
        {"a(b[c]d)e", 1, 7, -1, -1},  {"a(b[c]d)e", 5, 3, 4, 5},   {"a(b[c]d)e", 4, -1, 4, 5},
        {"(()", 0, -1, -1, -1},       {"x=\"a b\"", 2, 6, -1, -1}, {"x=\"a b\"", 4, -1, 3, 6},
        {"\"a\\\"b\"", 0, 5, -1, -1}, {"it's", 2, -1, -1, -1},
    };
    for (size_t i = 0; i < sizeof signs / sizeof *signs; i++) {
        size_t partner, from, to, n = strlen(signs[i].in);
        check_case(signs[i].in);
        bool found = transform_matching_sign(signs[i].in, n, signs[i].at, NULL, &partner);
        CHECK_INT(found ? (int)partner : -1, signs[i].partner);
        if (signs[i].from >= 0) {
            CHECK(transform_inside_signs(signs[i].in, n, signs[i].at, NULL, &from, &to));
            CHECK_INT(from, signs[i].from);
            CHECK_INT(to, signs[i].to);
        }
    }
}

/* ---- what must be true of any text ---- */

static size_t random_lines(char *out, size_t most)
{
    static const char *const bits[] = {"berth", " ", "  ",   "\t",   "12", "-7", ";",    "(",
                                       ")",     "[", "]",    "{",    "}",  "\n", "\n",   "\r\n",
                                       "ä",     "ß", "\xff", "true", "\"", "_",  "0x1f", "."};
    size_t n = 0, want = check_random((unsigned)most - 8);
    while (n < want) {
        const char *bit = bits[check_random(sizeof bits / sizeof *bits)];
        memcpy(out + n, bit, strlen(bit));
        n += strlen(bit);
    }
    return n;
}

static Bytes through(Lines fn, const char *in, size_t n)
{
    Bytes out = {0};
    fn(in, n, &out);
    return out;
}

/* A sum over the bytes that does not depend on their order; blanks apart. */
static unsigned long sum_of(const char *s, size_t n, bool blanks)
{
    unsigned long sum = 0;
    for (size_t i = 0; i < n; i++)
        if (blanks || !strchr(" \t\r\n", s[i]) || !s[i])
            sum += (unsigned char)s[i] * 2654435761ul % 1000003;
    return sum;
}

TEST(lines_keep_what_they_should)
{
    static const struct {
        const char *name;
        Lines fn;
        bool twice_is_once, all_bytes, letters;
    } rules[] = {
        {"sort", sort_plain, true, true, true},      {"sort numbers", sort_numbers, true, true, true},
        {"trim", transform_trim, true, false, true}, {"indent", indent, false, false, true},
        {"unindent", unindent, false, false, true},  {"join", transform_join, true, false, true},
        {"upper", upper, true, false, false},        {"lower", lower, true, false, false},
    };
    for (int round = 0; round < 3000; round++) {
        char in[400];
        size_t n = round ? random_lines(in, sizeof in) : 0;
        for (size_t i = 0; i < sizeof rules / sizeof *rules; i++) {
            check_case(rules[i].name);
            Bytes once = through(rules[i].fn, in, n),
                  twice = through(rules[i].fn, bytes_str(&once), once.len);
            bool ends = n && in[n - 1] == '\n';
            /* Sorting an open last line to the front and back may exchange equal lines' ends. */
            CHECK(!rules[i].twice_is_once || !ends ||
                  (once.len == twice.len && memcmp(bytes_str(&once), bytes_str(&twice), once.len) == 0));
            CHECK(!rules[i].all_bytes || !ends ||
                  sum_of(in, n, true) == sum_of(bytes_str(&once), once.len, true));
            CHECK(!rules[i].letters || sum_of(in, n, false) == sum_of(bytes_str(&once), once.len, false));
            bytes_free(&once);
            bytes_free(&twice);
        }
    }
}

TEST(pairs_and_numbers_there_and_back)
{
    for (int round = 0; round < 4000; round++) {
        char in[300];
        size_t n = random_lines(in, sizeof in), at = check_random((unsigned)n + 1), partner, back, from, to;
        if (transform_matching_sign(in, n, at, NULL, &partner))
            CHECK(partner < n && transform_matching_sign(in, n, partner, NULL, &back) &&
                  transform_matching_sign(in, n, back, NULL, &from) && from == partner);
        if (transform_inside_signs(in, n, at, NULL, &from, &to)) {
            static const char open[] = "([{\"'`", close[] = ")]}\"'`";
            const char *kind = from > 0 ? strchr(open, in[from - 1]) : NULL;
            CHECK(kind && from <= to && to < n && in[to] == close[kind - open]);
            CHECK(from <= at + 1 && at <= to);
        }
        Bytes more = {0};
        if (transform_number(in, n, at, 5, &from, &to, &more) == NUMBER_ADDED) {
            char other[400];
            Bytes less = {0};
            size_t f, t;
            CHECK(from < to && to <= n);
            size_t m = from + more.len + (n - to);
            memcpy(other, in, from);
            memcpy(other + from, more.at, more.len);
            memcpy(other + from + more.len, in + to, n - to);
            CHECK(transform_number(other, m, from, -5, &f, &t, &less) == NUMBER_ADDED);
            bytes_free(&less);
        }
        bytes_free(&more);
    }
}

/* The trimming of whole texts does what that of bytes does, wherever the pieces are cut. */
TEST(texts_are_trimmed_like_bytes)
{
    for (int round = 0; round < 3000; round++) {
        char in[80], is[80];
        size_t n = check_random(sizeof in), lines;
        Bytes want = {0};
        Text t = {0}, out;
        for (size_t i = 0; i < n; i++) {
            in[i] = "a \t\n\r  b\n"[check_random(9)];
            CHECK(text_insert(&t, check_random(2) ? text_len(t) : i, in + i, 1));
        }
        transform_trim(in, n, &want);
        CHECK(transform_trim_text(t, &out, &lines));
        size_t got = text_read(out, 0, is, sizeof is);
        CHECK_BYTES(is, got, bytes_str(&want), want.len);
        CHECK((lines > 0) == (want.len < n));
        text_drop(&t);
        text_drop(&out);
        bytes_free(&want);
    }
}

static bool at_once(void *ctx)
{
    ++*(int *)ctx;
    return true;
}

TEST(sorting_can_be_stopped)
{
    enum { SIZE = 4 * 1024 * 1024 };
    char *in = malloc(SIZE);
    Bytes out = {0};
    int asked = 0;
    for (size_t i = 0; i < SIZE; i++)
        in[i] = i % 20 == 19 ? '\n' : (char)('a' + check_random(26));
    CHECK(!transform_sort(in, SIZE, false, (Stop){at_once, &asked}, &out));
    CHECK(asked == 1 && out.len == 0);
    CHECK(transform_sort(in, SIZE, false, (Stop){0}, &out) && out.len == SIZE);
    bytes_free(&out);
    free(in);
}
