#include "search.h"

#include "mem.h"
#include "move.h"
#include "panel.h"
#include "sys.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { COUNT_SLICE = 10 /* ms */, LIST_MAX = 5000 };

static Search *search_of(Editor *ed)
{
    if (!ed->search)
        ed->search = mem_get(sizeof *ed->search);
    return ed->search;
}

void search_free(Editor *ed)
{
    if (!ed->search)
        return;
    finder_free(ed->search->finder);
    text_drop(&ed->search->counted);
    free(ed->search->what);
    free(ed->search);
}

/* ---- what is looked for ---- */

/* Makes the finder for the present words and options. False with the reason in e. */
static bool prepare(Editor *ed, Err *e, size_t *mistake)
{
    Search *s = search_of(ed);
    FindWhat w = {s->what, strlen(s->what), s->letters, s->words, s->expression};
    finder_free(s->finder);
    s->counting = s->complete = false;
    s->version = 0;
    s->finder = finder_new(&w, e, mistake);
    return s->finder != NULL;
}

static void set_what(Search *s, const char *what)
{
    char *copy = mem_string(what);
    free(s->what);
    s->what = copy;
}

/* The part of the text that is searched. */
static void range_of(const Editor *ed, size_t *from, size_t *to)
{
    const Search *s = ed->search;
    *from = 0;
    *to = text_len(view_text(&ed->view));
    if (s->in_mark && ed->search_to > ed->search_from) {
        *from = ed->search_from;
        *to = ed->search_to < *to ? ed->search_to : *to;
    }
}

static const char *options_words(const Search *s)
{
    static char words[96];
    bool exact = s->finder ? finder_exact(s->finder) : s->letters == CASE_EXACT;
    snprintf(words, sizeof words, "%s%s%s%s%s", s->letters == CASE_AUTO ? "auto: " : "", exact ? "exact case" : "any case",
             s->words ? " · whole words" : "", s->expression ? " · expression" : "", s->in_mark ? " · in the mark" : "");
    return words;
}

/* ---- going to matches ---- */

/* What a find prompt remembers. */
typedef struct Ask {
    size_t origin, top;   /* where the search began; Esc returns there */
    bool back, choosing;  /* choosing: Tab shows the options */
    bool replace, all;    /* it is the first prompt of replacing; of replacing all */
    MarkKind marking;
    size_t mark;
    char mistake[600];
} Ask;

typedef enum Went { WENT_NOWHERE, WENT, WENT_AROUND, WENT_TOO_HARD, WENT_ON } Went;

enum { STEP = 8 * 1024 * 1024, SLICE = 25 /* ms */ };

/* The next step of a search; WENT_ON: nothing found yet, and not at the end. */
static Went step(Editor *ed, Match *m)
{
    Search *s = ed->search;
    Seek *k = &s->seek;
    size_t from, to;
    Found found;
    range_of(ed, &from, &to);
    if (k->back) {
        size_t low = k->wrapped && k->origin > from ? k->origin : from;
        size_t start = k->at > low + STEP ? k->at - STEP : low;
        found = finder_before(s->finder, start, k->at, m);
        k->at = start;
        if (found == FOUND_NONE && start > low)
            return WENT_ON;
    } else {
        size_t high = k->wrapped ? k->origin : to;
        size_t until = high - k->at > STEP && k->at < high ? k->at + STEP : (size_t)-1;
        found = finder_step(s->finder, k->at, until, to, m);
        k->at = until;
        if (found == FOUND_NONE && until != (size_t)-1)
            return WENT_ON;
    }
    if (found == FOUND_TOO_HARD)
        return WENT_TOO_HARD;
    if (found == FOUND)
        return k->wrapped ? WENT_AROUND : WENT;
    if (k->wrapped)
        return WENT_NOWHERE;
    k->wrapped = true;
    k->at = k->back ? to + 1 : from;
    return WENT_ON;
}

