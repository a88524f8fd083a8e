#include "commands/search/replace.h"

#include "base/arguments.h"
#include "base/mem.h"
#include "base/words.h"
#include "commands/edits.h"
#include "commands/search/search.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "ui/panel.h"
#include "ui/question.h"
#include "view/scroll.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { LIST_MAX = 5000 /* rows */ };

typedef struct Replace {
    FileId file;
    size_t lines, last_line; /* touched so far; where the last one was */
    char *with;
    size_t at, end; /* what is left to be walked, as bytes of the text */
    size_t begin;
    size_t done;
    size_t passed, total; /* matches that were asked about; all of them, 0 where that is not known */
    Match m;
} Replace;

static void free_replace(void *ctx)
{
    free(((Replace *)ctx)->with);
    free(ctx);
}

/* The step of all the replacements ends. */
static void end_step(Editor *ed, const Replace *r)
{
    OpenFile *f = session_file(ed->session, r->file);
    if (!f)
        return;
    doc_end(f->doc);
    doc_set_verb(f->doc, NULL);
}

static void walk(Editor *ed, Replace *r);
static void view_replacements(Editor *ed, Replace *r);

static void report(Editor *ed, size_t matches, size_t lines)
{
    if (matches)
        say(ed, "Replaced %s in %s%s", AMOUNT(matches, "place"), AMOUNT(lines, "line"),
            ed->session->rules.batch ? "" : "; undo takes it back");
    else if (ed->session->rules.strict)
        warn(ed, "Nothing was replaced");
    else
        say(ed, "Nothing was replaced");
}

/* Counts the line of a replacement once. */
static void touch_line(Editor *ed, Replace *r)
{
    size_t line = text_line_of(view_text(ed->panes.view), r->m.from);
    r->lines += r->done == 0 || line != r->last_line;
    r->last_line = line;
}

static void finish(Editor *ed, Replace *r)
{
    end_step(ed, r);
    ed->matches.shown = false;
    if (r->done == 0)
        view_restore(ed->panes.view, &ed->search->begun);
    report(ed, r->done, r->lines);
    free_replace(r);
}

static bool replace_one(Editor *ed, Replace *r)
{
    Search *s = ed->search;
    Replacement by = {r->with, strlen(r->with), s->follow};
    Bytes out = {0};
    finder_text(ed->matches.finder, view_text(ed->panes.view));
    if (finder_next(ed->matches.finder, r->m.from, r->end, &r->m) != FOUND)
        return false;
    finder_expand(ed->matches.finder, &by, &out);
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
        r->at = r->at < text_len(view_text(ed->panes.view)) ? move_right(view_text(ed->panes.view), r->at)
                                                            : r->end + 1;
    r->done++;
    return true;
}

static void replace_rest(Editor *ed, Replace *r)
{
    Search *s = ed->search;
    Err e = {""};
    Replacement by = {r->with, strlen(r->with), s->follow};
    Text all;
    size_t count, lines, cursor = ed->panes.view->cursor.at;
    finder_text(ed->matches.finder, view_text(ed->panes.view));
    if (!finder_replace_all(ed->matches.finder, r->at, r->end, &by, ed->stop, &all, &count, &lines, &e)) {
        warn(ed, "%s", e.text);
        end_step(ed, r);
        free_replace(r);
        return;
    }
    bool ok = count == 0 || doc_replace_text(ed->panes.view->file->doc, 0,
                                             text_len(view_text(ed->panes.view)), all, cursor);
    text_drop(&all);
    end_step(ed, r);
    ed->matches.shown = false;
    size_t len = text_len(view_text(ed->panes.view));
    view_go(ed->panes.view, cursor < len ? cursor : len);
    if (ok && !(count == 0 && r->done == 0 && !ed->session->rules.batch))
        report(ed, r->done + count, lines + r->lines);
    else if (ok)
        search_not_found(ed);
    free_replace(r);
}

/* ---- seeing them first ---- */

