#include "commands/search/folder_replace.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/system.h"
#include "base/words.h"
#include "commands/search/folder_list.h"
#include "commands/search/search.h"
#include "session/keeper.h"
#include "session/plan.h"
#include "session/reading.h"
#include "session/session_files.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "ui/question.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { SLICE = 20 /* ms, between which keys come */ };

/* What goes on, file by file. It owns what it needs of the list, which may be another one by the next key. */
typedef struct Work {
    Task task;
    Editor *ed;
    Finder *finder;
    char *with;
    Replacement by;
    char **paths;
    FolderHit *hits; /* without their texts */
    bool *taken;
    size_t n_files, n_hits;
    size_t next_file, next_hit;
    FileId saving; /* the file whose save is awaited; 0: none */
    bool ours;     /* it was opened for this, and is closed afterwards */
    size_t places_there;
    size_t places, files, unsaved; /* replaced; in how many files; of them not saved, as they had changes */
} Work;

static void free_work(void *ctx)
{
    Work *w = ctx;
    w->ed->folder_find->work = NULL;
    tasks_remove(&w->ed->session->tasks, &w->task);
    finder_free(w->finder);
    free(w->with);
    for (size_t i = 0; i < w->n_files; i++)
        free(w->paths[i]);
    free(w->paths);
    free(w->hits);
    free(w->taken);
    free(w);
}

static void fail(Work *w, const char *path, const char *why)
{
    FolderFind *r = w->ed->folder_find;
    r->failures = array_room(r->failures, r->n_failures, sizeof *r->failures);
    r->failures[r->n_failures++] = (Failure){mem_string(path), mem_string(why)};
}

/* ---- one file ---- */

/* The lines of a file that were found, from `hit` on: are they still the same? */
static bool is_as_found(const Work *w, MatchLines *m, size_t hit, size_t end)
{
    bool same = true;
    while (same && match_lines_next(m)) {
        same = hit < end && m->line == w->hits[hit].line && folder_search_hash(m) == w->hits[hit].was;
        hit++;
    }
    return same && hit == end && !m->too_hard;
}

/* Puts what is taken into the text, as one step; false: it is not the text that was searched. */
static bool put(Work *w, OpenFile *f, size_t hit, size_t end)
{
    Bytes all = {0};
    Text t = doc_text(f->doc);
    text_bytes(t, 0, text_len(t), &all);
    MatchLines look = {.finder = w->finder, .bytes = bytes_str(&all), .n = all.len, .by = &w->by}, m = look;
    bool ok = is_as_found(w, &look, hit, end);
    match_lines_end(&look);
    size_t grown = 0; /* modulo, as it may be less */
    w->places_there = 0;
    if (!ok) {
        bytes_free(&all);
        return false;
    }
    doc_begin(f->doc);
    doc_set_verb(f->doc, "Replace in a folder");
    for (; ok && match_lines_next(&m); hit++) {
        if (!w->taken[hit])
            continue;
        ok = doc_replace(f->doc, m.start + grown, m.end - m.start, bytes_str(&m.fresh), m.fresh.len,
                         STEP_WHOLE, m.start + grown);
        grown += m.fresh.len - (m.end - m.start);
        w->places_there += m.matches;
    }
    doc_end(f->doc);
    doc_set_verb(f->doc, NULL);
    size_t ignored;
    if (!ok) /* there was no memory for all of it */
        doc_undo(f->doc, &ignored);
    match_lines_end(&m);
    bytes_free(&all);
    return ok;
}

/* Why nothing can be put into it; NULL: it can. */
static const char *hindered(OpenFile *f, char words[TASK_WORDS_MAX])
{
    if (reading_unready(f, words))
        return words;
    if (f->look_only)
        return "it is open to look only";
    if (keeper_offer(f).row)
        return "unsaved work on it can be brought back; open it first";
    if (f->used) {
        snprintf(words, TASK_WORDS_MAX, "%s has it open", f->used_by.user);
        return words;
    }
    return f->writing ? "it is being saved" : NULL;
}

