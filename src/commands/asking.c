#include "commands/asking.h"

#include "base/mem.h"
#include "base/paths.h"
#include "base/words.h"
#include "commands/file/comparing.h"
#include "commands/file/merging.h"
#include "commands/file/recovering.h"
#include "commands/file/since_commit.h"
#include "commands/help/about.h"
#include "commands/tools/problems.h"
#include "files/privileged.h"
#include "session/checking.h"
#include "session/keeper.h"
#include "session/looking.h"
#include "session/session_run.h"
#include "text/text_line.h"
#include "ui/prompt.h"
#include "ui/question.h"
#include "view/shown.h"

#include <stdlib.h>

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
            comparing_with_disk(ed, f, asked_again, about_new(*a), free);
        else
            comparing_with_save(ed, f, asked_again, about_new(*a), free);
        return;
    }
    if (letter == 'm' && f) {
        plan_answer(ed->session, a->plan, ANSWER_NO, NULL);
        merging_with_disk(ed, f);
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
    plan_answer(ed->session, ((About *)ctx)->plan,
                letter == 'a'                    ? ANSWER_NAME
                : letter == 'm' || letter == 'r' ? ANSWER_YES
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
        char *full = location_full(typed);
        plan_answer(ed->session, a->plan, ANSWER_NAME, full);
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
        .offer = offers_files,
        .done = name_given,
        .cancelled = no_name,
        .ctx = about_new((About){.plan = p->number}),
        .free_ctx = free,
    };
    prompt_ask(ed, &spec);
}

static QuestionSpec question_of(const Plan *p, void (*done)(Editor *, char, void *))
{
    return (QuestionSpec){
        .can_lose = true, .done = done, .ctx = about_new((About){.plan = p->number}), .free_ctx = free};
}

static void ask_disk(Editor *ed, const Plan *p, const OpenFile *f)
{
    char when[WORDS_MAX] = "";
    QuestionSpec q = question_of(p, plan_answered);
    q.stay = "Stay";
    if (p->seen.exists)
        words_when(disk_time(&p->seen), when);
    if (p->news == DISK_GONE) {
        q.answers[0] = (AnswerLetter){'w', "Write it again"};
        question_ask(ed, &q, "%s is no longer there: it was removed or renamed.", openfile_name(f));
        return;
    }
    q.answers[0] = (AnswerLetter){'v', "View"};
    q.answers[1] = (AnswerLetter){'o', "Overwrite"};
    q.answers[2] = (AnswerLetter){'z', "Reload"};
    if (p->news != DISK_APPEARED && openfile_changed(f) && !f->look_only)
        q.answers[3] = (AnswerLetter){'m', "Merge both"};
    if (p->news == DISK_APPEARED)
        question_ask(ed, &q, "There is a %s on disk now, made at %s, after you began.", openfile_name(f),
                     when);
    else
        question_ask(ed, &q, "%s changed on disk at %s, after you opened it.", openfile_name(f), when);
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
    bool gone = openfile_gone(f) && !doc_changed(f->doc);
    if (gone)
        q.answers[1].label = "Drop it";
    question_ask(ed, &q,
                 gone ? "%s is no longer on disk: it was removed or renamed%s."
                      : "%s has changes that are not saved%s.",
                 f->path ? openfile_name(f) : "This text",
                 many ? left == 2 ? ", and so has another file" : ", and so have others" : "");
}

static void marked_answered(Editor *ed, char letter, void *ctx)
{
    plan_answer(ed->session, ((About *)ctx)->plan, letter == 's' ? ANSWER_YES : ANSWER_NO, NULL);
    if (letter == 'g')
        merging_go_first(ed);
}

static void problems_answered(Editor *ed, char letter, void *ctx)
{
    const About *a = ctx;
    const Plan *p = plan_numbered(ed->session, a->plan);
    OpenFile *f = p ? session_file(ed->session, p->file) : NULL;
    if (letter == 's' || letter == 'v') {
        if (letter == 's')
            plan_answer(ed->session, a->plan, ANSWER_YES, NULL);
        else
            plan_answered(ed, letter, ctx);
        return;
    }
    if (letter == 'c') {
        plan_answer(ed->session, a->plan, ANSWER_AGAIN, NULL);
        return;
    }
    plan_answer(ed->session, a->plan, ANSWER_NO, NULL);
    if (letter == 'g' && f)
        problems_go_first(ed, f);
    else if (letter == 'w' && f)
        problems_show_said(ed, f);
}

