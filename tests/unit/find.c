#include "check.h"
#include "find_cases.h"
#include "base/data.h"
#include "base/mem.h"
#include "edit/match_lines.h"
#include "files/load.h"
#include "text/text_line.h"

#include <glob.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static Finder *make(const Case *c, Err *e, size_t *mistake)
{
    FindWhat w = {.what = c->what, .len = strlen(c->what)};
    w.expression = strchr(c->flags, 'e') != NULL;
    w.words = strchr(c->flags, 'w') != NULL;
    w.letters = strchr(c->flags, 'x') ? CASE_EXACT : strchr(c->flags, 'i') ? CASE_ANY : CASE_AUTO;
    return finder_new(&w, e, mistake);
}

static bool same(Text t, const char *want)
{
    char got[4096];
    size_t n = text_read(t, 0, got, sizeof got);
    return check_equal_bytes(__FILE__, __LINE__, got, n, want, strlen(want));
}

/* The same line by line, of bytes that are in no text: what they would be all together. The match after a
 * last line end is in no line, and left out. */
static void by_lines(Finder *f, const Replacement *by, const char *bytes, size_t n, size_t count,
                     const char *want, size_t n_want)
{
    MatchLines m = {.finder = f, .bytes = bytes, .n = n, .by = by};
    Bytes all = {0};
    size_t copied = 0, places = 0, line = 0;
    while (match_lines_next(&m)) {
        for (size_t i = copied; i < m.start; i++)
            line += bytes[i] == '\n';
        CHECK_INT(m.line, line);
        CHECK(m.start >= copied && m.end >= m.first.from && (m.end == n || bytes[m.end] == '\n'));
        bytes_add(&all, bytes + copied, m.start - copied);
        bytes_add(&all, bytes_str(&m.fresh), m.fresh.len);
        for (size_t i = m.start; i < m.end; i++)
            line += bytes[i] == '\n';
        copied = m.end;
        places += m.matches;
    }
    bytes_add(&all, bytes + copied, n - copied);
    if (!(n && bytes[n - 1] == '\n' && places + 1 == count)) {
        CHECK_INT(places, count);
        CHECK_BYTES(bytes_str(&all), all.len, want, n_want);
    }
    match_lines_end(&m);
    bytes_free(&all);
}

TEST(lines_with_matches)
{
    static const char *const expressions[] = {"a",   "ab",      "a*",  "^",       "$",        "b$",
                                              "^a",  "a\\nb",   "\\n", "(a)(b)?", "[^a]+",    "\\s+",
                                              "b|$", "(?<=a)b", "a.c", "x*$",     "\\bab\\b", "c\n?a"};
    static const char *const withs[] = {"", "X", "$0$0", "long\nlines", "aba"};
    for (int round = check_rounds(3000); round > 0 && !check_failed(); round--) {
        char bytes[60];
        size_t n = check_random(sizeof bytes), mistake, count, lines;
        for (size_t i = 0; i < n; i++)
            bytes[i] = "abc\n\nx "[check_random(7)];
        const char *what = expressions[check_random(sizeof expressions / sizeof *expressions)];
        const char *with = withs[check_random(sizeof withs / sizeof *withs)];
        FindWhat w = {what, strlen(what), CASE_EXACT, false, check_random(3) > 0};
        Replacement by = {with, strlen(with), false};
        Err e = {""};
        Text t = {0}, out;
        text_insert(&t, 0, bytes, n);
        Finder *f = finder_new(&w, &e, &mistake), *flat = finder_new(&w, &e, &mistake);
        check_case(what);
        finder_text(f, t);
        CHECK(finder_replace_all(f, 0, n, &by, (Stop){0}, &out, &count, &lines, &e));
        char *want = text_string(out, 0, text_len(out)), *copy = mem_string_n(bytes, n);
        by_lines(flat, &by, copy, n, count, want, text_len(out));
        free(want);
        free(copy);
        finder_free(f);
        finder_free(flat);
        text_drop(&t);
        text_drop(&out);
    }
    check_case(NULL);
}

TEST(find_and_replace)
{
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        const Case *c = &cases[i];
        Err e = {""};
        size_t mistake, count, lines;
        Text t = {0}, out;
        check_case(c->what);
        text_insert(&t, 0, c->text, strlen(c->text));
        Finder *f = make(c, &e, &mistake);
        CHECK(f != NULL);
        if (!f)
            continue;
        finder_text(f, t);
        Replacement by = {c->with, strlen(c->with), strchr(c->flags, 'f') != NULL};
        CHECK(finder_replace_all(f, 0, text_len(t), &by, (Stop){0}, &out, &count, &lines, &e));
        CHECK_INT(count, c->count);
        same(out, c->result);
        Finder *flat = make(c, &e, &mistake);
        by_lines(flat, &by, c->text, strlen(c->text), count, c->result, strlen(c->result));
        finder_free(flat);
        /* Backwards the same matches come in the other order. */
        size_t back = 0, at = text_len(t) + 1;
        Match m;
        while (finder_before(f, 0, at, &m) == FOUND && back < 100) {
            back++;
            at = m.from;
        }
        if (strcmp(c->text, "aaa") != 0)
            CHECK_INT(back, c->count);
        finder_free(f);
        text_drop(&t);
        text_drop(&out);
    }
}

