/* The tree against a plain array of bytes. */
#include "check.h"
#include "base/mem.h"
#include "text/builder.h"
#include "text/node.h"
#include "text/text.h"
#include "text/text_line.h"

#include <stdlib.h>
#include <string.h>

typedef struct Model {
    char *at;
    size_t len;
} Model;

static void model_replace(Model *m, size_t at, size_t removed, const char *bytes, size_t n)
{
    char *fresh = malloc(m->len - removed + n + 1);
    memcpy(fresh, m->at, at);
    memcpy(fresh + at, bytes, n);
    memcpy(fresh + at + n, m->at + at + removed, m->len - at - removed);
    free(m->at);
    m->at = fresh;
    m->len = m->len - removed + n;
}

static bool same_as_model(Text t, const Model *m)
{
    char *all = malloc(m->len + 1);
    bool same =
        text_len(t) == m->len && text_read(t, 0, all, m->len) == m->len && memcmp(all, m->at, m->len) == 0;
    free(all);
    return same && text_check(t);
}

static bool lines_agree(Text t, const Model *m)
{
    size_t line = 0;
    if (text_line_start(t, 0) != 0)
        return false;
    for (size_t i = 0; i < m->len; i++) {
        if (i % 37 == 0 && text_line_of(t, i) != line)
            return false;
        if (m->at[i] != '\n')
            continue;
        if (text_line_end(t, line) != i || text_line_start(t, line + 1) != i + 1)
            return false;
        line++;
    }
    return text_newlines(t) == line && text_line_of(t, m->len) == line && text_line_end(t, line) == m->len;
}

static size_t random_bytes(char *out, size_t max)
{
    size_t n = check_random((unsigned)max);
    for (size_t i = 0; i < n; i++)
        out[i] = check_random(9) == 0 ? '\n' : (char)check_random(256);
    return n;
}

TEST(empty)
{
    Text t = {0};
    CHECK_INT(text_len(t), 0);
    CHECK_INT(text_line_start(t, 5), 0);
    CHECK_INT(text_byte(t, 0), -1);
    CHECK(text_insert(&t, 0, "x", 1) && text_delete(&t, 0, 1));
    CHECK_INT(text_len(t), 0);
}

enum { EDITS_MOST = 250 };

/* Random edits of up to `most` bytes; each version is kept and looked at again in the end. */
static void edit_sequence(int edits, size_t most)
{
    Text t = {0}, kept[EDITS_MOST];
    Model m = {calloc(1, 1), 0}, models[EDITS_MOST];
    char bytes[40000];
    for (int i = 0; i < edits; i++) {
        size_t at = check_random((unsigned)m.len + 1);
        size_t room = m.len - at;
        size_t removed = check_random(3) ? 0 : check_random((unsigned)(room < 900 ? room + 1 : 900));
        if (check_random(40) == 0)
            removed = check_random((unsigned)room + 1);
        size_t n = check_random(5) ? random_bytes(bytes, most) : 0;
        CHECK(text_delete(&t, at, removed));
        CHECK(text_insert(&t, at, bytes, n));
        model_replace(&m, at, removed, bytes, n);
        CHECK(same_as_model(t, &m));
        kept[i] = text_keep(t);
        models[i] = (Model){malloc(m.len + 1), m.len};
        memcpy(models[i].at, m.at, m.len);
    }
    CHECK(lines_agree(t, &m));
    for (int i = 0; i < edits; i++) {
        CHECK(same_as_model(kept[i], &models[i]));
        text_drop(&kept[i]);
        free(models[i].at);
    }
    CHECK(same_as_model(t, &m));
    text_drop(&t);
    free(m.at);
}

TEST(random_edits_with_all_versions_kept)
{
    for (int i = check_rounds(12); i > 0; i--)
        edit_sequence(EDITS_MOST, i % 3 == 0 ? 40000 : i % 3 == 1 ? 20 : 600);
    for (int i = check_rounds(4000); i > 0; i--)
        edit_sequence(1 + (int)check_random(40), 2 + check_random(i % 10 ? 60 : 900));
}