static Went seek_for(Editor *ed, Match *m, unsigned ms)
{
    Search *s = ed->search;
    uint64_t until = sys_now_ms() + ms;
    finder_text(s->finder, view_text(&ed->view));
    for (;;) {
        Went went = step(ed, m);
        if (went != WENT_ON || sys_now_ms() >= until) {
            s->seek.active = went == WENT_ON;
            return went;
        }
    }
}

static void seek_begin(Editor *ed, size_t at, bool back, Ask *a)
{
    size_t from, to;
    range_of(ed, &from, &to);
    at = at < from ? from : at > to + 1 ? to + 1 : at;
    ed->search->seek =
        (Seek){.active = true, .back = back, .origin = at, .at = at, .version = doc_version(ed->view.file->doc), .ask = a};
}

/* Is it anywhere? Only asked where the answer comes at once. */
static bool is_there(Editor *ed)
{
    Match m;
    seek_begin(ed, 0, false, NULL);
    Went went = seek_for(ed, &m, 200);
    ed->search->seek.active = false;
    return went == WENT || went == WENT_AROUND;
}

static void show_match(Editor *ed, Match m)
{
    View *v = &ed->view;
    view_go(v, m.from);
    ed->match_now = m;
    ed->search->shown = true;
}

/* Would a looser search find something? Says which. */
static const char *looser(Editor *ed)
{
    Search *s = ed->search;
    FindCase letters = s->letters;
    bool words = s->words, in_mark = s->in_mark;
    Err e;
    size_t mistake;
    const char *help = "";
    if (s->finder && finder_exact(s->finder)) {
        s->letters = CASE_ANY;
        if (prepare(ed, &e, &mistake) && is_there(ed))
            help = " With any letter case it is there: Tab, then c.";
        s->letters = letters;
    }
    if (!*help && words) {
        s->words = false;
        if (prepare(ed, &e, &mistake) && is_there(ed))
            help = " As a part of words it is there: Tab, then w.";
        s->words = words;
    }
    if (!*help && in_mark) {
        s->in_mark = false;
        if (prepare(ed, &e, &mistake) && is_there(ed))
            help = " Outside the mark it is there: Tab, then m.";
        s->in_mark = in_mark;
    }
    prepare(ed, &e, &mistake);
    return help;
}

static void not_found(Editor *ed)
{
    const char *help = looser(ed);
    warn(ed, "“%s” is not in %s (%s).%s", ed->search->what, ed->search->in_mark ? "the mark" : "the text",
         options_words(ed->search), help);
}

static void say_around(Editor *ed, bool back)
{
    Bytes note = {0};
    search_count_on(ed);
    search_note(ed, &note);
    say(ed, "That was the %s match; on at %s%s%s", back ? "first" : "last", back ? "the last" : "the first",
        note.len ? ": " : "", bytes_str(&note));
    bytes_free(&note);
}

/* What a search has come to, for the prompt that waits for it or, without one, for the text. */
static void arrive(Editor *ed, Went went, Match m)
{
    Search *s = ed->search;
    Ask *a = s->seek.ask;
    if (went == WENT_ON)
        return;
    if (went == WENT || went == WENT_AROUND) {
        show_match(ed, m);
        if (!a && went == WENT_AROUND)
            say_around(ed, s->seek.back);
        search_count_on(ed);
        return;
    }
    if (a) {
        view_go(&ed->view, a->origin);
        snprintf(a->mistake, sizeof a->mistake, "%s", went == WENT_NOWHERE ? "not there" : "takes too long");
    } else if (went == WENT_NOWHERE) {
        not_found(ed);
    } else {
        warn(ed, "This expression takes too long here; the search was stopped");
    }
}

bool search_seek_on(Editor *ed)
{
    Search *s = ed->search;
    Match m;
    if (!s || !s->seek.active)
        return false;
    if (!s->finder || s->seek.version != doc_version(ed->view.file->doc)) { /* typed on: no longer wanted */
        s->seek.active = false;
        return false;
    }
    arrive(ed, seek_for(ed, &m, SLICE), m);
    return s->seek.active;
}