TEST(mistakes_are_explained)
{
    static const struct {
        const char *what;
        size_t at;
    } wrong[] = {{"a(b", 3}, {"a[b", 3}, {"*a", 0}, {"a{3,1}", 5}};
    for (size_t i = 0; i < sizeof wrong / sizeof *wrong; i++) {
        Err e = {""};
        size_t mistake = 99;
        Case c = {.what = wrong[i].what, .flags = "e"};
        check_case(wrong[i].what);
        CHECK(make(&c, &e, &mistake) == NULL);
        CHECK(e.text[0] != 0);
        CHECK_INT(mistake, wrong[i].at);
    }
    Err e = {""};
    size_t mistake;
    Case c = {.what = "(a)", .flags = "e"};
    Finder *f = make(&c, &e, &mistake);
    CHECK(finder_accepts(f, "$1 $$9 \\$9", 10, &e));
    CHECK(!finder_accepts(f, "$2", 2, &e) && strstr(e.text, "$2"));
    CHECK(finder_accepts(f, "\\1 \\\\ \\n", 8, &e));
    CHECK(!finder_accepts(f, "\\2", 2, &e) && strstr(e.text, "no group for \\2"));
    CHECK(!finder_accepts(f, "x\\d", 3, &e) && strstr(e.text, "write \\\\d"));
    finder_free(f);
}

TEST(an_evil_expression_ends)
{
    Text t = {0};
    Err e;
    size_t mistake;
    Match m;
    char as[60];
    memset(as, 'a', sizeof as);
    text_insert(&t, 0, as, sizeof as);
    Case c = {.what = "(a+)+$b|(a|aa)+c", .flags = "e"};
    Finder *f = make(&c, &e, &mistake);
    finder_text(f, t);
    CHECK_INT(finder_next(f, 0, text_len(t), &m), FOUND_TOO_HARD);
    finder_free(f);
    text_drop(&t);
}

/* Over many windows and slices: the same count as a plain search. */
TEST(large_and_cut_up)
{
    Text t = {0};
    Err e;
    size_t mistake, want = 0, count = 0;
    for (int i = 0; i < 60000; i++) {
        char line[64];
        size_t n = check_random(40);
        memset(line, 'x', n);
        if (n > 10 && n % 7 == 0) {
            memcpy(line + 3, "berth", 5);
            want++;
        }
        line[n] = '\n';
        text_insert(&t, text_len(t), line, n + 1);
    }
    for (int i = 0; i < 3000; i++) { /* cut it into many slices */
        size_t at = text_line_start(t, check_random(60000));
        text_insert(&t, at, "\n", 1);
    }
    Case plain = {.what = "berth", .flags = ""}, crossing = {.what = "berth[^b]*?\n", .flags = "e"};
    const Case *both[] = {&plain, &crossing};
    for (size_t i = 0; i < 2; i++) {
        Finder *f = make(both[i], &e, &mistake);
        Match m;
        finder_text(f, t);
        count = 0;
        for (size_t at = 0; finder_next(f, at, text_len(t), &m) == FOUND; at = finder_after(f, m))
            count++;
        CHECK_INT(count, want);
        finder_free(f);
    }
    text_drop(&t);
}

/* ---- against grep ---- */

static long shell_number(const char *line)
{
    FILE *f = popen(line, "r");
    long n = -1;
    if (!f || fscanf(f, "%ld", &n) != 1)
        n = -1;
    if (f)
        pclose(f);
    return n;
}

static void count_both(const char *path, const char *what, bool expression)
{
    char line[600];
    Text t;
    DiskState disk;
    Err e;
    size_t mistake, matches = 0, lines = 0, last = (size_t)-1;
    Case c = {.what = what, .flags = expression ? "ex" : "x"};
    if (!load_file(path, &t, &disk, &e) || !disk.exists) {
        check_skip("there is no %s", path);
        return;
    }
    Finder *f = make(&c, &e, &mistake);
    Match m;
    finder_text(f, t);
    for (size_t at = 0; finder_next(f, at, text_len(t), &m) == FOUND; at = finder_after(f, m)) {
        matches++;
        lines += text_line_of(t, m.from) != last;
        last = text_line_of(t, m.from);
    }
    finder_free(f);
    text_drop(&t);
    const char *how = expression ? "-P" : "-F";
    snprintf(line, sizeof line, "LC_ALL=C.UTF-8 grep -a -c %s -e '%s' '%s'", how, what, path);
    check_case(line);
    CHECK_INT(lines, shell_number(line));
    snprintf(line, sizeof line, "LC_ALL=C.UTF-8 grep -a -o %s -e '%s' '%s' | wc -l", how, what, path);
    CHECK_INT(matches, shell_number(line));
}