TEST(slices_and_joins)
{
    for (int round = 0; round < 60; round++) {
        Text t = {0}, part, other = {0};
        Model m = {calloc(1, 1), 0};
        char bytes[3000];
        for (int i = 0; i < 40 + round * 10; i++) {
            size_t n = random_bytes(bytes, 200), at = check_random((unsigned)m.len + 1);
            CHECK(text_insert(&t, at, bytes, n));
            model_replace(&m, at, 0, bytes, n);
        }
        size_t from = check_random((unsigned)m.len + 1), n = check_random((unsigned)(m.len - from) + 1);
        CHECK(text_slice(t, from, n, &part));
        Model pm = {malloc(n + 1), n};
        memcpy(pm.at, m.at + from, n);
        CHECK(same_as_model(part, &pm));
        size_t at = check_random((unsigned)m.len + 1);
        Text *into = round % 2 ? &t : &other;
        if (round % 2) {
            CHECK(text_insert_text(&t, at, part));
            model_replace(&m, at, 0, pm.at, n);
        } else { /* a small text takes in a large one */
            CHECK(text_insert(&other, 0, "ab", 2));
            CHECK(text_insert_text(&other, 1, t));
            model_replace(&m, 0, 0, "a", 1);
            model_replace(&m, m.len, 0, "b", 1);
        }
        CHECK(same_as_model(*into, &m));
        CHECK(lines_agree(*into, &m));
        text_drop(&t);
        text_drop(&part);
        text_drop(&other);
        free(m.at);
        free(pm.at);
    }
}

TEST(large_blocks)
{
    enum { N = 9 * 1024 * 1024 };
    char *bytes = malloc(N);
    for (size_t i = 0; i < N; i++)
        bytes[i] = i % 61 == 60 ? '\n' : 'a';
    Text t = {0};
    CHECK(text_insert(&t, 0, bytes, N));
    CHECK_INT(text_newlines(t), N / 61);
    for (size_t i = 0; i < 2000; i++) {
        size_t line = check_random(N / 61);
        CHECK_INT(text_line_start(t, line), line * 61);
        CHECK_INT(text_line_of(t, line * 61 + 60), line);
    }
    CHECK(text_check(t));
    text_drop(&t);
    free(bytes);
}

/* Without memory at any one moment, a change fails and the text is as it was. */
TEST(memory_runs_out)
{
    Text t = {0};
    Model m = {calloc(1, 1), 0};
    char bytes[600];
    for (int i = 0; i < 400; i++) {
        size_t n = random_bytes(bytes, sizeof bytes), at = check_random((unsigned)m.len + 1);
        text_insert(&t, at, bytes, n);
        model_replace(&m, at, 0, bytes, n);
    }
    unsigned refused = 0;
    char *large = calloc(1, 9 * 1024 * 1024);
    for (size_t fail = 1; fail < 40; fail++) {
        for (int kind = 0; kind < 4; kind++) {
            Text copy = text_keep(t), part = {0};
            size_t at = check_random((unsigned)m.len - 100);
            mem_fail_at(fail);
            bool ok = kind == 0   ? text_insert(&copy, at, "xyz", 3)
                      : kind == 1 ? text_delete(&copy, at, 90)
                      : kind == 2 ? text_insert(&copy, at, large, 9 * 1024 * 1024)
                                  : text_slice(copy, at, 50, &part) && text_insert_text(&copy, at, part);
            mem_fail_at(0);
            if (!ok) {
                refused++;
                CHECK(same_as_model(copy, &m));
            }
            CHECK(text_check(copy));
            text_drop(&part);
            text_drop(&copy);
        }
    }
    CHECK(refused > 20);
    CHECK(same_as_model(t, &m));
    text_drop(&t);
    CHECK_INT(nodes_used(), 0);
    free(m.at);
    free(large);
}

/* Built from pieces of another text and from bytes: the same as put together in a plain array. */
TEST(built_in_one_pass)
{
    for (int round = check_rounds(40); round > 0; round--) {
        Text from = {0}, out;
        TextBuilder b = {0};
        Model m = {calloc(1, 1), 0}, all = {calloc(1, 1), 0};
        char bytes[3000];
        for (int i = 0; i < 60; i++) {
            size_t n = random_bytes(bytes, sizeof bytes), at = check_random((unsigned)all.len + 1);
            text_insert(&from, at, bytes, n);
            model_replace(&all, at, 0, bytes, n);
        }
        for (int i = 0; i < (round % 2 ? 30 : 3000); i++) {
            if (check_random(2)) {
                size_t n = random_bytes(bytes, 30);
                CHECK(builder_bytes(&b, bytes, n));
                model_replace(&m, m.len, 0, bytes, n);
            } else {
                size_t at = check_random((unsigned)all.len),
                       n = check_random((unsigned)(all.len - at < 900 ? all.len - at : 900));
                CHECK(builder_part(&b, from, at, at + n));
                model_replace(&m, m.len, 0, all.at + at, n);
            }
        }
        CHECK(builder_finish(&b, &out));
        CHECK(same_as_model(out, &m));
        CHECK(text_insert(&out, m.len / 2, "x", 1) && text_delete(&out, m.len / 3, 1));
        CHECK(text_check(out));
        for (size_t fail = 1; fail < 6; fail++) { /* without memory nothing is left after */
            mem_fail_at(fail);
            bool ok = builder_bytes(&b, bytes, 20) && builder_part(&b, from, 0, text_len(from));
            mem_fail_at(0);
            (void)ok;
            builder_drop(&b);
        }
        text_drop(&out);
        text_drop(&from);
        CHECK_INT(nodes_used(), 0);
        free(m.at);
        free(all.at);
    }
}

