#include "commands/file/recovering.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/differences.h"
#include "commands/help/about.h"
#include "kept/recoverable.h"
#include "session/keeper.h"
#include "session/reading.h"
#include "session/session_around.h"
#include "session/session_files.h"
#include "ui/panel.h"
#include "ui/question.h"

#include <stdlib.h>

/* ---- work of an earlier run ---- */

static void offer_answered(Editor *ed, char letter, void *ctx);

static void viewed(Editor *ed, char letter, void *ctx)
{
    if (letter == 't')
        offer_answered(ed, 't', ctx);
}

/* It cannot be put together again: what there is of it can still be read. */
static void remains_answered(Editor *ed, char letter, void *ctx)
{
    const About *a = ctx;
    OpenFile *f = session_file(ed->session, a->file);
    Text t;
    if (letter == 's' && f)
        keeper_put_away(ed->session, f, a->row);
    else if (letter != 'v')
        return;
    else if (keeper_remains(ed->session, a->row, &t))
        editor_show(ed, session_add(ed->session, t));
    else
        warn(ed, "There is nothing of it that could be shown");
}

static void ask_remains(Editor *ed, const About *a, const char *why)
{
    QuestionSpec q = {
        .answers = {{'v', "View what was typed"}, {'s', "Set it aside for 7 days"}},
        .stay = "Later",
        .can_lose = true,
        .done = remains_answered,
        .ctx = about_new(*a),
        .free_ctx = free,
    };
    OpenFile *f = session_file(ed->session, a->file);
    if (f)
        keeper_later(f); /* asked once; it stays in the journal */
    question_ask(ed, &q, "It cannot be put together: %s.", why);
}

/* What could be taken, beside the file. Takes over the text. */
static void view_before_taking(Editor *ed, const About *a, const OpenFile *f, Text t, const char *name,
                               void (*done)(Editor *, char, void *))
{
    DifferenceSpec s = {
        .old = doc_text(f->doc),
        .fresh = t,
        .old_name = "the file",
        .fresh_name = name,
        .answers = {{'t', "Take it"}},
        .done = done,
        .ctx = about_new(*a),
        .free_ctx = free,
    };
    differences_show(ed, &s);
    text_drop(&t);
}

static void offer_answered(Editor *ed, char letter, void *ctx)
{
    const About *a = ctx;
    OpenFile *f = session_file(ed->session, a->file);
    Err e = {""};
    Text t;
    if (!f)
        return;
    if (letter == 's') {
        keeper_put_away(ed->session, f, a->row);
    } else if (letter == 0) {
        keeper_later(f); /* it is asked again the next time */
    } else if (letter == 't') {
        if (!keeper_take(ed->session, f, a->row, &e))
            ask_remains(ed, a, e.text);
    } else if (keeper_text(ed->session, a->row, &t, &e)) {
        view_before_taking(ed, a, f, t, "the unsaved work", viewed);
    } else {
        ask_remains(ed, a, e.text);
    }
}

void recovering_ask(Editor *ed, OpenFile *f)
{
    Offer o = keeper_offer(f);
    char when[WORDS_MAX];
    words_when(o.when, when);
    QuestionSpec q = {
        .answers = {{'t', "Take it"}, {'v', "View it"}, {'s', "Set it aside for 7 days"}},
        .stay = "Later",
        .can_lose = true,
        .done = offer_answered,
        .ctx = about_new((About){.file = f->id, .row = o.row}),
        .free_ctx = free,
    };
    question_ask(ed, &q, "There is unsaved work on %s, of %s%s%s.", openfile_name(f), when,
                 o.from[0] ? " on " : "", o.from);
}

/* ---- a save that was broken off ---- */

static void copy_answered(Editor *ed, char letter, void *ctx);

static void copy_viewed(Editor *ed, char letter, void *ctx)
{
    if (letter == 't')
        copy_answered(ed, 't', ctx);
}

static void copy_answered(Editor *ed, char letter, void *ctx)
{
    const About *a = ctx;
    OpenFile *f = session_file(ed->session, a->file);
    Text t;
    if (!f || !f->safe_copy.path)
        return;
    if (letter != 'v')
        session_settle_copy(ed->session, f,
                            letter == 't'   ? COPY_TAKE
                            : letter == 'r' ? COPY_REMOVE
                                            : COPY_LATER);
    else if (session_copy_text(ed->session, f, &t))
        view_before_taking(ed, a, f, t, "the whole version", copy_viewed);
}