/* The line of a match as it would stand, with all its matches replaced. */
static void line_after(Editor *ed, const Replace *r, size_t line, Bytes *out)
{
    Search *s = ed->search;
    Replacement by = {r->with, strlen(r->with), s->follow};
    Text t = view_text(ed->panes.view);
    size_t start = text_line_start(t, line), end = move_line_end(t, start), at = start;
    Match m;
    for (size_t from = start > r->at ? start : r->at;
         out->len < 200 && finder_next(ed->matches.finder, from, r->end, &m) == FOUND;) {
        if (m.from > end)
            break;
        char bytes[200];
        size_t n = m.from - at < sizeof bytes ? m.from - at : sizeof bytes;
        bytes_add(out, bytes, text_read(t, at, bytes, n));
        finder_expand(ed->matches.finder, &by, out);
        at = m.to;
        from = finder_after(ed->matches.finder, m);
    }
    char rest[200];
    size_t n = end > at ? end - at : 0;
    bytes_add(out, rest, text_read(t, at, rest, n < sizeof rest ? n : sizeof rest));
}

static void fill_replacements(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    const Replace *r = ctx;
    Text t = view_text(ed->panes.view);
    size_t last = (size_t)-1, rows = 0;
    Match m;
    finder_text(ed->matches.finder, t);
    for (size_t at = r->at; rows < LIST_MAX && finder_next(ed->matches.finder, at, r->end, &m) == FOUND;) {
        size_t line = text_line_of(t, m.from);
        at = finder_after(ed->matches.finder, m);
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
    view_go(ed->panes.view, (size_t)id);
    scroll_centre(ed->panes.view);
}

/* Goes on with the questions at the chosen line, or where they stood. */
static void replacement_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    Replace *r = ctx;
    Match m;
    while (id >= 0 && finder_next(ed->matches.finder, r->at, (size_t)id, &m) == FOUND &&
           m.from < (size_t)id) {
        r->at = finder_after(ed->matches.finder, m);
        r->passed++;
    }
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
    r->passed += letter == 'r' || letter == 'k';
    if (letter == 'r') {
        if (replace_one(ed, r))
            walk(ed, r);
        else
            finish(ed, r);
    } else if (letter == 'k') {
        r->at = finder_after(ed->matches.finder, r->m);
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
    Bytes with = {0}, number = {0};
    finder_text(ed->matches.finder, view_text(ed->panes.view));
    if (finder_next(ed->matches.finder, r->at, r->end, &r->m) != FOUND) {
        finish(ed, r);
        return;
    }
    matches_go(&ed->matches, r->m);
    if (r->passed == 0 && !matches_count_step(&ed->matches))
        r->total = ed->matches.count.n;
    finder_text(ed->matches.finder, view_text(ed->panes.view));
    finder_expand(ed->matches.finder, &by, &with);
    QuestionSpec q = {
        .answers = {{'r', "Replace"}, {'k', "Keep"}, {'a', "All that are left"}, {'v', "View them first"}},
        .stay = "Stop",
        .yes = 'r',
        .no = 'k',
        .done = one_answered,
        .ctx = r,
    };
    bytes_clear(&number);
    if (r->total)
        bytes_printf(&number, "   %zu of %zu", r->passed + 1, r->total);
    question_ask(ed, &q, "Replace this one with “%.60s”?%s", bytes_str(&with), bytes_str(&number));
    bytes_free(&number);
    bytes_free(&with);
}

static void start_replacing(Editor *ed, const char *with, bool all)
{
    Err e = {""};
    if (!finder_accepts(ed->matches.finder, with, strlen(with), &e)) {
        warn(ed, "%s", e.text);
        return;
    }
    if (!edit_allowed(ed))
        return;
    Replace *r = mem_get(sizeof *r);
    r->with = mem_string(with);
    r->file = ed->panes.view->file->id;
    matches_range(&ed->matches, &r->begin, &r->end);
    r->at = r->begin;
    if (!all && !ed->matches.in_mark) { /* on from the cursor, where the first match was shown */
        r->at = ed->panes.view->cursor.at;
        finder_text(ed->matches.finder, view_text(ed->panes.view));
        Match m;
        if (finder_next(ed->matches.finder, r->at, r->end, &m) != FOUND)
            r->at = r->begin;
    }
    doc_begin(ed->panes.view->file->doc);
    doc_set_verb(ed->panes.view->file->doc, "Replace");
    if (all)
        replace_rest(ed, r);
    else
        walk(ed, r);
}

static void with_given(Editor *ed, const char *with, void *ctx)
{
    start_replacing(ed, with, ctx != NULL);
}

static void with_not_given(Editor *ed, void *ctx)
{
    (void)ctx;
    view_restore(ed->panes.view, &ed->search->begun);
    ed->matches.shown = false;
}

static void replace_what_given(Editor *ed, const char *what, void *ctx)
{
    Ask *a = ctx;
    search_done(ed, what, a);
    search_stop(ed);
    if (!*what || a->mistake[0])
        return;
    char label[80];
    snprintf(label, sizeof label, "Replace “%.40s” with", what);
    PromptSpec p = {.label = label,
                    .history = "replace",
                    .done = with_given,
                    .cancelled = with_not_given,
                    .ctx = a->all ? ed : NULL};
    prompt_ask(ed, &p);
}

static void ask_replace(Editor *ed, const char *what, bool all)
{
    Ask *a = search_new_ask(ed, false);
    a->replace = true;
    a->all = all;
    search_prompt(ed, a, all ? "Replace all" : "Replace", what, replace_what_given);
}

/* With both words after its name a command does not ask for them. */
static void replace_words(Editor *ed, const char *args, bool all)
{
    Bytes what = {0}, with = {0};
    Err e = {""};
    size_t mistake;
    const char *rest = args;
    bool both = arguments_word(&rest, &what) && arguments_word(&rest, &with);
    rest += strspn(rest, " ");
    if (both && *rest) {
        warn(ed, "“%s” is too much; words with blanks are put in quotation marks", rest);
    } else if (both) {
        free(search_new_ask(ed, false));
        search_set_what(ed, bytes_str(&what));
        if (search_prepare(ed, &e, &mistake))
            start_replacing(ed, bytes_str(&with), all);
        else
            warn(ed, "%s, at character %zu of “%s”", e.text, mistake + 1, bytes_str(&what));
    } else {
        ask_replace(ed, what.len ? bytes_str(&what) : NULL, all);
    }
    bytes_free(&what);
    bytes_free(&with);
}

static void run_replace(Editor *ed, const Args *args)
{
    replace_words(ed, args->text, false);
}

static const Command cmd_replace = {
    .name = "replace",
    .label = "Replace…",
    .letter = 'r',
    .keys = "Ctrl+R",
    .shell = "",
    .help = "Replace words, one by one or all",
    .words = "substitute change",
    .more = "Words with blanks after the name are put in quotation marks.",
    .args = "WORDS BY",
    .hint = "Replace",
    .flags = CMD_CHANGES,
    .run = run_replace,
};

static void run_replace_all(Editor *ed, const Args *given)
{
    const char *args = given->text;
    Search *s = ed->search;
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

static const Command cmd_replace_all = {
    .name = "replace-all",
    .label = "Replace all…",
    .letter = 'a',
    .help = "Replace words everywhere at once",
    .words = "substitute everywhere",
    .more = "-x takes the words as an expression, -w means whole words, -i any letter case, -f lets the new "
            "words follow the letter case of the old ones. Without a screen: squill --do.",
    .args = "[-x] [-w] [-i] [-f] WORDS BY",
    .flags = CMD_CHANGES,
    .run = run_replace_all,
};

const Command *const replace_commands[] = {
    &cmd_replace,
    &cmd_replace_all,
    NULL,
};
