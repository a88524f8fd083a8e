/* Many cursors: what a person does at all of them, and random edits against a model that does them one by
 * one. */
#include "check.h"
#include "editors.h"
#include "app/app.h"
#include "base/mem.h"
#include "edit/move.h"
#include "session/session_files.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/cursors.h"
#include "view/hiding.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* The text with | where a cursor stands, the view's own or one of many. */
static void with_cursors(View *v, Bytes *out)
{
    size_t n, at = 0, len = text_len(view_text(v));
    cursors_follow(v);
    const Cursor *all = cursors_all(v, &n);
    for (size_t i = 0; i < cursors_count(v); i++) {
        size_t next = n ? all[i].at : v->cursor.at;
        text_bytes(view_text(v), at, next - at, out);
        bytes_add_str(out, "|");
        at = next;
    }
    text_bytes(view_text(v), at, len - at, out);
}

static const char three[] = "berth = 1\nberth = 2\nberths\nberth = 4\n";

TEST(at_all_places)
{
    static const struct {
        const char *text, *keys, *want, *says;
    } cases[] = {
        {three, "Esc m s", "berth| = 1\nberth| = 2\nberths\nberth| = 4\n", "3 cursors"},
        {three, "Esc m e", "berth| = 1\nberth| = 2\nberths\nberth = 4\n", "2 cursors"},
        {three, "Esc m e Esc m e", "berth| = 1\nberth| = 2\nberths\nberth| = 4\n", "3 cursors"},
        {three, "Esc m e Esc m e Esc m e", "berth| = 1\nberth| = 2\nberths\nberth| = 4\n",
         "All 3 places are taken already"},
        {three, "Esc m s p i e r", "pier| = 1\npier| = 2\nberths\npier| = 4\n", "3 cursors"},
        {three, "Esc m s p i e r Ctrl+Z", "berth| = 1\nberth| = 2\nberths\nberth| = 4\n", "3 cursors"},
        {three, "Esc m s p i e r Ctrl+Z Ctrl+Y", "pier| = 1\npier| = 2\nberths\npier| = 4\n", "3 cursors"},
        {three, "Esc m s p Esc Esc", "p| = 1\np = 2\nberths\np = 4\n", NULL},
        {three, "Esc m s Right Ctrl+Right Backspace x", "berth x| 1\nberth x| 2\nberths\nberth x| 4\n", NULL},
        {three, "Esc m s End Esc t +", "berth = |2\nberth = |3\nberths\nberth = |5\n", NULL},
        {three, "Esc m s Home Delete Delete", "|rth = 1\n|rth = 2\nberths\n|rth = 4\n", NULL},
        {three, "Esc m s Esc t u", "BERTH| = 1\nBERTH| = 2\nberths\nBERTH| = 4\n", NULL},
        {three, "Esc m s End Esc t g", "berth = 11|\nberth = 22|\nberths\nberth = 43|\n", NULL},
        {three, "Esc m s End Enter y", "berth = 1\ny|\nberth = 2\ny|\nberths\nberth = 4\ny|\n", NULL},
        {three, "Esc m s Ctrl+X End Ctrl+V", " = 1berth|\n = 2berth|\nberths\n = 4berth|\n", NULL},
        {"a 1\nb 2\na 3\n", "Esc m s End Shift+Left Ctrl+X Home Ctrl+V", "1|a \nb 2\n3|a \n", NULL},
        {"a 1\nb 2\na 3\n", "Esc m s End Shift+Left Ctrl+X Esc Esc Ctrl+Home Ctrl+V", "1\n3|a \nb 2\na \n",
         NULL},
        {"a 1\nb 2\na 3\n", "Esc m s Ctrl+K Esc Esc Ctrl+End Ctrl+V", "a\nb 2\na\n 1\n 3|", NULL},
        {"a\nb\nc\n", "Ctrl+T Down Down Esc m r x", "x|a\nx|b\nc\n", NULL},
        {"a\nb\nc\n", "Ctrl+T Down Down Esc m r End x", "ax|\nbx|\nc\n", NULL},
        {"a\nb\nc\n", "Right Ctrl+T Down Down Esc m c Esc m r x", "ax|\nbx|\ncx|\n", NULL},
        {"aa\nbb\ncc\n", "Ctrl+T Down Down Right Esc m c Esc m r Esc t u", "A|a\nB|b\nC|c\n", NULL},
        {"a\nb\nc\n", "Esc m r", "|a\nb\nc\n", "Mark the lines first"},
        {"a b a\n", "Esc m s Home", "|a b a\n", NULL},
        {"a b a\n", "Esc m s Esc l c", "# a| b a|\n", NULL},
        {"a b a\n", "Esc m s Ctrl+D", "| b |\n", NULL},
        {"", "Esc m s", "|", "There is no word at the cursor"},
        {"one two\n", "Esc m s", "one| two\n", "There is no other such word"},
        {"aXbX", "Right Shift+Right Esc m s -", "a-|b-|", NULL},
        {"aa b aa\n", "Esc m s Insert c", "c| b c|\n", NULL},
        {"aa b aa\n", "Esc m s Home", "|aa b aa\n", NULL},
        {"a1 a2\n", "Shift+Right Esc m e Left Right Insert c", "ac| ac|\n", NULL},
        {three, "Esc m s Esc l s", "berth| = 1\nberth| = 2\nberths\nberth| = 4\n",
         "works with a single cursor"},
        {three, "Esc m s Ctrl+End x", "berth = 1\nberth = 2\nberths\nberth = 4\nx|", NULL},
        {"(a)\n(a)\n", "Right Esc m s x Esc m i y", "(y|)\n(y|)\n", NULL},
        {"one\ntwo\none\n", "Esc m s Esc 3 Right z", "one\ntwz|o\none\nz|", NULL},
        {"x\nab\nx\n", "Esc m s Esc Esc Down Home Shift+End Ctrl+C Up Esc m s Ctrl+V", "ab|\nab\nab|\n",
         NULL},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Bytes shown = {0};
        check_case(cases[i].keys);
        Editor *ed = editors_start(cases[i].text, strlen(cases[i].text), 24, 80);
        openfile_set_kind(ed->panes.view->file, kind_named("conf"));
        editors_press(ed, cases[i].keys);
        with_cursors(ed->panes.view, &shown);
        CHECK_STR(bytes_str(&shown), cases[i].want);
        CHECK(!cases[i].says || editors_show(ed, cases[i].says));
        bytes_free(&shown);
        app_free(ed);
    }
}