void search_again(Editor *ed, bool back)
{
    Search *s = search_of(ed);
    Match m;
    if (!s->what || !s->finder) {
        search_ask(ed, back, NULL);
        return;
    }
    View *v = &ed->view;
    bool on_match = s->shown && ed->match_now.from == v->cursor.at;
    size_t at = v->cursor.at;
    if (!back && on_match)
        at = ed->match_now.to > at ? ed->match_now.to : move_right(view_text(v), at);
    seek_begin(ed, at, back, NULL);
    arrive(ed, seek_for(ed, &m, SLICE), m);
}

/* ---- counting ---- */

bool search_count_on(Editor *ed)
{
    Search *s = ed->search;
    if (!s || !s->finder || !s->shown || !ed->view.file)
        return false;
    View *v = &ed->view;
    unsigned long version = doc_version(v->file->doc);
    bool same = s->version == version + 1 && text_same(s->counted, view_text(v));
    if (!same || s->cursor != v->cursor.at) { /* begin anew; small texts are done at once */
        text_drop(&s->counted);
        s->counted = text_keep(view_text(v));
        s->version = version + 1;
        s->cursor = v->cursor.at;
        s->count = s->before = 0;
        range_of(ed, &s->count_at, &s->count_end);
        s->counting = true;
        s->complete = false;
    }
    if (!s->counting)
        return false;
    finder_text(s->finder, s->counted);
    uint64_t until = sys_now_ms() + COUNT_SLICE;
    Match m;
    for (unsigned i = 0;; i++) {
        if (i % 64 == 63 && sys_now_ms() >= until)
            return true;
        Found found = finder_next(s->finder, s->count_at, s->count_end, &m);
        if (found != FOUND) {
            s->complete = found == FOUND_NONE;
            s->counting = false;
            return false;
        }
        s->count++;
        s->before += m.from < s->cursor;
        s->count_at = finder_behind(s->finder, m);
    }
}

void search_note(Editor *ed, Bytes *out)
{
    Search *s = ed->search;
    if (!s || !s->shown || !s->count)
        return;
    bytes_printf(out, "%zu of %zu%s", s->before + 1 <= s->count ? s->before + 1 : s->count, s->count,
                 s->complete ? "" : "+");
}

bool search_match_from(Editor *ed, size_t from, size_t end, Match *m)
{
    Search *s = ed->search;
    if (!s || !s->shown || !s->finder)
        return false;
    size_t a, b;
    range_of(ed, &a, &b);
    finder_text(s->finder, view_text(&ed->view));
    from = from < a ? a : from;
    end = end < b ? end : b;
    return from <= end && finder_next(s->finder, from, end, m) == FOUND;
}

/* ---- the find prompt ---- */



static void look(Editor *ed, const char *what, Ask *a)
{
    Search *s = search_of(ed);
    Err e = {""};
    size_t mistake;
    Match m;
    a->mistake[0] = 0;
    s->seek.active = false;
    s->shown = false;
    if (!*what) {
        view_go(&ed->view, a->origin);
        return;
    }
    set_what(s, what);
    if (!prepare(ed, &e, &mistake)) {
        snprintf(a->mistake, sizeof a->mistake, "%s, at character %zu", e.text, mistake + 1);
        return;
    }
    /* Searching back, a match that begins at the origin itself counts. */
    seek_begin(ed, a->origin + (a->back ? 1 : 0), a->back, a);
    arrive(ed, seek_for(ed, &m, SLICE), m);
}

static void find_changed(Editor *ed, const char *what, void *ctx)
{
    look(ed, what, ctx);
}

