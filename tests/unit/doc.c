#include "check.h"
#include "edit/doc.h"
#include "edit/dump.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static bool holds(const Doc *d, const char *want)
{
    char got[4096];
    size_t n = text_read(doc_text(d), 0, got, sizeof got - 1);
    got[n] = 0;
    return check_equal_bytes(__FILE__, __LINE__, got, n, want, strlen(want));
}

static void type(Doc *d, size_t at, const char *s)
{
    for (; *s; s++, at++)
        CHECK(doc_replace(d, at, 0, s, 1, STEP_TYPE, at));
}

TEST(undo_goes_by_words)
{
    Doc *d = doc_new((Text){0});
    size_t at;
    type(d, 0, "grey heron\nat 3");
    holds(d, "grey heron\nat 3");
    static const char *const before[] = {"grey heron\nat ", "grey heron\n", "grey ", ""};
    for (size_t i = 0; i < 4; i++) {
        CHECK(doc_undo(d, &at));
        holds(d, before[i]);
        CHECK_INT(at, strlen(before[i]));
    }
    CHECK(!doc_undo(d, &at));
    CHECK(!doc_changed(d));
    while (doc_redo(d, &at))
        ;
    holds(d, "grey heron\nat 3");
    CHECK_INT(at, 15);
    doc_free(d);
}

TEST(deletions_run_together)
{
    Doc *d = doc_new((Text){0});
    size_t at;
    type(d, 0, "berth");
    CHECK(doc_replace(d, 4, 1, NULL, 0, STEP_DELETE_LEFT, 5));
    CHECK(doc_replace(d, 3, 1, NULL, 0, STEP_DELETE_LEFT, 4));
    CHECK(doc_replace(d, 0, 1, NULL, 0, STEP_DELETE_RIGHT, 0));
    CHECK(doc_replace(d, 0, 1, NULL, 0, STEP_DELETE_RIGHT, 0));
    holds(d, "r");
    CHECK(doc_undo(d, &at));
    holds(d, "ber");
    CHECK(doc_undo(d, &at));
    holds(d, "berth");
    CHECK_INT(at, 5);
    doc_free(d);
}

TEST(changed_means_another_state_than_saved)
{
    Doc *d = doc_new((Text){0});
    size_t at;
    type(d, 0, "ab");
    CHECK(doc_changed(d));
    doc_mark_saved(d);
    CHECK(!doc_changed(d));
    type(d, 2, "c");
    CHECK(doc_changed(d));
    CHECK(doc_undo(d, &at));
    CHECK(!doc_changed(d));
    holds(d, "ab");
    CHECK(doc_undo(d, &at));
    CHECK(doc_changed(d));
    CHECK(doc_redo(d, &at));
    CHECK(!doc_changed(d));
    doc_free(d);
}

/* Who takes back by hand what was typed has changed nothing; but what is not the same never counts as such.
 */
TEST(back_by_hand_is_not_changed)
{
    size_t at;
    Doc *d = doc_new((Text){0});
    type(d, 0, "berth");
    doc_mark_saved(d);
    type(d, 5, "s");
    CHECK(doc_changed(d));
    CHECK(doc_replace(d, 5, 1, NULL, 0, STEP_DELETE_LEFT, 6));
    CHECK(!doc_changed(d));
    doc_seal(d);
    CHECK(doc_replace(d, 0, 1, "B", 1, STEP_WHOLE, 0));
    CHECK(doc_replace(d, 5, 0, "!", 1, STEP_WHOLE, 5));
    CHECK(doc_replace(d, 0, 1, "b", 1, STEP_WHOLE, 0));
    CHECK(doc_changed(d));
    CHECK(doc_replace(d, 5, 1, NULL, 0, STEP_WHOLE, 5));
    CHECK(!doc_changed(d));
    size_t same = 0;
    char letter[2] = "";
    for (int i = 0; i < 20000 && !check_failed(); i++) {
        size_t len = text_len(doc_text(d)), place = check_random((unsigned)len + 1), n = check_random(3);
        letter[0] = letter[1] = (char)('a' + check_random(2));
        switch (check_random(12)) {
        case 0:
            doc_undo(d, &at);
            break;
        case 1:
            doc_redo(d, &at);
            break;
        case 2:
            doc_mark_saved(d);
            break;
        default:
            n = n > len - place || len < 4 ? len - place > 1 ? 1 : 0 : n;
            doc_replace(d, place, n, letter, len > 8 ? 0 : check_random(3), STEP_WHOLE, place);
        }
        bool equal = text_len(doc_text(d)) == text_len(doc_saved_text(d));
        for (size_t k = 0; equal && k < text_len(doc_text(d)); k++)
            equal = text_byte(doc_text(d), k) == text_byte(doc_saved_text(d), k);
        CHECK(doc_changed(d) || equal);
        same += equal && !doc_changed(d);
    }
    CHECK(same > 1000);
    doc_free(d);
}

