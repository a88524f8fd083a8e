#include "check.h"
#include "diff.h"

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