/* Parts in any order of texts that share blocks with each other, so that what is remembered of the last part
 * must never serve for another text. */
TEST(parts_of_several_texts)
{
    for (int round = 0; round < 50; round++) {
        enum { TEXTS = 3 };
        Text texts[TEXTS] = {0}, out;
        Model models[TEXTS] = {{NULL, 0}}, want = {calloc(1, 1), 0};
        char bytes[900];
        for (int i = 0; i < TEXTS; i++) {
            if (i)
                texts[i] = text_keep(texts[i - 1]);
            models[i].at = calloc(1, models[i ? i - 1 : 0].len + 1);
            if (i) {
                models[i].len = models[i - 1].len;
                memcpy(models[i].at, models[i - 1].at, models[i].len);
            }
            for (int k = 0; k < 30; k++) {
                size_t n = random_bytes(bytes, sizeof bytes), at = check_random((unsigned)models[i].len + 1);
                CHECK(text_insert(&texts[i], at, bytes, n));
                model_replace(&models[i], at, 0, bytes, n);
            }
        }
        TextBuilder b = {0};
        size_t newlines = 0;
        for (int k = 0; k < 60; k++) {
            int which = check_random(4) ? 0 : (int)check_random(TEXTS);
            size_t len = models[which].len, from = check_random((unsigned)len + 1);
            size_t n = check_random(3) ? check_random(300) : len;
            n = n < len - from ? n : len - from;
            CHECK(builder_part(&b, texts[which], from, from + n));
            model_replace(&want, want.len, 0, models[which].at + from, n);
            for (size_t i = 0; i < n; i++)
                newlines += models[which].at[from + i] == '\n';
            CHECK_INT(b.newlines, newlines);
        }
        CHECK(builder_finish(&b, &out));
        CHECK(same_as_model(out, &want) && lines_agree(out, &want));
        for (int i = 0; i < TEXTS; i++) {
            CHECK(same_as_model(texts[i], &models[i])); /* they gave only references */
            text_drop(&texts[i]);
            free(models[i].at);
        }
        CHECK(same_as_model(out, &want));
        text_drop(&out);
        free(want.at);
    }
}

TEST(no_text_leaves_nodes_behind)
{
    CHECK_INT(nodes_used(), 0); /* of all the tests above */
}

/* Vectors count them in steps of many bytes: every length and every place within a step. */
TEST(newlines_are_counted_anywhere)
{
    enum { SIZE = 3 * BLOCK_MARK + 100 };
    Block *b = block_new(SIZE);
    size_t before[SIZE + 1] = {0};
    char bytes[SIZE];
    for (size_t i = 0; i < SIZE; i++) {
        bytes[i] = i > SIZE / 2 && i < SIZE / 2 + 600 ? '\n' : check_random(5) ? '\t' : '\n';
        before[i + 1] = before[i] + (bytes[i] == '\n');
    }
    block_append(b, bytes, SIZE);
    for (uint32_t from = 0; from < SIZE; from += 1 + check_random(7))
        for (uint32_t to = from; to <= SIZE; to += 1 + check_random(40)) {
            CHECK_INT(block_count_newlines(bytes + from, to - from), before[to] - before[from]);
            CHECK_INT(block_newlines(b, from, to), before[to] - before[from]);
        }
    for (uint32_t from = 0; from < SIZE; from += 11)
        for (uint32_t n = 0; before[from] + n < before[SIZE]; n += 1 + check_random(20)) {
            uint32_t at = block_find_newline(b, from, n);
            CHECK(at >= from && bytes[at] == '\n' && before[at] == before[from] + n);
        }
    block_drop(b);
}
