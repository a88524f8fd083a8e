#include "app/asking.h"

#include "app/differences.h"
#include "app/pages.h"
#include "app/panel.h"
#include "app/shown.h"
#include "base/mem.h"
#include "base/sys.h"
#include "files/privileged.h"
#include "session/keeper.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* What a question is about. It may be closed, or no longer asked, by the time it is answered. */
typedef struct About {
    unsigned plan;
    FileId file;
    int64_t row; /* of the journal */
    char *copy;
    DiskState disk;
} About;

static About *about(About a)
{
    About *copy = mem_get(sizeof *copy);
    *copy = a;
    copy->copy = a.copy ? mem_string(a.copy) : NULL;
    return copy;
}

static void free_about(void *ctx)
{
    free(((About *)ctx)->copy);
    free(ctx);
}

/* ---- plans ---- */

static void asked_again(Editor *ed, void *ctx)
{
    plan_answer(ed->session, ((About *)ctx)->plan, ANSWER_AGAIN, NULL);
}

static void plan_answered(Editor *ed, char letter, void *ctx)
{
    static const struct {
        char letter;
        Answer answer;
    } answers[] = {{'s', ANSWER_SAVE}, {'d', ANSWER_DROP},   {'a', ANSWER_SAVE_ALL}, {'n', ANSWER_DROP_ALL},
                   {'o', ANSWER_YES},  {'w', ANSWER_YES},    {'r', ANSWER_YES},      {'l', ANSWER_YES},
                   {'k', ANSWER_DROP}, {'z', ANSWER_RELOAD}, {0, ANSWER_NO}};
    const About *a = ctx;
    const Plan *p = plan_numbered(ed->session, a->plan);
    OpenFile *f = p ? session_file(ed->session, p->file) : NULL;
    if (letter == 'v' && f) {
        if (p->ask == ASK_DISK || p->ask == ASK_RELOAD)
            differences_with_disk(ed, f, asked_again, about(*a), free_about);
        else
            differences_with_save(ed, f, asked_again, about(*a), free_about);
        return;
    }
    for (size_t i = 0; i < sizeof answers / sizeof *answers; i++)
        if (answers[i].letter == letter)
            plan_answer(ed->session, a->plan, answers[i].answer, NULL);
}

/* Answers whose letters mean something else in that question. */
static void newline_answered(Editor *ed, char letter, void *ctx)
{
    plan_answer(ed->session, ((About *)ctx)->plan,
                letter == 'a'   ? ANSWER_YES
                : letter == 'k' ? ANSWER_DROP
                                : ANSWER_NO,
                NULL);
}

static void name_answered(Editor *ed, char letter, void *ctx)
{
    bool other = letter == 'n' || letter == 'a';
    plan_answer(ed->session, ((About *)ctx)->plan,
                other                            ? ANSWER_NAME
                : letter == 'o' || letter == 'r' ? ANSWER_YES
                                                 : ANSWER_NO,
                NULL);
}

static void reload_answered(Editor *ed, char letter, void *ctx)
{
    if (letter == 'z')
        plan_answer(ed->session, ((About *)ctx)->plan, ANSWER_YES, NULL);
    else
        plan_answered(ed, letter, ctx);
}

static void name_given(Editor *ed, const char *typed, void *ctx)
{
    const About *a = ctx;
    const Plan *p = plan_numbered(ed->session, a->plan);
    if (!p)
        return;
    bool rename = p->kind == PLAN_RENAME;
    if (*typed) {
        char *expanded = sys_expand_home(typed), *full = sys_full_path(expanded);
        plan_answer(ed->session, a->plan, ANSWER_NAME, full);
        free(expanded);
        free(full);
        return;
    }
    plan_answer(ed->session, a->plan, ANSWER_NO, NULL);
    say(ed, rename ? "Without a name nothing was renamed" : "Without a name nothing was saved");
}

static void no_name(Editor *ed, void *ctx)
{
    plan_answer(ed->session, ((About *)ctx)->plan, ANSWER_NO, NULL);
}

static void ask_name(Editor *ed, const Plan *p, const OpenFile *f)
{
    PromptSpec spec = {
        .label = p->kind == PLAN_RENAME ? "Rename to" : "Save as",
        .initial = p->path   ? p->path
                   : f->path ? f->path
                             : "",
        .history = "files",
        .offer = offer_files,
        .done = name_given,
        .cancelled = no_name,
        .ctx = about((About){.plan = p->number}),
        .free_ctx = free_about,
    };
    prompt_ask(ed, &spec);
}

static QuestionSpec question_of(const Plan *p, void (*done)(Editor *, char, void *))
{
    return (QuestionSpec){
        .can_lose = true, .done = done, .ctx = about((About){.plan = p->number}), .free_ctx = free_about};
}

