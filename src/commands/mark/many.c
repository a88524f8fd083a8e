#include "commands/mark/many.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/system.h"
#include "base/words.h"
#include "edit/finder.h"
#include "edit/move.h"
#include "session/session_files.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/columns.h"
#include "view/cursors.h"
#include "view/hiding.h"

#include <stdio.h>
#include <stdlib.h>

enum {
    SAME_MOST = 64 * 1024, /* bytes of a mark that is looked for elsewhere */
    SLICE = 12,            /* ms that are looked before keys are heard again */
    STEP = 1 << 20,
};

/* ---- what is the same ---- */

/* The mark, or with none the word at the cursor, which is marked then. */
static bool meant(Editor *ed, size_t *from, size_t *to)
{
    View *v = ed->panes.view;
    cursors_follow(v);
    if (view_marked(v, from, to) && !v->columns) {
        if (*to - *from <= SAME_MOST)
            return true;
        say(ed, "That is too much to look for; mark less than 64 KiB");
        return false;
    }
    if (!move_word_at(view_text(v), v->cursor.at, from, to)) {
        say(ed, "There is no word at the cursor; mark what is to be the same");
        return false;
    }
    return true;
}

/* Looks for it, letter by letter; a word only where it is a whole one. */
static Finder *finder_for(Editor *ed, size_t from, size_t to, bool word)
{
    Err e = {""};
    size_t mistake;
    char *bytes = text_string(view_text(ed->panes.view), from, to);
    FindWhat what = {.what = bytes, .len = to - from, .letters = CASE_EXACT, .words = word};
    Finder *f = finder_new(&what, &e, &mistake);
    free(bytes);
    if (!f)
        warn(ed, "%s", e.text);
    return f;
}

/* Marks from where it begins, the cursor at its end, or the other way round, as the view's own. */
static Cursor marking(const View *v, Match m)
{
    bool back = v->marking != MARK_NONE && v->cursor.at < v->mark.at;
    return back ? (Cursor){.at = m.from, .mark = m.to} : (Cursor){.at = m.to, .mark = m.from};
}

static void mark_word(View *v, size_t from, size_t to)
{
    v->mark.at = from;
    v->marking = MARK_SHIFT;
    view_go(v, to);
}

static bool shown(const View *v, size_t at)
{
    size_t line = move_line_start(view_text(v), at);
    return hiding_on(v, line) == line;
}

/* ---- the next one ---- */

static bool taken(const View *v, Match m)
{
    size_t from, to, i = cursors_after(v, m.from + 1), n = cursors_count(v);
    if (!v->cursors) {
        view_marked(v, &from, &to);
        return m.from < to && m.to > from;
    }
    if (i < n)
        cursors_marked(v, i, &from, &to);
    return i < n && m.to > from;
}

/* From `at` to `end`, one that is not taken and in sight. */
static bool next_free(Editor *ed, Finder *f, size_t at, size_t end, Match *m)
{
    const View *v = ed->panes.view;
    while (at < end) {
        size_t until = at + STEP < end ? at + STEP : end;
        while (at < until && finder_step(f, at, until, end, m) == FOUND) {
            if (!taken(v, *m) && shown(v, m->from))
                return true;
            at = finder_after(f, *m);
        }
        at = until > at ? until : at;
        if (stop_wanted(ed->stop))
            return false;
    }
    return false;
}

static void run_next_same(Editor *ed, const Args *args)
{
    View *v = ed->panes.view;
    size_t from, to;
    Match m;
    (void)args;
    if (!meant(ed, &from, &to))
        return;
    bool word = v->marking == MARK_NONE || cursors_of_words(v);
    if (v->marking == MARK_NONE)
        mark_word(v, from, to);
    Finder *f = finder_for(ed, from, to, word);
    if (!f)
        return;
    finder_text(f, view_text(v));
    bool found = next_free(ed, f, to, text_len(view_text(v)), &m) || next_free(ed, f, 0, from, &m);
    finder_free(f);
    if (found) {
        v->marking = MARK_SHIFT; /* so that moving goes on without it */
        cursors_add(v, marking(v, m));
        cursors_set_of_words(v, word);
        if (m.from < from)
            say(ed, "On from the top");
    } else if (v->cursors) {
        say(ed, "All %s are taken already", AMOUNT(cursors_count(v), "place"));
    } else {
        say(ed, "There is no other such %s%s", word ? "word" : "place",
            v->hiding ? " in the lines shown" : "");
    }
}

