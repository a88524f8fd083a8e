#include "app/find_prompt.h"
#include "base/mem.h"
#include "base/sys.h"
#include "edit/move.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { COUNT_SLICE = 10 /* ms */ };

Search *search_of(Editor *ed)
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
bool search_prepare(Editor *ed, Err *e, size_t *mistake)
{
    Search *s = search_of(ed);
    FindWhat w = {s->what, strlen(s->what), s->letters, s->words, s->expression};
    finder_free(s->finder);
    s->counting = s->complete = false;
    s->version = 0;
    s->finder = finder_new(&w, e, mistake);
    return s->finder != NULL;
}

void search_set_what(Search *s, const char *what)
{
    char *copy = mem_string(what);
    free(s->what);
    s->what = copy;
}

/* The part of the text that is searched. */
void search_range(const Editor *ed, size_t *from, size_t *to)
{
    const Search *s = ed->search;
    *from = 0;
    *to = text_len(view_text(ed->view));
    if (s->in_mark && ed->search_to > ed->search_from) {
        *from = ed->search_from;
        *to = ed->search_to < *to ? ed->search_to : *to;
    }
}

static const char *options_words(const Search *s)
{
    static char words[96];
    bool exact = s->finder ? finder_exact(s->finder) : s->letters == CASE_EXACT;
    snprintf(words, sizeof words, "%s%s%s%s%s", s->letters == CASE_AUTO ? "auto: " : "",
             exact ? "exact case" : "any case", s->words ? " · whole words" : "",
             s->expression ? " · expression" : "", s->in_mark ? " · in the mark" : "");
    return words;
}

/* ---- going to matches ---- */

typedef enum SearchResult {
    SEARCH_NOWHERE,
    SEARCH_FOUND,
    SEARCH_AROUND,
    SEARCH_TOO_HARD,
    SEARCH_ON
} SearchResult;

enum { STEP = 8 * 1024 * 1024, SLICE = 25 /* ms */ };

/* The next step of a search; SEARCH_ON: nothing found yet, and not at the end. */
static SearchResult step(Editor *ed, Match *m)
{
    Search *s = ed->search;
    Seek *k = &s->seek;
    size_t from, to;
    Found found;
    search_range(ed, &from, &to);
    if (k->back) {
        size_t low = k->wrapped && k->origin > from ? k->origin : from;
        size_t start = k->at > low + STEP ? k->at - STEP : low;
        found = finder_before(s->finder, start, k->at, m);
        k->at = start;
        if (found == FOUND_NONE && start > low)
            return SEARCH_ON;
    } else {
        size_t high = k->wrapped ? k->origin : to;
        size_t until = high - k->at > STEP && k->at < high ? k->at + STEP : (size_t)-1;
        found = finder_step(s->finder, k->at, until, to, m);
        k->at = until;
        if (found == FOUND_NONE && until != (size_t)-1)
            return SEARCH_ON;
    }
    if (found == FOUND_TOO_HARD)
        return SEARCH_TOO_HARD;
    if (found == FOUND)
        return k->wrapped ? SEARCH_AROUND : SEARCH_FOUND;
    if (k->wrapped)
        return SEARCH_NOWHERE;
    k->wrapped = true;
    k->at = k->back ? to + 1 : from;
    return SEARCH_ON;
}

static SearchResult seek_for(Editor *ed, Match *m, unsigned ms)
{
    Search *s = ed->search;
    uint64_t until = sys_now_ms() + ms;
    finder_text(s->finder, view_text(ed->view));
    for (;;) {
        SearchResult went = step(ed, m);
        if (went != SEARCH_ON || sys_now_ms() >= until) {
            s->seek.active = went == SEARCH_ON;
            return went;
        }
    }
}

static void seek_begin(Editor *ed, size_t at, bool back, Ask *a)
{
    size_t from, to;
    search_range(ed, &from, &to);
    at = at < from ? from : at > to + 1 ? to + 1 : at;
    ed->search->seek = (Seek){.active = true,
                              .back = back,
                              .origin = at,
                              .at = at,
                              .file = ed->view->file->id,
                              .version = doc_version(ed->view->file->doc),
                              .ask = a};
}