static bool option_key(Editor *ed, Search *s, Ask *a, Key k)
{
    size_t from, to;
    a->choosing = false;
    if (k.code == K_TAB || k.code == K_ESC)
        return true;
    if (!key_types(k))
        return false;
    a->choosing = true;
    switch (k.ch) {
    case 'c':
        s->letters = (FindCase)((s->letters + 1) % 3);
        break;
    case 'w':
        s->words = !s->words;
        break;
    case 'x':
        s->expression = !s->expression;
        break;
    case 'f':
        s->follow = !s->follow;
        return true;
    case 'm':
        if (!s->in_mark && !(ed->search_to > ed->search_from) && !view_marked(&ed->view, &from, &to))
            say(ed, "Nothing was marked when the search began");
        else
            s->in_mark = !s->in_mark;
        break;
    default:
        say(ed, "A letter switches what the last line shows; Tab goes back");
        return true;
    }
    if (s->what)
        look(ed, s->what, a);
    return true;
}

static bool find_key(Editor *ed, const Input *in, void *ctx)
{
    Ask *a = ctx;
    Search *s = search_of(ed);
    Key k = in->key;
    if (a->choosing)
        return option_key(ed, s, a, k);
    if (k.code == K_TAB) {
        a->choosing = true;
        return true;
    }
    const Binding *b = keymap_find(&ed->keys, k);
    bool next = b && b->command == command_named("find-next", 9), before = b && b->command == command_named("find-before", 11);
    if ((next || before) && s->shown) {
        search_again(ed, before);
        a->origin = ed->view.cursor.at;
        return true;
    }
    return false;
}

static void find_note(Editor *ed, Bytes *out, void *ctx)
{
    const Ask *a = ctx;
    const Seek *k = &search_of(ed)->seek;
    size_t len = text_len(view_text(&ed->view));
    if (a->mistake[0]) {
        bytes_add_str(out, a->mistake);
        return;
    }
    if (k->active)
        bytes_printf(out, "searching %zu%%", len ? k->at / (len / 100 + 1) : 0);
    search_note(ed, out);
    bytes_printf(out, "%s%s", out->len ? " · " : "", options_words(search_of(ed)));
}

static size_t find_hints(Editor *ed, Hint *out, void *ctx)
{
    const Ask *a = ctx;
    const Search *s = search_of(ed);
    if (!a->choosing) {
        out[0] = (Hint){"Tab", "Options", true};
        out[1] = (Hint){"Ctrl+N", "Next", false};
        out[2] = (Hint){"Ctrl+B", "Before", false};
        return 3;
    }
    static const char *const letters[] = {"Letter case: auto", "Letter case: exact", "Letter case: any"};
    out[0] = (Hint){"c", letters[s->letters], true};
    out[1] = (Hint){"w", s->words ? "Whole words: on" : "Whole words: off", true};
    out[2] = (Hint){"x", s->expression ? "Expression: on" : "Expression: off", true};
    out[3] = (Hint){"m", s->in_mark ? "In the mark: on" : "In the mark: off", true};
    size_t n = 4;
    if (a->replace)
        out[n++] = (Hint){"f", s->follow ? "Follow case: on" : "Follow case: off", true};
    out[n++] = (Hint){"Tab", "Back", true};
    return n;
}

static void find_done(Editor *ed, const char *what, void *ctx)
{
    Ask *a = ctx;
    Search *s = search_of(ed);
    if (!*what) {
        say(ed, "There was nothing to look for");
        return;
    }
    s->seek.ask = NULL; /* a search under way goes on without the prompt */
    if (a->mistake[0] && !s->finder)
        warn(ed, "%s", a->mistake);
    else if (a->mistake[0])
        not_found(ed);
}

static void find_cancelled(Editor *ed, void *ctx)
{
    Ask *a = ctx;
    View *v = &ed->view;
    view_go(v, a->origin);
    v->top.at = a->top < text_len(view_text(v)) ? a->top : text_len(view_text(v));
    v->marking = a->marking;
    v->mark.at = a->mark;
    search_of(ed)->shown = search_of(ed)->seek.active = false;
    search_of(ed)->seek.ask = NULL;
}

static Ask *new_ask(Editor *ed, bool back)
{
    View *v = &ed->view;
    Ask *a = mem_get(sizeof *a);
    *a = (Ask){.origin = v->cursor.at, .top = v->top.at, .back = back, .marking = v->marking, .mark = v->mark.at};
    if (!view_marked(v, &ed->search_from, &ed->search_to))
        ed->search_from = ed->search_to = 0;
    search_of(ed)->in_mark = false;
    view_drop_mark(v);
    return a;
}