static void leave_it(Work *w, OpenFile *f)
{
    if (w->ours)
        session_close(w->ed->session, f);
}

/* Takes up the next file that has something taken. */
static void begin_file(Work *w)
{
    Session *s = w->ed->session;
    size_t file = w->next_file++, hit = w->next_hit, end = hit;
    const char *path = w->paths[file], *why;
    char words[TASK_WORDS_MAX];
    bool any = false;
    Err e = {""};
    for (; end < w->n_hits && w->hits[end].file == file; end++)
        any = any || w->taken[end];
    w->next_hit = end;
    if (!any)
        return;
    OpenFile *f = folder_list_open_text(s, path);
    w->ours = f == NULL;
    f = f ? f : session_open(s, path, &e);
    if (!f) {
        fail(w, path, e.text);
        return;
    }
    session_settle(s);
    bool had_changes = openfile_changed(f);
    if ((why = hindered(f, words)) != NULL ||
        (!put(w, f, hit, end) && (why = "it changed since it was searched"))) {
        fail(w, path, why);
        leave_it(w, f);
        return;
    }
    if (had_changes) { /* they are the person's to save */
        w->places += w->places_there;
        w->files++;
        w->unsaved++;
        return;
    }
    w->saving = f->id;
    plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
}

/* Is its save still under way, or asking something? */
static bool is_saving(const Work *w, const OpenFile *f)
{
    const Session *s = w->ed->session;
    for (size_t i = 0; i < s->n_plans; i++)
        if (s->plans[i]->file == f->id && s->plans[i]->kind == PLAN_SAVE)
            return true;
    return f->writing != NULL;
}

static void end_file(Work *w, OpenFile *f)
{
    w->saving = 0;
    if (!f || openfile_changed(f)) {
        fail(w, w->paths[w->next_file - 1],
             f ? "it was not saved, and is open with the changes" : "it was closed");
        return;
    }
    w->places += w->places_there;
    w->files++;
    leave_it(w, f);
}

/* ---- all of them ---- */

static void fill_failures(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    (void)ctx;
    const FolderFind *r = ed->folder_find;
    for (size_t i = 0; i < r->n_failures; i++)
        panel_add(p, (long)i, folder_list_below(ed, r->failures[i].path), r->failures[i].why, NULL);
}

static void failure_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    (void)ctx;
    Err e = {""};
    if (id >= 0 && !editor_open(ed, ed->folder_find->failures[id].path, &e))
        warn(ed, "%s", e.text);
}

static const char *failure_enter(long id)
{
    return id < 0 ? "Back" : "Open it";
}

void folder_replace_show_failures(Editor *ed)
{
    PanelSpec p = {
        .title = "Not replaced", .fill = fill_failures, .chosen = failure_chosen, .enter = failure_enter};
    panel_open(ed, &p);
}

static void report(Work *w, bool stopped)
{
    Editor *ed = w->ed;
    Bytes b = {0};
    bytes_printf(&b, "%sReplaced %s in %s", stopped ? "Stopped. " : "", AMOUNT(w->places, "place"),
                 AMOUNT(w->files, "file"));
    if (w->unsaved)
        bytes_printf(&b, "; %zu had unsaved changes and %s still to be saved", w->unsaved,
                     w->unsaved == 1 ? "is" : "are");
    size_t failed = ed->folder_find->n_failures;
    if (failed)
        bytes_printf(&b, "; %s not", AMOUNT(failed, "file"));
    (failed ? warn : say)(ed, "%s", bytes_str(&b));
    bytes_free(&b);
    if (failed && !ed->layer)
        folder_replace_show_failures(ed);
}