TEST(groups_are_one_step)
{
    Doc *d = doc_new((Text){0});
    size_t at;
    type(d, 0, "one two");
    doc_begin(d);
    CHECK(doc_replace(d, 0, 3, "ONE", 3, STEP_WHOLE, 0));
    CHECK(doc_replace(d, 4, 3, "three", 5, STEP_WHOLE, 0));
    doc_end(d);
    holds(d, "ONE three");
    CHECK(doc_undo(d, &at));
    holds(d, "one two");
    CHECK(doc_redo(d, &at));
    holds(d, "ONE three");
    doc_free(d);
}

/* Anchors keep standing between the same bytes, also through undo and redo. */
TEST(anchors_follow)
{
    Doc *d = doc_new((Text){0});
    Anchor before, after, inside;
    size_t at;
    type(d, 0, "0123456789");
    doc_seal(d);
    doc_add_anchor(d, &before, 2, true);
    doc_add_anchor(d, &inside, 5, true);
    doc_add_anchor(d, &after, 8, false);
    CHECK(doc_replace(d, 4, 3, "ab", 2, STEP_WHOLE, 0));
    CHECK_INT(before.at, 2);
    CHECK_INT(inside.at, 5);
    CHECK_INT(after.at, 7);
    CHECK(doc_undo(d, &at));
    CHECK_INT(after.at, 8);
    CHECK(doc_replace(d, 2, 0, "xx", 2, STEP_WHOLE, 0));
    CHECK_INT(before.at, 2);
    CHECK_INT(after.at, 10);
    doc_remove_anchor(d, &inside);
    doc_remove_anchor(d, &before);
    doc_remove_anchor(d, &after);
    doc_free(d);
}

/* Random changes, undos and redos against kept copies of every state on the way. */
TEST(history_is_exact)
{
    enum { STEPS = 400 };
    Doc *d = doc_new((Text){0});
    static char states[STEPS + 1][2048];
    size_t now = 0, n = 1, at;
    for (int i = 0; i < 3000; i++) {
        unsigned what = check_random(3);
        size_t len = text_len(doc_text(d));
        if (what == 0 && n <= STEPS) {
            char bytes[4];
            size_t pos = check_random((unsigned)len + 1), removed = check_random(2) && len > pos ? 1 : 0;
            if (len > 2000)
                continue;
            size_t k = 1 + check_random(4);
            for (size_t j = 0; j < k; j++)
                bytes[j] = (char)('a' + check_random(26));
            CHECK(doc_replace(d, pos, removed, bytes, k, STEP_WHOLE, pos));
            text_read(doc_text(d), 0, states[++now], 2047);
            states[now][text_len(doc_text(d))] = 0;
            n = now + 1;
        } else if (what == 1) {
            CHECK(doc_undo(d, &at) == (now > 0));
            now -= now > 0;
        } else {
            CHECK(doc_redo(d, &at) == (now + 1 < n));
            now += now + 1 < n;
        }
        if (!holds(d, states[now]))
            break;
    }
    doc_free(d);
}