void search_ask(Editor *ed, bool back, const char *what)
{
    Search *s = search_of(ed);
    Ask *a = new_ask(ed, back);
    PromptSpec p = {
        .label = back ? "Find backwards" : "Find",
        .initial = what ? what : s->what ? s->what : "",
        .history = "find",
        .changed = find_changed,
        .key = find_key,
        .hints = find_hints,
        .note = find_note,
        .done = find_done,
        .cancelled = find_cancelled,
        .select = true,
        .ctx = a,
        .free_ctx = free,
    };
    prompt_ask(ed, &p);
    if (*p.initial)
        look(ed, p.initial, a);
}

/* ---- replacing ---- */

typedef struct Replace {
    OpenFile *file;
    size_t lines, last_line; /* touched so far; where the last one was */
    char *with;
    size_t at, end; /* what is left to be walked, as bytes of the text */
    size_t begin;
    size_t done;
    Match m;
} Replace;

static void free_replace(void *ctx)
{
    free(((Replace *)ctx)->with);
    free(ctx);
}

static void walk(Editor *ed, Replace *r);
static void view_replacements(Editor *ed, Replace *r);

static void report(Editor *ed, size_t matches, size_t lines)
{
    if (matches)
        say(ed, "Replaced %s in %s%s", amount(matches, "place"), amount(lines, "line"),
            ed->batch ? "" : "; Ctrl+Z takes it back");
    else
        say(ed, "Nothing was replaced");
}

/* Counts the line of a replacement once. */
static void touch_line(Editor *ed, Replace *r)
{
    size_t line = text_line_of(view_text(&ed->view), r->m.from);
    r->lines += r->done == 0 || line != r->last_line;
    r->last_line = line;
}

static void finish(Editor *ed, Replace *r)
{
    doc_end(r->file->doc);
    doc_set_verb(r->file->doc, NULL);
    ed->search->shown = false;
    report(ed, r->done, r->lines);
    free_replace(r);
}

static bool replace_one(Editor *ed, Replace *r)
{
    Search *s = ed->search;
    Replacement by = {r->with, strlen(r->with), s->follow};
    Bytes out = {0};
    finder_text(s->finder, view_text(&ed->view));
    if (finder_next(s->finder, r->m.from, r->end, &r->m) != FOUND)
        return false;
    finder_expand(s->finder, &by, &out);
    touch_line(ed, r);
    size_t len = out.len, old = r->m.to - r->m.from;
    bool empty = old == 0;
    bool ok = edit_replace(ed, r->m.from, old, bytes_str(&out), len, STEP_WHOLE);
    bytes_free(&out);
    if (!ok)
        return false;
    r->end = r->end + len - old;
    r->at = r->m.from + len;
    if (empty)
        r->at = r->at < text_len(view_text(&ed->view)) ? move_right(view_text(&ed->view), r->at) : r->end + 1;
    r->done++;
    return true;
}

static void replace_rest(Editor *ed, Replace *r)
{
    Search *s = ed->search;
    Err e = {""};
    Replacement by = {r->with, strlen(r->with), s->follow};
    Text all;
    size_t count, lines, cursor = ed->view.cursor.at;
    finder_text(s->finder, view_text(&ed->view));
    if (!finder_replace_all(s->finder, r->at, r->end, &by, &all, &count, &lines, &e)) {
        warn(ed, "%s", e.text);
        doc_end(r->file->doc);
        free_replace(r);
        return;
    }
    bool ok = count == 0 || doc_replace_text(ed->view.file->doc, 0, text_len(view_text(&ed->view)), all, cursor);
    text_drop(&all);
    doc_end(r->file->doc);
    doc_set_verb(r->file->doc, NULL);
    s->shown = false;
    size_t len = text_len(view_text(&ed->view));
    view_go(&ed->view, cursor < len ? cursor : len);
    if (ok && !(count == 0 && r->done == 0 && !ed->batch))
        report(ed, r->done + count, lines + r->lines);
    else if (ok)
        not_found(ed);
    free_replace(r);
}