static void poll_work(void *ctx)
{
    Work *w = ctx;
    uint64_t until = system_now_ms() + SLICE;
    do {
        OpenFile *f = w->saving ? session_file(w->ed->session, w->saving) : NULL;
        if (w->saving && f && is_saving(w, f))
            return;
        if (w->saving)
            end_file(w, f);
        if (w->next_file == w->n_files) {
            report(w, false);
            free_work(w);
            return;
        }
        begin_file(w);
    } while (system_now_ms() < until);
}

static int wait_work(const void *ctx)
{
    const Work *w = ctx;
    const Plan *p = plan_asking(w->ed->session);
    return !w->saving ? 0 : w->ed->layer || p ? -1 : 20;
}

static void cancel_work(void *ctx)
{
    Work *w = ctx;
    report(w, true);
    free_work(w);
}

static void words_of_work(const void *ctx, char out[TASK_WORDS_MAX])
{
    const Work *w = ctx;
    snprintf(out, TASK_WORDS_MAX, "Replacing, file %zu of %zu; Esc stops it", w->next_file, w->n_files);
}

static const TaskKind work_task = {
    .poll = poll_work, .wait = wait_work, .cancel = cancel_work, .words = words_of_work};

static void begin_work(Editor *ed)
{
    const FolderFound *found = folder_list_found(ed);
    FolderFind *r = ed->folder_find;
    folder_list_free_failures(r);
    FindWhat what = {r->words, strlen(r->words), r->letters, r->whole, r->expression};
    Err e = {""};
    size_t mistake;
    Work *w = mem_get(sizeof *w);
    w->ed = ed;
    w->finder = finder_new(&what, &e, &mistake);
    w->with = mem_string(r->with);
    w->by = (Replacement){w->with, strlen(w->with), r->follow};
    w->paths = mem_get((found->n_files + 1) * sizeof *w->paths);
    w->hits = mem_get((found->n_hits + 1) * sizeof *w->hits);
    w->taken = mem_get(found->n_hits + 1);
    for (; w->n_files < found->n_files; w->n_files++)
        w->paths[w->n_files] = mem_string(found->files[w->n_files].path);
    for (; w->n_hits < found->n_hits; w->n_hits++) {
        w->hits[w->n_hits] = found->hits[w->n_hits];
        w->hits[w->n_hits].text = NULL;
        w->taken[w->n_hits] = folder_list_taken(ed, w->n_hits);
    }
    free(r->with); /* from now on it is the list of what was replaced */
    r->with = NULL;
    r->replace = NULL;
    r->work = w;
    r->free_work = free_work;
    tasks_add(&ed->session->tasks, &w->task, &work_task, w);
}

/* ---- the question before it ---- */

static void answered(Editor *ed, char letter, void *ctx)
{
    (void)ctx;
    if (letter == 't' || letter == 'l') {
        folder_list_take_all(ed, letter == 't');
        panel_refresh(ed);
    } else if (letter == 's') {
        layers_pop(ed); /* the list */
        begin_work(ed);
    }
}

void folder_replace_ask(Editor *ed)
{
    const FolderFound *f = folder_list_found(ed);
    size_t places = 0, files = 0, last = (size_t)-1;
    for (size_t i = 0; i < f->n_hits; i++)
        if (folder_list_taken(ed, i)) {
            places += f->hits[i].places;
            files += f->hits[i].file != last;
            last = f->hits[i].file;
        }
    if (!f->ended || f->n_hits < f->counts.lines || f->counts.hard) {
        say(ed, !f->ended        ? "The search is still going on"
                : f->counts.hard ? "The expression took too long in some files; nothing can be replaced by it"
                                 : "There are more lines than can be listed; narrow the search first");
        return;
    }
    if (!f->n_hits) {
        layers_cancel(ed);
        return;
    }
    QuestionSpec q = {
        .answers = {{'s', "Save them"}, {'t', "Take all"}, {'l', "Leave all"}},
        .stay = "Back to the list",
        .can_lose = true,
        .done = answered,
    };
    question_ask(ed, &q, "Replace %s in %s, and save?", AMOUNT(places, "place"), AMOUNT(files, "file"));
}