/* Branches: nothing that was undone is lost, and every state can be gone to from every other. */
TEST(branches_stay)
{
    enum { STATES = 120 };
    Doc *d = doc_new((Text){0});
    static char texts[STATES][2048];
    size_t n = 1, at;
    Anchor first;
    doc_add_anchor(d, &first, 0, true);
    while (n < STATES) {
        if (check_random(3) == 0) {
            doc_undo(d, &at);
            continue;
        }
        size_t len = text_len(doc_text(d)), pos = check_random((unsigned)len + 1);
        char byte = (char)('a' + check_random(26));
        CHECK(doc_replace(d, pos, 0, &byte, 1, STEP_WHOLE, pos));
        text_read(doc_text(d), 0, texts[n], 2047);
        texts[n][len + 1] = 0;
        n++;
    }
    CHECK_INT(doc_states(d), STATES);
    for (int i = 0; i < 2000; i++) {
        size_t to = check_random(STATES);
        doc_go(d, to, &at);
        if (!holds(d, texts[to]))
            break;
        CHECK(doc_state(d, to).now && first.at == 0);
        if (check_random(2) && to) { /* undo and redo come back to it */
            CHECK(doc_undo(d, &at) && doc_redo(d, &at));
            holds(d, texts[to]);
        }
    }
    doc_remove_anchor(d, &first);
    doc_free(d);
}

/* Whatever was done since a spot becomes one step: one undo leads to the text that stood there, one redo
 * back. What was written somewhere in between, or what came from elsewhere, is left alone. */
TEST(folding_makes_one_step)
{
    for (int round = 0; round < 2000; round++) {
        Doc *d = doc_new((Text){0});
        char begun[200], ended[200];
        size_t at, written = 0;
        type(d, 0, "kiosk");
        for (unsigned i = check_random(4); i > 0; i--)
            CHECK(doc_replace(d, 0, 1, "abc", 3, STEP_WHOLE, 0));
        for (unsigned i = check_random(2); i > 0; i--)
            doc_undo(d, &at);
        DocSpot spot = doc_spot(d);
        begun[text_read(doc_text(d), 0, begun, 199)] = 0;
        for (unsigned i = check_random(12); i > 0; i--) {
            size_t len = text_len(doc_text(d));
            switch (check_random(8)) {
            case 0:
                doc_undo(d, &at);
                break;
            case 1:
                doc_redo(d, &at);
                break;
            case 2:
                if (check_random(4) == 0 && doc_state_now(d) >= spot.states)
                    written = doc_close_state(d);
                break;
            default:
                CHECK(doc_replace(d, check_random((unsigned)len + 1) / 2, len > 1, "xy", 1 + check_random(2),
                                  STEP_WHOLE, 0));
            }
        }
        ended[text_read(doc_text(d), 0, ended, 199)] = 0;
        size_t states = doc_states(d);
        size_t from = doc_state_now(d);
        while (from >= spot.states)
            from = doc_state(d, from).parent;
        doc_fold(d, spot, "Play keys");
        holds(d, ended);
        if (written) {
            CHECK(doc_states(d) > written); /* it is still there by its number */
        } else if (from != spot.now) {      /* it went back further, or elsewhere */
            CHECK_INT(doc_states(d), states);
        } else {
            CHECK_INT(doc_states(d), spot.states + (doc_state_now(d) != spot.now));
            if (doc_state_now(d) != spot.now) {
                CHECK(doc_undo(d, &at));
                holds(d, begun);
                CHECK(doc_redo(d, &at));
                holds(d, ended);
            }
        }
        doc_free(d);
    }
}

static size_t resident_kb(void)
{
    size_t pages = 0, resident = 0;
    FILE *f = fopen("/proc/self/statm", "r");
    if (!f || fscanf(f, "%zu %zu", &pages, &resident) != 2)
        resident = 0;
    if (f)
        fclose(f);
    return resident * 4;
}

/* Ten thousand states of a 10 MB text cost little more than one; a million edits come undone. */
TEST(many_states_are_cheap)
{
    enum { SIZE = 10 * 1024 * 1024, STATES = 10000 };
    char *bytes = malloc(SIZE);
    for (size_t i = 0; i < SIZE; i++)
        bytes[i] = i % 50 == 49 ? '\n' : (char)('a' + i % 26);
    Text t = {0};
    CHECK(text_insert(&t, 0, bytes, SIZE));
    Doc *d = doc_new(t);
    size_t before = resident_kb(), at;
    for (int i = 0; i < STATES; i++)
        CHECK(doc_replace(d, check_random(SIZE), 0, "x", 1, STEP_WHOLE, 0));
    size_t after = resident_kb();
#if defined __SANITIZE_ADDRESS__ || defined __SANITIZE_THREAD__
    (void)before, (void)after; /* the sanitizer's own memory counts too */
#else
    check_result(after < before + 64 * 1024, __FILE__, __LINE__, "%zu kB more for the states",
                 after - before);
#endif
    while (doc_undo(d, &at))
        ;
    char *back = malloc(SIZE + 1);
    CHECK_INT(text_read(doc_text(d), 0, back, SIZE + 1), SIZE);
    CHECK(memcmp(back, bytes, SIZE) == 0);
    doc_free(d);
    free(bytes);
    free(back);
}