/* ---- seeing them first ---- */

/* The line of a match as it would stand, with all its matches replaced. */
static void line_after(Editor *ed, const Replace *r, size_t line, Bytes *out)
{
    Search *s = ed->search;
    Replacement by = {r->with, strlen(r->with), s->follow};
    Text t = view_text(&ed->view);
    size_t start = text_line_start(t, line), end = move_line_end(t, start), at = start;
    Match m;
    for (size_t from = start > r->at ? start : r->at; out->len < 200 && finder_next(s->finder, from, r->end, &m) == FOUND;) {
        if (m.from > end)
            break;
        char bytes[200];
        size_t n = m.from - at < sizeof bytes ? m.from - at : sizeof bytes;
        bytes_add(out, bytes, text_read(t, at, bytes, n));
        finder_expand(s->finder, &by, out);
        at = m.to;
        from = finder_behind(s->finder, m);
    }
    char rest[200];
    size_t n = end > at ? end - at : 0;
    bytes_add(out, rest, text_read(t, at, rest, n < sizeof rest ? n : sizeof rest));
}

static void fill_replacements(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    const Replace *r = ctx;
    Search *s = ed->search;
    Text t = view_text(&ed->view);
    size_t last = (size_t)-1, rows = 0;
    Match m;
    finder_text(s->finder, t);
    for (size_t at = r->at; rows < LIST_MAX && finder_next(s->finder, at, r->end, &m) == FOUND;) {
        size_t line = text_line_of(t, m.from);
        at = finder_behind(s->finder, m);
        if (line == last)
            continue;
        Bytes text = {0};
        char number[32];
        last = line;
        line_after(ed, r, line, &text);
        snprintf(number, sizeof number, "line %zu", line + 1);
        panel_add(p, (long)m.from, bytes_str(&text), NULL, number);
        bytes_free(&text);
        rows++;
    }
}

static void preview_replacement(Editor *ed, long id, void *ctx)
{
    (void)ctx;
    view_go(&ed->view, (size_t)id);
    view_centre(&ed->view);
}

/* Goes on with the questions at the chosen line, or where they stood. */
static void replacement_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    Replace *r = ctx;
    if (id >= 0)
        r->at = (size_t)id;
    walk(ed, r);
}

static void replacements_seen(Editor *ed, void *ctx)
{
    Replace *r = ctx;
    walk(ed, r);
}

static void view_replacements(Editor *ed, Replace *r)
{
    r->at = r->m.from;
    PanelSpec p = {
        .title = "What would stand there",
        .fill = fill_replacements,
        .chosen = replacement_chosen,
        .preview = preview_replacement,
        .cancelled = replacements_seen,
        .ctx = r,
    };
    panel_open(ed, &p);
}

static void one_answered(Editor *ed, char letter, void *ctx)
{
    Replace *r = ctx;
    if (letter == 'r') {
        if (replace_one(ed, r))
            walk(ed, r);
        else
            finish(ed, r);
    } else if (letter == 'k') {
        r->at = finder_behind(ed->search->finder, r->m);
        walk(ed, r);
    } else if (letter == 'a') {
        r->at = r->m.from;
        replace_rest(ed, r);
    } else if (letter == 'v') {
        view_replacements(ed, r);
    } else {
        finish(ed, r);
    }
}

/* Shows the next match and asks. Takes over r. */
static void walk(Editor *ed, Replace *r)
{
    Search *s = ed->search;
    Replacement by = {r->with, strlen(r->with), s->follow};
    Bytes with = {0};
    finder_text(s->finder, view_text(&ed->view));
    if (finder_next(s->finder, r->at, r->end, &r->m) != FOUND) {
        finish(ed, r);
        return;
    }
    show_match(ed, r->m);
    finder_expand(s->finder, &by, &with);
    QuestionSpec q = {
        .answers = {{'r', "Replace"}, {'k', "Keep"}, {'a', "All that are left"}, {'v', "View them first"}},
        .stay = "Stop",
        .done = one_answered,
        .ctx = r,
    };
    question_ask(ed, &q, "Replace this one by “%.60s”?", bytes_str(&with));
    bytes_free(&with);
}