static void ask_disk(Editor *ed, const Plan *p, const OpenFile *f)
{
    char when[WORDS_MAX] = "";
    QuestionSpec q = question_of(p, plan_answered);
    q.stay = "Stay";
    if (p->seen.exists)
        words_when((long long)p->seen.st.st_mtim.tv_sec, when);
    if (p->news == DISK_GONE) {
        q.answers[0] = (AnswerLetter){'w', "Write it anew"};
        question_ask(ed, &q, "%s is no longer there: it was removed or renamed.", file_name(f));
        return;
    }
    q.answers[0] = (AnswerLetter){'v', "View"};
    q.answers[1] = (AnswerLetter){'o', "Overwrite"};
    q.answers[2] = (AnswerLetter){'z', "Reload"};
    if (p->news == DISK_APPEARED)
        question_ask(ed, &q, "There is a %s on disk now, made at %s, after you began.", file_name(f), when);
    else
        question_ask(ed, &q, "%s changed on disk at %s, after you opened it.", file_name(f), when);
}

static void ask_unsaved(Editor *ed, const Plan *p, OpenFile *f)
{
    size_t left = 0;
    bool all = p->kind == PLAN_LEAVE;
    for (size_t i = 0; i < ed->session->n_files; i++)
        left += plan_would_lose(ed->session->files[i]);
    bool many = all && left > 1;
    editor_show(ed, f);
    QuestionSpec q = question_of(p, plan_answered);
    q.answers[0] = (AnswerLetter){'s', many ? "Save" : all ? "Save and leave" : "Save and close"};
    q.answers[1] = (AnswerLetter){'d', "Drop them"};
    q.answers[2] = (AnswerLetter){'v', "View them"};
    if (many) {
        q.answers[3] = (AnswerLetter){'a', "Save all"};
        q.answers[4] = (AnswerLetter){'n', "Drop all"};
    }
    q.stay = "Stay";
    question_ask(ed, &q, "%s has changes that are not saved%s.", f->path ? file_name(f) : "This text",
                 many ? left == 2 ? ", and so has another file" : ", and so have others" : "");
}

static void ask_plan(Editor *ed, Plan *p)
{
    OpenFile *f = session_file(ed->session, p->file);
    const char *program;
    QuestionSpec q;
    p->asked = true;
    if (!f) {
        plan_answer(ed->session, p->number, ANSWER_NO, NULL);
        return;
    }
    switch (p->ask) {
    case ASK_NAME:
        if (!f->path)
            editor_show(ed, f); /* so that it is seen what a name is asked for */
        ask_name(ed, p, f);
        break;
    case ASK_REPLACE:
        q = question_of(p, name_answered);
        q.answers[0] = (AnswerLetter){'o', "Replace it"};
        q.answers[1] = (AnswerLetter){'n', "Another name"};
        q.stay = p->kind == PLAN_RENAME ? "Do not rename" : "Do not save";
        question_ask(ed, &q, "There is a %s already.", p->path);
        break;
    case ASK_DISK:
        ask_disk(ed, p, f);
        break;
    case ASK_NEWLINE:
        q = question_of(p, newline_answered);
        q.can_lose = false;
        q.answers[0] = (AnswerLetter){'a', "Add one"};
        q.answers[1] = (AnswerLetter){'k', "Save as it is"};
        q.stay = "Do not save";
        question_ask(ed, &q, "The last line of %s has no line end.", file_name(f));
        break;
    case ASK_ROOT:
        program = privileged_program(ed->settings.become_root);
        q = question_of(p, name_answered);
        q.answers[0] = (AnswerLetter){'r', "Save as root"};
        q.answers[1] = (AnswerLetter){'a', "Another name"};
        q.stay = "Do not save";
        question_ask(ed, &q, "You may not write %s; %s can.", file_name(f),
                     program ? sys_base_name(program) : "nobody");
        break;
    case ASK_UNSAVED:
        ask_unsaved(ed, p, f);
        break;
    case ASK_RELOAD:
        q = question_of(p, reload_answered);
        q.answers[0] = (AnswerLetter){'z', "Reload"};
        q.answers[1] = (AnswerLetter){'v', "View them first"};
        q.stay = "Stay";
        question_ask(ed, &q, "%s has changes here that reloading takes away.", file_name(f));
        break;
    case ASK_NOTHING:
        break;
    }
}

void asking_begin(Editor *ed, PlanKind kind, const OpenFile *f, const char *path)
{
    char *full = NULL;
    if (path && *path) {
        char *expanded = sys_expand_home(path);
        full = sys_full_path(expanded);
        free(expanded);
    }
    plan_begin(ed->session, kind, f ? f->id : 0, full, NULL);
    free(full);
    asking_look(ed);
}

