/* Recorded keys: what is played does what the hand did, in one step, and stops where it cannot. */
#include "app/app.h"
#include "check.h"
#include "commands/tools/playing.h"
#include "commands/tools/recording.h"
#include "editors.h"
#include "input/recorded.h"

#include <stdlib.h>
#include <string.h>

/* Keys by their names, as in editors_press; "~" is a second without a key, and <…> a paste. */
static void press(Editor *ed, const char *names)
{
    while (*names) {
        size_t n = strcspn(names, " ");
        if (n == 1 && *names == '~') {
            editors_now += 1200;
        } else if (*names == '<') {
            Input in = {.kind = INPUT_PASTE, .bytes = names + 1, .n_bytes = n - 2};
            app_input(ed, &in, editors_now += 20);
        } else {
            char *key = strndup(names, n);
            editors_press(ed, key);
            free(key);
        }
        names += n + strspn(names + n, " ");
    }
}

static bool text_is(const Editor *ed, const char *want)
{
    Text t = view_text(ed->panes.view);
    char *is = text_string(t, 0, text_len(t));
    bool same = strcmp(is, want) == 0;
    if (!same)
        check_result(false, __FILE__, __LINE__, "the text is “%s”, wanted “%s”; it says: %s", is, want,
                     ed->notices.text);
    free(is);
    return same;
}

