#include "check.h"
#include "find.h"

#include <string.h>

typedef struct Case {
    const char *text, *what;
    const char *flags; /* e expression, w words, x exact, i any case */
    const char *with, *result;
    size_t count;
} Case;

static const Case cases[] = {
    {"berth berth", "berth", "", "quay", "quay quay", 2},
    {"Berth berth", "berth", "", "x", "x x", 2},
    {"Berth berth", "Berth", "", "x", "x berth", 1},
    {"Berth berth", "Berth", "i", "x", "x x", 2},
    {"Berth berth", "berth", "x", "x", "Berth x", 1},
    {"a.b axb", "a.b", "", "-", "- axb", 1},
    {"a.b axb", "a.b", "e", "-", "- -", 2},
    {"port ports port", "port", "w", "x", "x ports x", 2},
    {"aaa", "aa", "", "b", "ba", 1},
    {"aaa", "a", "", "aa", "aaaaaa", 3},
    {"one\ntwo\n", "^", "e", "# ", "# one\n# two\n", 2},
    {"one\ntwo", "$", "e", ";", "one;\ntwo;", 2},
    {"one\r\ntwo\r\n", "$", "e", ";", "one;\r\ntwo;\r\n;", 3},
    {"k=v", "(\\w)=(\\w)", "e", "$2=$1", "v=k", 1},
    {"k=v", "(?<a>\\w)=", "e", "${a}:", "k:v", 1},
    {"cost", "cost", "e", "$$5\\t\\\\", "$5\t\\", 1},
    {"cost", "cost", "", "$1\\n", "$1\\n", 1},
    {"a\n\n\nb", "\\n+", "e", "\\n", "a\nb", 1},
    {"x\xff\xfey", "y", "", "z", "x\xff\xfez", 1},
    {"x\xff\xfey", "\xff", "", "", "x\xfey", 1},
    {"GR\xc3\x9c\xc3\x9f" "E gr\xc3\xbc\xc3\x9f" "e", "gr\xc3\xbc\xc3\x9f" "e", "", "hi", "hi hi", 2},
    {"none", "x*", "e", "-", "-n-o-n-e-", 5},
    {"aXb", "(?i)x", "e", "", "ab", 1},
    {"tab\there", "\\t", "e", " ", "tab here", 1},
    {"", "a", "", "b", "", 0},
};

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
        CHECK(finder_replace_all(f, 0, text_len(t), c->with, strlen(c->with), &out, &count, &lines, &e));
        CHECK_INT(count, c->count);
        same(out, c->result);
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
        for (size_t at = 0; finder_next(f, at, text_len(t), &m) == FOUND; at = finder_behind(f, m))
            count++;
        CHECK_INT(count, want);
        finder_free(f);
    }
    text_drop(&t);
}