/* Is it anywhere? Only asked where the answer comes at once. */
static bool is_there(Editor *ed)
{
    Match m;
    seek_begin(ed, 0, false, NULL);
    SearchResult went = seek_for(ed, &m, 200);
    ed->search->seek.active = false;
    return went == SEARCH_FOUND || went == SEARCH_AROUND;
}

void search_show_match(Editor *ed, Match m)
{
    View *v = ed->view;
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
        if (search_prepare(ed, &e, &mistake) && is_there(ed))
            help = " With any letter case it is there: Tab, then c.";
        s->letters = letters;
    }
    if (!*help && words) {
        s->words = false;
        if (search_prepare(ed, &e, &mistake) && is_there(ed))
            help = " As a part of words it is there: Tab, then w.";
        s->words = words;
    }
    if (!*help && in_mark) {
        s->in_mark = false;
        if (search_prepare(ed, &e, &mistake) && is_there(ed))
            help = " Outside the mark it is there: Tab, then m.";
        s->in_mark = in_mark;
    }
    search_prepare(ed, &e, &mistake);
    return help;
}

void search_not_found(Editor *ed)
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
static void arrive(Editor *ed, SearchResult went, Match m)
{
    Search *s = ed->search;
    Ask *a = s->seek.ask;
    if (went == SEARCH_ON)
        return;
    if (went == SEARCH_FOUND || went == SEARCH_AROUND) {
        search_show_match(ed, m);
        if (!a && went == SEARCH_AROUND)
            say_around(ed, s->seek.back);
        search_count_on(ed);
        return;
    }
    if (a) {
        view_go(ed->view, a->origin);
        snprintf(a->mistake, sizeof a->mistake, "%s",
                 went == SEARCH_NOWHERE ? "not there" : "takes too long");
    } else if (went == SEARCH_NOWHERE) {
        search_not_found(ed);
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
    if (!s->finder || s->seek.file != ed->view->file->id ||
        s->seek.version != doc_version(ed->view->file->doc)) { /* typed on: no longer wanted */
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
    View *v = ed->view;
    bool on_match = s->shown && ed->match_now.from == v->cursor.at;
    size_t at = v->cursor.at;
    if (!back && on_match)
        at = ed->match_now.to > at ? ed->match_now.to : move_right(view_text(v), at);
    seek_begin(ed, at, back, NULL);
    arrive(ed, seek_for(ed, &m, SLICE), m);
}

/* ---- counting ---- */

/* The cursor moved: only the matches between both places tell, unless it is not all counted yet. */
static void count_from_cursor(Search *s, size_t cursor)
{
    bool back = cursor < s->cursor;
    if (s->counting || !s->complete) {
        s->count_at = s->count_begin;
        s->count = s->before = 0;
        s->counting = true;
    } else {
        s->gap_at = back ? cursor : s->cursor;
        s->gap_end = back ? s->cursor : cursor;
        s->gap_back = back;
    }
    s->cursor = cursor;
}

/* Goes over the gap for a moment; true while there is more of it. */
static bool count_gap(Search *s, uint64_t until)
{
    Match m;
    for (unsigned i = 0; s->gap_at < s->gap_end; i++) {
        if (i % 64 == 63 && sys_now_ms() >= until)
            return true;
        Found found = finder_step(s->finder, s->gap_at, s->gap_end, s->count_end, &m);
        if (found != FOUND || m.from >= s->gap_end)
            break;
        s->before += s->gap_back ? (size_t)-1 : 1;
        s->gap_at = finder_behind(s->finder, m);
    }
    s->gap_at = s->gap_end = 0;
    return false;
}

bool search_count_on(Editor *ed)
{
    Search *s = ed->search;
    if (!s || !s->finder || !s->shown || !ed->view->file)
        return false;
    View *v = ed->view;
    unsigned long version = doc_version(v->file->doc);
    bool same = s->version == version + 1 && text_same(s->counted, view_text(v));
    if (!same) { /* begin anew; small texts are done at once */
        text_drop(&s->counted);
        s->counted = text_keep(view_text(v));
        s->version = version + 1;
        s->cursor = v->cursor.at;
        s->count = s->before = s->gap_at = s->gap_end = 0;
        search_range(ed, &s->count_at, &s->count_end);
        s->count_begin = s->count_at;
        s->counting = true;
        s->complete = false;
    } else if (s->cursor != v->cursor.at && s->gap_at == s->gap_end) {
        count_from_cursor(s, v->cursor.at);
    }
    finder_text(s->finder, s->counted);
    uint64_t until = sys_now_ms() + COUNT_SLICE;
    Match m;
    if (s->gap_at < s->gap_end && count_gap(s, until))
        return true;
    if (s->cursor != v->cursor.at) /* it went on meanwhile */
        return search_count_on(ed);
    for (unsigned i = 0; s->counting; i++) {
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
    return false;
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
    search_range(ed, &a, &b);
    finder_text(s->finder, view_text(ed->view));
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
    a->fault = -1;
    s->seek.active = false;
    s->shown = false;
    if (!*what) {
        view_go(ed->view, a->origin);
        return;
    }
    search_set_what(s, what);
    if (!search_prepare(ed, &e, &mistake)) {
        snprintf(a->mistake, sizeof a->mistake, "%s, at character %zu", e.text, mistake + 1);
        a->fault = (long)mistake;
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
        if (!s->in_mark && !(ed->search_to > ed->search_from) && !view_marked(ed->view, &from, &to))
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
    bool next = b && b->command == command_named("find-next", 9),
         before = b && b->command == command_named("find-before", 11);
    if ((next || before) && s->shown) {
        search_again(ed, before);
        a->origin = ed->view->cursor.at;
        return true;
    }
    return false;
}

static void find_note(Editor *ed, Bytes *out, void *ctx)
{
    const Ask *a = ctx;
    const Seek *k = &search_of(ed)->seek;
    size_t len = text_len(view_text(ed->view));
    if (a->mistake[0]) {
        bytes_add_str(out, a->mistake);
        return;
    }
    if (k->active)
        bytes_printf(out, "searching %zu%%", len ? k->at / (len / 100 + 1) : 0);
    search_note(ed, out);
    bytes_printf(out, "%s%s", out->len ? " · " : "", options_words(search_of(ed)));
}

static long find_fault(Editor *ed, void *ctx)
{
    (void)ed;
    return ((const Ask *)ctx)->fault;
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

void search_done(Editor *ed, const char *what, void *ctx)
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
        search_not_found(ed);
}

static void find_cancelled(Editor *ed, void *ctx)
{
    Ask *a = ctx;
    View *v = ed->view;
    view_go(v, a->origin);
    v->top.at = a->top < text_len(view_text(v)) ? a->top : text_len(view_text(v));
    v->marking = a->marking;
    v->mark.at = a->mark;
    search_of(ed)->shown = search_of(ed)->seek.active = false;
    search_of(ed)->seek.ask = NULL;
}

Ask *search_new_ask(Editor *ed, bool back)
{
    View *v = ed->view;
    Ask *a = mem_get(sizeof *a);
    *a = (Ask){.origin = v->cursor.at,
               .top = v->top.at,
               .back = back,
               .marking = v->marking,
               .mark = v->mark.at,
               .fault = -1};
    if (!view_marked(v, &ed->search_from, &ed->search_to))
        ed->search_from = ed->search_to = 0;
    search_of(ed)->in_mark = false;
    view_drop_mark(v);
    return a;
}

void search_prompt(Editor *ed, Ask *a, const char *label, const char *what,
                   void (*done)(Editor *, const char *, void *))
{
    Search *s = search_of(ed);
    PromptSpec p = {
        .label = label,
        .initial = what      ? what
                   : s->what ? s->what
                             : "",
        .history = "find",
        .changed = find_changed,
        .key = find_key,
        .hints = find_hints,
        .note = find_note,
        .fault = find_fault,
        .done = done,
        .cancelled = find_cancelled,
        .select = true,
        .ctx = a,
        .free_ctx = free,
    };
    prompt_ask(ed, &p);
    if (*p.initial)
        look(ed, p.initial, a);
}

void search_ask(Editor *ed, bool back, const char *what)
{
    search_prompt(ed, search_new_ask(ed, back), back ? "Find backwards" : "Find", what, search_done);
}