/* Something is wrong, or nobody can say that nothing is. */
static void ask_problems(Editor *ed, const Plan *p, OpenFile *f)
{
    size_t n, i = 0;
    const FileProblem *first = checking_wrong(f, &n);
    const char *doubt = checking_doubt(f);
    QuestionSpec q = question_of(p, problems_answered);
    bool placed = n && first->to, current = checking_is_current(f, true);
    if (placed)
        q.answers[i++] = (AnswerLetter){'g', "Go to it"};
    if (!current)
        q.answers[i++] = (AnswerLetter){'c', "Check it now"};
    q.answers[i++] = (AnswerLetter){'s', "Save anyway"};
    if (*checking_said(f))
        q.answers[i++] = (AnswerLetter){'w', "What was said"};
    q.answers[i++] = (AnswerLetter){'v', "View the changes"};
    q.stay = "Stay";
    editor_show(ed, f);
    if (placed)
        question_ask(ed, &q, "%s, line %zu: %.100s (%s)%s", openfile_name(f),
                     text_line_of(doc_text(f->doc), first->from) + 1, first->words, first->checker,
                     n > 1 ? ", and more" : "");
    else if (n)
        question_ask(ed, &q, "%s: %.150s", openfile_name(f), first->words);
    else if (*doubt)
        question_ask(ed, &q, "Nobody can say whether %s is right: %.150s.", openfile_name(f), doubt);
    else
        question_ask(ed, &q, "%s was changed each time while it was checked.", openfile_name(f));
}

static void ask_folder(Editor *ed, const Plan *p)
{
    QuestionSpec q = question_of(p, name_answered);
    q.answers[0] = (AnswerLetter){'m', "Make it and save"};
    q.answers[1] = (AnswerLetter){'a', "Another name"};
    q.yes = 'm';
    q.stay = "Do not save";
    char *folder = location_shown(p->folder);
    question_ask(ed, &q, "There is no folder %s.", folder);
    free(folder);
}

static void ask_root(Editor *ed, const Plan *p, const OpenFile *f)
{
    char word[PRIVILEGED_WORD];
    const char *program =
        p->denied ? "root there" : privileged_program(ed->config.settings.root_program, word);
    QuestionSpec q = question_of(p, name_answered);
    q.answers[0] = (AnswerLetter){'r', "Save as root"};
    q.answers[1] = (AnswerLetter){'a', "Another name"};
    q.yes = 'r';
    q.stay = "Do not save";
    question_ask(ed, &q, "No permission to write %s; %s can.", openfile_name(f),
                 program ? path_base(program) : "nobody");
}

static void ask_replace(Editor *ed, const QuestionSpec *q, const char *path)
{
    char *shown = location_shown(path);
    question_ask(ed, q, "There is a %s already.", shown);
    free(shown);
}

static void ask_plan(Editor *ed, Plan *p)
{
    OpenFile *f = session_file(ed->session, p->file);
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
        q.answers[0] = (AnswerLetter){'r', "Replace it"};
        q.answers[1] = (AnswerLetter){'a', "Another name"};
        q.yes = 'r';
        q.stay = p->kind == PLAN_RENAME ? "Do not rename" : "Do not save";
        ask_replace(ed, &q, p->path);
        break;
    case ASK_DISK:
        ask_disk(ed, p, f);
        break;
    case ASK_NEWLINE:
        q = question_of(p, newline_answered);
        q.can_lose = false;
        q.answers[0] = (AnswerLetter){'a', "Add one"};
        q.answers[1] = (AnswerLetter){'k', "Save as it is"};
        q.yes = 'a';
        q.no = 'k';
        q.stay = "Do not save";
        question_ask(ed, &q, "The last line of %s has no line end.", openfile_name(f));
        break;
    case ASK_MARKED:
        editor_show(ed, f);
        q = question_of(p, marked_answered);
        q.answers[0] = (AnswerLetter){'g', "Go to them"};
        q.answers[1] = (AnswerLetter){'s', "Save anyway"};
        q.stay = "Do not save";
        question_ask(ed, &q, "Lines in %s are still marked as changed by both.", openfile_name(f));
        break;
    case ASK_FOLDER:
        ask_folder(ed, p);
        break;
    case ASK_PROBLEMS:
        ask_problems(ed, p, f);
        break;
    case ASK_ROOT:
        ask_root(ed, p, f);
        break;
    case ASK_UNSAVED:
        ask_unsaved(ed, p, f);
        break;
    case ASK_RELOAD:
        q = question_of(p, reload_answered);
        q.answers[0] = (AnswerLetter){'z', "Reload"};
        q.answers[1] = (AnswerLetter){'v', "View them first"};
        q.yes = 'z';
        q.stay = "Stay";
        question_ask(ed, &q, "%s has changes here that reloading takes away.", openfile_name(f));
        break;
    case ASK_NOTHING:
        break;
    }
}

