#include "commands/tools/problems.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/help/help.h"
#include "edit/cells.h"
#include "files/privileged.h"
#include "session/checking.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "ui/question.h"
#include "view/scroll.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    REST = 700,             /* ms without a key, after which the text is checked */
    MOST = 16 * 1024 * 1024 /* bytes of a text that is checked by itself */
};

typedef struct Checks {
    Editor *ed;
    Task task;
    FileId told; /* a person wants to know what comes of its check; 0: of none */
} Checks;

/* ---- telling ---- */

static void tell(Editor *ed, OpenFile *f)
{
    size_t n, all_n;
    const char *by = checking_by(f), *trouble = checking_trouble(f);
    const FileProblem *first = checking_wrong(f, &n), *all = checking_problems(f, &all_n);
    bool said = *checking_said(f) != 0;
    if (!checking_is_current(f, false))
        warn(ed, "%s was changed while it was checked; %s checks it again", openfile_name(f),
             KEY_FOR(ed, "check-file"));
    else if (n && first->to == 0)
        warn(ed, "%s: %s%s%s", openfile_name(f), first->words, said ? "; more: " : "",
             said ? KEY_FOR(ed, "problems") : "");
    else if (n)
        warn(ed, "%s in %s; the first is in line %zu: %s", AMOUNT(n, "problem"), openfile_name(f),
             text_line_of(doc_text(f->doc), first->from) + 1, first->words);
    else if (*checking_doubt(f))
        warn(ed, "Nobody can say whether %s is right: %s%s%s", openfile_name(f), trouble,
             said ? "; more: " : "", said ? KEY_FOR(ed, "problems") : "");
    else if (*by && all_n)
        say(ed, "No problem was found in %s (%s), but %s for line %zu: %s", openfile_name(f), by,
            all_n > 1 ? "hints, the first" : "a hint", text_line_of(doc_text(f->doc), all[0].from) + 1,
            all[0].words + strlen("hint: "));
    else if (*by)
        say(ed, "No problem was found in %s (%s)%s%s", openfile_name(f), by, *trouble ? "; " : "", trouble);
    else
        warn(ed, "%s was not checked: %s%s", openfile_name(f),
             *trouble ? trouble : "no checker is meant for it",
             !*trouble && ed->session->rules.check_off[0] ? ", or the setting check_off switches it off"
                                                          : "");
}

void problems_show_said(Editor *ed, OpenFile *f)
{
    char title[200];
    Bytes said = {0};
    snprintf(title, sizeof title, "Said about %.150s", openfile_name(f));
    bytes_add_str(&said, checking_said(f));
    help_show_text(ed, title, &said, 0);
    bytes_free(&said);
}

void problems_tell(Editor *ed, OpenFile *f, const char *why)
{
    if (why)
        warn(ed, "%s", why);
    else
        tell(ed, f);
}

static void root_answered(Editor *ed, char letter, void *ctx)
{
    OpenFile *f = session_file(ed->session, *(FileId *)ctx);
    if (f && letter == 'r')
        ed->host.check_as_root = f->id;
    else if (f)
        tell(ed, f);
}

/* A checker works only as root: the person says whether to run it so. */
static void ask_for_root(Editor *ed, const OpenFile *f)
{
    QuestionSpec q = {.stay = "Leave it out", .done = root_answered, .free_ctx = free};
    FileId *id = q.ctx = mem_get(sizeof *id);
    *id = f->id;
    q.answers[0] = (AnswerLetter){'r', "Check as root"};
    q.yes = 'r';
    question_ask(ed, &q, "%s checks %s only as root.", checking_for_root(f), openfile_name(f));
}

static void checked(void *ctx, OpenFile *f)
{
    char word[PRIVILEGED_WORD];
    Checks *c = ctx;
    size_t n;
    checking_wrong(f, &n);
    if (c->told == f->id && n == 0 && *checking_for_root(f) && !c->ed->layer &&
        !c->ed->session->rules.batch && privileged_program(c->ed->config.settings.root_program, word))
        ask_for_root(c->ed, f);
    else if (c->told == f->id)
        tell(c->ed, f);
    c->told = c->told == f->id ? 0 : c->told;
}

/* ---- by itself ---- */

/* The text that is to be checked once the keys rest, or NULL. */
static OpenFile *due(const Checks *c)
{
    OpenFile *f = c->ed->panes.view ? c->ed->panes.view->file : NULL;
    if (!f || !f->id || f->reading || c->ed->session->rules.batch || text_len(doc_text(f->doc)) > MOST ||
        checking_version(f) == doc_version(f->doc) + 1 || !checking_is_possible(c->ed->session, f, false))
        return NULL;
    return f;
}