static const Command cmd_mark_next_same = {
    .name = "mark-next-same",
    .label = "Next same, too",
    .letter = 'e',
    .help = "Take the next place with the same word, or mark, too: what you type goes to all of them",
    .more = "Each gets a cursor of its own. Moving, marking, deleting, cutting, copying, pasting, letter "
            "case, numbers, "
            "comments work at all of them, and are one step of undo. Esc Esc goes back to one.",
    .words = "multiple cursors many places select occurrence",
    .hint = "Next same",
    .flags = CMD_FILE,
    .run = run_next_same,
};

/* ---- all of them ---- */

/* Looking for all, in steps between keys. */
typedef struct SameSearch {
    Editor *ed;
    Task task;
    FileId file;
    unsigned long version;
    Finder *finder;
    size_t at, from; /* so far it was looked; the one at the cursor */
    size_t cursor;
    bool word, back;
    Cursor *all;
    size_t n, own, hidden;
} SameSearch;

static void free_looking(SameSearch *l)
{
    tasks_remove(&l->ed->session->tasks, &l->task);
    l->ed->same = NULL;
    finder_free(l->finder);
    free(l->all);
    free(l);
}

void many_end(Editor *ed)
{
    if (ed->same)
        free_looking(ed->same);
}

/* The view it is for, while nothing has happened to it. */
static View *view_of(const SameSearch *l)
{
    View *v = l->ed->panes.view;
    bool same = v->file && v->file->id == l->file && doc_version(v->file->doc) == l->version &&
                v->cursor.at == l->cursor;
    return same ? v : NULL;
}

static void look(SameSearch *l, const View *v, size_t to)
{
    Match m;
    while (l->at < to && l->n <= CURSORS_MOST &&
           finder_step(l->finder, l->at, to, text_len(view_text(v)), &m) == FOUND) {
        l->at = finder_after(l->finder, m);
        if (!shown(v, m.from)) {
            l->hidden++;
            continue;
        }
        l->all = array_room(l->all, l->n, sizeof *l->all);
        l->own = m.from <= l->from ? l->n : l->own;
        l->all[l->n++] =
            l->back ? (Cursor){.at = m.from, .mark = m.to} : (Cursor){.at = m.to, .mark = m.from};
    }
    l->at = l->at > to ? l->at : to;
}

static void conclude(SameSearch *l, View *v)
{
    Editor *ed = l->ed;
    size_t n = l->n, hidden = l->hidden;
    bool word = l->word;
    if (n > CURSORS_MOST) {
        say(ed, "There are more than a million such places; {replace-all} changes as many as you like");
    } else if (n < 2) {
        say(ed, "There is no other such %s%s", word ? "word" : "place", hidden ? " in the lines shown" : "");
    } else {
        cursors_set(v, l->all, n, l->own, MARK_SHIFT);
        l->all = NULL;
        cursors_set_of_words(v, word);
        if (hidden)
            say(ed, "%s; %zu more in hidden lines are left alone", AMOUNT(n, "cursor"), hidden);
        else
            say(ed, "%s; Esc Esc goes back to one", AMOUNT(n, "cursor"));
    }
    free_looking(l);
}

static void look_on(SameSearch *l)
{
    View *v = view_of(l);
    if (!v) {
        say(l->ed, "Looking for the same places ended, as you went on");
        free_looking(l);
        return;
    }
    size_t len = text_len(view_text(v));
    finder_text(l->finder, view_text(v));
    uint64_t until = system_now_ms() + SLICE;
    do
        look(l, v, l->at + STEP < len ? l->at + STEP : len);
    while (l->at < len && l->n <= CURSORS_MOST && system_now_ms() < until);
    if (l->at >= len || l->n > CURSORS_MOST)
        conclude(l, v);
}

static void poll_looking(void *ctx)
{
    look_on(ctx);
}

static int wait_looking(const void *ctx)
{
    (void)ctx;
    return 0;
}

static void cancel_looking(void *ctx)
{
    SameSearch *l = ctx;
    say(l->ed, "There is one cursor, as before");
    free_looking(l);
}

static void words_of_looking(const void *ctx, char out[TASK_WORDS_MAX])
{
    const SameSearch *l = ctx;
    const OpenFile *f = session_file(l->ed->session, l->file);
    snprintf(out, TASK_WORDS_MAX, "Looking for the same: %d %%",
             f ? (int)(100 * (double)l->at / ((double)text_len(doc_text(f->doc)) + 1)) : 0);
}