void recovering_ask_copy(Editor *ed, OpenFile *f)
{
    QuestionSpec q = {
        .answers = {{'t', "Take the whole version"}, {'v', "View it"}, {'r', "Remove it"}},
        .stay = "Later",
        .can_lose = true,
        .done = copy_answered,
        .ctx = about_new((About){.file = f->id}),
        .free_ctx = free,
    };
    question_ask(ed, &q, "A save of %s was broken off; it may be half written.", openfile_name(f));
}

/* ---- all that can be brought back ---- */

typedef struct Listing {
    Recoverable *r;
    size_t n;
} Listing;

static void describe(const Recoverable *r, Bytes *out)
{
    char when[WORDS_MAX], size[WORDS_MAX];
    words_when(r->when, when);
    words_size(r->bytes, size);
    bytes_printf(out, "%s, %s, %s", when, r->dropped ? "dropped" : "broken off", size);
}

static void fill_list(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)ed, (void)filter;
    const Listing *l = ctx;
    for (size_t i = 0; i < l->n; i++) {
        Bytes note = {0};
        if (!l->r[i].id)
            continue;
        describe(&l->r[i], &note);
        panel_add(p, (long)i, l->r[i].path ? l->r[i].path : "(no name yet)", note.at, NULL);
        bytes_free(&note);
    }
}

static void list_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    const Listing *l = ctx;
    char words[TASK_WORDS_MAX];
    Err e = {""};
    if (id < 0)
        return;
    const Recoverable *r = &l->r[id];
    if (!r->path)
        editor_show(ed, session_add(ed->session, (Text){0}));
    else if (!editor_open(ed, r->path, &e)) {
        warn(ed, "%s", e.text);
        return;
    }
    session_settle(ed->session);
    OpenFile *f = ed->panes.view->file;
    if (reading_unready(f, words)) {
        warn(ed, "It stays in this list: %s", words);
    } else if (keeper_take(ed->session, f, r->id, &e)) {
        keeper_later(f); /* it was not asked about */
    } else {
        About a = {.file = f->id, .row = r->id};
        ask_remains(ed, &a, e.text);
    }
}

static bool list_key(Editor *ed, Key k, long id, void *ctx)
{
    Listing *l = ctx;
    if (k.code != K_DELETE || k.mods || id < 0)
        return false;
    if (keeper_journal(ed->session))
        journal_done(keeper_journal(ed->session), l->r[id].id);
    l->r[id].id = 0;
    panel_refresh(ed);
    say(ed, "That unsaved work is gone for good");
    return true;
}

static void free_listing(void *ctx)
{
    Listing *l = ctx;
    recoverable_free(l->r, l->n);
    free(l);
}

void recovering_list(Editor *ed)
{
    static const Hint hints[] = {{"Delete", "Forget it for good", true}, {"", NULL, false}};
    Journal *j = keeper_journal(ed->session);
    if (!j) {
        say(ed, "No work is kept for recovery: it is turned off, or there is no place for it");
        return;
    }
    Listing *l = mem_get(sizeof *l);
    Err e;
    l->n = recoverable_of(j, &(const char *){NULL}, 1, &l->r, &e);
    if (e.text[0])
        warn(ed, "Work kept for recovery cannot be looked at: %s", e.text);
    PanelSpec p = {
        .title = "Recover work",
        .fill = fill_list,
        .chosen = list_chosen,
        .key = list_key,
        .hints = hints,
        .empty = "There is nothing to bring back",
        .ctx = l,
        .free_ctx = free_listing,
    };
    panel_open(ed, &p);
}

bool recovering_print(Editor *ed, Bytes *out, Err *e)
{
    Recoverable *r = NULL;
    Journal *j = keeper_journal(ed->session);
    e->text[0] = 0;
    size_t n = j ? recoverable_of(j, &(const char *){NULL}, 1, &r, e) : 0;
    for (size_t i = 0; i < n; i++) {
        bytes_printf(out, "%s\t", r[i].path ? r[i].path : "(no name yet)");
        describe(&r[i], out);
        bytes_add_str(out, "\n");
    }
    recoverable_free(r, n);
    return !e->text[0];
}

static void run_recover(Editor *ed, const Args *args)
{
    (void)args;
    recovering_list(ed);
}

static const Command cmd_recover_work = {
    .name = "recover-work",
    .label = "Recover work…",
    .letter = 'v',
    .help = "List unsaved and dropped work that can be brought back",
    .words = "crash lost restore",
    .more = "What was not saved when the program broke off, and for a week what was dropped on purpose "
            "by leaving, "
            "closing or reloading.",
    .run = run_recover,
};

const Command *const recovering_commands[] = {
    &cmd_recover_work,
    NULL,
};
