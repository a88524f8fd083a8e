#include "commands/search/search.h"

#include "base/arguments.h"
#include "base/mem.h"
#include "base/system.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "ui/command.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

void search_begin(Editor *ed)
{
    ed->search = mem_get(sizeof *ed->search);
}

void search_free(Editor *ed)
{
    free(ed->search->what);
    free(ed->search);
}

/* ---- what is looked for ---- */

bool search_prepare(Editor *ed, Err *e, size_t *mistake)
{
    const Search *s = ed->search;
    FindWhat w = {s->what, strlen(s->what), s->letters, s->words, s->expression};
    matches_by(&ed->matches, NULL);
    matches_by(&ed->matches, finder_new(&w, e, mistake));
    return ed->matches.finder != NULL;
}

void search_set_what(Editor *ed, const char *what)
{
    Search *s = ed->search;
    char *copy = mem_string(what);
    free(s->what);
    s->what = copy;
}

static void add_options(const Editor *ed, Bytes *out)
{
    const Search *s = ed->search;
    const Finder *f = ed->matches.finder;
    bool exact = f ? finder_exact(f) : s->letters == CASE_EXACT;
    bytes_printf(out, "%s%s%s%s%s", s->letters == CASE_AUTO ? "auto: " : "",
                 exact ? "exact case" : "any case", s->words ? " · whole words" : "",
                 s->expression ? " · expression" : "", ed->matches.in_mark ? " · in the mark" : "");
}

/* ---- going to matches ---- */

typedef enum SearchResult {
    SEARCH_NOT_FOUND,
    SEARCH_FOUND,
    SEARCH_AROUND,
    SEARCH_TOO_HARD,
    SEARCH_GOES_ON
} SearchResult;

enum { STEP = 8 * 1024 * 1024, SLICE = 25 /* ms */ };

/* Is the rest of the text still to come? Then a search forward waits there; a match may have begun in the
 * last line already. */
static bool waits_for_more(Editor *ed, size_t end)
{
    enum { AGAIN = 64 * 1024 };
    Seek *k = &ed->search->seek;
    Text t = view_text(ed->panes.view);
    if (!ed->panes.view->file->reading || k->wrapped || ed->matches.in_mark)
        return false;
    size_t line = move_line_start(t, end), back = end > AGAIN ? end - AGAIN : 0;
    size_t from = line > back ? line : back;
    k->at = k->at < end && k->at > from ? k->at : from > k->origin ? from : k->origin;
    k->waits = true;
    k->searched = end;
    return true;
}

/* The next step of a search; SEARCH_GOES_ON: nothing found yet, and not at the end. */
static SearchResult step(Editor *ed, Match *m)
{
    Finder *f = ed->matches.finder;
    Seek *k = &ed->search->seek;
    size_t from, to;
    Found found;
    matches_range(&ed->matches, &from, &to);
    if (k->back) {
        size_t low = k->wrapped && k->origin > from ? k->origin : from;
        size_t start = k->at > low + STEP ? k->at - STEP : low;
        found = finder_before(f, start, k->at, m);
        k->at = start;
        if (found == FOUND_NONE && start > low)
            return SEARCH_GOES_ON;
    } else {
        size_t high = k->wrapped ? k->origin : to;
        size_t until = high - k->at > STEP && k->at < high ? k->at + STEP : (size_t)-1;
        found = finder_step(f, k->at, until, to, m);
        if (found == FOUND_NONE && until == (size_t)-1 && waits_for_more(ed, to))
            return SEARCH_GOES_ON;
        k->at = until;
        if (found == FOUND_NONE && until != (size_t)-1)
            return SEARCH_GOES_ON;
    }
    if (found == FOUND_TOO_HARD)
        return SEARCH_TOO_HARD;
    if (found == FOUND)
        return k->wrapped ? SEARCH_AROUND : SEARCH_FOUND;
    if (k->wrapped)
        return SEARCH_NOT_FOUND;
    k->wrapped = true;
    k->at = k->back ? to + 1 : from;
    return SEARCH_GOES_ON;
}

/* No search is under way any more. */
static void end_seek(Editor *ed)
{
    ed->search->seek.active = false;
    tasks_remove(&ed->session->tasks, &ed->search->task);
}