void asking_begin(Editor *ed, PlanKind kind, const OpenFile *f, const char *path)
{
    char *full = NULL;
    if (path && *path) {
        full = location_full(path);
    }
    plan_begin(ed->session, kind, f ? f->id : 0, full, NULL);
    free(full);
    if (ed->session->rules.batch)
        session_finish_plans(ed->session);
    asking_look(ed);
}

/* ---- others ---- */

static void in_use_answered(Editor *ed, char letter, void *ctx)
{
    OpenFile *f = session_file(ed->session, ((About *)ctx)->file);
    if (!f)
        return;
    if (letter == 'l') {
        f->look_only = true;
        say(ed, "%s is look-only: nothing can be changed; {look-only} changes that", openfile_name(f));
    } else if (letter == 'e') {
        say(ed, "You both edit %s now; saving tells when the other one saved before", openfile_name(f));
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
        .ctx = about_new((About){.file = f->id}),
        .free_ctx = free,
    };
    f->used = false;
    question_ask(ed, &q, "%s has %s open since %s (process %ld).", f->used_by.user, openfile_name(f), since,
                 f->used_by.pid);
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
        comparing_with_disk(ed, f, news_viewed, NULL, NULL);
    else if (letter == 'm')
        merging_with_disk(ed, f);
    else { /* not again until it changes once more */
        f->reported = (Reported){true, a->disk};
    }
}

void asking_tell_gone(Editor *ed, const OpenFile *f)
{
    warn(ed, "%s is no longer there: it was removed or renamed. Saving writes it again.", openfile_name(f));
}

static void focus_looked(void *ctx, OpenFile *f, const Looked *l)
{
    Editor *ed = ctx;
    DiskNews news = l->news;
    DiskState now = l->now;
    bool shown = !ed->layer && f == ed->panes.view->file; /* else the next look says it */
    if (!l->ok || !shown || news == DISK_SAME || (f->reported.any && disk_same(&f->reported.disk, &now)))
        return;
    f->reported.any = false;
    if (news == DISK_GONE) {
        f->reported = (Reported){true, now};
        asking_tell_gone(ed, f);
        return;
    }
    if (!openfile_changed(f) && ed->config.settings.auto_reload) {
        plan_reload_now(ed->session, f);
        return;
    }
    char when[WORDS_MAX];
    words_when(disk_time(&now), when);
    QuestionSpec q = {
        .answers = {{'v', "View"},
                    {'z', "Reload"},
                    {openfile_changed(f) && !f->look_only ? 'm' : 0, "Merge both"}},
        .stay = "Keep what is here",
        .can_lose = true,
        .done = news_answered,
        .ctx = about_new((About){.file = f->id, .disk = now}),
        .free_ctx = free,
    };
    question_ask(ed, &q, "%s %s at %s.", openfile_name(f),
                 news == DISK_APPEARED ? "was made by somebody else" : "changed on disk", when);
}

void asking_focus(Editor *ed)
{
    OpenFile *f = ed->panes.view->file;
    if (ed->layer || !f || f->purpose == FOR_READING || !f->path || f->reading || ed->session->rules.batch)
        return;
    since_commit_again(f);
    if (f->following || (f->shown && f->shown->on_trial[0])) /* it changes all the time, or may be put back */
        return;
    looking_begin(ed->session, f, focus_looked, ed);
}

/* What is asked about the text that is shown goes before what stands in the way of a plan. */
void asking_look(Editor *ed)
{
    OpenFile *f = ed->panes.view->file;
    for (int i = 0; !ed->layer && !ed->host.leave && i < 100; i++) {
        Plan *p = plan_asking(ed->session);
        if (f && f->used)
            ask_in_use(ed, f);
        else if (f && keeper_offer(f).row)
            recovering_ask(ed, f);
        else if (f && f->safe_copy.path && !f->safe_copy.settled)
            recovering_ask_copy(ed, f);
        else if (p)
            ask_plan(ed, p);
        else
            break;
        f = ed->panes.view->file;
    }
    ed->session->held = ed->layer != NULL;
    if (ed->session->left)
        ed->host.leave = true;
}