static void start_replacing(Editor *ed, const char *with, bool all)
{
    Search *s = ed->search;
    Err e = {""};
    if (!finder_accepts(s->finder, with, strlen(with), &e)) {
        warn(ed, "%s", e.text);
        return;
    }
    if (!edit_allowed(ed))
        return;
    Replace *r = mem_get(sizeof *r);
    r->with = mem_string(with);
    r->file = ed->view.file;
    range_of(ed, &r->begin, &r->end);
    r->at = r->begin;
    if (!all && !s->in_mark) { /* on from the cursor, where the first match was shown */
        r->at = ed->view.cursor.at;
        finder_text(s->finder, view_text(&ed->view));
        Match m;
        if (finder_next(s->finder, r->at, r->end, &m) != FOUND)
            r->at = r->begin;
    }
    doc_begin(ed->view.file->doc);
    doc_set_verb(ed->view.file->doc, "Replace");
    if (all)
        replace_rest(ed, r);
    else
        walk(ed, r);
}

static void with_given(Editor *ed, const char *with, void *ctx)
{
    start_replacing(ed, with, ctx != NULL);
}

static void replace_what_given(Editor *ed, const char *what, void *ctx)
{
    Ask *a = ctx;
    find_done(ed, what, a);
    search_of(ed)->seek.active = false;
    if (!*what || a->mistake[0])
        return;
    static char label[80];
    snprintf(label, sizeof label, "Replace “%.40s” by", what);
    PromptSpec p = {.label = label, .history = "replace", .done = with_given, .ctx = a->all ? ed : NULL};
    prompt_ask(ed, &p);
}

/* Two words out of a line; a word may stand in quotation marks. Returns how many there were. */
static int two_words(const char *line, char **a, char **b)
{
    char **out[2] = {a, b};
    int n = 0;
    for (const char *p = line; n < 2 && *p;) {
        p += strspn(p, " ");
        char quoted = *p == '"' || *p == '\'' ? *p : 0;
        const char *start = p + (quoted != 0);
        size_t len = quoted ? strcspn(start, quoted == '"' ? "\"" : "'") : strcspn(start, " ");
        if (!*p)
            break;
        *out[n++] = mem_string_n(start, len);
        p = start + len + (quoted && start[len]);
    }
    return n;
}

static void ask_replace(Editor *ed, const char *what, bool all)
{
    Search *s = search_of(ed);
    Ask *a = new_ask(ed, false);
    a->replace = true;
    a->all = all;
    PromptSpec p = {
        .label = all ? "Replace all" : "Replace",
        .initial = what ? what : s->what ? s->what : "",
        .history = "find",
        .changed = find_changed,
        .key = find_key,
        .hints = find_hints,
        .note = find_note,
        .done = replace_what_given,
        .cancelled = find_cancelled,
        .select = true,
        .ctx = a,
        .free_ctx = free,
    };
    prompt_ask(ed, &p);
    if (*p.initial)
        look(ed, p.initial, a);
}

/* With both words behind its name a command does not ask for them. */
static void replace_words(Editor *ed, const char *args, bool all)
{
    Search *s = search_of(ed);
    char *what = NULL, *with = NULL;
    Err e = {""};
    size_t mistake;
    if (two_words(args, &what, &with) == 2) {
        free(new_ask(ed, false));
        set_what(s, what);
        if (prepare(ed, &e, &mistake))
            start_replacing(ed, with, all);
        else
            warn(ed, "%s, at character %zu of “%s”", e.text, mistake + 1, what);
    } else {
        ask_replace(ed, what, all);
    }
    free(what);
    free(with);
}

void search_replace_ask(Editor *ed, const char *args)
{
    replace_words(ed, args, false);
}