static const struct {
    const char *name, *before, *keys, *after, *says;
} cases[] = {
    {"type", "a\nb\n", "F8 x F8 F7", "xxa\nb\n", NULL},
    {"a line each", "a\nb\nc\n", "F8 Home * Space Down F8 F7 F7", "* a\n* b\n* c\n", NULL},
    {"by routes", "a\nb\nc\n", "Esc t o * Home Down Esc t o Esc t p", "*a\n*b\nc\n", NULL},
    {"a count", "a\nb\nc\nd\n", "F8 Home * Down F8 Esc 2 F7", "*a\n*b\n*c\nd\n", "Played 2 times"},
    {"a count is one step", "a\nb\nc\nd\n", "F8 Home * Down F8 Esc 2 F7 Ctrl+Z", "*a\nb\nc\nd\n", NULL},
    {"a count beyond the end", "a\nb\nc", "F8 Home * Down F8 Esc 9 F7", "*a\n*b\n*c",
     "Played 2 times: that was the last line"},
    {"as often as it works, by lines", "a\nb\nc", "F8 Home * Down F8 Esc t m w", "*a\n*b\n*c",
     "Played 2 times"},
    {"and not after the last newline", "a\nb\nc\n", "F8 Home * Down F8 Esc t m w", "*a\n*b\n*c\n",
     "Played 2 times: that was the last line"},
    {"nor with the movement first", "a\nb\nc\n", "F8 Down Home * F8 Esc 9 F7", "a\n*b\n*c\n",
     "Played 1 time: that was the last line"},
    {"but at the end on purpose", "a\n", "F8 Ctrl+End x Enter F8 Esc 2 F7", "a\nx\nx\nx\n", "Played 2 times"},
    {"the movement first", "a\nb\nc", "F8 Down Home * F8 Esc t m w", "a\n*b\n*c",
     "Played 1 time: that was the last line"},
    {"as often as it works, by finding", "x=1\nx=2\nx=3\n", "F8 Ctrl+F = Enter Delete : F8 Esc t m w",
     "x:1\nx:2\nx:3\n", NULL},
    {"as often as it works, next", "a.b.c.\n", "Ctrl+F . Enter F8 Delete _ Ctrl+N F8 Esc t m w", "a_b_c_\n",
     NULL},
    {"and undone at once", "x=1\nx=2\nx=3\n", "F8 Ctrl+F = Enter Delete : F8 Esc t m w Ctrl+Z",
     "x:1\nx=2\nx=3\n", NULL},
    {"nothing changes any more", "ab\n", "F8 Home F8 Esc t m w", "ab\n", "Played 1 time"},
    {"a number by the prompt", "", "F8 x F8 Esc t m n 3 Enter", "xxxx", "Played 3 times"},
    {"no number", "", "F8 x F8 Esc t m n 0 Enter", "x", "is no count"},
    {"on each marked line", "a\nb\nc\nd\n", "F8 End ; F8 Down Home Shift+Down Shift+Down Esc t m l",
     "a;\nb;\nc;\nd\n", "Played 2 lines"},
    {"on marked lines that grow", "a\nb\nc", "F8 End Enter - F8 Down Home Shift+Down Shift+End Esc t m l",
     "a\n-\nb\n-\nc\n-", "Played 2 lines"},
    {"on a marked last line", "a\nb", "F8 End ; F8 Down Home Shift+End Esc t m l", "a;\nb;", "Played 1 line"},
    {"on lines, nothing marked", "a\n", "F8 x F8 Esc t m l", "xa\n", "Nothing is marked"},
    {"undo of lines", "a\nb\nc\n", "F8 End ; F8 Down Shift+Down Shift+Down Esc t m l Ctrl+Z", "a;\nb\nc\n",
     NULL},
    {"undo inside", "", "F8 a b Left Right c Ctrl+Z F8 Esc 3 F7", "abababab", NULL},
    {"undo inside, undone", "", "F8 a b Left Right c Ctrl+Z F8 Esc 3 F7 Ctrl+Z", "ab", NULL},
    {"not found", "a\n", "F8 Ctrl+F q Enter x F8 F7", "xa\n", "stopped at step 3 of 4, Enter: “q” is not in"},
    {"a paste", "", "F8 <ab> Enter F8 F7", "ab\nab\n", NULL},
    {"a paste into a prompt", "one two\n", "F8 Ctrl+F <tw> Enter x F8 Ctrl+Home F7", "one xxtwo\n", NULL},
    {"questions answered", "berth\nberth\n", "F8 Ctrl+R b e Enter B E Enter r k F8 Ctrl+Home Esc 3 F7",
     "BErth\nBErth\n", NULL},
    {"escaping", "a\n", "F8 Ctrl+F q Esc x F8 F7", "xxa\n", NULL},
    {"two Esc", "a\n", "F8 Esc f Esc Esc x F8 F7", "xxa\n", NULL},
    {"two Esc with time between", "a\n", "F8 Esc f ~ Esc ~ Esc x F8 F7", "xxa\n", NULL},
    {"a count inside", "", "F8 Esc 3 Enter x F8 F7", "xxxxxx", NULL},
    {"command by name", "b\na\n", "F8 Ctrl+P s o r t - l i n e s Enter F8 F7", "a\nb\n", NULL},
    {"growing numbers", "a\nb\nc\n", "F8 Home Esc t g Space Down F8 Esc 2 F7", "1 a\n2 b\n3 c\n", NULL},
    {"marks", "ab\ncd\n", "F8 Shift+Right Ctrl+X Down Home F8 F7", "b\nd\n", NULL},
    {"go to a line", "a\nb\nc\n", "F8 Ctrl+G 2 Enter x F8 F7", "a\nxxb\nc\n", NULL},
    {"from the shelf", "abc\n", "F8 Shift+Right Ctrl+X End Esc e s Enter Home F8 F7", "cab\n", NULL},
    {"the pad", "a\nb\nc\n", "F8 Esc g s s s Esc x F8 Ctrl+Home F7", "a\nb\nxxc\n", NULL},
    {"columns", "a\nb\n", "F8 Esc m c Down - Esc Esc F8 Ctrl+Home F7", "--a\n--b\n", NULL},
    {"completion", "kiosk\n\n", "F8 Ctrl+End k i Esc e k Space F8 F7", "kiosk\n\nkiosk kiosk ", NULL},
    {"help in between", "a\n", "F8 F1 Down Esc x F8 F7", "xxa\n", NULL},
    {"settings", "a\n", "F8 Esc h s w r a p Enter Esc x F8 F7", "xxa\n", NULL},
    {"history", "a\n", "x Left F8 y Left Esc e h Down Enter F8", "xa\n", NULL},
    {"bookmarks and jumps", "a\nb\nc\n", "F8 Esc g k Ctrl+End Esc g j x Down F8 F7", "xa\nbx\nc\n", NULL},
    {"matches listed", "a b a\nc a\n", "F8 Ctrl+F a Enter Esc s l Down Enter Delete F8", "a b a\nc \n", NULL},
    {"a question answered by Esc", "berth\nberth\n", "F8 Ctrl+R b e Enter B E Enter Esc x F8 F7",
     "xxberth\nberth\n", NULL},
    {"nothing recorded", "a\n", "F7", "a\n", "Nothing was recorded yet"},
    {"an empty recording", "a\n", "F8 F8 F7", "a\n", "Nothing was recorded yet"},
    {"what led to the end is no part", "", "F8 a Esc t o F7", "aa", NULL},
    {"nor the list of commands", "", "F8 a Ctrl+P r e c o r d - k e y s Enter F7", "aa", NULL},
    {"playing oneself", "", "F8 a F7 b F8 F7", "abab", NULL},
    {"what does nothing stops it", "", "F8 a Ctrl+F12 b F8 F7", "aba", "stopped at step 2 of 3, Ctrl+F12"},
    {"look only", "a\n", "F8 x Backspace F8 Ctrl+P l o o k - o n l y Enter F7", "a\n", "stopped at step 1"},
};