/* Searches for so many milliseconds. */
static SearchResult seek_for(Editor *ed, Match *m, unsigned ms)
{
    uint64_t until = system_now_ms() + ms;
    finder_text(ed->matches.finder, view_text(ed->panes.view));
    for (;;) {
        SearchResult result = step(ed, m);
        if (result != SEARCH_GOES_ON)
            end_seek(ed);
        if (result != SEARCH_GOES_ON || ed->search->seek.waits || system_now_ms() >= until)
            return result;
    }
}

static void poll_seek(void *ctx);

static int wait_seek(const void *ctx)
{
    enum { FOR_MORE = 50 /* ms */ };
    return ((const Editor *)ctx)->search->seek.waits ? FOR_MORE : 0;
}

static void cancel_seek(void *ctx)
{
    end_seek(ctx);
    say(ctx, "The search was stopped");
}

static int percent(const Editor *ed)
{
    size_t len = text_len(view_text(ed->panes.view));
    return len ? (int)(ed->search->seek.at / (len / 100 + 1)) : 0;
}

static void words_of_seek(const void *ctx, char out[TASK_WORDS_MAX])
{
    const Editor *ed = ctx;
    if (ed->search->seek.waits)
        snprintf(out, TASK_WORDS_MAX, "No match yet; the search goes on as the text arrives. Esc stops it");
    else
        snprintf(out, TASK_WORDS_MAX, "Searching, %d%%; Esc stops it", percent(ed));
}

static const TaskKind seek_task = {
    .poll = poll_seek, .wait = wait_seek, .cancel = cancel_seek, .words = words_of_seek};

static void seek_begin(Editor *ed, size_t at, bool back, Ask *a)
{
    Search *s = ed->search;
    size_t from, to;
    matches_range(&ed->matches, &from, &to);
    at = at < from ? from : at > to + 1 ? to + 1 : at;
    end_seek(ed);
    s->seek = (Seek){.active = true,
                     .back = back,
                     .origin = at,
                     .at = at,
                     .file = ed->panes.view->file->id,
                     .version = doc_version(ed->panes.view->file->doc),
                     .arriving = ed->panes.view->file->reading != NULL,
                     .ask = a};
    tasks_add(&ed->session->tasks, &s->task, &seek_task, ed);
}

/* Is it anywhere? Only asked where the answer comes at once. */
static bool is_there(Editor *ed)
{
    Match m;
    seek_begin(ed, 0, false, NULL);
    SearchResult result = seek_for(ed, &m, 200);
    end_seek(ed);
    return result == SEARCH_FOUND || result == SEARCH_AROUND;
}

/* Would a looser search find something? Says which. */
static const char *looser(Editor *ed)
{
    Search *s = ed->search;
    FindCase letters = s->letters;
    bool words = s->words, in_mark = ed->matches.in_mark;
    Err e;
    size_t mistake;
    const char *help = "";
    if (ed->matches.finder && finder_exact(ed->matches.finder)) {
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
        ed->matches.in_mark = false;
        if (search_prepare(ed, &e, &mistake) && is_there(ed))
            help = " Outside the mark it is there: Tab, then m.";
        ed->matches.in_mark = in_mark;
    }
    search_prepare(ed, &e, &mistake);
    return help;
}

void search_not_found(Editor *ed)
{
    const char *help = looser(ed);
    Bytes options = {0};
    add_options(ed, &options);
    (ed->session->rules.batch && !ed->session->rules.strict ? say : warn)(
        ed, "“%s” is not in %s (%s).%s", ed->search->what, ed->matches.in_mark ? "the mark" : "the text",
        bytes_str(&options), help);
    bytes_free(&options);
}

static void say_around(Editor *ed, bool back)
{
    Bytes note = {0};
    ed->running.at_end = true;
    matches_count_step(&ed->matches);
    matches_words(&ed->matches, &note);
    if (ed->matches.count.complete && ed->matches.count.n == 1)
        say(ed, "The only match");
    else
        say(ed, "That was the %s match; on at %s%s%s", back ? "first" : "last",
            back ? "the last" : "the first", note.len ? ": " : "", bytes_str(&note));
    bytes_free(&note);
}