/* ---- against a model ---- */

static const char *const keys[] = {
    "x",           "Backspace",  "Delete",    "Left",    "Right",   "Ctrl+Left",   "Ctrl+Right",
    "Up",          "Down",       "Home",      "End",     "Ctrl+W",  "Ctrl+Delete", "Enter",
    "Shift+Right", "Shift+Left", "Shift+End", "Esc t u", "Esc t +", "Esc t g",     "Esc l i",
    "Esc l c",     "é",          "Esc m w",   "Esc m i", "Tab",     "Ctrl+K",      "Shift+Ctrl+Right",
};
enum { KEYS = sizeof keys / sizeof *keys, BY_LINE_FROM = 20, BY_LINE_TO = 21 };

typedef struct Model {
    Editor *ed; /* with one cursor */
    Anchor at[32], mark[32];
    size_t goal[32];
    bool goal_kept[32];
    size_t n, own;
} Model;

static size_t low(const Model *m, size_t i)
{
    return m->at[i].at < m->mark[i].at ? m->at[i].at : m->mark[i].at;
}

static size_t high(const Model *m, size_t i)
{
    return m->at[i].at > m->mark[i].at ? m->at[i].at : m->mark[i].at;
}

static void at_one(Model *m, size_t i, const char *key, MarkKind marking)
{
    View *v = m->ed->panes.view;
    view_go(v, m->at[i].at);
    v->mark.at = m->mark[i].at;
    v->marking = marking;
    v->goal = m->goal[i];
    v->goal_kept = m->goal_kept[i];
    editors_press(m->ed, key);
    m->at[i].at = v->cursor.at;
    m->mark[i].at = v->marking == MARK_NONE ? v->cursor.at : v->mark.at;
    m->goal[i] = v->goal;
    m->goal_kept[i] = v->goal_kept;
}