TEST(a_million_edits_come_undone)
{
#if defined __SANITIZE_ADDRESS__ || defined __SANITIZE_THREAD__
    enum { EDITS = 20000 };
#else
    enum { EDITS = 1000000 };
#endif
    static const char start[] = "grey heron\ncurlew\nmorning tern\n";
    Text t = {0};
    CHECK(text_insert(&t, 0, start, sizeof start - 1));
    Doc *d = doc_new(t);
    size_t at;
    bool ok = true;
    for (int i = 0; i < EDITS; i++) {
        size_t len = text_len(doc_text(d)), pos = check_random((unsigned)len + 1);
        size_t removed = check_random(2) && pos < len ? 1 : 0;
        ok = ok && doc_replace(d, pos, removed, "y\n", removed ? 0 : 1 + check_random(2), STEP_WHOLE, pos);
    }
    CHECK(ok);
    while (doc_undo(d, &at))
        ;
    holds(d, start);
    doc_free(d);
}

/* A history outlives the program: every state is there again, byte for byte. */
TEST(dump_and_restore)
{
    Doc *d = doc_new((Text){0}), *again;
    size_t at, n = 1;
    static char texts[300][600];
    while (n < 200) {
        size_t len = text_len(doc_text(d)), pos = check_random((unsigned)len + 1);
        if (check_random(4) == 0) {
            doc_undo(d, &at);
            continue;
        }
        size_t removed =
            len > 300 || (pos < len && check_random(3) == 0) ? (len - pos < 3 ? len - pos : 3) : 0;
        doc_set_verb(d, check_random(2) ? "Sort" : NULL);
        CHECK(doc_replace(d, pos, removed, "tide", removed ? 1 : 4, STEP_WHOLE, pos));
        text_read(doc_text(d), 0, texts[n++], 599);
    }
    doc_go(d, 77, &at);
    doc_mark_saved(d);
    doc_go(d, 150, &at); /* left without saving: the saved state is what is on disk */
    Bytes dump = {0}, small = {0};
    dump_history(d, 1 << 20, &dump);
    dump_history(d, 500, &small);
    CHECK(small.len < 1000);
    Text saved = text_keep(doc_state_text(d, 77));
    again = doc_new(text_keep(saved));
    CHECK(dump_restore(again, dump.at, dump.len));
    CHECK_INT(doc_states(again), 200);
    CHECK(!doc_changed(again) && doc_state(again, 77).now);
    for (size_t i = 0; i < 200; i++) {
        doc_go(again, i, &at);
        if (!holds(again, texts[i]))
            break;
    }
    doc_free(again);
    again = doc_new(text_keep(saved));
    CHECK(dump_restore(again, small.at, small.len));
    holds(again, texts[77]);
    CHECK(doc_undo(again, &at));
    holds(again, texts[doc_state(d, 77).parent]);
    doc_free(again);
    /* Damaged bytes give no history and no harm. */
    for (int i = 0; i < 3000; i++) {
        Bytes bad = {0};
        bytes_add(&bad, dump.at, check_random(2) ? dump.len : check_random((unsigned)dump.len));
        if (bad.len)
            bad.at[check_random((unsigned)bad.len)] ^= (char)(1 + check_random(255));
        again = doc_new(text_keep(saved));
        bool restored = dump_restore(again, bytes_str(&bad), bad.len);
        holds(again, texts[77]);
        for (size_t k = 0; restored && k < doc_states(again); k++) {
            doc_go(again, k, &at);
            CHECK(at <= text_len(doc_text(again)));
            if (doc_undo(again, &at))
                CHECK(at <= text_len(doc_text(again)));
        }
        doc_free(again);
        bytes_free(&bad);
    }
    bytes_free(&dump);
    bytes_free(&small);
    text_drop(&saved);
    doc_free(d);
}
