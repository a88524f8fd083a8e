/* Bringing two versions together: cases, random edits against what must hold, and against the merging of a
 * version control where there is one. */
#include "check.h"
#include "base/bytes.h"
#include "base/mem.h"
#include "edit/merge.h"
#include "text/text_line.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static const MergeNames names = {"mine", "before", "theirs"};

static Text text_of(const char *s)
{
    Text t = {0};
    text_insert(&t, 0, s, strlen(s));
    return t;
}

/* The merged text; the caller frees it. */
static char *merged(const char *base, const char *mine, const char *theirs, size_t *conflicts)
{
    Text b = text_of(base), m = text_of(mine), t = text_of(theirs);
    Merged out;
    CHECK(merge_texts(b, m, t, &names, false, &out));
    CHECK(text_check(out.text));
    char *s = text_string(out.text, 0, text_len(out.text));
    *conflicts = out.conflicts;
    text_drop(&b);
    text_drop(&m);
    text_drop(&t);
    text_drop(&out.text);
    return s;
}

TEST(cases)
{
    static const struct {
        const char *base, *mine, *theirs, *want;
    } all[] = {
        {"a\nb\nc\n", "x\nb\nc\n", "a\nb\ny\n", "x\nb\ny\n"},
        {"a\nb\nc\n", "a\nb\nc\n", "a\nc\n", "a\nc\n"},
        {"a\nb\nc\n", "a\nc\n", "a\nc\n", "a\nc\n"},
        {"a\n", "a\nx\n", "a\nx\n", "a\nx\n"},
        {"", "x\n", "", "x\n"},
        {"a\nm\nb", "a\nm\nb\nc", "x\nm\nb", "x\nm\nb\nc"},
        {"a\nm\nb\n", "a\nm\nb", "x\nm\nb\n", "x\nm\nb"},
        {"a\n", "b\n", "c\n", "<<<<<<< mine\nb\n||||||| before\na\n=======\nc\n>>>>>>> theirs\n"},
        {"", "b", "c\n", "<<<<<<< mine\nb\n||||||| before\n=======\nc\n>>>>>>> theirs\n"},
        {"a\nb\n", "", "a\nc\n", "<<<<<<< mine\n||||||| before\na\nb\n=======\na\nc\n>>>>>>> theirs\n"},
        /* lines next to each other, none of which both changed */
        {"a\nb\nc\n", "x\nb\nz\n", "a\ny\nc\n", "x\ny\nz\n"},
        {"a\nb\nc\n", "x\nb\nm\n", "a\ny\nt\n",
         "x\ny\n<<<<<<< mine\nm\n||||||| before\nc\n=======\nt\n>>>>>>> theirs\n"},
        /* other words of the same line */
        {"port = 80 and name = tern\n", "port = 81 and name = tern\n", "port = 80 and name = gull\n",
         "port = 81 and name = gull\n"},
        {"port = 80\n", "port = 81\n", "port = 82\n",
         "<<<<<<< mine\nport = 81\n||||||| before\nport = 80\n=======\nport = 82\n>>>>>>> theirs\n"},
    };
    for (size_t i = 0; i < sizeof all / sizeof *all; i++) {
        size_t conflicts;
        check_case(all[i].want);
        char *got = merged(all[i].base, all[i].mine, all[i].theirs, &conflicts);
        CHECK_STR(got, all[i].want);
        CHECK_INT(conflicts, strstr(all[i].want, "<<<<<<<") != NULL);
        free(got);
    }
    check_case(NULL);
}

/* Lines that exist once in all the test: each has a number. */
static unsigned last_line;

static void edit(const unsigned *from, size_t n, unsigned *to, size_t *n_to)
{
    *n_to = 0;
    unsigned calm = 1 + check_random(12);
    for (size_t i = 0; i <= n; i++) {
        unsigned what = check_random(calm * 3);
        if (what == 0 && *n_to < 90) /* something new before it */
            for (unsigned k = 1 + check_random(3); k > 0; k--)
                to[(*n_to)++] = ++last_line;
        if (i == n || what == 1) /* gone */
            continue;
        to[(*n_to)++] = what == 2 ? ++last_line : from[i];
    }
}

static char *lines_text(const unsigned *lines, size_t n)
{
    Bytes b = {0};
    bytes_add_str(&b, "");
    for (size_t i = 0; i < n; i++)
        bytes_printf(&b, "l%u\n", lines[i]);
    return b.at ? b.at : mem_string("");
}

static bool has_line(const char *text, unsigned line)
{
    char want[20];
    snprintf(want, sizeof want, "l%u\n", line);
    for (const char *p = text; (p = strstr(p, want)); p++)
        if (p == text || p[-1] == '\n')
            return true;
    return false;
}

static bool among(unsigned line, const unsigned *all, size_t n)
{
    for (size_t i = 0; i < n; i++)
        if (all[i] == line)
            return true;
    return false;
}

/* With each conflict decided for one side. */
static char *decided(const char *text, bool mine)
{
    Text t = text_of(text);
    Conflict c;
    while (conflict_next(t, 0, &c)) {
        Text part;
        ConflictPart p = mine ? c.mine : c.theirs;
        CHECK(text_slice(t, p.from, p.to - p.from, &part));
        text_delete(&t, c.all.from, c.all.to - c.all.from);
        text_insert_text(&t, c.all.from, part);
        text_drop(&part);
    }
    char *s = text_string(t, 0, text_len(t));
    text_drop(&t);
    return s;
}