static void poll_checks(void *ctx)
{
    Checks *c = ctx;
    OpenFile *f = due(c);
    if (!f || c->ed->clock.now - c->ed->clock.last_key < REST)
        return;
    checking_begin(c->ed->session, f, false);
}

static int wait_checks(const void *ctx)
{
    const Checks *c = ctx;
    uint64_t rested = c->ed->clock.now - c->ed->clock.last_key;
    return !due(c) ? -1 : rested < REST ? (int)(REST - rested) : 0;
}

static const TaskKind checks_task = {.poll = poll_checks, .wait = wait_checks};

void problems_begin(Editor *ed)
{
    Checks *c = ed->checks = mem_get(sizeof *c);
    SessionEvents events = {.ctx = c, .checked = checked};
    c->ed = ed;
    session_observe(ed->session, &events);
    tasks_add(&ed->session->tasks, &c->task, &checks_task, c);
}

void problems_end(Editor *ed)
{
    free(ed->checks);
    ed->checks = NULL;
}

/* ---- the commands ---- */

static void check_now(Editor *ed, OpenFile *f)
{
    Session *s = ed->session;
    ed->checks->told = f->id;
    if (!checking_begin(s, f, true)) {
        ed->checks->told = 0;
        if (f->is_template)
            say(ed, "It is a template: what is made of it can be checked, not %s itself", openfile_name(f));
        else
            say(ed, "There is no checker for the kind %s%s", f->kind->name,
                s->rules.check_off[0] ? ", or the setting check_off switches it off" : "");
    } else if (s->rules.batch) {
        checking_finish(s, f, ed->stop);
    } else if (checking_goes_on(f)) {
        say(ed, "Checking %s", openfile_name(f));
    }
}

static void there_answered(Editor *ed, char letter, void *ctx)
{
    OpenFile *f = session_file(ed->session, *(FileId *)ctx);
    Bytes host = {0}, value = {0};
    Err e;
    if (!f)
        return;
    const char *before = ed->config.settings.check_on_hosts;
    if (letter == 'c' && checking_wants_host(ed->session, f, &host)) {
        bytes_printf(&value, "%s%s%s", before, *before ? ", " : "", host.at);
        if (!settings_set(&ed->config, "check_on_hosts", value.at, NULL, &e))
            warn(ed, "%s", e.text);
    }
    bytes_free(&host);
    bytes_free(&value);
    check_now(ed, f);
}

/* Nothing is run on another machine unless a person said so. */
static void ask_for_host(Editor *ed, const OpenFile *f, const char *host)
{
    QuestionSpec q = {.stay = "Leave them out", .done = there_answered, .free_ctx = free};
    FileId *id = q.ctx = mem_get(sizeof *id);
    *id = f->id;
    q.answers[0] = (AnswerLetter){'c', "Check there"};
    q.yes = 'c';
    question_ask(ed, &q, "May the checkers of %s look at a copy of %s there, until you leave?", host,
                 openfile_name(f));
}

static void run_check(Editor *ed, const Args *args)
{
    (void)args;
    OpenFile *f = ed->panes.view->file;
    Bytes host = {0};
    if (!ed->session->rules.batch && checking_wants_host(ed->session, f, &host))
        ask_for_host(ed, f, host.at);
    else
        check_now(ed, f);
    bytes_free(&host);
}

static const Command cmd_check_file = {
    .name = "check-file",
    .label = "Check the file",
    .letter = 'k',
    .keys = "F2",
    .help = "Look for mistakes, with the system's checkers too where they are installed",
    .words = "lint validate syntax test problems errors",
    .more = "What is on the screen is checked, not the file; nothing of it is run. Kinds whose mistakes lock "
            "people "
            "out are checked before each save (settings check_before_save and check_off).",
    .flags = CMD_FILE,
    .run = run_check,
};

static void go(Editor *ed, const FileProblem *p)
{
    if (p->to)
        view_go(ed->panes.view, p->from);
    if (p->hint)
        say(ed, "%s (%s)", p->words, p->checker);
    else
        warn(ed, "%s (%s)", p->words, p->checker);
}

void problems_go_first(Editor *ed, OpenFile *f)
{
    size_t n;
    const FileProblem *first = checking_wrong(f, &n);
    editor_show(ed, f);
    if (first)
        go(ed, first);
}