/* What a search has come to, for the prompt that waits for it or, without one, for the text. */
static void arrive(Editor *ed, SearchResult result, Match m)
{
    Search *s = ed->search;
    Ask *a = s->seek.ask;
    if (result == SEARCH_GOES_ON)
        return;
    if (result == SEARCH_FOUND || result == SEARCH_AROUND) {
        matches_go(&ed->matches, m);
        ed->running.at_end = ed->running.at_end || result == SEARCH_AROUND;
        if (a)
            a->around = result == SEARCH_AROUND;
        else if (result == SEARCH_AROUND)
            say_around(ed, s->seek.back);
        matches_count_step(&ed->matches);
        return;
    }
    if (a) {
        view_go(ed->panes.view, a->origin);
        snprintf(a->mistake, sizeof a->mistake, "%s",
                 result == SEARCH_NOT_FOUND ? "no match" : "takes too long");
    } else if (result == SEARCH_NOT_FOUND) {
        search_not_found(ed);
    } else {
        warn(ed, "This expression takes too long here; the search was stopped");
    }
}

static void poll_seek(void *ctx)
{
    Editor *ed = ctx;
    Seek *k = &ed->search->seek;
    const OpenFile *f = ed->panes.view->file;
    Match m;
    if (k->arriving && k->file == f->id) { /* only what arrives changes it meanwhile */
        k->version = doc_version(f->doc);
        k->arriving = f->reading != NULL;
    }
    if (k->waits && f->reading && text_len(doc_text(f->doc)) == k->searched)
        return;
    k->waits = false;
    if (!ed->matches.finder || k->file != f->id ||
        k->version != doc_version(f->doc)) /* typed on: not wanted */
        end_seek(ed);
    else
        arrive(ed, seek_for(ed, &m, SLICE), m);
}

void search_stop(Editor *ed)
{
    end_seek(ed);
}

bool search_under_way(const Editor *ed)
{
    return ed->search->seek.active;
}

static void search_ask(Editor *ed, bool back, const char *what);

static void search_again(Editor *ed, bool back)
{
    Matches *all = &ed->matches;
    Match m;
    if (ed->search->through && !ed->layer) {
        ed->search->through(ed, back);
        return;
    }
    if (!ed->search->what || !all->finder) {
        search_ask(ed, back, NULL);
        return;
    }
    View *v = ed->panes.view;
    bool on_match = all->shown && all->now.from == v->cursor.at;
    size_t at = v->cursor.at;
    if (!back && on_match)
        at = all->now.to > at ? all->now.to : move_right(view_text(v), at);
    seek_begin(ed, at, back, NULL);
    arrive(ed, seek_for(ed, &m, SLICE), m);
}

/* ---- the find prompt ---- */

static void look(Editor *ed, const char *what, Ask *a)
{
    Err e = {""};
    size_t mistake;
    Match m;
    a->mistake[0] = 0;
    a->around = false;
    a->fault = -1;
    end_seek(ed);
    ed->matches.shown = false;
    if (!*what && a->folder)
        return;
    if (!*what) {
        view_go(ed->panes.view, a->origin);
        return;
    }
    search_set_what(ed, what);
    if (!search_prepare(ed, &e, &mistake)) {
        snprintf(a->mistake, sizeof a->mistake, "%s, at character %zu", e.text, mistake + 1);
        a->fault = (long)mistake;
        return;
    }
    if (a->folder)
        return;
    /* Searching back, a match that begins at the origin itself counts. */
    seek_begin(ed, a->origin + (a->back ? 1 : 0), a->back, a);
    arrive(ed, seek_for(ed, &m, SLICE), m);
}

static void find_changed(Editor *ed, const char *what, void *ctx)
{
    look(ed, what, ctx);
}

static bool option_key(Editor *ed, Ask *a, Key k)
{
    Search *s = ed->search;
    Matches *all = &ed->matches;
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
    case 'i':
        s->ignored = a->folder ? !s->ignored : s->ignored;
        return true;
    case 'm':
        if (a->folder)
            return true;
        if (!all->in_mark && !(all->to > all->from) && !view_marked(ed->panes.view, &from, &to))
            say(ed, "Nothing was marked when the search began");
        else
            all->in_mark = !all->in_mark;
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
    const Keymap *keys = &ed->config.keys;
    if (a->choosing)
        return option_key(ed, a, in->key);
    if (in->key.code == K_TAB) {
        a->choosing = true;
        return true;
    }
    bool next = keymap_runs(keys, in->key, "find-next"), before = keymap_runs(keys, in->key, "find-before");
    if (!(next || before) || !ed->matches.shown)
        return false;
    search_again(ed, before);
    a->origin = ed->panes.view->cursor.at;
    return true;
}