static const TaskKind looking_task = {
    .poll = poll_looking, .wait = wait_looking, .cancel = cancel_looking, .words = words_of_looking};

static void run_all_same(Editor *ed, const Args *args)
{
    View *v = ed->panes.view;
    size_t from, to;
    (void)args;
    many_end(ed);
    if (!meant(ed, &from, &to))
        return;
    bool word = v->marking == MARK_NONE || cursors_of_words(v);
    if (v->marking == MARK_NONE)
        mark_word(v, from, to);
    Finder *f = finder_for(ed, from, to, word);
    if (!f)
        return;
    SameSearch *l = ed->same = mem_get(sizeof *l);
    *l = (SameSearch){.ed = ed,
                      .file = v->file->id,
                      .version = doc_version(v->file->doc),
                      .finder = f,
                      .from = from,
                      .cursor = v->cursor.at,
                      .word = word,
                      .back = v->cursor.at < v->mark.at};
    tasks_add(&ed->session->tasks, &l->task, &looking_task, l);
    do
        look_on(l);
    while (ed->session->rules.batch && ed->same); /* the next command waits for it */
}

static const Command cmd_mark_all_same = {
    .name = "mark-all-same",
    .label = "All the same",
    .letter = 's',
    .help = "Take all places with the same word, or mark: what you type goes to all of them",
    .more = "Those in hidden lines are left alone. Esc Esc goes back to one cursor.",
    .words = "multiple cursors many places select occurrences rename",
    .hint = "All the same",
    .flags = CMD_FILE,
    .run = run_all_same,
};

/* ---- on each line ---- */

static void put_on_lines(Editor *ed, size_t first, size_t last, const Columns *block)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t n = 0, hidden = 0, own = v->cursor.at, at = 0;
    if (last - first >= CURSORS_MOST) {
        say(ed, "That is more than a million lines; mark fewer");
        return;
    }
    Cursor *all = mem_get((last - first + 1) * sizeof *all);
    for (size_t line = first; line <= last; line++) {
        size_t from = text_line_start(t, line), to = from;
        if (!shown(v, from)) {
            hidden++;
            continue;
        }
        if (block)
            columns_part(v, block, line, &from, &to);
        at = from <= own ? n : at;
        all[n++] = (Cursor){.at = to, .mark = from};
    }
    bool marks = block && block->left < block->right;
    if (n == 0) {
        free(all);
        return;
    }
    cursors_set(v, all, n, at, marks ? MARK_SHIFT : MARK_NONE);
    if (hidden)
        say(ed, "%s; %s hidden and left alone", AMOUNT(cursors_count(v), "cursor"), AMOUNT(hidden, "line"));
    else
        say(ed, "%s; Esc Esc goes back to one", AMOUNT(cursors_count(v), "cursor"));
}

static void run_on_lines(Editor *ed, const Args *args)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    Columns c;
    size_t from, to;
    (void)args;
    if (columns_marked(v, &c))
        put_on_lines(ed, c.first, c.last, &c);
    else if (view_marked(v, &from, &to) && text_line_of(t, from) < text_line_of(t, to - 1))
        put_on_lines(ed, text_line_of(t, from), text_line_of(t, to - 1), NULL);
    else
        say(ed, "Mark the lines first: at least two");
}

static const Command cmd_cursor_on_lines = {
    .name = "cursor-on-lines",
    .label = "Cursor on each marked line",
    .letter = 'r',
    .help = "Put a cursor at the start of each marked line; of marked columns, one on each line's part",
    .more = "End takes all of them to their lines' ends. Esc Esc goes back to one cursor.",
    .words = "multiple cursors many places column",
    .hint = "On each line",
    .flags = CMD_FILE,
    .run = run_on_lines,
};

/* ---- back ---- */

static const char *only_one(const Editor *ed)
{
    return ed->panes.view->cursors ? NULL : "There is but one cursor";
}

static void run_one(Editor *ed, const Args *args)
{
    View *v = ed->panes.view;
    (void)args;
    cursors_end(v);
    view_drop_mark(v);
    say(ed, "There is one cursor again");
}

static const Command cmd_one_cursor = {
    .name = "one-cursor",
    .label = "One cursor again",
    .letter = 'o',
    .help = "Of many cursors keep the one that the screen follows",
    .words = "single end multiple",
    .hint = "One cursor",
    .disabled_reason = only_one,
    .run = run_one,
};

const Command *const many_commands[] = {
    &cmd_mark_next_same, &cmd_mark_all_same, &cmd_cursor_on_lines, &cmd_one_cursor, NULL,
};