/* To the next one from the cursor, or the one before; around the end. */
static void step(Editor *ed, bool back)
{
    OpenFile *f = ed->panes.view->file;
    size_t n, at = ed->panes.view->cursor.at, i;
    const FileProblem *all = checking_problems(f, &n);
    if (n == 0) {
        decline(ed,
                checking_is_current(f, false) ? "No problem is known in this text; %s asks all checkers"
                                              : "This text was not checked yet; %s does it",
                KEY_FOR(ed, "check-file"));
        return;
    }
    if (back) {
        for (i = n; i > 0 && all[i - 1].from >= at;)
            i--;
        ed->running.at_end = i == 0;
        i = i ? i - 1 : n - 1;
    } else {
        for (i = 0; i < n && all[i].from <= at;)
            i++;
        ed->running.at_end = i == n;
        i = i < n ? i : 0;
    }
    go(ed, &all[i]);
}

static void run_next(Editor *ed, const Args *args)
{
    (void)args;
    step(ed, false);
}

static const Command cmd_next_problem = {
    .name = "next-problem",
    .label = "Next problem",
    .letter = 'p',
    .keys = "F4",
    .shell = "",
    .help = "Go to the next place that a checker finds wrong",
    .words = "error mistake",
    .hint = "Next problem",
    .flags = CMD_MOVES | CMD_JUMPS | CMD_FILE,
    .run = run_next,
};

static void run_before(Editor *ed, const Args *args)
{
    (void)args;
    step(ed, true);
}

static const Command cmd_problem_before = {
    .name = "problem-before",
    .label = "Problem before",
    .letter = 'q',
    .keys = "Shift+F4",
    .help = "Go to the place before that a checker finds wrong",
    .flags = CMD_JUMPS | CMD_FILE,
    .run = run_before,
};

enum { SAID = 1000000 /* a row of the list that is no problem */ };

typedef struct List {
    FileId file;
    ViewPlace begun;
} List;

static void fill(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    OpenFile *f = session_file(ed->session, ((List *)ctx)->file);
    size_t n = 0;
    const FileProblem *all = f ? checking_problems(f, &n) : NULL;
    for (size_t i = 0; i < n; i++) {
        Text t = doc_text(f->doc);
        char place[60] = "Enter shows what was said";
        if (all[i].to)
            snprintf(place, sizeof place, "line %zu, column %zu", text_line_of(t, all[i].from) + 1,
                     cells_chars_before(t, all[i].from) + 1);
        panel_add(p, (long)i, all[i].words, all[i].checker, place);
    }
    if (f && *checking_said(f))
        panel_add(p, SAID, n ? "All that was said" : "No problem is known; all that was said", "",
                  "Enter shows it");
}

static void preview(Editor *ed, long id, void *ctx)
{
    OpenFile *f = session_file(ed->session, ((List *)ctx)->file);
    size_t n = 0;
    const FileProblem *all = f ? checking_problems(f, &n) : NULL;
    if (ed->panes.view->file != f || id < 0 || (size_t)id >= n || all[id].to == 0)
        return;
    view_go(ed->panes.view, all[id].from);
    scroll_centre(ed->panes.view);
}

static void chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    OpenFile *f = session_file(ed->session, ((List *)ctx)->file);
    size_t n = 0;
    const FileProblem *all = f ? checking_problems(f, &n) : NULL;
    if (f && (id == SAID || (id >= 0 && (size_t)id < n && all[id].to == 0)))
        problems_show_said(ed, f);
    else
        preview(ed, id, ctx);
}

static void cancelled(Editor *ed, void *ctx)
{
    const List *l = ctx;
    if (ed->panes.view->file->id == l->file)
        view_restore(ed->panes.view, &l->begun);
}

static void run_problems(Editor *ed, const Args *args)
{
    (void)args;
    List *l = mem_get(sizeof *l);
    *l = (List){ed->panes.view->file->id, view_place(ed->panes.view)};
    PanelSpec p = {.title = "Problems",
                   .fill = fill,
                   .preview = preview,
                   .chosen = chosen,
                   .cancelled = cancelled,
                   .empty = "No problem is known; F2 asks all checkers",
                   .ctx = l,
                   .free_ctx = free};
    panel_open(ed, &p);
}

static const Command cmd_problems = {
    .name = "problems",
    .label = "Problems…",
    .letter = 'b',
    .help = "List what the checkers find wrong, and go to one",
    .words = "errors mistakes lint list",
    .hint = "Problems",
    .flags = CMD_JUMPS | CMD_FILE,
    .run = run_problems,
};

const Command *const problems_commands[] = {
    &cmd_check_file, &cmd_next_problem, &cmd_problem_before, &cmd_problems, NULL,
};