static void find_note(Editor *ed, Bytes *out, void *ctx)
{
    const Ask *a = ctx;
    if (a->mistake[0]) {
        bytes_add_str(out, a->mistake);
        return;
    }
    if (ed->search->seek.active && ed->search->seek.waits)
        bytes_add_str(out, "not yet; goes on as it arrives");
    else if (ed->search->seek.active)
        bytes_printf(out, "searching %d%%", percent(ed));
    matches_words(&ed->matches, out);
    if (a->around && ed->matches.shown)
        bytes_add_str(out, a->back ? ", on from the end" : ", on from the top");
    bytes_add_str(out, out->len ? " · " : "");
    add_options(ed, out);
    bytes_add_str(out, a->folder && ed->search->ignored ? " · ignored files too" : "");
}

static long find_fault(Editor *ed, void *ctx)
{
    (void)ed;
    return ((const Ask *)ctx)->fault;
}

static size_t find_hints(Editor *ed, Hint *out, void *ctx)
{
    const Ask *a = ctx;
    const Search *s = ed->search;
    if (!a->choosing) {
        out[0] = (Hint){"Tab", "Options", true};
        if (a->folder)
            return 1;
        out[1] = (Hint){"", "Next", false};
        out[2] = (Hint){"", "Before", false};
        command_key(ed, command_named(ed, "find-next"), out[1].key);
        command_key(ed, command_named(ed, "find-before"), out[2].key);
        return 3;
    }
    static const char *const letters[] = {"Letter case: auto", "Letter case: exact", "Letter case: any"};
    out[0] = (Hint){"c", letters[s->letters], true};
    out[1] = (Hint){"w", s->words ? "Whole words: on" : "Whole words: off", true};
    out[2] = (Hint){"x", s->expression ? "Expression: on" : "Expression: off", true};
    if (a->folder)
        out[3] = (Hint){"i", s->ignored ? "Ignored files too: on" : "Ignored files too: off", true};
    else
        out[3] = (Hint){"m", ed->matches.in_mark ? "In the mark: on" : "In the mark: off", true};
    size_t n = 4;
    if (a->replace)
        out[n++] = (Hint){"f", s->follow ? "Follow case: on" : "Follow case: off", true};
    out[n++] = (Hint){"Tab", "Back", true};
    return n;
}

void search_done(Editor *ed, const char *what, void *ctx)
{
    Ask *a = ctx;
    Search *s = ed->search;
    if (!*what) {
        say(ed, "There was nothing to look for");
        return;
    }
    s->seek.ask = NULL; /* a search under way goes on without the prompt */
    if (ed->matches.in_mark)
        view_drop_mark(ed->panes.view);
    if (a->mistake[0] && !ed->matches.finder)
        warn(ed, "%s", a->mistake);
    else if (a->mistake[0])
        search_not_found(ed);
}

static void find_cancelled(Editor *ed, void *ctx)
{
    view_restore(ed->panes.view, &((const Ask *)ctx)->begun);
    end_seek(ed);
    ed->matches.shown = false;
    ed->search->seek.ask = NULL;
}

Ask *search_new_ask(Editor *ed, bool back)
{
    View *v = ed->panes.view;
    Ask *a = mem_get(sizeof *a);
    *a = (Ask){.begun = view_place(v), .origin = v->cursor.at, .back = back, .fault = -1};
    ed->search->begun = a->begun;
    Matches *all = &ed->matches;
    if (!view_marked(v, &all->from, &all->to))
        all->from = all->to = 0;
    all->in_mark = false;
    view_drop_mark(v);
    return a;
}