/* ---- work of an earlier run ---- */

static void offer_answered(Editor *ed, char letter, void *ctx);

static void viewed(Editor *ed, char letter, void *ctx)
{
    if (letter == 'k')
        offer_answered(ed, 'k', ctx);
}

/* It cannot be put together again: what there is of it can still be read. */
static void remains_answered(Editor *ed, char letter, void *ctx)
{
    const About *a = ctx;
    OpenFile *f = session_file(ed->session, a->file);
    Text t;
    if (letter == 'p' && f)
        keeper_put_away(ed->session, f, a->row);
    else if (letter != 'v')
        return;
    else if (keeper_remains(ed->session, a->row, &t))
        editor_show(ed, editor_add(ed, t));
    else
        warn(ed, "There is nothing of it that could be shown");
}

static void ask_remains(Editor *ed, const About *a, const char *why)
{
    QuestionSpec q = {
        .answers = {{'v', "View what was typed"}, {'p', "Put it away"}},
        .stay = "Later",
        .can_lose = true,
        .done = remains_answered,
        .ctx = about(*a),
        .free_ctx = free_about,
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
        .answers = {{'k', "Take it"}},
        .done = done,
        .ctx = about(*a),
        .free_ctx = free_about,
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
    if (letter == 'p') {
        keeper_put_away(ed->session, f, a->row);
    } else if (letter == 0) {
        keeper_later(f); /* it is asked again the next time */
    } else if (letter == 'k') {
        if (!keeper_take(ed->session, f, a->row, &e))
            ask_remains(ed, a, e.text);
    } else if (keeper_text(ed->session, a->row, &t, &e)) {
        view_before_taking(ed, a, f, t, "the unsaved work", viewed);
    } else {
        ask_remains(ed, a, e.text);
    }
}

static void ask_offer(Editor *ed, OpenFile *f, Offer o)
{
    char when[WORDS_MAX];
    words_when(o.when, when);
    QuestionSpec q = {
        .answers = {{'k', "Take it"}, {'v', "View it"}, {'p', "Put it away"}},
        .stay = "Later",
        .can_lose = true,
        .done = offer_answered,
        .ctx = about((About){.file = f->id, .row = o.row}),
        .free_ctx = free_about,
    };
    question_ask(ed, &q, "There is unsaved work on %s, of %s%s%s.", file_name(f), when,
                 o.from[0] ? " on " : "", o.from);
}

/* ---- a save that was broken off ---- */

static void copy_answered(Editor *ed, char letter, void *ctx);

static void copy_viewed(Editor *ed, char letter, void *ctx)
{
    if (letter == 'k')
        copy_answered(ed, 'k', ctx);
}

static void copy_answered(Editor *ed, char letter, void *ctx)
{
    const About *a = ctx;
    OpenFile *f = session_file(ed->session, a->file);
    Text t;
    if (!f || !f->safe_copy)
        return;
    if (letter != 'v')
        session_settle_copy(ed->session, f,
                            letter == 'k'   ? COPY_TAKE
                            : letter == 'r' ? COPY_REMOVE
                                            : COPY_LATER);
    else if (session_copy_text(ed->session, f, &t))
        view_before_taking(ed, a, f, t, "the whole version", copy_viewed);
}

static void ask_copy(Editor *ed, OpenFile *f)
{
    QuestionSpec q = {
        .answers = {{'k', "Take the whole version"}, {'v', "View it"}, {'r', "Remove it"}},
        .stay = "Later",
        .can_lose = true,
        .done = copy_answered,
        .ctx = about((About){.file = f->id}),
        .free_ctx = free_about,
    };
    question_ask(ed, &q, "A save of %s was broken off; it may be half written.", file_name(f));
}

/* ---- others ---- */

static void in_use_answered(Editor *ed, char letter, void *ctx)
{
    OpenFile *f = session_file(ed->session, ((About *)ctx)->file);
    if (!f)
        return;
    if (letter == 'l') {
        f->look_only = true;
        say(ed, "%s can only be looked at; Esc f l changes that", file_name(f));
    } else if (letter == 'e') {
        say(ed, "You both edit %s now; saving tells when the other one saved before", file_name(f));
    } else {
        asking_begin(ed, ed->session->n_files > 1 ? PLAN_CLOSE : PLAN_LEAVE, f, NULL);
    }
}

static void ask_in_use(Editor *ed, OpenFile *f)
{
    char since[WORDS_MAX] = "";
    words_when(f->used_by.since, since);
    QuestionSpec q = {
        .answers = {{'l', "Look only"}, {'e', "Edit anyway"}},
        .stay = "Close",
        .can_lose = true,
        .done = in_use_answered,
        .ctx = about((About){.file = f->id}),
        .free_ctx = free_about,
    };
    f->used = false;
    question_ask(ed, &q, "%s has %s open since %s on %s.", f->used_by.user, file_name(f), since,
                 f->used_by.host);
}

/* ---- changed on disk ---- */

static void news_viewed(Editor *ed, void *ctx)
{
    (void)ctx;
    asking_focus(ed);
}

static void news_answered(Editor *ed, char letter, void *ctx)
{
    const About *a = ctx;
    OpenFile *f = session_file(ed->session, a->file);
    if (!f)
        return;
    if (letter == 'z')
        plan_reload_now(ed->session, f);
    else if (letter == 'v')
        differences_with_disk(ed, f, news_viewed, NULL, NULL);
    else { /* not again until it changes once more */
        f->told = a->disk;
        f->told_of = true;
    }
}

void asking_focus(Editor *ed)
{
    OpenFile *f = ed->view->file;
    if (ed->layer || !f || f->purpose == FOR_READING || !f->path || ed->session->rules.batch)
        return;
    DiskNews news = session_news(f);
    DiskState now = disk_look(f->path);
    if (news == DISK_SAME || (f->told_of && disk_same(&f->told, &now)))
        return;
    f->told_of = false;
    if (news == DISK_GONE) {
        f->told_of = true;
        f->told = now;
        warn(ed, "%s is no longer there: it was removed or renamed. Saving writes it anew.", file_name(f));
        return;
    }
    if (!file_changed(f) && ed->settings.auto_reload) {
        plan_reload_now(ed->session, f);
        return;
    }
    char when[WORDS_MAX];
    words_when((long long)now.st.st_mtim.tv_sec, when);
    QuestionSpec q = {
        .answers = {{'v', "View"}, {'z', "Reload"}},
        .stay = "Keep what is here",
        .can_lose = true,
        .done = news_answered,
        .ctx = about((About){.file = f->id, .disk = now}),
        .free_ctx = free_about,
    };
    question_ask(ed, &q, "%s %s at %s.", file_name(f),
                 news == DISK_APPEARED ? "was made by somebody else" : "changed on disk", when);
}

bool asking_held(const Editor *ed)
{
    return ed->layer || page_shown(ed);
}

/* What is asked about the text that is shown goes before what stands in the way of a plan. */
void asking_look(Editor *ed)
{
    OpenFile *f = ed->view->file;
    for (int i = 0; !ed->layer && !ed->leaving && i < 100; i++) {
        Plan *p = plan_asking(ed->session);
        if (f && f->used)
            ask_in_use(ed, f);
        else if (f && keeper_offer(f).row)
            ask_offer(ed, f, keeper_offer(f));
        else if (f && f->safe_copy && !f->copy_settled)
            ask_copy(ed, f);
        else if (p)
            ask_plan(ed, p);
        else
            break;
        f = ed->view->file;
    }
    ed->session->held = asking_held(ed);
    if (ed->session->left)
        ed->leaving = true;
}

/* ---- everything ---- */

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
    char words[FILE_WORDS_MAX];
    Err e = {""};
    if (id < 0)
        return;
    const Recoverable *r = &l->r[id];
    if (!r->path)
        editor_show(ed, editor_add(ed, (Text){0}));
    else if (!editor_open(ed, r->path, &e)) {
        warn(ed, "%s", e.text);
        return;
    }
    session_settle(ed->session);
    OpenFile *f = ed->view->file;
    if (file_unready(f, words)) {
        warn(ed, "It stays here: %s", words);
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
    say(ed, "Gone for good");
    return true;
}

static void free_listing(void *ctx)
{
    Listing *l = ctx;
    journal_free_list(l->r, l->n);
    free(l);
}

void asking_list(Editor *ed)
{
    static const Hint hints[] = {{"Delete", "Forget it for good", true}, {"", NULL, false}};
    Journal *j = keeper_journal(ed->session);
    if (!j) {
        say(ed, "No work is kept for recovery: it is turned off, or there is no place for it");
        return;
    }
    Listing *l = mem_get(sizeof *l);
    l->n = journal_list(j, NULL, &l->r);
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

void asking_print(Editor *ed, Bytes *out)
{
    Recoverable *r = NULL;
    Journal *j = keeper_journal(ed->session);
    size_t n = j ? journal_list(j, NULL, &r) : 0;
    for (size_t i = 0; i < n; i++) {
        bytes_printf(out, "%s\t", r[i].path ? r[i].path : "(no name yet)");
        describe(&r[i], out);
        bytes_add_str(out, "\n");
    }
    journal_free_list(r, n);
}
