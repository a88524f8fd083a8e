#include "check.h"
#include "edit/diff.h"
#include "text/text_line.h"

#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static void set(Text *t, const char *s)
{
    *t = (Text){0};
    text_insert(t, 0, s, strlen(s));
}

TEST(unified)
{
    static const struct {
        const char *name, *a, *b, *want;
    } cases[] = {
        {"same", "a\nb\n", "a\nb\n", ""},
        {"one line", "a\nb\nc\n", "a\nB\nc\n", "--- x\n+++ y\n@@ -1,3 +1,3 @@\n a\n-b\n+B\n c\n"},
        {"added", "", "a\n", "--- x\n+++ y\n@@ -0,0 +1 @@\n+a\n"},
        {"all gone", "a\n", "", "--- x\n+++ y\n@@ -1 +0,0 @@\n-a\n"},
        {"last newline", "a", "a\n", "--- x\n+++ y\n@@ -1 +1 @@\n-a\n\\ No newline at end of file\n+a\n"},
        {"two far apart", "1\n2\n3\n4\n5\n6\n7\n8\n9\n", "X\n2\n3\n4\n5\n6\n7\n8\nY\n",
         "--- x\n+++ y\n@@ -1,2 +1,2 @@\n-1\n+X\n 2\n@@ -8,2 +8,2 @@\n 8\n-9\n+Y\n"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Text a, b;
        Bytes out = {0};
        check_case(cases[i].name);
        set(&a, cases[i].a);
        set(&b, cases[i].b);
        diff_unified(a, b, "x", "y", 1, &out);
        CHECK_BYTES(bytes_str(&out), out.len, cases[i].want, strlen(cases[i].want));
        bytes_free(&out);
        text_drop(&a);
        text_drop(&b);
    }
}

/* Applying the runs to one text gives the other; and the script is a shortest one (by dynamic programming).
 */
TEST(random_texts)
{
    for (int round = 0; round < 400; round++) {
        enum { MAX = 40 };
        char a[MAX + 1] = "", b[MAX + 1] = "", sa[2 * MAX + 1] = "", sb[2 * MAX + 1] = "";
        size_t n = check_random(MAX), m = check_random(MAX), at = 0, k = 0, changed = 0;
        for (size_t i = 0; i < n; i++) {
            a[i] = (char)('a' + check_random(4));
            sprintf(sa + 2 * i, "%c\n", a[i]);
        }
        for (size_t i = 0; i < m; i++) {
            b[i] = (char)('a' + check_random(4));
            sprintf(sb + 2 * i, "%c\n", b[i]);
        }
        Text ta, tb;
        DiffRun *runs;
        set(&ta, sa);
        set(&tb, sb);
        size_t count = diff_lines(ta, tb, &runs);
        for (size_t i = 0; i <= count; i++) {
            size_t a_to = i < count ? runs[i].a_from : n, b_to = i < count ? runs[i].b_from : m;
            CHECK(a_to - at == b_to - k && memcmp(a + at, b + k, a_to - at) == 0);
            if (i == count)
                break;
            changed += runs[i].a_to - runs[i].a_from + runs[i].b_to - runs[i].b_from;
            at = runs[i].a_to;
            k = runs[i].b_to;
        }
        size_t common[MAX + 1][MAX + 1] = {{0}};
        for (size_t i = 1; i <= n; i++)
            for (size_t j = 1; j <= m; j++)
                common[i][j] = a[i - 1] == b[j - 1]                  ? common[i - 1][j - 1] + 1
                               : common[i - 1][j] > common[i][j - 1] ? common[i - 1][j]
                                                                     : common[i][j - 1];
        CHECK_INT(changed, n + m - 2 * common[n][m]);
        free(runs);
        text_drop(&ta);
        text_drop(&tb);
    }
}

/* A text of many lines in several blocks. */
static Text lines(size_t n)
{
    Text t = {0};
    char line[32];
    for (size_t i = 0; i < n; i++) {
        int len = sprintf(line, "level %zu\n", i);
        text_insert(&t, text_len(t), line, (size_t)len);
    }
    return t;
}

/* Puts together what the runs say; must be `b`. */
static void check_runs(Text a, Text b, const DiffRun *runs, size_t n, size_t *changed)
{
    Text made = {0}, part;
    size_t from = 0;
    *changed = 0;
    for (size_t i = 0; i <= n; i++) {
        size_t to = i < n ? text_line_start(a, runs[i].a_from) : text_len(a);
        CHECK(text_slice(a, from, to - from, &part) && text_insert_text(&made, text_len(made), part));
        text_drop(&part);
        if (i == n)
            break;
        size_t b_from = text_line_start(b, runs[i].b_from), b_to = text_line_start(b, runs[i].b_to);
        CHECK(text_slice(b, b_from, b_to - b_from, &part) && text_insert_text(&made, text_len(made), part));
        text_drop(&part);
        from = text_line_start(a, runs[i].a_to);
        *changed += runs[i].a_to - runs[i].a_from + runs[i].b_to - runs[i].b_from;
    }
    CHECK_INT(text_len(made), text_len(b));
    CHECK(text_same_bytes(made, 0, b, 0, text_len(b)));
    text_drop(&made);
}

/* What versions share is found without comparing, also when pieces were moved about. */
TEST(versions_of_one_text)
{
    for (int round = 0; round < 60; round++) {
        Text a = lines(round % 2 ? 20000 : 50), b = text_keep(a), piece;
        size_t edits = check_random(12), changed;
        for (size_t i = 0; i < edits; i++) {
            size_t at = check_random((unsigned)text_len(b)), n = check_random(40);
            n = n < text_len(b) - at ? n : text_len(b) - at;
            if (check_random(3) == 0)
                CHECK(text_insert(&b, at, "quay\nberth", 10));
            else
                CHECK(text_delete(&b, at, n));
        }
        if (round % 5 == 4 && text_len(b) > 400) { /* moved from the end to the start */
            CHECK(text_slice(b, text_len(b) - 300, 300, &piece));
            CHECK(text_delete(&b, text_len(b) - 300, 300) && text_insert_text(&b, 0, piece));
            text_drop(&piece);
        }
        DiffRun *runs;
        size_t n = diff_lines(a, b, &runs);
        check_runs(a, b, runs, n, &changed);
        CHECK(changed <= 20 * edits + 140);
        free(runs);
        text_drop(&a);
        text_drop(&b);
    }
}

TEST(words_of_a_line)
{
    Text a, b;
    DiffRun *runs;
    set(&a, "card_timeout = 40 ; seconds\n");
    set(&b, "card_timeout = 45 ; long seconds\n");
    size_t n = diff_words(a, 0, text_len(a), b, 0, text_len(b), &runs);
    CHECK_INT(n, 2);
    CHECK_INT(runs[0].a_from, 15);
    CHECK_INT(runs[0].b_to, 17);
    CHECK_INT(runs[1].a_from, runs[1].a_to);
    CHECK_INT(runs[1].b_to - runs[1].b_from, 5);
    free(runs);
    text_drop(&a);
    text_drop(&b);
}

/* Of several lines the one that is most alike is compared. */
TEST(lines_that_belong_together)
{
    static const struct {
        const char *a, *b, *want; /* for each line of a the number of its partner in b, or - */
    } cases[] = {
        {"one two three\nfour five six\nbrightness = 80\nseven\neight\n", "brightness = 40\n", "--0--"},
        {"brightness = 80\n", "one\ntwo\nbrightness = 40\n", "2"},
        {"a = 1\nb = 2\n", "x y z\na = 3\nb = 4\n", "12"},
        {"a\nb\n", "c\nd\n", "01"},
        {"open = yes # berth 4\nlanguage = en\n", "language = de\nopen = no # berth 4\n", "1-"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Text a = {0}, b = {0};
        size_t with[8];
        char got[9] = "";
        check_case(cases[i].a);
        CHECK(text_insert(&a, 0, cases[i].a, strlen(cases[i].a)) &&
              text_insert(&b, 0, cases[i].b, strlen(cases[i].b)));
        DiffRun run = {0, text_line_count(a), 0, text_line_count(b)};
        diff_pair(a, b, &run, with);
        for (size_t k = 0; k < run.a_to; k++)
            snprintf(got + k, 2, "%c", with[k] == SIZE_MAX ? '-' : (char)('0' + with[k]));
        CHECK_STR(got, cases[i].want);
        text_drop(&a);
        text_drop(&b);
    }
}