void search_prompt(Editor *ed, Ask *a, const char *label, const char *what,
                   void (*done)(Editor *, const char *, void *))
{
    Search *s = ed->search;
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
        .enter = done == search_done ? "Stay here" : NULL,
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

static void search_ask(Editor *ed, bool back, const char *what)
{
    View *v = ed->panes.view;
    ed->search->through = NULL;
    bool goes_on = v->marking == MARK_KEY; /* a mark that a key began is extended, as by every movement */
    Ask *a = search_new_ask(ed, back);
    if (goes_on)
        v->marking = MARK_KEY;
    search_prompt(ed, a, back ? "Find backwards" : "Find", what, search_done);
}

/* Looks for words that stand at `at`. */
static void ask_for(Editor *ed, size_t at, const char *word)
{
    View *v = ed->panes.view;
    ViewPlace here = view_place(v);
    view_go(v, at);
    view_drop_mark(v);
    ed->search->through = NULL;
    Ask *a = search_new_ask(ed, false);
    a->begun = here;
    search_prompt(ed, a, "Find", word, search_done);
}

/* ---- the commands ---- */

/* Without a screen there is no prompt: to the next match after the cursor, as far as it takes. */
static void find_at_once(Editor *ed, const char *given)
{
    Err e = {""};
    size_t mistake;
    Match m;
    Bytes what = {0};
    const char *surplus;
    View *v = ed->panes.view;
    arguments_text(given, &what, &surplus);
    search_set_what(ed, bytes_str(&what));
    if (*surplus || !what.len)
        warn(ed, "find needs the words to look for, in quotation marks if there are more after them");
    else if (!search_prepare(ed, &e, &mistake))
        warn(ed, "%s, at character %zu of “%s”", e.text, mistake + 1, bytes_str(&what));
    else {
        finder_text(ed->matches.finder, view_text(v));
        if (finder_next(ed->matches.finder, v->cursor.at, text_len(view_text(v)), &m) == FOUND)
            matches_go(&ed->matches, m);
        else
            search_not_found(ed);
    }
    bytes_free(&what);
}

static void run_find(Editor *ed, const Args *args)
{
    size_t from, to;
    Text t = view_text(ed->panes.view);
    if (ed->session->rules.batch) {
        find_at_once(ed, args->text);
        return;
    }
    /* A mark within one line is what to find; a longer one is where to find. */
    bool word = view_marked(ed->panes.view, &from, &to) && to - from < 200 &&
                text_line_of(t, from) == text_line_of(t, to);
    if (!word || *args->text) {
        search_ask(ed, false, *args->text ? args->text : NULL);
        return;
    }
    char *marked = text_string(t, from, to);
    ask_for(ed, from, marked);
    free(marked);
}

static const Command cmd_find = {
    .name = "find",
    .label = "Find…",
    .letter = 'f',
    .keys = "Ctrl+F",
    .shell = "Ctrl+R",
    .help = "Find words as you type them",
    .words = "search look",
    .more = "Enter stays at the match, Esc goes back to where you were. Tab shows the options: letter case, "
            "whole words, expressions, only in the mark.",
    .args = "WORDS",
    .hint = "Find",
    .flags = CMD_JUMPS,
    .run = run_find,
};

static void run_find_back(Editor *ed, const Args *args)
{
    search_ask(ed, true, *args->text ? args->text : NULL);
}

static const Command cmd_find_backwards = {
    .name = "find-backwards",
    .label = "Find backwards…",
    .letter = 'k',
    .help = "Find words towards the top of the text",
    .words = "search upwards reverse",
    .args = "WORDS",
    .flags = CMD_JUMPS,
    .run = run_find_back,
};

static void run_next(Editor *ed, const Args *args)
{
    (void)args;
    search_again(ed, false);
}

static const Command cmd_find_next = {
    .name = "find-next",
    .label = "Next match",
    .letter = 'n',
    .keys = "Ctrl+N F3",
    .shell = "F3",
    .help = "Go to the next match of the last search",
    .hint = "Next match",
    .flags = CMD_MOVES | CMD_JUMPS | CMD_REPEATS,
    .run = run_next,
};

static void run_before(Editor *ed, const Args *args)
{
    (void)args;
    search_again(ed, true);
}

static const Command cmd_find_before = {
    .name = "find-before",
    .label = "Match before",
    .letter = 'b',
    .keys = "Ctrl+B Shift+F3",
    .shell = "Shift+F3",
    .help = "Go to the match before",
    .flags = CMD_MOVES | CMD_JUMPS | CMD_REPEATS,
    .run = run_before,
};

static void run_word(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t start, end;
    if (!move_word_at(t, v->cursor.at, &start, &end) || end - start > 200) {
        say(ed, "There is no word at the cursor");
        return;
    }
    char *word = text_string(t, start, end);
    ask_for(ed, start, word);
    free(word);
}

static const Command cmd_find_word = {
    .name = "find-word",
    .label = "Word at the cursor",
    .letter = 'w',
    .help = "Find the word at the cursor",
    .flags = CMD_JUMPS,
    .run = run_word,
};

const Command *const search_commands[] = {
    &cmd_find, &cmd_find_backwards, &cmd_find_next, &cmd_find_before, &cmd_find_word, NULL,
};