/* All one by one, the first one first; of those in a line only the first where that is what is meant. */
static void do_all(Model *m, int k)
{
    View *v = m->ed->panes.view;
    MarkKind marking = v->marking, after = MARK_NONE;
    bool skip[32] = {false};
    for (size_t i = 1, last = 0; i < m->n && k >= BY_LINE_FROM && k <= BY_LINE_TO; i++) {
        Text t = view_text(v);
        size_t end = high(m, i - 1);
        size_t line = text_line_of(t, end - (marking != MARK_NONE && end > low(m, i - 1)));
        last = i == 1 || line > last ? line : last;
        skip[i] = text_line_of(t, low(m, i)) <= last;
    }
    for (size_t i = 0; i < m->n; i++)
        if (!skip[i]) {
            at_one(m, i, keys[k], marking);
            after = v->marking != MARK_NONE ? v->marking : after;
        }
    bool drops =
        k < 3 || strcmp(keys[k], "é") == 0; /* typing and deleting leave no mark, of no width either */
    v->marking = drops ? MARK_NONE : after;
    for (size_t i = 0; drops && i < m->n; i++)
        m->mark[i].at = m->at[i].at;
}

/* Does anything stand so near to another that the order counts? Then the model is no judge. */
static bool too_near(const Model *m, size_t len)
{
    for (size_t i = 1; i < m->n; i++)
        if (low(m, i) <= high(m, i - 1) || low(m, i) > len)
            return true;
    return false;
}

static void take_cursors(Model *m, Doc *doc)
{
    for (size_t i = 0; i < m->n; i++) {
        doc_add_anchor(doc, &m->at[i], m->at[i].at, false);
        doc_add_anchor(doc, &m->mark[i], m->mark[i].at, false);
    }
}

static void drop_cursors(Model *m, Doc *doc)
{
    for (size_t i = 0; i < m->n; i++) {
        doc_remove_anchor(doc, &m->at[i]);
        doc_remove_anchor(doc, &m->mark[i]);
    }
}

/* Cursors on some of the places, not near to each other. */
static void scatter(Model *m, View *many, size_t len)
{
    size_t at = check_random(6);
    Cursor *all = mem_get(32 * sizeof *all);
    for (m->n = 0; m->n < 20 && at <= len; at += 1 + check_random(12))
        all[m->n++] = (Cursor){.at = at, .mark = at};
    for (size_t i = 0; i < m->n; i++) {
        m->at[i].at = m->mark[i].at = all[i].at;
        m->goal_kept[i] = false;
    }
    if (m->n) {
        cursors_set(many, all, m->n, check_random((unsigned)m->n), MARK_NONE);
    } else {
        free(all);
    }
    m->ed->panes.view->marking = MARK_NONE;
}