TEST(play_does_what_the_hand_did)
{
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].name);
        Editor *ed = editors_start(cases[i].before, strlen(cases[i].before), 24, 100);
        press(ed, cases[i].keys);
        CHECK(!ed->layer && !playing_on(ed));
        text_is(ed, cases[i].after);
        if (cases[i].says)
            check_result(strstr(ed->notices.text, cases[i].says) != NULL, __FILE__, __LINE__,
                         "it says “%s”, wanted “%s”", ed->notices.text, cases[i].says);
        app_free(ed);
    }
    check_case(NULL);
}

TEST(recording_is_shown)
{
    Editor *ed = editors_start("a\n", 2, 24, 100);
    editors_press(ed, "F8 x");
    CHECK(strstr(editors_row(ed, 0), "recording"));
    CHECK(editors_show(ed, "F8 Stop recording"));
    editors_press(ed, "F8");
    CHECK(!strstr(editors_row(ed, 0), "recording"));
    app_free(ed);
}

/* Random keys, played from the same beginning, lead to the same text and place; and one undo leads back. */
TEST(random_keys_play_the_same)
{
    static const char *const keys[] = {"a",         "b",           "Enter",  "Left",      "Right",
                                       "Up",        "Down",        "Home",   "End",       "Delete",
                                       "Backspace", "Shift+Right", "Ctrl+X", "Ctrl+V",    "Space",
                                       "Ctrl+Z",    "Ctrl+W",      "Ctrl+K", "Ctrl+Left", "Esc l d"};
    static const char text[] = "grey heron\nberth 4\n\ntide = low\n";
    for (int round = 0; round < 300; round++) {
        Editor *hand = editors_start(text, sizeof text - 1, 24, 80);
        Editor *again = editors_start(text, sizeof text - 1, 24, 80);
        editors_press(hand, "F8");
        bool undone = false;
        for (unsigned n = 1 + check_random(25); n > 0; n--) {
            unsigned k = check_random(sizeof keys / sizeof *keys);
            undone = undone || strcmp(keys[k], "Ctrl+Z") == 0;
            editors_press(hand, keys[k]);
        }
        editors_press(hand, "F8");
        const Recorded *r = recording_last(hand);
        CHECK(r);
        playing_start(again, r, NULL, PLAY_TIMES, 1);
        playing_finish(again, 0);
        Text a = view_text(hand->panes.view), b = view_text(again->panes.view);
        char *want = text_string(a, 0, text_len(a));
        if (!strstr(again->notices.text, "stopped at"))
            text_is(again, want);
        free(want);
        (void)b;
        if (!undone && doc_changed(again->panes.view->file->doc)) {
            editors_press(again, "Esc Esc Ctrl+Z");
            text_is(again, text);
        }
        app_free(hand);
        app_free(again);
        if (check_failed())
            break;
    }
}