/* What a version control makes of it; NULL where there is none, or it has a conflict. */
static char *by_version_control(const char *base, const char *mine, const char *theirs)
{
    check_put("base", base);
    check_put("mine", mine);
    check_put("theirs", theirs);
    if (!check_shell("cd \"$F\" && git merge-file -p mine base theirs >out 2>/dev/null"))
        return NULL;
    size_t n;
    return check_read(check_path("out"), &n);
}

TEST(random_edits)
{
    bool git = check_shell("command -v git >/dev/null");
    size_t clean = 0, compared = 0;
    if (!git)
        check_skip("git is not installed: nothing to compare with");
    for (int round = check_rounds(4000); round > 0 && !check_failed(); round--) {
        unsigned base[40], mine[200], theirs[200];
        size_t n = check_random(30), n_mine, n_theirs, conflicts, turned;
        for (size_t i = 0; i < n; i++)
            base[i] = ++last_line;
        edit(base, n, mine, &n_mine);
        edit(base, n, theirs, &n_theirs);
        char *b = lines_text(base, n), *m = lines_text(mine, n_mine), *t = lines_text(theirs, n_theirs);
        char *out = merged(b, m, t, &conflicts), *other = merged(b, t, m, &turned);
        /* Nothing of either side is lost, nor what neither touched; what one took away is not there. */
        for (size_t i = 0; i < n_mine; i++)
            CHECK(has_line(out, mine[i]) || !among(mine[i], theirs, n_theirs));
        for (size_t i = 0; i < n_mine; i++)
            CHECK(among(mine[i], base, n) || has_line(out, mine[i]));
        for (size_t i = 0; i < n_theirs; i++)
            CHECK(among(theirs[i], base, n) || has_line(out, theirs[i]));
        for (size_t i = 0; i < n && !conflicts; i++)
            CHECK(has_line(out, base[i]) ==
                  (among(base[i], mine, n_mine) && among(base[i], theirs, n_theirs)));
        CHECK_INT(conflicts, turned);
        if (!conflicts)
            CHECK_STR(out, other);
        char *for_mine = decided(out, true), *for_theirs = decided(other, false);
        CHECK_STR(for_mine, for_theirs);
        CHECK(!strstr(for_mine, "<<<<<<<"));
        if (git && round % 20 == 0) {
            const char *want = by_version_control(b, m, t);
            compared++;
            clean += want != NULL;
            if (want)
                CHECK_STR(out, want);
        }
        free(b);
        free(m);
        free(t);
        free(out);
        free(other);
        free(for_mine);
        free(for_theirs);
    }
    CHECK(!git || compared < 20 || clean > 0);
}

TEST(what_is_marked)
{
    static const struct {
        const char *text, *mine, *theirs;
        bool found, has_base;
    } all[] = {
        {"a\n<<<<<<< x\nm\n=======\nt\n>>>>>>> y\nb\n", "m\n", "t\n", true, false},
        {"<<<<<<<\n=======\n>>>>>>>", "", "", true, false},
        {"<<<<<<< x\r\nm\r\n||||||| o\r\no\r\n=======\r\nt\r\n>>>>>>> y\r\n", "m\r\n", "t\r\n", true, true},
        {"<<<<<<< x\nlost\n<<<<<<< x\nm\n=======\nt\n>>>>>>> y\n", "m\n", "t\n", true, false},
        {"<<<<<<<<\nm\n=======\nt\n>>>>>>> y\n", "", "", false, false},
        {" <<<<<<< x\nm\n=======\nt\n>>>>>>> y\n", "", "", false, false},
        {"<<<<<<< x\nm\n>>>>>>> y\n", "", "", false, false},
        {"Title\n=======\n<<<<<<< x\n", "", "", false, false},
        {"", "", "", false, false},
    };
    static const struct {
        const char *text, *marked; /* a letter a line */
    } lines[] = {
        {"a\n<<<<<<< x\nm\n||||||| o\no\n=======\nt\n>>>>>>> y\nb", "-x-x-x-x-"},
        {"Title\n=======\ntext", "---"},
        {"<<<<<<< x\nm\n=======\nt\n>>>>>>> y\nTitle\n=======", "x-x-x--"},
        {"<<<<<<<< x\n <<<<<<< x\n======\n", "----"},
        {"<<<<<<< x\n=======\n=======\n", "xx--"},
    };
    for (size_t i = 0; i < sizeof lines / sizeof *lines; i++) {
        Text t = text_of(lines[i].text);
        char is[20] = "";
        for (size_t n = 0; n <= text_newlines(t); n++)
            is[n] = conflict_marks(t, text_line_start(t, n)) ? 'x' : '-';
        check_case(lines[i].text);
        CHECK_STR(is, lines[i].marked);
        text_drop(&t);
    }
    for (size_t i = 0; i < sizeof all / sizeof *all; i++) {
        Text t = text_of(all[i].text);
        Conflict c = {0};
        check_case(all[i].text);
        CHECK_INT(conflict_next(t, 0, &c), all[i].found);
        if (all[i].found) {
            char *mine = text_string(t, c.mine.from, c.mine.to),
                 *theirs = text_string(t, c.theirs.from, c.theirs.to);
            CHECK_STR(mine, all[i].mine);
            CHECK_STR(theirs, all[i].theirs);
            CHECK_INT(c.has_base, all[i].has_base);
            free(mine);
            free(theirs);
        }
        text_drop(&t);
    }
    check_case(NULL);
}