TEST(many_against_one_by_one)
{
    static const char *const lines[] = {"a\n",       "berth = 17\n", "\n",
                                        "  (x y)\n", "é ü 09\n",     "word another\n"};
    size_t judged = 0, steps = 0;
    for (int round = 0; round < check_rounds(400); round++) {
        char text[400] = "";
        Model m = {0};
        for (int i = 1 + (int)check_random(12); i > 0; i--)
            strcat(text, lines[check_random(6)]);
        Editor *ed = editors_start(text, strlen(text), 24, 80);
        m.ed = editors_start(text, strlen(text), 24, 80);
        openfile_set_kind(ed->panes.view->file, kind_named("conf"));
        openfile_set_kind(m.ed->panes.view->file, kind_named("conf"));
        ed->config.settings.auto_indent = m.ed->config.settings.auto_indent =
            false; /* what is typed, and no more */
        Doc *doc = m.ed->panes.view->file->doc;
        View *v = ed->panes.view;
        scatter(&m, v, strlen(text));
        for (int step = 0; step < 8 && v->cursors && m.n > 1; step++) {
            int k = (int)check_random(KEYS);
            size_t n;
            take_cursors(&m, doc);
            do_all(&m, k);
            drop_cursors(&m, doc);
            editors_press(ed, keys[k]);
            cursors_follow(v);
            steps++;
            size_t len = text_len(view_text(v)), want = text_len(doc_text(doc));
            if (too_near(&m, want))
                break;
            judged++;
            check_case(editors_keys());
            char *x = text_string(view_text(v), 0, len), *y = text_string(doc_text(doc), 0, want);
            CHECK_BYTES(x, len, y, want);
            free(x);
            free(y);
            const Cursor *all = cursors_all(v, &n);
            CHECK_INT(n, m.n);
            for (size_t i = 0; i < n && n == m.n; i++) {
                CHECK_INT(all[i].at, m.at[i].at);
                CHECK(v->marking == MARK_NONE || all[i].mark == m.mark[i].at);
            }
        }
        app_free(ed);
        app_free(m.ed);
    }
    CHECK(judged * 2 > steps);
}

/* Whatever is done at many places, undoing it all gives the text as it was, and redoing what it became. */
TEST(many_and_back)
{
    for (int round = 0; round < check_rounds(200); round++) {
        static const char text[] = "berth 1\n\tberth 22\n\nkiosk berth (berth)\nlast";
        Editor *ed = editors_start(text, strlen(text), 24, 80);
        View *v = ed->panes.view;
        editors_press(ed, "Esc m s");
        for (int i = 0; i < 10; i++)
            editors_press(ed, check_random(4)   ? keys[check_random(KEYS)]
                              : check_random(2) ? "Ctrl+X"
                                                : "Ctrl+V");
        size_t len = text_len(view_text(v)), cursor;
        char *after = text_string(view_text(v), 0, len);
        while (doc_undo(v->file->doc, &cursor))
            continue;
        CHECK(editors_text_is(ed, text));
        while (doc_redo(v->file->doc, &cursor))
            continue;
        char *again = text_string(view_text(v), 0, text_len(view_text(v)));
        CHECK_BYTES(again, text_len(view_text(v)), after, len);
        free(again);
        free(after);
        app_free(ed);
    }
}

/* With lines hidden, what is not seen stays as it is, and stays hidden. */
TEST(many_among_hidden_lines)
{
    char text[4000] = "";
    for (int i = 0; i < 100; i++)
        strcat(text, i % 2 ? "# berth\n" : "berth = 1\n");
    Editor *ed = editors_start(text, strlen(text), 24, 80);
    View *v = ed->panes.view;
    openfile_set_kind(v->file, kind_named("ini"));
    editors_press(ed, "Esc v l Esc m s");
    CHECK(editors_show(ed, "50 cursors; 50 more in hidden lines are left alone"));
    editors_press(ed, "p i e r");
    CHECK_INT(cursors_count(v), 50);
    CHECK_INT(hiding_within(v, 0, text_len(view_text(v))), 50);
    for (size_t i = 0; i < 100; i++) {
        char line[32];
        size_t from = text_line_start(view_text(v), i), to = text_line_end(view_text(v), i);
        text_read(view_text(v), from, line, to - from);
        line[to - from] = 0;
        CHECK_STR(line, i % 2 ? "# berth" : "pier = 1");
    }
    app_free(ed);
}