TEST(counts_agree_with_grep)
{
    static const struct {
        const char *what;
        bool expression;
    } looks[] = {{"berth 3", false}, {"e", false},   {"ing", false},    {"level 4\\.[5-9]", true},
                 {"^#.*", true},     {"\\d+", true}, {"[a-z]+$", true}, {"(?i)error|warning", true}};
    glob_t files;
    size_t used = 0;
    glob("/etc/*", 0, NULL, &files);
    const DataFile *log = data_find("demo/tide.log");
    check_write(check_path("tide.log"), log->bytes, log->len);
    for (size_t i = 0; i < sizeof looks / sizeof *looks; i++)
        count_both(check_path("tide.log"), looks[i].what, looks[i].expression);
    for (size_t k = 0; k < files.gl_pathc && used < 12; k++) {
        struct stat st;
        const char *path = files.gl_pathv[k];
        if (stat(path, &st) != 0 || !S_ISREG(st.st_mode) || st.st_size < 50 || st.st_size > 200000 ||
            access(path, R_OK) != 0)
            continue;
        used++;
        for (size_t i = 0; i < sizeof looks / sizeof *looks; i++)
            count_both(path, looks[i].what, looks[i].expression);
    }
    globfree(&files);
    CHECK(used > 3);
}

/* Whatever is looked for, it is found the same in small windows as in the whole text at once. */
static size_t matches_of(Finder *f, Text t, size_t window, Match *out, size_t most)
{
    size_t n = 0;
    Match m;
    finder_set_window(window);
    finder_text(f, (Text){0});
    finder_text(f, t);
    for (size_t at = 0; n < most && finder_next(f, at, text_len(t), &m) == FOUND; at = finder_after(f, m))
        out[n++] = m;
    finder_set_window(0);
    return n;
}

TEST(windows_make_no_difference)
{
    static const char *const parts[] = {
        "a",        "b+",      "\\A",        "\\Z",  "\\z",       "^",      "$",     "(?<=a)",   "(?<!b)",
        "(?=[bc])", "(?!a)",   "\\b",        "\\s*", "[^b]",      "(?s:.)", "a\\nb", "(?<=\\n)", ".*",
        "(?-m:^)",  "(?-m:$)", "(?<=b\\n)a", "\\n+", "(a|b\\n)*", "\\w+",   "a{2,3}"};
    enum { MOST = 400, PARTS = sizeof parts / sizeof *parts };
    static Match small[MOST], whole[MOST];
    int rounds = getenv("ROUNDS") ? 60000 : 3000;
    size_t found = 0;
    for (int round = 0; round < rounds; round++) {
        char text[120], what[80] = "";
        size_t n = check_random(sizeof text), mistake;
        for (size_t i = 0; i < n; i++)
            text[i] = "aabb\n\nc "[check_random(8)];
        for (unsigned k = 1 + check_random(3); k > 0; k--)
            strcat(what, parts[check_random(PARTS)]);
        FindWhat w = {what, strlen(what), CASE_EXACT, check_random(8) == 0, true};
        Err e;
        Text t = {0};
        Finder *f = finder_new(&w, &e, &mistake);
        check_case(what);
        CHECK(f && text_insert(&t, 0, text, n));
        size_t n_small = matches_of(f, t, 1 + check_random(30), small, MOST),
               n_whole = matches_of(f, t, 1000, whole, MOST);
        check_result(n_small == n_whole && memcmp(small, whole, n_whole * sizeof *whole) == 0, __FILE__,
                     __LINE__, "%zu and %zu matches in “%.*s”", n_small, n_whole, (int)n, text);
        found += n_whole;
        text_drop(&t);
        finder_free(f);
    }
    CHECK(found > (size_t)rounds);
}

static bool at_once(void *ctx)
{
    ++*(int *)ctx;
    return true;
}

TEST(replacing_all_can_be_stopped)
{
    enum { SIZE = 40 * 1024 * 1024 };
    char *bytes = malloc(SIZE);
    memset(bytes, 'a', SIZE);
    for (size_t i = 99; i < SIZE; i += 100)
        bytes[i] = '\n';
    Text t = {0}, out;
    CHECK(text_insert(&t, 0, bytes, SIZE));
    free(bytes);
    for (int i = 0; i < 2; i++) {
        FindWhat w = {i ? "zebra" : "a\na", i ? 5 : 3, CASE_EXACT, false, false};
        Err e = {""};
        size_t mistake, count, lines;
        int asked = 0;
        Finder *f = finder_new(&w, &e, &mistake);
        Replacement by = {"quay", 4, false};
        finder_text(f, t);
        CHECK(!finder_replace_all(f, 0, SIZE, &by, (Stop){at_once, &asked}, &out, &count, &lines, &e));
        CHECK(asked == 1 && strstr(e.text, "stopped"));
        finder_free(f);
    }
    text_drop(&t);
}