/* ---- as text ---- */

TEST(text_form_comes_back)
{
    for (int round = 0; round < 3000; round++) {
        Recorded r = {0}, back = {0};
        Bytes first = {0}, second = {0};
        Err e = {""};
        unsigned line;
        for (unsigned n = check_random(12); n > 0; n--) {
            char bytes[6];
            size_t len = check_random(6);
            for (size_t i = 0; i < len; i++)
                bytes[i] = "]\"\\\n\t\xe9\xc3x"[check_random(8)];
            switch (check_random(5)) {
            case 0:
                recorded_add(&r, RECORDED_KEY, (Key){.code = (KeyCode)(K_ENTER + check_random(20))}, NULL, 0);
                break;
            case 1:
                recorded_add(&r, RECORDED_PASTE, (Key){0}, bytes, len);
                break;
            case 2:
                recorded_add(&r, check_random(2) ? RECORDED_PAUSE : RECORDED_ANSWER, (Key){0}, "Keep", 4);
                break;
            case 3:
                recorded_add(&r, RECORDED_KEY,
                             (Key){.code = K_CHAR, .ch = 'a' + check_random(26), .mods = MOD_CTRL}, NULL, 0);
                break;
            default:
                recorded_add(&r, RECORDED_KEY,
                             check_random(4)
                                 ? (Key){.code = K_CHAR, .ch = (unsigned char)" ]\"\\x-#"[check_random(7)]}
                                 : (Key){.code = K_BYTE, .ch = 0x80 + check_random(64)},
                             NULL, 0);
            }
        }
        recorded_write(&r, &first);
        CHECK(!strstr(bytes_str(&first), "]]"));
        check_result(recorded_read(bytes_str(&first), &back, &e, &line), __FILE__, __LINE__,
                     "line %u: %s\n%s", line, e.text, bytes_str(&first));
        recorded_write(&back, &second);
        CHECK_STR(bytes_str(&second), bytes_str(&first));
        CHECK_INT(back.n, r.n);
        recorded_free(&r);
        recorded_free(&back);
        bytes_free(&first);
        bytes_free(&second);
        if (check_failed())
            break;
    }
}

TEST(text_form_says_what_is_wrong)
{
    static const struct {
        const char *text, *want;
        unsigned line;
    } bad[] = {
        {"Home\nCtrl+Foo\n", "there is no key “Ctrl+Foo”", 2},
        {"\"open", "the quotation mark at the end is missing", 1},
        {"\n\n\"a\\q\"", "after a backslash", 3},
        {"\"\\x4\"", "after a backslash", 1},
        {"paste", "stands in quotation marks", 1},
        {"answer Replace", "stands in quotation marks", 1},
    };
    for (size_t i = 0; i < sizeof bad / sizeof *bad; i++) {
        Recorded r = {0};
        Err e = {""};
        unsigned line = 0;
        CHECK(!recorded_read(bad[i].text, &r, &e, &line));
        CHECK(strstr(e.text, bad[i].want));
        CHECK_INT(line, bad[i].line);
        recorded_free(&r);
    }
    Recorded r = {0};
    Err e;
    unsigned line;
    CHECK(recorded_read("-- a remark\nHome Home\n\"a\\n\" -- another\n\r\n", &r, &e, &line));
    CHECK_INT(r.n, 4);
    CHECK_INT(r.steps[3].key.code, K_ENTER);
    recorded_free(&r);
}