/* Bookmarks and other views' places stay where they were between what is typed. */
TEST(anchors_among_many)
{
    for (int round = 0; round < check_rounds(500); round++) {
        char bytes[200];
        Text t = {0};
        DocEdit e[20];
        Anchor one[30], each[30];
        size_t n = 0, len = 20 + check_random(100);
        for (size_t i = 0; i < len; i++)
            bytes[i] = (char)('a' + check_random(26));
        text_insert(&t, 0, bytes, len);
        Doc *a = doc_new(text_keep(t)), *b = doc_new(t);
        for (size_t at = check_random(5); at < len && n < 20; n++) {
            size_t removed = check_random(4) < len - at ? check_random(4) : 0;
            removed = removed < len - at ? removed : 0;
            e[n] = (DocEdit){at, removed, "XYZ", check_random(4)};
            at += removed + 1 + check_random(9);
        }
        for (int i = 0; i < 30; i++) {
            size_t at = check_random((unsigned)len + 1);
            bool stays = check_random(2);
            doc_add_anchor(a, &each[i], at, stays);
            doc_add_anchor(b, &one[i], at, stays);
        }
        CHECK(doc_replace_each(a, e, n, STEP_WHOLE, 0));
        for (size_t i = n; i-- > 0;)
            doc_replace(b, e[i].at, e[i].removed, e[i].bytes, e[i].n, STEP_WHOLE, 0);
        size_t x = text_len(doc_text(a)), y = text_len(doc_text(b));
        char *p = text_string(doc_text(a), 0, x), *q = text_string(doc_text(b), 0, y);
        CHECK_BYTES(p, x, q, y);
        CHECK(text_check(doc_text(a)));
        free(p);
        free(q);
        for (int i = 0; i < 30; i++) {
            CHECK_INT(each[i].at, one[i].at);
            doc_remove_anchor(a, &each[i]);
            doc_remove_anchor(b, &one[i]);
        }
        doc_free(a);
        doc_free(b);
    }
}

/* Among undo, redo, recordings that are played, searches and clips, whatever comes: the cursors stand in the
 * text, in order, and none in another. */
TEST(many_with_everything)
{
    static const char *const more[] = {
        "Ctrl+Z",  "Ctrl+Y",         "F8",      "F7",       "Esc m e",
        "Esc m s", "Ctrl+End",       "Ctrl+X",  "Ctrl+V",   "Ctrl+C",
        "Esc m l", "Esc m r",        "Esc Esc", "PageDown", "Ctrl+Home",
        "Esc e r", "Esc l d",        "Esc v l", "Esc v s",  "Esc v x",
        "Ctrl+N",  "Ctrl+F b Enter", "Esc l a", "Esc m c",  "Esc m n 3 Enter z"};
    enum { MORE = sizeof more / sizeof *more };
    for (int round = 0; round < check_rounds(150); round++) {
        static const char text[] = "berth 1\n\tberth 22\n\nkiosk berth (berth)\n# berth\nberth 9\nlast";
        Editor *ed = editors_start(text, strlen(text), 24, 80);
        openfile_set_kind(ed->panes.view->file, kind_named("conf"));
        editors_press(ed, "Esc m s");
        for (int i = 0; i < 40; i++) {
            editors_press(ed, check_random(2) ? keys[check_random(KEYS)] : more[check_random(MORE)]);
            View *v = ed->panes.view;
            size_t n, len = text_len(view_text(v)), before = 0;
            cursors_follow(v);
            const Cursor *all = cursors_all(v, &n);
            check_case(editors_keys());
            for (size_t k = 0; k < n; k++) {
                size_t from, to;
                cursors_marked(v, k, &from, &to);
                CHECK(from <= to && to <= len && all[k].at <= len && (k == 0 || from >= before));
                before = to;
            }
        }
        app_free(ed);
    }
}