void search_replace_all(Editor *ed, const char *args)
{
    Search *s = search_of(ed);
    if (*args) {
        s->letters = CASE_EXACT; /* a command line means what it says, whatever was looked for before */
        s->words = s->expression = s->follow = false;
    }
    for (; args[0] == '-' && args[1] && (args[2] == ' '); args += 2 + strspn(args + 2, " ")) {
        s->expression = s->expression || args[1] == 'x';
        s->words = s->words || args[1] == 'w';
        s->follow = s->follow || args[1] == 'f';
        if (args[1] == 'i')
            s->letters = CASE_ANY;
        if (!strchr("xwif", args[1])) {
            warn(ed, "replace-all knows -x, -w, -i and -f, not -%c", args[1]);
            return;
        }
    }
    replace_words(ed, args, true);
}

/* ---- the list of matching lines ---- */

/* A row's id: the number of the open file and the place in it. */
enum { FILE_BITS = 10, FILE_MASK = (1 << FILE_BITS) - 1 };

typedef struct MatchList {
    OpenFile *file; /* where it was called from */
    size_t origin;
    bool everywhere;
} MatchList;

static size_t list_file(Editor *ed, Panel *p, size_t number, size_t from, size_t to, size_t rows, bool named)
{
    Search *s = ed->search;
    const OpenFile *f = ed->files[number];
    Text t = doc_text(f->doc);
    size_t last = (size_t)-1;
    Match m;
    finder_text(s->finder, t);
    while (rows < LIST_MAX && finder_next(s->finder, from, to, &m) == FOUND) {
        size_t line = text_line_of(t, m.from);
        from = finder_behind(s->finder, m);
        if (line == last)
            continue;
        last = line;
        char text[200], place[96];
        size_t start = text_line_start(t, line), len = move_line_end(t, start) - start;
        len = text_read(t, start, text, len < sizeof text - 1 ? len : sizeof text - 1);
        text[len] = 0;
        snprintf(place, sizeof place, "%.60s%sline %zu", named ? file_name(f) : "", named ? ", " : "", line + 1);
        panel_add(p, (long)(m.from << FILE_BITS | number), text, NULL, place);
        rows++;
    }
    return rows;
}

static void fill_list(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    const MatchList *l = ctx;
    size_t from, to, rows = 0;
    for (size_t i = 0; i < ed->n_files && i <= FILE_MASK; i++) {
        OpenFile *f = ed->files[i];
        if (f->page || (!l->everywhere && f != l->file))
            continue;
        from = 0;
        to = text_len(doc_text(f->doc));
        if (!l->everywhere)
            range_of(ed, &from, &to);
        rows = list_file(ed, p, i, from, to, rows, l->everywhere);
    }
}

static void go_match(Editor *ed, long id)
{
    editor_show(ed, ed->files[id & FILE_MASK]);
    view_go(&ed->view, (size_t)id >> FILE_BITS);
}

static void preview_match(Editor *ed, long id, void *ctx)
{
    (void)ctx;
    go_match(ed, id);
    view_centre(&ed->view);
}

static void list_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    if (id >= 0)
        go_match(ed, id);
}

static void list_cancelled(Editor *ed, void *ctx)
{
    const MatchList *l = ctx;
    editor_show(ed, l->file);
    view_go(&ed->view, l->origin);
}

void search_list(Editor *ed, bool everywhere)
{
    Search *s = search_of(ed);
    if (!s->finder) {
        say(ed, "Look for something first: Ctrl+F");
        return;
    }
    s->shown = true;
    MatchList *l = mem_get(sizeof *l);
    *l = (MatchList){ed->view.file, ed->view.cursor.at, everywhere};
    PanelSpec p = {
        .title = everywhere ? "Matching lines of all texts" : "Matching lines",
        .fill = fill_list,
        .chosen = list_chosen,
        .preview = preview_match,
        .cancelled = list_cancelled,
        .empty = "No line matches",
        .ctx = l,
        .free_ctx = free,
    };
    panel_open(ed, &p);
}
